import { expect, roll, test } from "../server.ts";
import { pick, startStandIn } from "../rigs.ts";
import { place, settle } from "../settled.ts";
import { panel } from "../panels.ts";

test("operate, the slate before a pass", async ({ app }) => {
  await panel(app, "Slate");
  await app.getByLabel("Note on the slate").fill("later on the head");
  await app.getByLabel("Note on the slate").press("Enter");
  await pick(app, "Take below", /^take 1/);
  for (const axis of ["swing", "boom", "reach", "zoom", "focus", "iris"])
    await app.getByRole("region", { name: "Slate" }).getByRole("button", { name: axis, exact: true }).click();
  await pick(app, "Count in, seconds", "5 s");
  await app.waitForFunction(settle);
  await app.getByTestId("finder").click({ position: { x: 5, y: 5 } });
  await app.keyboard.press("r");
  await expect(app.getByTestId("count")).toHaveText("3");
  await app.screenshot({ path: place("slate") });
});

test("operate, the take log, and two takes compared", async ({ app }) => {
  await roll(app, 3, ["d", "g"]);
  await app.keyboard.press("Alt+Shift+g");
  await app.keyboard.press("Alt+j");
  const log = app.getByRole("region", { name: "Take log" });
  await expect(log.getByTestId("log-3").locator("td").nth(6)).not.toHaveText("–");
  await log.getByLabel("Name of take 3").fill("quicker");
  await log.getByLabel("Name of take 3").press("Enter");
  await log.getByLabel("Compare take 1").click();
  await log.getByLabel("Compare take 2").click();
  await expect(app.getByRole("img", { name: "Last frame of take 1" }).first()).toBeVisible();
  await app.screenshot({ path: place("log") });
  await log.getByRole("button", { name: "Compare", exact: true }).click();
  await app.getByTestId("strip").click({ position: { x: 330, y: 20 } });
  await app.keyboard.press("i");
  await pick(app, "Axis of the curves", "pan");
  await app.waitForFunction(settle);
  await app.screenshot({ path: place("compare") });
});

test("operate, a device in the hand", async ({ app }) => {
  await startStandIn(app);
  await app.keyboard.press("Alt+a");
  await expect(app.getByText("follows opentrackio 1")).toBeVisible();
  await app.getByLabel("Steadying of rotation").fill("0.6");
  await app.getByLabel("Steadying of rotation").press("Enter");
  await expect(app.getByTestId("delay")).toContainText(/\d\d+ ms late/);
  await app.waitForFunction(settle);
  await app.screenshot({ path: place("devices") });
});
