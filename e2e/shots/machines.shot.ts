import { axis, expect, test } from "../server.ts";
import { choose, pick } from "../rigs.ts";
import { place, settle } from "../settled.ts";
import { panel } from "../panels.ts";

test("operate, on a rail round the conductor", async ({ app }) => {
  await choose(app, "rail");
  await pick(app, "Circle round", "conductor");
  await app.getByRole("button", { name: /^travel / }).click();
  await app.getByLabel("travel, m").fill("9");
  await app.getByLabel("travel, m").press("Enter");
  await expect.poll(() => axis(app, "travel")).toBeCloseTo(9, 1);
  await app.waitForFunction(settle);
  await app.screenshot({ path: place("rail") });
});

test("operate, four views: a crane on track that follows a take, and what a second camera sees of it", async ({
  app,
}) => {
  await panel(app, "Machine");
  await pick(app, "Base of the crane", "on track");
  await panel(app, "Positions");
  await app.getByRole("button", { name: "Store as 1" }).click();
  await pick(app, "Follows the move of", /^take 1/);
  await app.keyboard.press("Alt+p");
  await app.keyboard.press("Alt+e");
  await app.getByTestId("strip").click({ position: { x: 260, y: 20 } });
  await expect.poll(() => app.locator('[data-testid^="view-"]').count()).toBe(4);
  await app.waitForFunction(settle);
  await app.screenshot({ path: place("views") });
});

test("operate, inputs", async ({ app }) => {
  await panel(app, "Inputs");
  await app.waitForFunction(settle);
  await app.screenshot({ path: place("inputs") });
});
