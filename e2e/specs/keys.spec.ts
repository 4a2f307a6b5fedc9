import type { Page } from "@playwright/test";
import { documentOf } from "../rigs.ts";
import { expect, open, test, type Demo } from "../server.ts";

type Keys = {
  id: number;
  time_s: number;
  value: number;
  before: { side: string };
  after: { side: string };
}[];

const key = (time_s: number, value: number) => ({ time_s, value });
const curves = {
  swing: [key(0, 0), key(3, 30), key(6, 32), key(12, 60)],
  boom: [key(0, 5), key(5, 25), key(14, 8)],
};

/** A keyed move of the first setup, opened in Shape. */
async function keyed(app: Page, demo: Demo, name: string, of: object) {
  const value = { setup_id: 1, source: { kind: "curves" }, variant_of: null, name, curves: of };
  const ops = [{ op: "add", path: "/moves/new:1", value }];
  const data = { page: "spec", scene: 1, edits: [{ label: `add ${name}`, ops }] };
  expect((await app.request.post(`${demo.url}/api/edits`, { data })).ok()).toBe(true);
  await open(app, demo);
  await app.getByRole("button", { name: "Shape", exact: true }).click();
  await app.getByRole("combobox", { name: "Move to shape" }).click();
  await app.getByRole("option", { name }).click();
  await expect(app.getByTestId("lane-swing")).toBeVisible();
}

const keysOf = async (app: Page, name: string, axis: string): Promise<Keys> =>
  (await documentOf(app)).moves.find((m) => m.name === name)!.curves[axis] as Keys;

type Step = { id: number; label: string } | null;
const history = async (app: Page) =>
  ((await documentOf(app)) as unknown as { history: { undo: Step; redo: Step } }).history;

/** Place of a time on the screen, and the middle of a lane. */
async function place(app: Page, axis: string, time: number): Promise<[number, number]> {
  const canvas = (await app.getByRole("img", { name: /^Curves of/ }).boundingBox())!;
  const lane = (await app.getByTestId(`lane-${axis}`).boundingBox())!;
  return [canvas.x + 108 + (time / 20) * (canvas.width - 108), lane.y + lane.height / 2];
}

/** Picks the key of an axis at a time by clicking it, wherever it lies in its lane. */
async function click(app: Page, axis: string, time: number, value: number, range: [number, number]) {
  const lane = (await app.getByTestId(`lane-${axis}`).boundingBox())!;
  const [x] = await place(app, axis, time);
  const share = (value - range[0]) / (range[1] - range[0]);
  const y = lane.y + 6 + (lane.height - 12) * (1 - share);
  await app.mouse.move(x, y);
  return [x, y] as const;
}

/** Range of a lane, from the least to the greatest of its values with some air. */
const air = (low: number, high: number): [number, number] => [
  low - 0.12 * (high - low),
  high + 0.12 * (high - low),
];

test("keys are added, dragged, picked, eased and pasted on the curves; undo all and redo all are equal", async ({
  app,
  demo,
}) => {
  const name = "by hand";
  await keyed(app, demo, name, curves);
  const bar = app.getByRole("group", { name: "Keys", exact: true });
  await expect(bar).toContainText("7 keys");
  const first = await documentOf(app);

  // Dragged: onto frames in time, freely in value; the whole drag is one entry.
  const [x, y] = await click(app, "swing", 3, 30, air(0, 60));
  const [later] = await place(app, "swing", 4);
  await app.mouse.down();
  await app.mouse.move((x + later) / 2, y - 3, { steps: 3 });
  await app.mouse.move(later + 2, y - 6, { steps: 4 });
  await app.mouse.up();
  await expect.poll(async () => (await keysOf(app, name, "swing"))[1]!.time_s).toBe(4 + 1 / 24);
  const dragged = (await keysOf(app, name, "swing"))[1]!;
  expect(dragged.value).toBeGreaterThan(33);
  await app.keyboard.press("Control+z");
  await expect.poll(async () => (await keysOf(app, name, "swing"))[1]!.time_s).toBe(3);
  await app.keyboard.press("Control+Shift+Z");
  await expect.poll(async () => (await keysOf(app, name, "swing"))[1]!).toEqual(dragged);

  // A double click sets one in where the curve is.
  await app.mouse.dblclick(...(await place(app, "boom", 8)));
  await expect.poll(async () => (await keysOf(app, name, "boom")).length).toBe(4);
  const set = (await keysOf(app, name, "boom"))[2]!;
  expect(set.time_s).toBe(8);
  expect(set.value).toBeGreaterThan(8);
  await expect(bar).toContainText("1 of 8 keys");

  // By a box, and typed: the first of them at a frame, the others along.
  const [from, to] = [await place(app, "swing", 5.5), await place(app, "swing", 12.5)];
  await app.keyboard.press("Escape");
  await app.keyboard.down("Shift");
  await app.mouse.move(from[0], from[1] - 50);
  await app.mouse.down();
  await app.mouse.move(to[0], to[1] + 50, { steps: 5 });
  await app.mouse.up();
  await app.keyboard.up("Shift");
  await expect(bar).toContainText("2 of 8 keys");
  await app.getByLabel("Frame of the first picked key").fill("156");
  await app.getByLabel("Frame of the first picked key").press("Enter");
  await expect
    .poll(async () => (await keysOf(app, name, "swing")).slice(2).map((k) => k.time_s))
    .toEqual([6.5, 12.5]);

  // An ease lies between them and may need keys of its own.
  await bar.getByRole("button", { name: "ease ▾" }).click();
  await app.getByRole("button", { name: "Ease: bounce" }).click();
  await expect.poll(async () => (await keysOf(app, name, "swing")).length).toBe(7);
  await expect(bar).toContainText("5 of 11 keys");
  // By the keyboard: level, then two frames later.
  await app.keyboard.press("3");
  await expect.poll(async () => (await keysOf(app, name, "swing"))[2]!.after.side).toBe("flat");
  await app.keyboard.press("Control+ArrowRight");
  await app.keyboard.press("Control+ArrowRight");
  await expect.poll(async () => (await keysOf(app, name, "swing"))[2]!.time_s).toBeCloseTo(6.5 + 2 / 24, 9);

  // Copied, pasted at the playhead, taken away again.
  await app.keyboard.press("Control+a");
  await app.keyboard.press("Control+c");
  await app.keyboard.press("End");
  await app.keyboard.press("Control+v");
  await expect(bar).toContainText("11 of 22 keys");
  await app.keyboard.press("Delete");
  await expect(bar).toContainText("11 keys");

  // Evened out and closed; too few keys are refused with a sentence.
  await app.keyboard.press("Home");
  await app.keyboard.press(".");
  await expect(bar).toContainText("1 of 11 keys");
  await bar.getByRole("button", { name: "More for keys" }).click();
  await app.getByRole("button", { name: "Space by distance" }).click();
  await expect(app.getByText(/pick keys at three times or more/)).toBeVisible();
  await app.keyboard.press("Escape");
  await app.keyboard.press("Control+a");
  await bar.getByRole("button", { name: "More for keys" }).click();
  const uneven = (await keysOf(app, name, "swing"))[1]!.time_s;
  await app.getByRole("button", { name: "Space by distance" }).click();
  await expect.poll(async () => (await keysOf(app, name, "swing"))[1]!.time_s).not.toBe(uneven);
  await app.getByRole("button", { name: "Close" }).click();
  await expect.poll(async () => (await keysOf(app, name, "swing")).at(-1)!.value).toBe(0);
  await app.keyboard.press("Escape");

  const last = await documentOf(app);
  while ((await history(app)).undo!.label !== `add ${name}`) {
    const { undo } = await history(app);
    await app.keyboard.press("Control+z");
    await expect.poll(async () => (await history(app)).undo!.id).not.toBe(undo!.id);
  }
  expect((await documentOf(app)).moves).toEqual(first.moves);
  for (let { redo } = await history(app); redo; { redo } = await history(app)) {
    await app.keyboard.press("Control+Shift+Z");
    await expect.poll(async () => (await history(app)).redo?.id).not.toBe(redo.id);
  }
  expect((await documentOf(app)).moves).toEqual(last.moves);
});

test("a free side is turned by its end, a lane's values are zoomed, and marks are stepped through", async ({
  app,
  demo,
}) => {
  const name = "marked";
  const held = { pan: [key(0, 0), key(4, -20), key(8, -20), key(16, 30)], swing: [key(4, 0), key(4.5, 60)] };
  await keyed(app, demo, name, held);
  const bar = app.getByRole("group", { name: "Keys", exact: true });
  const mark = app.getByRole("status", { name: "Mark" });
  await expect(mark).toContainText("axis pan holds");
  await app.keyboard.press("m");
  await expect(mark).toContainText(/swing goes \d+\.\d°\/s, 30\.0°\/s is its top/);
  await expect.poll(async () => Number(await app.getByTestId("frame").textContent())).toBeGreaterThan(95);

  await click(app, "pan", 8, -20, air(-20, 30));
  await app.mouse.down();
  await app.mouse.up();
  await expect(bar).toContainText("1 of 6 keys");
  await app.keyboard.press("5");
  await expect.poll(async () => (await keysOf(app, name, "pan"))[2]!.after.side).toBe("free");
  // Its end lies a third of the way to the next key, level: pulled up there, both sides turn.
  const [x, y] = await click(app, "pan", 8 + 8 / 3, -20, air(-20, 30));
  await app.mouse.down();
  await app.mouse.move(x, y - 10, { steps: 4 });
  await app.mouse.up();
  const slopes = async () => {
    const { before, after } = (await keysOf(app, name, "pan"))[2]!;
    return [before, after].map((s) => (s as { slope?: number }).slope ?? 0);
  };
  await expect.poll(async () => (await slopes())[1]).toBeGreaterThan(1);
  const [before, after] = await slopes();
  expect(before).toBe(after);

  await app.keyboard.down("Alt");
  await app.mouse.wheel(0, -100);
  await app.keyboard.up("Alt");
  const whole = app.getByRole("button", { name: "All values of pan" });
  await expect(whole).toBeVisible();
  await whole.click();
  await expect(whole).toBeHidden();
  await app.getByRole("button", { name: "over each other" }).click();
  await app.getByRole("button", { name: "to scale" }).click();
  await expect(app.getByRole("img", { name: "Curves of swing, pan" })).toBeVisible();
});

test("a take is retimed: it is longer, ends later, and one undo has it as it was", async ({ app }) => {
  await app.getByRole("button", { name: "Shape", exact: true }).click();
  await expect(app.getByTestId("lane-swing")).toBeVisible();
  const frame = async () => Number(await app.getByTestId("frame").textContent());
  await app.keyboard.press("End");
  await expect.poll(frame).toBe(288);
  await app.getByRole("button", { name: "Add retime" }).click();
  await app.getByRole("combobox", { name: "by", exact: true }).click();
  await app.getByRole("option", { name: "another length" }).click();
  await app.getByLabel("takes, s").fill("15");
  await app.getByLabel("takes, s").press("Enter");
  await app.getByLabel("takes, s").blur();
  await expect
    .poll(async () => {
      await app.keyboard.press("End");
      return frame();
    })
    .toBe(360);
  await app.keyboard.press("Control+z");
  await expect
    .poll(async () => {
      await app.keyboard.press("End");
      return frame();
    })
    .toBe(240);
});

test("a speed is drawn by keys: by the arrows, by hand, and saved once", async ({ app }) => {
  await app.getByRole("button", { name: "Shape", exact: true }).click();
  await expect(app.getByTestId("lane-swing")).toBeVisible();
  await app.getByRole("button", { name: "Add retime" }).click();
  await app.getByRole("combobox", { name: "by", exact: true }).click();
  await app.getByRole("option", { name: "a drawn speed" }).click();
  const frame = async () => Number(await app.getByTestId("frame").textContent());
  const end = async () => {
    await app.keyboard.press("End");
    return frame();
  };
  // Four seconds at 0.4 and two ramps of a second at 0.7: later than the 288 frames that were.
  await expect.poll(end).toBeGreaterThan(320);
  const key = app.getByRole("slider", { name: "by: speed, key 4" });
  await expect(key).toHaveAttribute("aria-valuetext", "0.4 × at 4.5 s");
  // The playhead stays where it is, here at the start: the move gets shorter.
  await app.keyboard.press("Home");
  await expect.poll(frame).toBe(0);
  const before = await frame();
  await key.focus();
  await app.keyboard.press("ArrowUp");
  await expect(key).toHaveAttribute("aria-valuetext", "0.56 × at 4.5 s");
  expect(await frame()).toBe(before);
  const { x, y } = (await key.boundingBox())!;
  await app.mouse.move(x + 4, y + 4);
  await app.mouse.down();
  await app.mouse.move(x + 4, y - 6, { steps: 4 });
  await app.mouse.up();
  await expect(key).not.toHaveAttribute("aria-valuetext", /^0.56/);
  expect((await history(app)).undo?.label).toContain("retime");
  await app.keyboard.press("Control+z");
  await expect(key).toHaveAttribute("aria-valuetext", "0.56 × at 4.5 s");
  await app.getByRole("button", { name: "+ key" }).click();
  await expect(app.getByRole("slider", { name: /^by: speed, key/ })).toHaveCount(6);
  await app.getByRole("slider", { name: "by: speed, key 6" }).focus();
  await app.keyboard.press("Delete");
  await expect(app.getByRole("slider", { name: /^by: speed, key/ })).toHaveCount(5);
});

test("a take is trimmed to in and out: what is left keeps its frames", async ({ app }) => {
  await app.getByRole("button", { name: "Shape", exact: true }).click();
  await expect(app.getByTestId("lane-swing")).toBeVisible();
  const frame = async () => Number(await app.getByTestId("frame").textContent());
  const on = async (frames: number) => {
    const from = await frame();
    for (let k = 0; k < Math.floor(frames / 10); k++) await app.keyboard.press("Shift+ArrowRight");
    for (let k = 0; k < frames % 10; k++) await app.keyboard.press("ArrowRight");
    await expect.poll(frame).toBe(from + frames);
  };
  await on(48);
  await app.keyboard.press("i");
  await on(144);
  await app.keyboard.press("o");
  await app.getByRole("button", { name: "Add trim" }).click();
  await app.getByRole("button", { name: "In to out", exact: true }).click();
  await expect(app.getByLabel("off the start, s")).toHaveValue("2.0");
  await expect(app.getByLabel("off the end, s")).toHaveValue("4.0");
  // Without in and out, the ends of what is left are the ends there are.
  for (const [key, at, mark] of [
    ["End", 192, "o"],
    ["Home", 48, "i"],
  ] as const) {
    await expect
      .poll(async () => {
        await app.keyboard.press(key);
        return frame();
      })
      .toBe(at);
    await app.keyboard.press(mark);
    // Without the mark: once its frames have come, that is where the move ends.
    await expect
      .poll(async () => {
        await app.keyboard.press(key);
        return frame();
      })
      .toBe(at);
  }
  await app.getByRole("button", { name: "Remove trim" }).click();
  await expect
    .poll(async () => {
      await app.keyboard.press("Home");
      return frame();
    })
    .toBe(0);
});

test("raw and now stand side by side, distance has a curve, and a flat move is one of its own", async ({
  app,
}) => {
  await app.getByRole("button", { name: "Shape", exact: true }).click();
  await expect(app.getByTestId("lane-swing")).toBeVisible();
  const raw = app.getByRole("region", { name: "Raw finder" });
  await app.keyboard.press("x");
  await expect(raw).toBeVisible();
  await app.getByRole("button", { name: "distance", exact: true }).click();
  await expect(app.getByTestId("lane-distance").locator(".num")).toHaveText(/^\d+\.\d\d$/);
  await app.getByRole("button", { name: "axes", exact: true }).click();
  await app.getByRole("button", { name: "side by side" }).click();
  await expect(raw).toBeHidden();
  await app.getByRole("button", { name: "Add smooth" }).click();
  const flat = app.getByRole("group", { name: "Bake" });
  await flat.getByRole("slider", { name: "one key every" }).fill("0.04");
  await flat.getByRole("button", { name: "Bake" }).click();
  await expect(app.getByRole("combobox", { name: "Move to shape" })).toContainText("baked");
  const made = (await documentOf(app)).moves.find((m) => m.name.endsWith(", baked"))!;
  const times = (made.curves["swing"] as Keys).map((k) => k.time_s);
  // Every tenth frame or so, and the last one.
  expect(times.length).toBeGreaterThan(20);
  expect(times.length).toBeLessThan(60);
  expect(times.at(-1)).toBe(12);
});

test("bad seconds are listed, gone to and mended", async ({ app, demo }) => {
  const stops = [key(0, 0), key(3, 20), key(6, 20), key(9, 45), key(9.3, 30), key(16, 0)];
  await keyed(app, demo, "bad", { swing: stops });
  await app.getByRole("button", { name: "Look for them" }).click();
  const list = app.getByRole("list", { name: "Bad seconds" });
  const stop = list.getByRole("listitem").filter({ hasText: "the camera stands still" });
  await expect(stop).toContainText("3.0 → 0.0");
  await stop.getByRole("button", { name: /^3\.0/ }).click();
  await expect.poll(async () => Number(await app.getByTestId("frame").textContent())).toBe(72);
  const before = await list.getByRole("listitem").count();
  await stop.getByRole("button", { name: /^Mend/ }).click();
  await expect(app.getByRole("group", { name: "Treatments of machine" })).toContainText("Drift");
  await expect(list.getByRole("listitem")).toHaveCount(before - 1);
  await app.getByRole("button", { name: /^mend all/ }).click();
  await expect(list.getByRole("listitem").filter({ hasText: "top speed" })).toBeHidden();
  expect((await history(app)).undo?.label).toContain("mend");
  await app.keyboard.press("Control+z");
  await expect(list.getByRole("listitem")).toHaveCount(before - 1);
});

test("what stands still is listed, gone to, let go on, and left where it is meant", async ({ app, demo }) => {
  const stops = [key(0, 0), key(3, 20), key(6, 20), key(9, 45), key(12, 45), key(15, 10)];
  await keyed(app, demo, "halting", { swing: stops });
  await app.getByRole("button", { name: "Add drift" }).click();
  const found = app.getByRole("list", { name: "Stops" }).getByRole("listitem");
  await expect(found).toHaveCount(2);
  await expect(found.nth(1)).toContainText("turns");
  await found
    .nth(0)
    .getByRole("button", { name: /^swing/ })
    .click();
  await expect.poll(async () => Number(await app.getByTestId("frame").textContent())).toBeGreaterThan(60);
  const swing = app.getByTestId("lane-swing").locator(".num");
  const kept = async () => {
    const { moves } = await documentOf(app);
    return (moves.find((m) => m.name === "halting")!.treatments[0] as unknown as { leave?: object[] }).leave;
  };
  for (let k = 0; k < 2; k++) await app.keyboard.press("Shift+ArrowRight");
  await expect(swing).not.toHaveText("20.00");
  const leave = found.nth(0).getByRole("button", { name: /^Leave swing/ });
  await leave.click();
  await expect(leave).toHaveText("left");
  await expect(swing).toHaveText("20.00");
  expect(await kept()).toMatchObject([{ axis: "swing" }]);
  await leave.click();
  await expect(leave).toHaveText("goes on");
  await expect(swing).not.toHaveText("20.00");
});

test("treatments go from move to move and through files; variants turn at the same instant", async ({
  app,
}) => {
  await app.getByRole("button", { name: "Shape", exact: true }).click();
  await expect(app.getByTestId("lane-swing")).toBeVisible();
  const kinds = async (take: number) => {
    const { moves } = await documentOf(app);
    const of = moves.find((m) => m.source.kind === "take" && m.source.take === take)!;
    return (of.treatments as { kind: string }[]).map((t) => t.kind);
  };
  await app.getByRole("button", { name: "Add shake" }).click();
  await app.getByRole("button", { name: "Add smooth" }).click();
  await expect.poll(() => kinds(1)).toEqual(["smooth", "shake"]);
  await app.getByRole("button", { name: "Copy all" }).click();
  const [written] = await Promise.all([
    app.waitForEvent("download"),
    app.getByRole("button", { name: "To a file" }).click(),
  ]);
  await app.getByRole("combobox", { name: "Move to shape" }).click();
  await app.getByRole("option", { name: /^Take 2/ }).click();
  await app.getByRole("button", { name: "Paste", exact: true }).click();
  await expect.poll(() => kinds(2)).toEqual(["smooth", "shake"]);
  const file = app.getByLabel("File of treatments");
  await file.setInputFiles(await written.path());
  await expect.poll(() => kinds(2)).toEqual(["smooth", "smooth", "shake", "shake"]);
  await file.setInputFiles({ name: "note.json", mimeType: "application/json", buffer: Buffer.from("{}") });
  await expect(app.getByText(/note\.json holds no treatments/)).toBeVisible();

  // A preset adds what it is made of; what is there is kept as one's own.
  const preset = app.getByRole("combobox", { name: "Preset of treatments" });
  await preset.click();
  await app.getByRole("option", { name: "calm", exact: true }).click();
  await expect.poll(() => kinds(2)).toEqual(["smooth", "smooth", "smooth", "shake", "shake"]);
  await app.keyboard.press("Control+z");
  await expect.poll(() => kinds(2)).toEqual(["smooth", "smooth", "shake", "shake"]);
  await app.getByRole("textbox", { name: "Keep these as a preset" }).fill("trembling");
  await app.getByRole("textbox", { name: "Keep these as a preset" }).press("Enter");
  await preset.click();
  await expect(app.getByRole("option", { name: "trembling", exact: true })).toBeVisible();
  await app.getByRole("option", { name: "forget trembling" }).click();

  await app.getByRole("button", { name: "+ variant" }).click();
  const tab = (name: string) => app.getByRole("tab", { name });
  await expect(tab("variant 2")).toHaveAttribute("aria-selected", "true");
  await app.keyboard.press("Shift+ArrowRight");
  await expect(app.getByTestId("frame")).toHaveText("10");
  await app.keyboard.press("c");
  await expect(tab("first")).toHaveAttribute("aria-selected", "true");
  await app.keyboard.press("Shift+C");
  await expect(tab("variant 2")).toHaveAttribute("aria-selected", "true");
  await expect(app.getByTestId("frame")).toHaveText("10");
  await app.keyboard.press("[");
  await app.getByRole("button", { name: "½×" }).click();
  await expect(app.getByRole("button", { name: "½×" })).toBeHidden();
});
