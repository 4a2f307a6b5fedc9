import { expect, test } from "../server.ts";

const place = (name: string) => `../docs/screenshots/${name}.png`;

test("operate, rolling", async ({ app }) => {
  await app.keyboard.press("2");
  await app.keyboard.press("r");
  await app.keyboard.down("a");
  await app.keyboard.down("e");
  await expect(app.getByText(/rolling 00:0[23]/)).toBeVisible();
  await app.screenshot({ path: place("operate") });
});

test("operate, looking at a take from around", async ({ app }) => {
  await app.getByRole("button", { name: "Takes", exact: true }).click();
  await app.getByRole("button", { name: "Play take 1" }).click();
  await app.getByRole("button", { name: "Around" }).click();
  await expect.poll(async () => Number(await app.getByTestId("frame").textContent())).toBeGreaterThan(150);
  await app.keyboard.press("k");
  // Two more pictures, so that the last frame is the one that is shown.
  await app.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  await app.screenshot({ path: place("take") });
});

test("shape", async ({ app }) => {
  await app.getByRole("button", { name: "Shape" }).click();
  await app.getByRole("button", { name: "Add smoothing" }).click();
  await expect(app.getByRole("button", { name: "Undo smooth take 1" })).toBeVisible();
  await app.getByTestId("strip").click({ position: { x: 330, y: 20 } });
  await expect.poll(async () => Number(await app.getByTestId("frame").textContent())).toBeGreaterThan(100);
  await app.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  await app.screenshot({ path: place("shape") });
});
