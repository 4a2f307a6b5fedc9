import { expect, test } from "../server.ts";

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
  await app.getByRole("button", { name: "Add smooth" }).click();
  await expect(app.getByRole("button", { name: "Undo smooth take 1" })).toBeVisible();
  await app.getByTestId("strip").click({ position: { x: 330, y: 20 } });
  await expect.poll(async () => Number(await app.getByTestId("frame").textContent())).toBeGreaterThan(100);
  await app.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  await app.screenshot({ path: place("shape") });
});

test("set, with a path picked", async ({ app }) => {
  await app.keyboard.press("Home");
  await app.keyboard.press("Space");
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
  await app.keyboard.press("Home");
  await app.keyboard.press("Space");
  await app.getByRole("button", { name: "Setups", exact: true }).click();
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
