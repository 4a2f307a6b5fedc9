import { readFile } from "node:fs/promises";
import type { Page } from "@playwright/test";
import { Hand } from "../plan.ts";
import { pick } from "../rigs.ts";
import { axis, expect, open, roll, test } from "../server.ts";

const shelf = (page: Page) => page.getByRole("region", { name: "Productions" });
const card = (page: Page, name: string) => page.getByRole("listitem", { name, exact: true });
const slate = (page: Page) => page.getByLabel("Production", { exact: true });

/** What scene is on the slate. */
const onSlate = async (page: Page, number: string, name: string) => {
  await expect(page.getByRole("textbox", { name: "Scene number" })).toHaveValue(number);
  await expect(page.getByRole("textbox", { name: "Scene name" })).toHaveValue(name);
};

test("an empty folder is a shelf with a first step; two productions with scenes, a setup carried across", async ({
  page,
  bare,
}) => {
  await page.goto(bare.url);
  await expect(page.getByText("Nothing is on the shelf yet.")).toBeVisible();
  // The field has the focus: a name and Enter are all it takes.
  await page.keyboard.type("Night");
  await page.keyboard.press("Enter");
  await expect(page.getByTestId("camera-numbers")).toContainText("pan");
  await expect(slate(page)).toHaveValue("Night");
  for (const [number, name] of [
    ["2", "Gate"],
    ["3", "Hall"],
  ] as const) {
    await page.keyboard.press("F4");
    await page.getByRole("textbox", { name: "Name of the new scene" }).fill(name);
    await page.keyboard.press("Enter");
    await onSlate(page, number, name);
  }
  // The demo as a copy of one's own, with two takes; the page begins anew with it.
  await page.keyboard.press("F2");
  await shelf(page).getByRole("button", { name: "Begin with the demo" }).click();
  await expect(slate(page)).toHaveValue("Last Tram");
  await expect(page.getByText("Last Tram is on the floor now.")).toBeVisible();
  await page.keyboard.press("F4");
  await card(page, "Scene 12").getByRole("button", { name: "with takes" }).click();
  await onSlate(page, "12A", "Depot, night");
  await expect(page.getByTestId("slate-take")).toHaveText("3");
  await page.keyboard.press("F4");
  await card(page, "Scene 12A").getByRole("button", { name: "Scene 12A earlier" }).click();
  const names = () => page.getByRole("list", { name: "Scenes", exact: true }).getByRole("listitem");
  await expect(names().first()).toHaveAccessibleName("Scene 12A");
  await page.getByRole("textbox", { name: "Number of scene 12A" }).fill("12");
  await page.keyboard.press("Enter");
  await expect(page.getByText("scene 12 is there already (Depot, night)")).toBeVisible();
  await card(page, "Scene 12").getByRole("button", { name: "Open", exact: true }).click();
  await onSlate(page, "12", "Depot, night");
  await page.keyboard.press("F4");
  await page.getByRole("button", { name: "Bin scene 12A" }).click();
  await expect(page.getByRole("list", { name: "Bin" }).getByRole("listitem")).toHaveCount(1);
  await page.getByRole("button", { name: "Take back" }).click();
  await expect(names()).toHaveCount(3);
  // What is done in the drawer is undone from there.
  await page.keyboard.press("Control+z");
  await expect(names()).toHaveCount(2);
  await page.keyboard.press("Control+Shift+Z");
  await expect(names()).toHaveCount(3);

  // Back in the first one, the crane of the depot is carried over: what it needs is named first.
  await page.keyboard.press("F2");
  await card(page, "Night").getByRole("button", { name: "Open", exact: true }).click();
  await expect(slate(page)).toHaveValue("Night");
  await onSlate(page, "3", "Hall");
  await page.keyboard.press("F4");
  await page.getByRole("button", { name: "Carry over …" }).click();
  await pick(page, "Production to carry out of", "Last Tram");
  await pick(page, "Scene to carry out of", "scene 12, Depot, night");
  await page.getByRole("checkbox", { name: "setup A, crane beside tram 7" }).check();
  await page.getByRole("checkbox", { name: "conductor" }).check();
  await page.getByRole("checkbox", { name: "setups bring their takes" }).check();
  const carry = page.getByRole("button", { name: "Carry over", exact: true });
  await expect(page.getByText("Say first what becomes of the performance as written")).toBeVisible();
  await expect(carry).toBeDisabled();
  await pick(page, "What becomes of the performance as written", "here: the performance as written");
  for (const named of await page.getByRole("combobox", { name: "What becomes of" }).all()) {
    const of = (await named.getAttribute("aria-label"))!;
    if (!of.endsWith("as written")) await pick(page, of, "carry it along");
  }
  await carry.click();
  await expect(page.getByText("carried over; undo takes all of it back")).toBeVisible();
  await page.getByLabel("Setup", { exact: true }).click();
  await expect(page.getByRole("option")).toHaveCount(2);
  await page.getByRole("option", { name: "B · crane beside tram 7" }).click();
  await expect(page.getByTestId("slate-take")).toHaveText("3");
  await page.keyboard.press("F10");
  await expect(page.getByTestId("take-2")).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect(page.getByTestId("take-2")).toHaveCount(0);
  await page.getByLabel("Setup", { exact: true }).click();
  await expect(page.getByRole("option")).toHaveCount(1);
});

test("who holds the wheels says what is on the floor; the others follow; a copy goes out and comes back", async ({
  app,
  demo,
}) => {
  await roll(app, 1, ["d"]);
  await expect(app.getByRole("img", { name: "Last frame of take 3" })).toBeVisible();
  const other = await app.context().newPage();
  await open(other, demo);
  await app.keyboard.press("F2");
  const saved = app.waitForEvent("download");
  await card(app, "Last Tram").getByRole("link", { name: "Keep a copy" }).click();
  const bytes = await readFile(await (await saved).path());
  await app.getByLabel("Copy to open").setInputFiles({
    name: "kept.sqlite",
    mimeType: "application/octet-stream",
    buffer: bytes,
  });
  // The copy has the picture that was taken when the shelf was opened.
  await expect(shelf(app).getByRole("img")).toHaveCount(2);
  await app.getByLabel("Copy to open").setInputFiles({
    name: "notes.txt",
    mimeType: "text/plain",
    buffer: Buffer.from("no production at all"),
  });
  await expect(app.getByText("the file cannot be opened: it is damaged, or no copy")).toBeVisible();
  await expect(card(app, "Last Tram, opened copy")).toBeVisible();
  await card(app, "Last Tram").first().getByRole("button", { name: "Duplicate" }).click();
  await expect(card(app, "Last Tram, copy")).toBeVisible();

  // A page without the wheels is told why not.
  await other.keyboard.press("F2");
  await card(other, "Last Tram, copy").getByRole("button", { name: "Open", exact: true }).click();
  await expect(other.getByText("another page holds the wheels")).toBeVisible();
  await card(app, "Last Tram, copy").getByRole("button", { name: "Open", exact: true }).click();
  for (const page of [app, other]) {
    await expect(slate(page)).toHaveValue("Last Tram, copy");
    await expect(page.getByText("Last Tram, copy is on the floor now.")).toBeVisible();
    await expect(page.getByTestId("slate-take")).toHaveText("4");
  }
  await app.keyboard.press("F2");
  const first = card(app, "Last Tram").first();
  await first.getByRole("button", { name: "Set aside" }).click();
  const aside = app.getByRole("list", { name: "Set aside" });
  await expect(aside.getByRole("listitem")).toHaveCount(1);
  await aside.getByRole("button", { name: "Take back" }).click();
  await expect(aside).toHaveCount(0);
  await app.keyboard.press("Escape");
  await expect(shelf(app)).toHaveCount(0);
  await other.close();
});

test("from an empty folder to a room, somebody who walks, a crane, and a take that is smoothed, in under 60 actions", async ({
  page,
  bare,
}) => {
  await page.goto(bare.url);
  await expect(page.getByText("Nothing is on the shelf yet.")).toBeVisible();
  const hand = new Hand(page);
  const press = async (key: string) => {
    hand.done++;
    await page.keyboard.press(key);
  };
  hand.done++;
  await page.keyboard.type("Night");
  await press("Enter");
  await expect(page.getByTestId("camera-numbers")).toContainText("pan");
  await press("Alt+1");
  await expect(page.getByText("The stage is empty.")).toBeVisible();
  await press("x");
  await hand.drag([-6, -5], [6, 4]);
  await hand.pieces(4);
  await press("p");
  await hand.click([-3, -2]);
  await hand.click([0, -1]);
  await hand.click([3, -2]);
  await press("Enter");
  await press("Alt+2");
  await expect(page.getByRole("button", { name: "Roll", exact: false }).first()).toBeVisible();
  await press("r");
  await expect(page.getByRole("button", { name: "Cut", exact: true })).toBeVisible();
  hand.done++;
  await page.keyboard.down("d");
  await expect.poll(() => axis(page, "swing")).toBeGreaterThan(8);
  await page.keyboard.up("d");
  await press("r");
  await expect(page.getByRole("button", { name: "Cut", exact: true })).toHaveCount(0);
  await press("Alt+3");
  hand.done++;
  await page.getByRole("button", { name: "Add smooth" }).click();
  await expect(page.getByRole("checkbox", { name: "Smooth on" })).toBeChecked();
  await expect(page.getByTestId("slate-take")).toHaveText("1");
  expect(hand.done).toBeLessThan(60);
});
