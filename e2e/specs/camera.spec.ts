import { readFileSync, writeFileSync } from "node:fs";
import { unzipSync, zipSync } from "fflate";
import type { Page } from "@playwright/test";
import type { FrameView } from "../../web/src/generated/types.ts";
import { scene } from "../plan.ts";
import { axis, expect, test } from "../server.ts";
import { panel } from "../panels.ts";

const tab = (page: Page, name: string) => page.getByRole("button", { name, exact: true }).click();

/** Where the cameras of the setups stand. */
async function views(page: Page) {
  const answer = await page.request.get(`${new URL(page.url()).origin}/api/setups/views`);
  return (await answer.json()) as { id: number; position: number[]; rotation: number[]; focal_mm: number }[];
}

/** A drawing of one grey in its left half, with nothing in the other, as PNG. */
async function halfDrawn(page: Page, grey: number): Promise<Uint8Array> {
  const bytes = await page.evaluate(async (grey) => {
    const canvas = new OffscreenCanvas(64, 32);
    const paper = canvas.getContext("2d")!;
    paper.fillStyle = `rgb(${grey} ${grey} ${grey})`;
    paper.fillRect(0, 0, 32, 32);
    return [...new Uint8Array(await (await canvas.convertToBlob()).arrayBuffer())];
  }, grey);
  return Uint8Array.from(bytes);
}

/** The colours of a PNG halfway up, at shares of its width. */
const colors = (page: Page, png: Uint8Array, shares: number[]) =>
  page.evaluate(
    async ({ base64, shares }) => {
      const bytes = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
      const image = await createImageBitmap(new Blob([bytes], { type: "image/png" }));
      const canvas = new OffscreenCanvas(image.width, image.height);
      const paper = canvas.getContext("2d")!;
      paper.drawImage(image, 0, 0);
      const at = (share: number) => paper.getImageData(share * image.width, image.height / 2, 1, 1).data;
      return shares.map((share) => [...at(share)].slice(0, 3));
    },
    { base64: Buffer.from(png).toString("base64"), shares },
  );

/** Drags a frame in a picture, from one share of it to another. */
async function drawFrame(page: Page, from: [number, number], to: [number, number], tilted = false) {
  const box = (await page.getByTestId("draw-frame").boundingBox())!;
  const at = ([x, y]: [number, number]) => [box.x + x * box.width, box.y + y * box.height] as const;
  if (tilted) await page.keyboard.down("Shift");
  await page.mouse.move(...at(from));
  await page.mouse.down();
  await page.mouse.move(...at(to), { steps: 6 });
  await page.mouse.up();
  if (tilted) await page.keyboard.up("Shift");
}

test("a frame drawn in the finder becomes a setup at the same eye, with its lens or one of the set", async ({
  app,
}) => {
  const place = await app.getByTestId("camera-numbers").textContent();
  // Answers come late, and the frame is taken before they are there: it is the one drawn last.
  const answered: number[] = [];
  await app.route("**/api/frame", async (route) => {
    const response = await route.fetch();
    answered.push(((await response.json()) as FrameView).offers[0]!.camera.focal_mm);
    setTimeout(() => void route.fulfill({ response }), 300);
  });
  await app.keyboard.press("Alt+d");
  await drawFrame(app, [0.3, 0.35], [0.55, 0.6]);
  await app.keyboard.press("Enter");
  await expect(app.getByText(/live · C · drawn/)).toBeVisible();
  const [x, y, z] = (await views(app))[2]!.position;
  expect(place).toContain(
    `x${x!.toFixed(2).padStart(6)} y${y!.toFixed(2).padStart(6)} z${z!.toFixed(2).padStart(6)}`,
  );
  expect(answered.length).toBeGreaterThan(1);
  expect((await views(app))[2]!.focal_mm).toBeCloseTo(answered.at(-1)!, 6);
  await app.unroute("**/api/frame");
  await expect(app.getByTestId("strip-zoom")).toContainText("fixed");

  // Tilted, and with the next shorter lens of the set.
  await app.keyboard.press("Alt+d");
  await drawFrame(app, [0.4, 0.3], [0.6, 0.75], true);
  await expect(app.getByRole("button", { name: /^Exactly/ })).toBeVisible();
  await app.keyboard.press("Tab");
  await app.keyboard.press("Enter");
  await expect(app.getByText(/live · D · drawn/)).toBeVisible();
  const made = (await scene(app)).setups[3]!;
  expect(Math.abs(made.rig.start_roll_deg as number)).toBeGreaterThan(5);
  expect(made.camera.lens_set).toBe("primes");
  expect(made.camera.focal_min_mm).toBe(made.camera.focal_max_mm);
  await app.keyboard.press("Alt+d");
  await app.keyboard.press("Escape");
  await expect(app.getByTestId("draw-frame")).toHaveCount(0);
});

test("setups are duplicated, named, reordered and removed; looking through one edits nothing", async ({
  app,
}) => {
  await panel(app, "Setups");
  await app.getByRole("button", { name: "Duplicate setup A" }).click();
  await expect(app.getByTestId("setup-C")).toBeVisible();
  const name = app.getByLabel("Name of setup C");
  await name.fill("closer");
  await name.press("Enter");
  await app.getByRole("button", { name: "Move setup C up" }).click();
  await expect.poll(async () => (await scene(app)).setups.map((s) => s.letter)).toEqual(["A", "C", "B"]);
  expect((await scene(app)).setups[1]!.name).toBe("closer");
  await app.getByRole("button", { name: "Remove setup B" }).click();
  await expect(app.getByTestId("setup-B")).toHaveCount(0);
  await app.keyboard.press("Control+z");
  await expect(app.getByTestId("setup-B")).toBeVisible();

  const before = await scene(app);
  await app.keyboard.press("Alt+1");
  await tab(app, "Setups");
  await app.getByRole("button", { name: "Look through B" }).click();
  await expect(app.getByTestId("room-eye")).toHaveText("through B · crane at the stair");
  // Nothing drives here, and dragging in the picture moves nobody's camera.
  const box = (await app.getByTestId("room").boundingBox())!;
  await app.mouse.move(box.x + 80, box.y + 120);
  await app.mouse.down();
  await app.mouse.move(box.x + 200, box.y + 150, { steps: 4 });
  await app.mouse.up();
  for (const key of ["a", "q", "g"]) await app.keyboard.press(key);
  await app.keyboard.press("Escape");
  expect(await scene(app)).toEqual(before);
  await app.getByRole("button", { name: "outside" }).click();
  await expect(app.getByTestId("room-eye")).toHaveText("from outside");
  await app.keyboard.press("Alt+2");
  await expect(app.getByText(/live · A ·/)).toBeVisible();
});

test("sensor, frame and lens are chosen, and the numbers follow", async ({ app }) => {
  await panel(app, "Camera");
  const side = app.getByRole("region", { name: "Camera" });
  await side.getByLabel("Sensor", { exact: true }).click();
  await app.getByRole("option", { name: "full frame" }).click();
  await side.getByLabel("Frame shape", { exact: true }).click();
  await app.getByRole("option", { name: "9:16" }).click();
  await side.getByLabel("Lens set").click();
  await app.getByRole("option", { name: "primes", exact: true }).click();
  await app.getByRole("option", { name: "50", exact: true }).click();
  await expect.poll(async () => (await scene(app)).setups[0]!.camera.focal_max_mm).toBe(50);
  const { camera } = (await scene(app)).setups[0]!;
  expect([camera.sensor_width_mm, camera.lens_set, camera.focal_min_mm]).toEqual([36, "primes", 50]);
  // 24 mm high, 13.5 wide: 2·atan(13.5/100) and 2·atan(24/100).
  await expect(side).toContainText("15.4° across, 27.0° up");
  await expect(app.getByTestId("strip-zoom")).toContainText("fixed");
});

test("focus goes to a mark, measured along the view", async ({ app }) => {
  await panel(app, "Camera");
  await app.getByLabel("Focus on").click();
  await app.getByRole("option", { name: "mark 1" }).click();
  const { position, rotation } = (await views(app))[0]!;
  const [qx, qy, qz, qw] = rotation as [number, number, number, number];
  const forward = [-2 * (qx * qz + qw * qy), -2 * (qy * qz - qw * qx), -(1 - 2 * (qx * qx + qy * qy))];
  const mark = (await scene(app)).scene.pieces.find((p) => p.name === "mark 1")!.position;
  const away = forward.reduce((sum, f, i) => sum + f * (mark[i]! - position[i]!), 0);
  await expect.poll(() => axis(app, "focus")).toBeCloseTo(away, 1);
});

test("lines over the picture are turned on and off with keys, and who is seen is named with a size", async ({
  app,
}) => {
  await app.keyboard.press("Home");
  await expect(app.getByTestId("shot-size")).toHaveText(/conductor · (wide|full|middle)/);
  await app.getByRole("button", { name: "Lines" }).click();
  const safe = app.getByRole("menuitemcheckbox", { name: /safe areas/ });
  await expect(safe).toHaveAttribute("aria-checked", "false");
  await safe.click();
  await expect(safe).toHaveAttribute("aria-checked", "true");
  await app.keyboard.press("Escape");
  await app.keyboard.press("Alt+8");
  await expect(app.locator("line[data-horizon]")).toHaveCount(1);
  await app.keyboard.press("Alt+8");
  await expect(app.locator("line[data-horizon]")).toHaveCount(0);
  // Both ways of showing focus draw without a fault.
  await app.keyboard.press("Alt+9");
  await app.keyboard.press("Alt+0");
  await app.keyboard.press("Alt+9");
  await app.keyboard.press("Alt+0");
});

test("a camera stays square to a card, and its picture is written frame by frame", async ({ app }, info) => {
  await app.keyboard.press("Alt+1");
  await app.getByLabel("Scene length, s").fill("0.125");
  await app.getByLabel("Scene length, s").press("Enter");
  await app.getByLabel("Bring in a file").setInputFiles("../docs/screenshots/shape.png");
  await expect(app.getByLabel("Name of the piece")).toHaveValue("shape");
  await app.getByLabel("Turns to").click();
  await app.getByRole("option", { name: "camera A" }).click();
  await tab(app, "Setups");
  await app.getByRole("button", { name: "Square to shape" }).click();
  await app.getByRole("button", { name: "Look through C" }).click();
  await expect(app.getByTestId("room-eye")).toContainText("square to shape");

  const file = app.waitForEvent("download");
  await app.getByRole("button", { name: "Stills of setup C" }).click();
  const path = info.outputPath("stills.zip");
  await (await file).saveAs(path);
  const stills = unzipSync(new Uint8Array(readFileSync(path)));
  const names = Object.keys(stills).sort();
  expect(names.length).toBe(3);
  expect(names[0]).toBe("setupC-00000.png");
  const png = Buffer.from(stills[names[0]!]!);
  expect([png.readUInt32BE(16), png.readUInt32BE(20)]).toEqual([1920, 804]);

  // The drawings come back: one for each still, clear where nothing is drawn.
  await tab(app, "Pieces");
  const grey = (i: number) => 60 + 30 * i;
  const drawn: Record<string, Uint8Array> = {};
  for (const [i, name] of names.entries()) drawn[name] = await halfDrawn(app, grey(i));
  const back = info.outputPath("drawn.zip");
  writeFileSync(back, zipSync(drawn, { level: 0 }));
  await app.getByLabel("Images for this card").setInputFiles(back);
  await expect(app.getByText("3 images, 0.13 s")).toBeVisible();
  await expect(app.getByLabel("Images a second")).toHaveValue("24.00");
  await tab(app, "Setups");
  const again = app.waitForEvent("download");
  await app.getByRole("button", { name: "Stills of setup C" }).click();
  await (await again).saveAs(path);
  const shown = unzipSync(new Uint8Array(readFileSync(path)));
  for (const [i, name] of names.entries()) {
    // Left of the middle each drawing has its own grey, right of it nothing: there the room is seen.
    const [left, right] = await colors(app, shown[name]!, [0.47, 0.53]);
    expect(left!.every((v) => Math.abs(v - grey(i)) < 5)).toBe(true);
    expect(right!.some((v) => Math.abs(v - grey(i)) > 12)).toBe(true);
  }

  // The camera goes where the card goes.
  const before = (await views(app))[2]!.position;
  await tab(app, "Pieces");
  await app.getByLabel("Place x, m").fill("6");
  await app.getByLabel("Place x, m").press("Enter");
  await expect.poll(async () => (await views(app))[2]!.position).not.toEqual(before);
});
