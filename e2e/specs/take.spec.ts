import type { Page } from "@playwright/test";
import { looks, measured, readCamera, readCsv, validate } from "../files.ts";
import { expect, open, roll, test } from "../server.ts";
import { panel } from "../panels.ts";

/** The figure in a row of the panel: raw and now. */
async function figure(page: Page, name: string): Promise<[number, number]> {
  const cells = page.getByTestId(`figure-${name}`).locator("td.num");
  return (await cells.allTextContents()).map(Number) as [number, number];
}

async function download(page: Page, name: string): Promise<string> {
  await page.getByRole("button", { name: "files", exact: true }).click();
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name, exact: true }).click(),
  ]);
  await page.getByRole("button", { name: "figures", exact: true }).click();
  return file.path();
}

test("drive, roll, play, smooth, compare, undo, take away, reload", async ({ app, demo }) => {
  await roll(app, 3, ["d", "w"]);
  const row = app.getByTestId("take-3");
  await row.getByRole("button", { name: "Play take 3" }).click();
  await expect(app.getByRole("region", { name: "Finder" })).toContainText("take 3");
  await expect.poll(async () => Number(await app.getByTestId("frame").textContent())).toBeGreaterThan(20);
  await app.keyboard.press("k");

  await app.getByRole("button", { name: "Shape" }).click();
  await expect(app.getByLabel("Move to shape")).toBeVisible();
  const rawFile = await download(app, "CSV, raw");
  const before = readCsv(await download(app, "CSV"));
  expect(before).toEqual(readCsv(rawFile));
  await app.getByRole("button", { name: "Add smooth" }).click();
  await expect(app.getByRole("button", { name: "Undo smooth take 3" })).toBeEnabled();
  // A machine that is driven by keys does not shake: smoothing shows in how far it departs. Beside a
  // build that took both cores 0.1 mm was seen.
  await expect.poll(async () => (await figure(app, "departure"))[1]).toBeGreaterThan(0);
  const [shaken, smoothed] = await figure(app, "shake, position");
  expect(shaken).toBeLessThan(0.2);
  expect(smoothed).toBeLessThanOrEqual(shaken);
  const [, departure] = await figure(app, "departure");

  const csv = await download(app, "CSV");
  const glb = await download(app, "glTF (.glb)");
  const now = readCsv(csv);
  expect(now.length).toBe(before.length);
  expect(now[0]).toEqual(before[0]);
  // A cut between two frames leaves the last frame a little before the last sample.
  expect(now.at(-1)!.pan_deg).toBeCloseTo(before.at(-1)!.pan_deg!, 0);
  expect(now.at(Math.floor(now.length / 2))).not.toEqual(before.at(Math.floor(now.length / 2)));
  await handsOver(csv, glb);
  // Chromium's reader of SVG measures the plan: the stage is 36 m wide, the camera goes as far as its rows say.
  const plan = await measured(app, await download(app, "Plan (.svg)"));
  expect(plan.dimension!.across).toBeCloseTo(36, 2);
  const step = ([a, b]: [(typeof now)[0], (typeof now)[0]]) => Math.hypot(b.x_m! - a.x_m!, b.z_m! - a.z_m!);
  const gone = now.slice(1).reduce((sum, row, i) => sum + step([now[i]!, row]), 0);
  expect(gone).toBeGreaterThan(0.05);
  expect(Math.abs(plan.path!.along - gone)).toBeLessThan(0.02);

  await app.keyboard.press("Control+z");
  await expect(app.getByRole("button", { name: "Redo smooth take 3" })).toBeEnabled();
  await expect.poll(async () => (await figure(app, "departure"))[1]).toBe(0);
  expect(readCsv(await download(app, "CSV"))).toEqual(before);
  await app.keyboard.press("Control+Shift+Z");
  await expect.poll(async () => (await figure(app, "departure"))[1]).toBeGreaterThan(0);
  expect(readCsv(await download(app, "CSV, raw"))).toEqual(readCsv(rawFile));

  await open(app, demo);
  await panel(app, "Takes");
  await expect(app.getByTestId("take-3")).toBeVisible();
  await app.getByTestId("take-3").getByTitle("Look at this take").click();
  await app.getByRole("button", { name: "Shape" }).click();
  await expect(app.getByRole("checkbox", { name: "Smooth on" })).toBeChecked();
  await expect.poll(async () => (await figure(app, "departure"))[1]).toBe(departure);
});

/** Khronos' validator has nothing to say, and three.js sees the camera where the CSV says it is. */
async function handsOver(csv: string, glb: string) {
  const report = await validate(glb);
  expect(report.messages.filter((m) => (m as { severity: number }).severity < 2)).toEqual([]);
  expect([report.numErrors, report.numWarnings]).toEqual([0, 0]);
  const rows = readCsv(csv);
  const five = [0, 0.25, 0.5, 0.75, 1].map((share) => rows[Math.round(share * (rows.length - 1))]!);
  const { at, names } = await readCamera(
    glb,
    five.map((r) => r.time_s!),
  );
  expect(names).toEqual(
    expect.arrayContaining([expect.stringMatching(/^take_3/), "conductor", "tram_7", "stair"]),
  );
  five.forEach((row, i) => {
    const { position, forward, up } = at[i]!;
    expect(position.distanceTo({ x: row.x_m!, y: row.y_m!, z: row.z_m! })).toBeLessThan(1e-5);
    const want = looks(row);
    // 1e-3 degrees.
    expect(forward.angleTo(want.forward)).toBeLessThan(1.7e-5);
    expect(up.angleTo(want.up)).toBeLessThan(1.7e-5);
  });
}

test("a take is named, rated, noted, binned and restored, each of it undone", async ({ app }) => {
  await panel(app, "Takes");
  const two = app.getByTestId("take-2");
  await app.getByLabel("Name of take 2").fill("through the door");
  await app.keyboard.press("Enter");
  await app.getByLabel("Note on take 2").fill("starts late");
  await app.keyboard.press("Enter");
  await two.getByRole("button", { name: "Mark take 2 as good" }).click();
  await expect(two).toContainText("good");
  await two.getByRole("button", { name: "Bin take 2" }).click();
  await expect(two).toHaveCount(0);
  await app.getByRole("button", { name: "Bin (1)" }).click();
  await two.getByRole("button", { name: "Restore take 2" }).click();
  await app.getByRole("button", { name: "Back to takes" }).click();
  await expect(two).toContainText("good");
  for (const label of [
    "restore take 2",
    "bin take 2",
    "mark take 2 as good",
    "note on take 2",
    "name take 2",
  ]) {
    await app.getByRole("button", { name: `Undo ${label}` }).click();
  }
  await expect(app.getByLabel("Name of take 2")).toHaveValue("lower");
  await expect(two.getByText("good", { exact: true })).toHaveCount(0);
  await expect(app.getByRole("button", { name: "Undo", exact: true })).toBeDisabled();
});

test("a count in counts, and stops before anything is recorded", async ({ app }) => {
  await app.getByLabel("Count in").click();
  await app.getByRole("option", { name: "count in 3 s" }).click();
  await panel(app, "Takes");
  await app.keyboard.press("r");
  await expect(app.getByRole("region", { name: "Finder" })).toContainText("2");
  await app.getByRole("button", { name: "Cut" }).click();
  await expect(app.getByRole("button", { name: "Roll", exact: true })).toBeVisible();
  await expect(app.locator('[data-testid^="take-"]')).toHaveCount(2);
});

test("a real recording comes in, is smoothed like any other, and can be undone", async ({ app }) => {
  await panel(app, "Takes");
  await app.getByRole("button", { name: "Bring in a move" }).click();
  await app.getByLabel("File", { exact: true }).setInputFiles(process.env.ROVNEK_RECORDING!);
  await app.getByLabel("First point height, m").fill("5ft+0.1");
  await app.keyboard.press("Enter");
  await app.getByRole("button", { name: "Bring it in" }).click();
  await expect(app.getByTestId("take-3")).toContainText("30.1 s");
  await app.getByTestId("take-3").getByTitle("Look at this take").click();
  await expect(app.getByTestId("camera-numbers")).toContainText("y  1.62");
  await app.getByRole("button", { name: "Shape" }).click();
  await app.getByRole("button", { name: "Add smooth" }).click();
  await expect
    .poll(async () => {
      const [raw, now] = await figure(app, "shake, position");
      return now < raw / 2;
    })
    .toBe(true);
  await expect(app.getByTestId("lane-x")).toBeVisible();
  // What does not move is folded to its name; what follows from the axes has curves as well.
  await expect(app.getByRole("group", { name: "Folded curves" })).toContainText("zoom");
  await app.getByRole("button", { name: "zoom", exact: true }).click();
  await expect(app.getByTestId("lane-zoom")).toBeVisible();
  await app.getByRole("button", { name: "shake", exact: true }).click();
  // Of the first second there is no shake; in the middle there is.
  await expect(app.getByTestId("lane-shake, rotation").locator(".num")).toHaveText("–");
  for (let k = 0; k < 8; k++) await app.keyboard.press("Shift+ArrowRight");
  await expect(app.getByTestId("lane-shake, rotation").locator(".num")).toHaveText(/^0\.\d\d$/);
  await app.getByRole("button", { name: "axes", exact: true }).click();
  // Picture, curves or both by one key, and where they meet by another.
  const [lanes, finder] = ["Lanes", "Finder"].map((name) => app.getByRole("region", { name }));
  await app.keyboard.press("v");
  await expect(lanes!).toHaveCount(0);
  await app.keyboard.press("v");
  await expect(finder!).toHaveCount(0);
  await expect(lanes!).toBeVisible();
  await app.keyboard.press("v");
  await expect(finder!).toBeVisible();
  const divider = app.getByRole("separator", { name: "Between picture and curves" });
  await divider.press("ArrowUp");
  await expect(divider).toHaveAttribute("aria-valuenow", "47");
  await divider.dblclick();
  await expect(divider).toHaveAttribute("aria-valuenow", "52");
  // Time is zoomed at the playhead, for curves and ruler alike: the same place is another time then.
  const strip = app.getByTestId("strip");
  const frame = async () => Number(await app.getByTestId("frame").textContent());
  await app.keyboard.press("Home");
  await expect.poll(frame).toBe(0);
  await strip.click({ position: { x: 100, y: 20 } });
  // The number on the screen comes with the next picture.
  await expect.poll(frame).toBeGreaterThan(0);
  const far = await frame();
  await app.keyboard.press("Home");
  await expect.poll(frame).toBe(0);
  await app.keyboard.press("=");
  await strip.click({ position: { x: 100, y: 20 } });
  await expect.poll(frame).toBeGreaterThan(0.4 * far);
  expect(await frame()).toBeLessThan(0.6 * far);
  await lanes!.hover({ position: { x: 500, y: 100 } });
  await app.mouse.wheel(0, -400);
  await app.keyboard.press("0");
  await strip.click({ position: { x: 100, y: 20 } });
  await expect.poll(frame).toBe(far);
  await app.keyboard.press("Control+z");
  await app.keyboard.press("Control+z");
  await app.getByRole("button", { name: "Operate" }).click();
  await panel(app, "Takes");
  await expect(app.getByTestId("take-3")).toHaveCount(0);
});

test("a wrong file is refused with its line, and nothing is stored", async ({ app }) => {
  await panel(app, "Takes");
  await app.getByRole("button", { name: "Bring in a move" }).click();
  const file = {
    name: "walk.txt",
    mimeType: "text/plain",
    buffer: Buffer.from("0 0 0 0 0 0 0 1\n1 0 0 nan 0 0 0 1\n"),
  };
  await app.getByLabel("File", { exact: true }).setInputFiles(file);
  await app.getByRole("button", { name: "Bring it in" }).click();
  await expect(app.getByRole("region", { name: "Bring in a move" }).getByRole("alert")).toContainText(
    "line 2: tz is not a number",
  );
  await app.getByRole("button", { name: "Close" }).click();
  await expect(app.locator('[data-testid^="take-"]')).toHaveCount(2);
});
