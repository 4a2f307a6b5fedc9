import { panel } from "../panels.ts";
import { choose, pick } from "../rigs.ts";
import { atRest, axis, expect, open, roll, test } from "../server.ts";

test("the address keeps where one is over a reload, and back goes back", async ({ app, demo }) => {
  await panel(app, "Takes");
  await app.getByTestId("take-1").getByRole("button", { name: "1", exact: true }).click();
  await expect(app.getByText("Looking at")).toBeVisible();
  await app.keyboard.press("F7");
  await expect(app.getByRole("region", { name: "Machine" })).toBeVisible();
  await expect(app).toHaveURL(/#\/operate\/setup-1\/move-1\/machine$/);
  await app.reload();
  await expect(app.getByText("Looking at")).toBeVisible();
  await expect(app.getByRole("region", { name: "Machine" })).toBeVisible();
  await app.goBack();
  await expect(app.getByRole("region", { name: "Takes" })).toBeVisible();
  await app.goBack();
  await expect(app.getByText("Next take")).toBeVisible();
  // An address that is opened by somebody else leads there as well; one of nothing leads to the floor.
  const other = await app.context().newPage();
  await other.goto(`${demo.url}/#/shape/setup-1/move-2/files`);
  await expect(other.getByRole("region", { name: "Files" })).toBeVisible();
  await other.goto(`${demo.url}/#/operate/setup-1/move-99/takes`);
  await other.reload();
  await expect(other.getByText("Next take")).toBeVisible();
  await other.close();
});

test("Shape opens what was just rolled, and the floor is there again afterwards", async ({ app }) => {
  await roll(app, 1, ["d"]);
  await app.keyboard.press("Alt+3");
  await expect(app.getByTestId("slate-take")).toHaveText("3");
  await expect(app.getByRole("combobox", { name: "Move to shape" })).toContainText("Take 3");
  await pick(app, "Move to shape", /^Take 2/);
  await expect(app.getByTestId("slate-take")).toHaveText("2");
  await app.keyboard.press("Alt+2");
  await expect(app.getByText("Next take")).toBeVisible();
  await expect(app.getByTestId("slate-take")).toHaveText("4");
  // What was looked at goes on when there is nothing new.
  await panel(app, "Takes");
  await app.getByTestId("take-1").getByRole("button", { name: "1", exact: true }).click();
  await app.keyboard.press("Alt+3");
  await expect(app.getByRole("combobox", { name: "Move to shape" })).toContainText("Take 1");
  await app.keyboard.press("Alt+2");
  await expect(app.getByText("Looking at")).toBeVisible();
});

test("keys belong to the picture after a press; groups open by their keys; only one group is armed", async ({
  app,
}) => {
  // Space plays and pauses, and does not press again what was pressed last.
  await panel(app, "Slate");
  await expect(app.getByRole("button", { name: "Play (space)" })).toBeVisible();
  await app.keyboard.press("Space");
  await expect(app.getByRole("button", { name: "Pause (space)" })).toBeVisible();
  await app.keyboard.press("Space");
  await expect(app.getByRole("button", { name: "Play (space)" })).toBeVisible();
  await pick(app, "Who is driven", "conductor");
  await app.keyboard.press("ArrowDown");
  await expect(app.getByRole("listbox")).toHaveCount(0);
  await pick(app, "Who is driven", "camera");
  for (const [key, region] of [
    ["F6", "Profile"],
    ["F7", "Machine"],
    ["F7", "Positions"],
    ["F10", "Takes"],
  ] as const) {
    await app.keyboard.press(key);
    const panels = app.getByRole("group", { name: /^Panels of/ });
    await expect(panels.getByRole("button", { name: region, exact: true })).toHaveAttribute(
      "aria-pressed",
      "true",
    );
  }
  const armed = async () =>
    Promise.all(
      ["swing", "pan", "zoom"].map((name) =>
        app.getByRole("button", { name: `Arm ${name}` }).getAttribute("aria-pressed"),
      ),
    );
  await app.getByRole("button", { name: "head only" }).click();
  await expect.poll(armed).toEqual(["false", "true", "false"]);
  await app.getByRole("button", { name: "head only" }).click();
  await expect.poll(armed).toEqual(["true", "true", "true"]);
});

test("another machine sees what was seen, a new camera too, and focus stays on somebody", async ({ app }) => {
  await app.keyboard.down("t");
  await expect.poll(() => axis(app, "tilt")).toBeGreaterThan(2);
  await app.keyboard.up("t");
  await app.keyboard.down("v");
  await expect.poll(() => axis(app, "zoom")).toBeGreaterThan(35);
  await app.keyboard.up("v");
  const seen = async () =>
    (await app.getByTestId("camera-numbers").textContent())!.match(/-?\d+\.\d+/g)!.map(Number);
  await atRest(app, "tilt");
  await atRest(app, "zoom");
  const before = await seen();
  /** Metres and degrees as they are shown: the last digit of one between two may be either. */
  const same = () =>
    expect
      .poll(async () => {
        const now = await seen();
        return Math.max(...before.map((v, i) => Math.abs(now[i]! - v) / (i < 3 ? 0.01 : 0.1)));
      })
      .toBeLessThan(1.5);
  const zoom = await axis(app, "zoom");
  await choose(app, "free camera");
  await same();
  expect(await axis(app, "zoom")).toBeCloseTo(zoom, 0);
  await panel(app, "Setups");
  await app.getByRole("button", { name: "New from here" }).click();
  await expect(app.getByText(/live · C ·/)).toBeVisible();
  await same();
  expect(await axis(app, "zoom")).toBeCloseTo(zoom, 0);
  await panel(app, "Camera");
  await pick(app, "Focus on", "stays on conductor");
  const focus = await axis(app, "focus");
  await app.keyboard.press("Home");
  await app.keyboard.press("Space");
  await expect.poll(async () => Math.abs((await axis(app, "focus")) - focus)).toBeGreaterThan(0.5);
  await app.keyboard.down("n");
  await expect(app.getByRole("combobox", { name: "Focus on" })).toContainText("by hand");
  await app.keyboard.up("n");
});

test("screens are divided by hand or by keys, and stay so", async ({ app, demo }) => {
  const wide = async () => (await app.getByRole("region", { name: "Finder" }).boundingBox())!.width;
  const before = await wide();
  const divider = app.getByRole("separator", { name: "Between picture and plan" });
  await divider.focus();
  for (let i = 0; i < 5; i++) await app.keyboard.press("ArrowLeft");
  await expect.poll(wide).toBeLessThan(before - 60);
  const narrower = await wide();
  await open(app, demo);
  await expect.poll(wide).toBeCloseTo(narrower, 0);
  await divider.dblclick();
  await expect.poll(wide).toBeCloseTo(before, 0);
  // A page of two thirds of the room, as at a zoom of 150 %: nothing is pushed off it.
  await app.setViewportSize({ width: 853, height: 533 });
  for (const key of ["Alt+1", "Alt+2", "Alt+3"]) {
    await app.keyboard.press(key);
    await expect
      .poll(() =>
        app.evaluate(() => {
          const main = document.querySelector("main");
          return [
            main !== null && main.scrollWidth <= main.clientWidth,
            [...document.querySelectorAll("button, input, [role=combobox]")].every(
              (e) => e.getBoundingClientRect().right <= innerWidth + 1,
            ),
          ];
        }),
      )
      .toEqual([true, true]);
  }
});
