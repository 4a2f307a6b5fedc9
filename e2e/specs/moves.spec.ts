import type { Page } from "@playwright/test";
import { readCsv } from "../files.ts";
import { documentOf, keyTimes, pick } from "../rigs.ts";
import { atRest, axis, expect, open, test } from "../server.ts";
import { panel } from "../panels.ts";

const shape = (page: Page) => page.getByRole("button", { name: "Shape", exact: true }).click();

/** A file that is offered, as rows. */
async function exported(page: Page, name: string) {
  await page.getByRole("button", { name: "files", exact: true }).click();
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name, exact: true }).click(),
  ]);
  await page.getByRole("button", { name: "figures", exact: true }).click();
  return readCsv(await file.path());
}

/** Sets a key, a swing and a key more: the first setup's machine runs a keyed move then. */
async function keyTwice(app: Page) {
  await panel(app, "Positions");
  await app.getByRole("button", { name: "Key here" }).click();
  await expect.poll(() => keyTimes(app)).toHaveLength(1);
  await app.getByTestId("strip").click({ position: { x: 300, y: 20 } });
  await app.keyboard.press("0");
  await app.keyboard.down("d");
  await expect.poll(() => axis(app, "swing")).toBeGreaterThan(15);
  await app.keyboard.up("d");
  await atRest(app, "swing");
  await app.getByRole("button", { name: "Keep" }).first().click();
  await expect.poll(() => keyTimes(app)).toHaveLength(2);
}

test("a keyed move is dragged on the time strip, looked at, treated and taken away without being rolled", async ({
  app,
  demo,
}) => {
  await keyTwice(app);
  const [, from] = await keyTimes(app);
  const key = app.getByRole("button", { name: /^Key 2:/ });
  const box = (await key.boundingBox())!;
  await app.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await app.mouse.down();
  await app.mouse.move(box.x + box.width / 2 + 90, box.y + box.height / 2, { steps: 8 });
  await app.mouse.up();
  await expect.poll(async () => (await keyTimes(app))[1]! - from!).toBeGreaterThan(0.5);
  // One drag is one entry of the history.
  await app.keyboard.press("Control+z");
  await expect.poll(async () => (await keyTimes(app))[1]).toBeCloseTo(from!, 6);
  await app.getByRole("button", { name: "Look", exact: true }).click();
  await expect(app.getByRole("region", { name: "Finder" })).toContainText("keys of setup A");
  await expect(app.getByRole("region", { name: "Finder" })).toContainText("as keyed");
  await shape(app);
  const rows = await exported(app, "CSV");
  const { scene, setups, moves } = await documentOf(app);
  expect(rows.length).toBe(Math.floor(scene.length_s * 24 + 1e-9) + 1);
  const swing = moves.find((m) => m.id === setups[0]!.runs)!.curves.swing!;
  // A crane that swings without panning looks as far round as it swings.
  const far = rows.at(-1)!.pan_deg! - rows[0]!.pan_deg!;
  expect(far).toBeCloseTo(swing[1]!.value - swing[0]!.value, 1);
  await app.getByRole("button", { name: "Add smooth" }).click();
  await expect(app.getByRole("button", { name: "Undo smooth keys of setup A" })).toBeEnabled();
  await app.getByLabel("Name of this move").fill("arc");
  await app.keyboard.press("Enter");
  await expect(app.getByRole("combobox", { name: "Move to shape" })).toContainText("arc");
  // Looked at the second time, and by another page.
  await open(app, demo);
  await shape(app);
  await pick(app, "Move to shape", /^arc/);
  await expect(app.getByRole("checkbox", { name: "Smooth on" })).toBeChecked();
});

test("keys are made of a take by a job, looked at, kept, and driven by the machine", async ({ app }) => {
  await shape(app);
  await app.getByRole("group", { name: "Make keys of it" }).getByLabel("position, cm").fill("3");
  await app.getByRole("group", { name: "Make keys of it" }).getByLabel("position, cm").press("Enter");
  await app.getByRole("button", { name: "Make keys" }).click();
  const found = app.getByRole("status").filter({ hasText: /\d+ keys, at most/ });
  await expect(found).toBeVisible();
  const said = /(\d+) keys, at most (\S+) cm and (\S+)° off/.exec((await found.textContent())!)!;
  expect(Number(said[2])).toBeLessThanOrEqual(3);
  expect(Number(said[3])).toBeLessThanOrEqual(0.2);
  await app.getByRole("button", { name: "Jobs" }).click();
  await expect(app.getByRole("presentation").getByText(/^keys of take 1: \d+ keys/)).toBeVisible();
  await app.keyboard.press("Escape");
  await app.getByRole("button", { name: "Keep as a move" }).click();
  await expect(app.getByRole("combobox", { name: "Move to shape" })).toContainText("keys of take 1");
  await expect(app.getByRole("button", { name: "Jobs" })).toHaveCount(0);
  const { setups, moves } = await documentOf(app);
  const made = moves.find((m) => m.id === setups[0]!.runs)!;
  expect(Object.values(made.curves).flat()).toHaveLength(Number(said[1]));
  // On the floor the machine goes by them.
  await app.getByRole("button", { name: "Operate", exact: true }).click();
  await app.keyboard.press("Escape");
  await app.keyboard.press("Space");
  const swing = made.curves.swing!;
  await expect.poll(() => axis(app, "swing")).not.toBe(swing[0]!.value);
  await app.keyboard.press("Control+z");
  await expect.poll(async () => (await documentOf(app)).setups[0]!.runs).toBe(null);
});

test("a take is zoomed: to 80 mm in 16 frames from the playhead, and the slate says so", async ({ app }) => {
  await shape(app);
  await app.keyboard.press("Home");
  for (let k = 0; k < 4; k++) await app.keyboard.press("Shift+ArrowRight");
  await expect(app.getByTestId("frame")).toHaveText("40");
  await app.getByRole("button", { name: "Add zoom" }).click();
  const field = async (name: string, value: string) => {
    await app.getByRole("textbox", { name: `zooms to: ${name}` }).fill(value);
    await app.getByRole("textbox", { name: `zooms to: ${name}` }).press("Enter");
  };
  await field("in, frames", "16");
  await field("to, mm", "80");
  await pick(app, "zooms to: goes", /^crash/);
  await expect(app.getByTestId("lens-now")).toHaveText("");
  await app.getByTestId("finder").click({ position: { x: 5, y: 5 } });
  for (let k = 0; k < 2; k++) await app.keyboard.press("Shift+ArrowRight");
  await expect(app.getByTestId("lens-now")).toHaveText(" now 80");
  const focal = (await exported(app, "CSV")).map((row) => Number(row.focal_mm));
  expect(focal.slice(0, 41).every((mm) => mm === focal[0])).toBe(true);
  expect(focal.slice(56).every((mm) => Math.abs(mm - 80) < 1e-6)).toBe(true);
});

test("the head is turned as the take looked, focus is pulled along, all of it undone and redone", async ({
  app,
}) => {
  await shape(app);
  const treated = async () => (await documentOf(app)).moves.find((m) => m.id === 1)!.treatments;
  await app.getByRole("button", { name: "Add aim" }).click();
  await expect(app.getByRole("combobox", { name: "turned to: to", exact: true })).toHaveText(
    "who is in the picture",
  );
  // They are kept in the frame, so the camera goes farther than it was turned.
  const turned = app.getByTestId("figure-departure, rotation").getByRole("cell").nth(2);
  await expect.poll(async () => Number(await turned.textContent())).toBeGreaterThan(20);
  await app.getByRole("button", { name: "As the take looked" }).click();
  await expect(app.getByRole("combobox", { name: "turned to 1: to", exact: true })).toHaveText("somebody");
  await expect(app.getByRole("combobox", { name: "turned to 1: to: who" })).toHaveText("conductor");
  await expect(app.getByRole("combobox", { name: "turned to 2: to: who" })).toHaveText("as it was");
  await expect.poll(async () => Number(await turned.textContent())).toBeLessThan(10);
  await app.getByRole("button", { name: "Add focus" }).click();
  await app.getByRole("button", { name: "Another pulled to" }).click();
  await app.getByRole("combobox", { name: "pulled to 2: to", exact: true }).click();
  await app.getByRole("option", { name: "a distance" }).click();
  await expect(app.getByRole("textbox", { name: "pulled to 2: to: distance, m" })).toHaveValue("3.0");
  const rows = await exported(app, "CSV");
  const focus = rows.map((row) => Number(row.focus_m));
  // From 3 s on the pull is done.
  expect(focus.slice(73).every((m) => Math.abs(m - 3) < 1e-6)).toBe(true);
  expect(focus[0]! - focus[40]!).toBeGreaterThan(0.5);
  const whole = await treated();
  expect(whole).toHaveLength(2);
  for (let i = 0; i < 5; i++) await app.keyboard.press("Control+z");
  await expect.poll(treated).toEqual([]);
  for (let i = 0; i < 5; i++) await app.keyboard.press("Control+Shift+z");
  await expect.poll(treated).toEqual(whole);
});

test("a frame is put right by a drag in the picture, and a pinned one stays", async ({ app }) => {
  await shape(app);
  const raw = await exported(app, "CSV, raw");
  for (let k = 0; k < 4; k++) await app.keyboard.press("Shift+ArrowRight");
  await expect(app.getByTestId("frame")).toHaveText("40");
  await app.getByRole("button", { name: "Add correction" }).click();
  const pan = app.getByRole("textbox", { name: "key: Turn pan, °" });
  await expect(pan).toHaveValue("0.0");
  const box = (await app.getByTestId("finder").boundingBox())!;
  const [x, y] = [box.x + box.width * 0.7, box.y + box.height * 0.5];
  await app.mouse.move(x, y);
  await app.mouse.down();
  await app.mouse.move(x + 60, y - 20, { steps: 6 });
  await app.mouse.up();
  // The picture followed the hand to the right and up: the camera turned left and down.
  await expect(pan).toHaveValue(/^-[3-9]\.\d$/);
  // On the plan of the path it is held by its camera, and moves as far as the hand.
  await app.getByRole("button", { name: "path", exact: true }).click();
  const camera = app.getByTestId("plan").locator('[data-part="camera"]');
  await expect.poll(async () => (await camera.boundingBox())!.width).toBeGreaterThan(20);
  const held = (await camera.boundingBox())!;
  await app.mouse.move(held.x + held.width / 2, held.y + held.height / 2);
  await app.mouse.down();
  await app.mouse.move(held.x + held.width / 2 + 30, held.y + held.height / 2, { steps: 6 });
  await app.mouse.up();
  await expect(app.getByRole("textbox", { name: "key: Move x, cm" })).toHaveValue(/^([4-9]\d|1\d\d)\.\d$/);
  await expect(app.getByRole("textbox", { name: "key: Move z, cm" })).toHaveValue("0.0");
  await app.getByRole("button", { name: "figures", exact: true }).click();
  for (let k = 0; k < 2; k++) await app.keyboard.press("Shift+ArrowRight");
  await expect(app.getByTestId("frame")).toHaveText("60");
  await app.getByRole("button", { name: "Another pin" }).click();
  await expect(app.getByRole("button", { name: "Remove pin 1" })).toBeVisible();
  const now = await exported(app, "CSV");
  const turned = (frame: number) => Number(now[frame]!.pan_deg) - Number(raw[frame]!.pan_deg);
  const kept = (await documentOf(app)).moves.find((m) => m.id === 1)!.treatments[0] as unknown as {
    keys: { at_s: number; turn_deg: number[] }[];
    pins: { at_s: number }[];
  };
  expect(kept.keys[0]!.at_s).toBeCloseTo(40 / 24, 9);
  expect(turned(40)).toBeCloseTo(kept.keys[0]!.turn_deg[0]!, 4);
  expect(kept.pins).toEqual([{ at_s: 2.5 }]);
  expect(now.slice(60)).toEqual(raw.slice(60));
  for (let i = 0; i < 4; i++) await app.keyboard.press("Control+z");
  await expect
    .poll(async () => (await documentOf(app)).moves.find((m) => m.id === 1)!.treatments)
    .toEqual([]);
});

test("a camera is aimed at a mark, and shaken as a take was", async ({ app }) => {
  await shape(app);
  const choose = async (field: RegExp, option: string) => {
    await app.getByRole("combobox", { name: field }).click();
    await app.getByRole("option", { name: option, exact: true }).click();
  };
  const far = (figure: string) => app.getByTestId(`figure-${figure}`).getByRole("cell").nth(2);
  await app.getByRole("button", { name: "Add aim" }).click();
  await choose(/: to$/, "a mark or a piece");
  await choose(/which$/, "mark 1");
  await expect(far("departure, rotation")).not.toHaveText("0.00");
  await expect(far("departure")).toHaveText("0.0");
  await app.getByRole("button", { name: "Add shake" }).click();
  await choose(/^kind of shake$/, "as a take was");
  await expect(far("departure")).toHaveText("0.0");
  await choose(/take$/, "take 1");
  await expect(far("departure")).not.toHaveText("0.0");
  for (let i = 0; i < 6; i++) await app.keyboard.press("Control+z");
  await expect
    .poll(async () => (await documentOf(app)).moves.find((m) => m.id === 1)!.treatments)
    .toEqual([]);
});

test("a take has variants and a camera of its own, the take is untouched, one slider is one undo", async ({
  app,
}) => {
  await shape(app);
  await app.getByRole("button", { name: "Add smooth" }).click();
  await expect(app.getByRole("button", { name: "Undo smooth take 1" })).toBeEnabled();
  await app.getByRole("button", { name: "+ variant" }).click();
  await expect(app.getByRole("tab")).toHaveCount(2);
  await expect(app.getByRole("tab", { selected: true })).toHaveText("variant 2");
  await expect(app.getByRole("checkbox", { name: "Smooth on" })).toBeChecked();
  // Off, it does nothing; looked at alone it does, and nothing of that is kept.
  const departure = app.getByTestId("figure-departure").getByRole("cell").nth(2);
  const alone = app.getByRole("button", { name: "Smooth alone" });
  await app.getByRole("checkbox", { name: "Smooth on" }).click();
  await expect(departure).toHaveText("0.0");
  await alone.click();
  await expect(departure).not.toHaveText("0.0");
  await alone.click();
  await expect(departure).toHaveText("0.0");
  await app.keyboard.press("Control+z");
  await expect(app.getByRole("checkbox", { name: "Smooth on" })).toBeChecked();
  // Dragged in many small steps, taken back in one.
  const slider = app.getByRole("slider", { name: "machine: smoothing passes" });
  const passes = async () => Number(await slider.getAttribute("aria-valuenow"));
  const before = await passes();
  const box = (await app.locator(".MuiSlider-root").filter({ has: slider }).boundingBox())!;
  await app.mouse.move(box.x + box.width * 0.6, box.y + box.height / 2);
  await app.mouse.down();
  await app.mouse.move(box.x + box.width * 0.9, box.y + box.height / 2, { steps: 12 });
  await app.mouse.up();
  const dragged = await passes();
  expect(dragged).toBeGreaterThan(before);
  await app.keyboard.press("Control+z");
  await expect.poll(passes).toBeCloseTo(before, 5);
  // The dial finds the least smoothing that is so calm; its exact values stand below, one undo away.
  const dial = app.getByRole("slider", { name: "calm", exact: true });
  const worst = app.getByTestId("figure-shake, rotation").getByRole("cell");
  await dial.press("End");
  await expect(app.getByRole("combobox", { name: "head" })).toHaveText("bell curve");
  await expect.poll(async () => Number(await worst.nth(1).textContent())).toBeGreaterThan(0.3);
  await expect.poll(async () => Number(await worst.nth(2).textContent())).toBeLessThan(0.05);
  await app.keyboard.press("Control+z");
  await expect.poll(passes).toBeCloseTo(before, 5);
  // Shake comes last, whatever is added after it, and moves the camera and no axis.
  await app.getByRole("button", { name: "Add shake" }).click();
  await expect(app.getByRole("checkbox", { name: "Shake on" })).toHaveCount(1);
  await app.getByRole("button", { name: "Add keys" }).click();
  await expect(app.getByRole("checkbox", { name: "Keys on" })).toHaveCount(1);
  const camera = app.getByRole("group", { name: "Treatments of camera" });
  await expect(camera.getByRole("checkbox")).toHaveCount(1);
  await app.getByRole("button", { name: "Shake, what can be set" }).click();
  await app.getByRole("combobox", { name: "kind of shake", exact: true }).click();
  await app.getByRole("option", { name: "a hit" }).click();
  await expect(app.getByLabel("kind of shake: Hit at, s", { exact: true })).toHaveValue("1.0");
  for (let i = 0; i < 3; i++) await app.keyboard.press("Control+z");
  await expect(app.getByRole("checkbox", { name: "Shake on" })).toHaveCount(0);
  // The first is as it was, and is shown again when it is chosen.
  await app.getByRole("tab", { name: "first" }).click();
  await expect.poll(async () => (await documentOf(app)).moves.find((m) => m.id === 1)!.chosen).toBe(true);
  // Another stop on the recorded move.
  const take = (await documentOf(app)).takes[0]!;
  await app.getByRole("button", { name: "camera of this move" }).click();
  await app.getByLabel("Stop", { exact: true }).fill("8");
  await app.getByLabel("Stop", { exact: true }).press("Enter");
  await expect(app.getByText("Camera of take 1, its own")).toBeVisible();
  // Another focal length, on the slate of what is looked at.
  await app.getByLabel("Lens, mm").fill("50");
  await app.getByLabel("Lens, mm").press("Enter");
  await expect(app.getByRole("region", { name: "Finder" })).toContainText("50 mm");
  const rows = await exported(app, "CSV");
  expect([rows[0]!.f_stop, rows[0]!.focal_mm]).toEqual([8, expect.closeTo(50, 6)]);
  expect((await documentOf(app)).takes[0]).toEqual(take);
  await app.getByRole("button", { name: "camera of this move" }).click();
  await app.getByRole("button", { name: "As it was rolled" }).click();
  await expect(app.getByText("Camera of take 1", { exact: true })).toBeVisible();
  // The variant goes, and the take keeps its move.
  await app.getByRole("tab", { name: "variant 2" }).click();
  await app.getByRole("button", { name: "Remove this move" }).click();
  await expect(app.getByRole("tab")).toHaveCount(1);
});
