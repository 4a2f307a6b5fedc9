import { atRest, axis, expect, open, test } from "../server.ts";

test("each axis is driven by its keys to its end and stops there", async ({ app }) => {
  await app.keyboard.press("0");
  await expect(app.getByTestId("speed")).toHaveText("1.00");
  const before = await axis(app, "swing");
  await app.keyboard.down("d");
  await expect.poll(() => axis(app, "swing")).toBeGreaterThan(before + 8);
  await app.keyboard.up("d");
  await atRest(app, "swing");

  // All at once: each stops at its own end. That each goes to both, the floor's own tests show.
  const ends = [
    ["boom", "w", 55],
    ["pan", "h", 180],
    ["tilt", "t", 60],
    ["roll", "x", 90],
    ["zoom", "c", 18],
    ["focus", "n", 0.6],
  ] as const;
  for (const [, key] of ends) await app.keyboard.down(key);
  for (const [name, , end] of ends) {
    await expect(app.getByTestId(`strip-${name}`)).toContainText("end");
    await expect.poll(() => axis(app, name)).toBeCloseTo(end, 1);
  }
  for (const [, key] of ends) await app.keyboard.up(key);
});

test("the mouse pans and zooms in the finder, and the dial slows the machine", async ({ app }) => {
  const finder = app.getByTestId("finder");
  const box = (await finder.boundingBox())!;
  const pan = await axis(app, "pan");
  await app.mouse.move(box.x + 400, box.y + 200);
  await app.mouse.down();
  await app.mouse.move(box.x + 250, box.y + 200, { steps: 6 });
  await app.mouse.up();
  await expect.poll(() => axis(app, "pan")).toBeGreaterThan(pan + 3);
  const zoom = await axis(app, "zoom");
  await app.mouse.wheel(0, -300);
  await expect.poll(() => axis(app, "zoom")).toBeGreaterThan(zoom);

  await app.keyboard.press("1");
  await expect(app.getByTestId("speed")).toHaveText("0.10");
  await app.keyboard.press("=");
  await expect(app.getByTestId("speed")).toHaveText("0.15");
});

test("a camera dragged out of reach on the plan is told how far it is short, and goes as far as it can", async ({
  app,
}) => {
  const plan = app.getByTestId("plan");
  const camera = (await plan.locator('[data-part="camera"]').boundingBox())!;
  const box = (await plan.boundingBox())!;
  await app.mouse.move(camera.x + camera.width / 2, camera.y + camera.height / 2);
  await app.mouse.down();
  // The north-west corner of the hall is far out of this crane's reach.
  await app.mouse.move(box.x + 60, box.y + 60, { steps: 8 });
  await expect(app.getByTestId("told")).toContainText(/\d\.\d\d m short\s*reach, longest/);
  await app.mouse.up();
  await expect(app.getByTestId("strip-reach")).toContainText(/end|near/);
  await expect.poll(() => axis(app, "reach")).toBeCloseTo(7.62, 1);
});

test("an axis that is not armed holds still while rolling", async ({ app }) => {
  await app.getByRole("button", { name: "Arm swing" }).click();
  await expect(app.getByRole("button", { name: "Arm swing" })).toHaveAttribute("aria-pressed", "false");
  const swing = await axis(app, "swing");
  const boom = await axis(app, "boom");
  await app.keyboard.press("r");
  await app.keyboard.down("d");
  await app.keyboard.down("w");
  await expect.poll(() => axis(app, "boom")).toBeGreaterThan(boom + 3);
  expect(await axis(app, "swing")).toBe(swing);
  await app.keyboard.press("r");
});

test("two pages: one has the wheels, the other asks and gets them", async ({ app, demo, context }) => {
  const other = await context.newPage();
  await open(other, demo);
  await expect(app.getByTestId("wheels")).toHaveText("You have the wheels");
  await expect(other.getByTestId("wheels")).toHaveText("Another page has the wheels");
  const swing = await axis(other, "swing");
  await other.keyboard.press("d", { delay: 300 });
  expect(await axis(other, "swing")).toBe(swing);

  await other.getByRole("button", { name: /^(Ask for|Take) the wheels/ }).click();
  await app.bringToFront();
  await app.getByRole("button", { name: "Give" }).click();
  await expect(other.getByTestId("wheels")).toHaveText("You have the wheels");
  await other.bringToFront();
  await other.keyboard.down("d");
  await expect.poll(() => axis(other, "swing")).toBeGreaterThan(swing + 2);
  await other.keyboard.up("d");
});

test("the holder's page closes while the arm swings, and the arm comes to rest", async ({
  app,
  demo,
  context,
}) => {
  const other = await context.newPage();
  await open(other, demo);
  await app.bringToFront();
  await app.keyboard.press("0");
  const swing = await axis(app, "swing");
  await app.keyboard.down("d");
  await expect.poll(() => axis(app, "swing")).toBeGreaterThan(swing + 10);
  await app.close();
  await other.bringToFront();
  await expect(other.getByTestId("wheels")).toHaveText("Nobody has the wheels");
  await atRest(other, "swing");
  await other.getByRole("button", { name: /^(Ask for|Take) the wheels/ }).click();
  await expect(other.getByTestId("wheels")).toHaveText("You have the wheels");
});
