import { axis, expect, open, test } from "../server.ts";
import { panel } from "../panels.ts";

test("the machine is set in exact numbers, with units, and undone", async ({ app, demo }) => {
  await panel(app, "Machine");
  const column = app.getByLabel("Column height, m");
  await column.fill("7ft+0.2");
  await app.keyboard.press("Enter");
  await expect(column).toHaveValue("2.33");
  await expect(app.getByTestId("camera-numbers")).toContainText("y  2.66");
  await app.getByLabel("head", { exact: true }).click();
  await app.getByRole("option", { name: "leans with the arm" }).click();
  await expect(app.getByRole("region", { name: "Deck" })).toContainText("leans with the arm");

  // What cannot be is refused with a sentence, and the old value stays.
  const reach = app.getByLabel("Longest reach, m");
  await reach.fill("1");
  await app.keyboard.press("Enter");
  await expect(app.getByText("the reach goes from 2.13 to 1; give a lower and a higher value")).toBeVisible();
  await expect(reach).toHaveValue("7.62");
  await column.fill("two");
  await app.keyboard.press("Enter");
  await expect(column).toHaveAttribute("aria-invalid", "true");
  await app.keyboard.press("Escape");

  await app.getByRole("button", { name: "Undo move setup A" }).click();
  await expect(app.getByRole("region", { name: "Deck" })).not.toContainText("leans");
  await app.getByRole("button", { name: "Undo move setup A" }).click();
  await expect(app.getByTestId("camera-numbers")).toContainText("y  2.02");
  await open(app, demo);
  await expect(app.getByRole("button", { name: "Redo move setup A" })).toBeEnabled();
});

test("another setup goes onto the floor, and the slate is edited in place", async ({ app, demo }) => {
  await app.getByLabel("Setup", { exact: true }).click();
  await app.getByRole("option", { name: "B · crane at the stair" }).click();
  await expect(app.getByRole("region", { name: "Finder" })).toContainText("B · crane at the stair");
  await expect(app.getByRole("region", { name: "Deck" })).toContainText("leans with the arm");
  await app.keyboard.press("0");
  await app.keyboard.down("d");
  // This crane swings 120° to each side.
  await expect.poll(() => axis(app, "swing")).toBeCloseTo(120, 1);
  await app.keyboard.up("d");

  await app.getByLabel("Production", { exact: true }).fill("Last Tram Home");
  await app.keyboard.press("Enter");
  await app.getByLabel("Lens, mm").fill("50");
  await app.keyboard.press("Enter");
  await expect.poll(() => axis(app, "zoom")).toBe(50);
  await app.getByLabel("Frames a second").click();
  await app.getByRole("option", { name: "25", exact: true }).click();
  await expect(app.getByText("of 500")).toBeVisible();
  await open(app, demo);
  await expect(app.getByLabel("Production", { exact: true })).toHaveValue("Last Tram Home");
  await expect(app.getByRole("region", { name: "Finder" })).toContainText("B · crane at the stair");
  for (const label of ["change the rate", "change the camera of setup B", "name the production"]) {
    await app.getByRole("button", { name: `Undo ${label}` }).click();
  }
  await expect(app.getByLabel("Production", { exact: true })).toHaveValue("Last Tram");
});

test("hold B for raw, and the shortcuts are listed", async ({ app }) => {
  await app.getByRole("button", { name: "Shape" }).click();
  const finder = app.getByRole("region", { name: "Finder" });
  await app.getByTestId("strip").click({ position: { x: 200, y: 20 } });
  const lane = app.getByTestId("lane-tilt").locator(".num");
  await expect.poll(async () => Number(await app.getByTestId("frame").textContent())).toBeGreaterThan(50);
  // Where the move begins it says −4.00.
  await expect(lane).not.toHaveText("-4.00");
  const rolled = (await lane.textContent())!;
  await app.getByRole("button", { name: "Add smooth" }).click();
  await expect(finder).toContainText("treated");
  await expect(lane).not.toHaveText(rolled);
  const smoothed = (await lane.textContent())!;
  await app.keyboard.down("b");
  await expect(finder).toContainText("as rolled");
  await expect(lane).toHaveText(rolled);
  await app.keyboard.up("b");
  await expect(lane).toHaveText(smoothed);
  await app.keyboard.press("?");
  await expect(app.getByRole("dialog")).toContainText("hold for raw");
  await app.keyboard.press("Escape");
  await expect(app.getByRole("dialog")).toHaveCount(0);
});
