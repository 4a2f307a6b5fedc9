import { expect, test } from "../server.ts";
import { panel } from "../panels.ts";

const place = (name: string) => `../docs/screenshots/${name}.png`;

test("operate, rolling", async ({ app }) => {
  await app.keyboard.press("2");
  await app.keyboard.press("r");
  await app.keyboard.down("w");
  await app.keyboard.down("e");
  await expect(app.getByText(/rolling 00:0[23]/)).toBeVisible();
  await app.screenshot({ path: place("operate") });
});

test("operate, looking at a take from around", async ({ app }) => {
  await panel(app, "Takes");
  await app.getByRole("button", { name: "Play take 1" }).click();
  await panel(app, "Around");
  await expect.poll(async () => Number(await app.getByTestId("frame").textContent())).toBeGreaterThan(150);
  await app.keyboard.press("k");
  // Two more pictures, so that the last frame is the one that is shown.
  await app.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  await app.screenshot({ path: place("take") });
});

test("shape", async ({ app }) => {
  await app.getByRole("button", { name: "Shape" }).click();
  await app.getByRole("button", { name: "Add smooth" }).click();
  await expect(app.getByRole("button", { name: "Undo smooth take 1" })).toBeVisible();
  await app.getByTestId("strip").click({ position: { x: 330, y: 20 } });
  await expect.poll(async () => Number(await app.getByTestId("frame").textContent())).toBeGreaterThan(100);
  await app.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  await app.screenshot({ path: place("shape") });
});

test("shape, keys on the curves", async ({ app, demo }) => {
  const key = (frame: number, value: number) => ({ time_s: frame / 24, value });
  const curves = {
    swing: [key(0, -4), key(84, 22), key(168, 26), key(312, 58)],
    boom: [key(0, 6), key(132, 24), key(336, 10)],
    pan: [key(0, 4), key(96, -18), key(192, -18), key(384, 26)],
    tilt: [key(48, 0), key(240, -9)],
  };
  const value = { setup_id: 1, source: { kind: "curves" }, variant_of: null, name: "past the door", curves };
  const ops = [{ op: "add", path: "/moves/new:1", value }];
  const data = { page: "shots", scene: 1, edits: [{ label: "key a move", ops }] };
  expect((await app.request.post(`${demo.url}/api/edits`, { data })).ok()).toBe(true);
  await app.getByRole("button", { name: "Shape" }).click();
  await app.getByRole("combobox", { name: "Move to shape" }).click();
  await app.getByRole("option", { name: "past the door" }).click();
  const bar = app.getByRole("group", { name: "Keys", exact: true });
  await expect(bar).toContainText("13 keys");
  for (const press of [".", ".", "Shift+.", "5"]) await app.keyboard.press(press);
  await expect(app.getByRole("button", { name: /^Undo turn keys/ })).toBeVisible();
  await expect(app.getByRole("status", { name: "Mark" })).toContainText("axis pan holds");
  await app.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  await app.screenshot({ path: place("keys") });
});

test("shape, bad seconds", async ({ app, demo }) => {
  const key = (time_s: number, value: number) => ({ time_s, value });
  const curves = {
    swing: [key(0, 0), key(3, 12), key(6, 12), key(9, 26), key(9.4, 20), key(13, 38)],
    boom: [key(0, 10), key(3, 14), key(6, 14), key(13, 20)],
    tilt: [key(0, -3), key(3, -5), key(6, -5), key(12, -7)],
  };
  const value = { setup_id: 1, source: { kind: "curves" }, variant_of: null, name: "halting", curves };
  const ops = [{ op: "add", path: "/moves/new:1", value }];
  const data = { page: "shots", scene: 1, edits: [{ label: "key a move", ops }] };
  expect((await app.request.post(`${demo.url}/api/edits`, { data })).ok()).toBe(true);
  await app.getByRole("button", { name: "Shape" }).click();
  await app.getByRole("combobox", { name: "Move to shape" }).click();
  await app.getByRole("option", { name: "halting" }).click();
  await app.getByRole("button", { name: "Look for them" }).click();
  await app.getByRole("button", { name: /^3\.0/ }).click();
  await app.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  await app.screenshot({ path: place("mend") });
});

test("shape, raw and now side by side, kind of shake a drawn spectrum", async ({ app }) => {
  await app.getByRole("button", { name: "Shape" }).click();
  await app.getByRole("button", { name: "Add shake" }).click();
  await app.getByRole("combobox", { name: "kind of shake", exact: true }).click();
  await app.getByRole("option", { name: "a drawn spectrum" }).click();
  await expect(app.getByRole("slider", { name: /spectrum, key 5/ })).toBeVisible();
  await app.getByTestId("strip").click({ position: { x: 330, y: 20 } });
  await expect.poll(async () => Number(await app.getByTestId("frame").textContent())).toBeGreaterThan(100);
  await app.keyboard.press("x");
  await app.getByRole("button", { name: "shake", exact: true }).click();
  await expect(app.getByTestId("lane-shake, position")).toBeVisible();
  await app.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  await app.screenshot({ path: place("beside") });
});

test("set, with a path picked", async ({ app }) => {
  await app.keyboard.press("Alt+1");
  await app.getByRole("button", { name: "Cast", exact: true }).click();
  await app.getByRole("button", { name: /^conductor/ }).click();
  await app.getByRole("option").nth(2).click();
  await expect(app.getByLabel("Stays for, s")).toHaveValue("2.00");
  // The room is drawn sharp once it stands still.
  await expect(app.getByTestId("room").locator("canvas")).toBeVisible();
  await app.waitForFunction(() => {
    const canvas = document.querySelector<HTMLCanvasElement>('[data-testid="room"] canvas');
    return !!canvas && canvas.width >= canvas.clientWidth;
  });
  await app.screenshot({ path: place("set") });
});

test("operate, drawing a frame, with the setups", async ({ app }) => {
  await panel(app, "Setups");
  // The small pictures come one after the other; the first must show the lit tram.
  await app.waitForFunction(() => {
    const canvas = document.querySelector<HTMLCanvasElement>('[data-testid="setup-A"] canvas');
    const pixel = canvas?.getContext("2d")?.getImageData(96, 30, 1, 1).data;
    return !!pixel && pixel[0]! + pixel[1]! > 120;
  });
  await app.keyboard.press("Alt+d");
  const box = (await app.getByTestId("draw-frame").boundingBox())!;
  await app.mouse.move(box.x + 380, box.y + 150);
  await app.mouse.down();
  await app.mouse.move(box.x + 560, box.y + 230, { steps: 6 });
  await app.mouse.up();
  await expect(app.getByRole("button", { name: /^Exactly/ })).toBeVisible();
  await app.waitForFunction(() => {
    const canvas = document.querySelector<HTMLCanvasElement>('[data-testid="finder"] canvas');
    return !!canvas && canvas.width >= canvas.clientWidth;
  });
  await app.screenshot({ path: place("draw") });
});
