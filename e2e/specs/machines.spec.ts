import type { Page } from "@playwright/test";
import { Hand } from "../plan.ts";
import { atRest, axis, expect, open, roll, test } from "../server.ts";
import { choose, documentOf, injectPad, keyTimes, onPaper, pick, put, press, stick } from "../rigs.ts";
import { panel } from "../panels.ts";

const setup = async (page: Page) => (await documentOf(page)).setups[0]!;

/** Keys that drive a machine's own axes: an arm, steered wheels, a machine round somebody, one that aims. */
const machines: [kind: string, axes: [name: string, key: string][]][] = [
  [
    "telescopic crane",
    [
      ["swing", "d"],
      ["boom", "w"],
      ["reach", "e"],
    ],
  ],
  [
    "free dolly",
    [
      ["rolled", "w"],
      ["steer", "d"],
      ["boom", "e"],
    ],
  ],
  [
    "orbit arm",
    [
      ["swing", "d"],
      ["height", "w"],
      ["radius", "e"],
      ["pivot x", "u"],
    ],
  ],
  [
    "aim rig",
    [
      ["camera x", "d"],
      ["camera y", "w"],
      ["camera z", "e"],
      ["aim x", "u"],
    ],
  ],
];

// That every axis of every machine goes to its ends and rests there, the floor's own tests show.
test("a machine of each sort is placed, and driven on every axis by its keys", async ({ app }) => {
  test.setTimeout(240_000);
  await app.keyboard.press("0");
  for (const [kind, axes] of machines) {
    await choose(app, kind);
    await app.getByRole("region", { name: "Finder" }).click({ position: { x: 5, y: 5 } });
    // It took the camera over, and may stand at an end: its start is between them.
    await app.keyboard.press("Backspace");
    await atRest(app, ...axes.map(([name]) => name));
    const before = await Promise.all(axes.map(([name]) => axis(app, name)));
    for (const [, key] of axes) await app.keyboard.down(key);
    for (const [i, [name]] of axes.entries())
      await expect
        .poll(async () => Math.abs((await axis(app, name)) - before[i]!), kind)
        .toBeGreaterThan(0.05);
    for (const [, key] of axes) await app.keyboard.up(key);
  }
  await app.getByRole("button", { name: "Undo change the machine of setup A" }).click();
  await expect(app.getByRole("region", { name: "Deck" })).toContainText("orbit arm");
});

test("a gamepad drives, controls are given to axes by moving them, and presets are kept", async ({
  app,
  demo,
}) => {
  await injectPad(app);
  await open(app, demo);
  await panel(app, "Inputs");
  await expect(app.getByRole("region", { name: "Inputs" })).toContainText("stand-in pad");
  const swing = await axis(app, "swing");
  await stick(app, 0, 1);
  await expect.poll(() => axis(app, "swing")).toBeGreaterThan(swing + 3);
  // What a stick does at rest is no hand.
  await stick(app, 0, 0.05);
  await atRest(app, "swing");

  // Reach is given to the right stick: pan no longer has it.
  await app.getByRole("button", { name: "Assign reach" }).click();
  await expect(app.getByText("move the control you want")).toBeVisible();
  await stick(app, 2, 0.9);
  await expect(app.getByText("move the control you want")).toHaveCount(0);
  await expect.poll(() => axis(app, "reach")).toBeGreaterThan(4.4);
  await stick(app, 2, 0);
  expect(await axis(app, "pan")).toBe(0);
  // A pair of keys: less, then more.
  await app.getByRole("button", { name: "Assign boom" }).click();
  await app.keyboard.press("k");
  await app.keyboard.press("i");
  await expect(app.getByTestId("strip-boom")).toContainText("KI");
  // The direction is turned round; the preset is kept under a name, over a reload.
  await app.getByRole("button", { name: "How swing takes it" }).click();
  await app.getByRole("button", { name: "inverted" }).click();
  await app.getByLabel("swing curve").fill("2");
  await app.getByLabel("swing curve").press("Enter");
  await app.getByLabel("Name of the preset").fill("left hand");
  await app.getByLabel("Name of the preset").press("Enter");
  await expect(app.getByRole("combobox", { name: "Preset" })).toContainText("left hand");
  await atRest(app, "swing");
  await open(app, demo);
  await expect(app.getByTestId("strip-boom")).toContainText("KI");
  const left = await axis(app, "swing");
  await stick(app, 0, 1);
  await expect.poll(() => axis(app, "swing")).toBeLessThan(left - 1);
  await stick(app, 0, 0);
  const reach = await axis(app, "reach");
  await press(app, 6, 1);
  await expect.poll(() => axis(app, "reach")).toBeLessThan(reach - 0.1);
  await press(app, 6, 0);

  // Hand wheels: an arrow key turns by a twelfth of a turn or so.
  await panel(app, "Inputs");
  await pick(app, "Preset", "as shipped");
  const wheel = app.getByRole("slider", { name: "left hand wheel, pan" });
  await wheel.focus();
  const pan = await axis(app, "pan");
  for (let i = 0; i < 5; i++) await app.keyboard.press("ArrowRight");
  await expect.poll(() => axis(app, "pan")).toBeCloseTo(pan + 3, 0);
});

test("the mouse is captured on request and let go with Escape", async ({ app }) => {
  await app.keyboard.press("Alt+m");
  await expect.poll(() => app.evaluate(() => !!document.pointerLockElement)).toBe(true);
  const pan = await axis(app, "pan");
  const box = (await app.getByTestId("finder").boundingBox())!;
  await app.mouse.move(box.x + 100, box.y + 100);
  await app.mouse.move(box.x + 300, box.y + 100, { steps: 8 });
  await expect.poll(() => axis(app, "pan")).toBeGreaterThan(pan + 3);
  await app.keyboard.press("Escape");
  await expect.poll(() => app.evaluate(() => !!document.pointerLockElement)).toBe(false);
  await atRest(app, "pan");
  const rest = await axis(app, "pan");
  await app.mouse.move(box.x + 150, box.y + 120, { steps: 4 });
  expect(await axis(app, "pan")).toBe(rest);
});

test("a rail is bent round the conductor, changed on paper, and ridden", async ({ app }) => {
  await choose(app, "rail");
  await pick(app, "Circle round", "conductor");
  await expect(app.getByTestId("ride")).toContainText("rides smoothly");
  await expect.poll(async () => (await setup(app)).rig.points?.length).toBe(8);
  // Its head aims at the conductor from every side.
  for (const travel of ["2", "9", "14"]) {
    await app.getByRole("button", { name: /^travel / }).click();
    await app.getByLabel("travel, m").fill(travel);
    await app.getByLabel("travel, m").press("Enter");
    await expect.poll(() => axis(app, "travel")).toBeCloseTo(Number(travel), 1);
    await expect(app.getByTestId("shot-size")).toContainText("conductor");
  }
  // Or beside their eyes, and from there by hand.
  await app.getByLabel("Aim beside their eyes, y").fill("-0.4");
  await app.getByLabel("Aim beside their eyes, y").press("Enter");
  await expect.poll(() => axis(app, "aim y")).toBeCloseTo(-0.4, 2);
  await app.getByRole("region", { name: "Finder" }).click({ position: { x: 5, y: 5 } });
  await app.keyboard.down("e");
  await expect.poll(() => axis(app, "aim y")).toBeGreaterThan(-0.2);
  await app.keyboard.up("e");
  await app.keyboard.down("a");
  await expect.poll(() => axis(app, "travel")).toBeLessThan(10);
  await app.keyboard.up("a");

  // A point is pulled on the plan, a new one makes the rail jerk, one is lifted in the profile.
  await app.keyboard.press("Alt+p");
  const points = (await setup(app)).rig.points!;
  const [x, y, z] = points[2]!.position as [number, number, number];
  const from = await onPaper(app, "plan", [x, z]);
  const to = await onPaper(app, "plan", [x + 1, z]);
  await app.mouse.move(...from);
  await app.mouse.down();
  await app.mouse.move(...to, { steps: 6 });
  await app.mouse.up();
  await expect.poll(async () => (await setup(app)).rig.points![2]!.position[0]).toBeCloseTo(x + 1, 1);
  await app.getByRole("button", { name: "Undo move setup A" }).click();
  await expect.poll(async () => (await setup(app)).rig.points![2]!.position[0]).toBeCloseTo(x, 2);
  await app.getByRole("button", { name: "Add point" }).click();
  await expect.poll(async () => (await setup(app)).rig.points?.length).toBe(9);
  const added = app.getByLabel("Point 2 x, m");
  await added.fill(String((await setup(app)).rig.points![1]!.position[0]! + 0.9));
  await added.press("Enter");
  await expect(app.getByTestId("ride")).toContainText("jerks at");
  await expect(app.locator("[data-role=rough]").first()).toBeVisible();
  await app.getByRole("button", { name: "Own tangent of point 1" }).click();
  await expect(app.getByRole("button", { name: "Own tangent of point 1" })).toHaveAttribute(
    "aria-pressed",
    "true",
  );
  await app.getByRole("button", { name: "Straighten", exact: true }).click();
  await expect.poll(async () => (await setup(app)).rig.closed).toBe(false);
  await app.getByRole("button", { name: "Remove point 3" }).click();
  await expect.poll(async () => (await setup(app)).rig.points?.length).toBe(8);
  expect(y).toBe(1.2);
});

test("a crane on track follows the move of an earlier take, and says where it is short", async ({ app }) => {
  await panel(app, "Machine");
  await pick(app, "Base of the crane", "on track");
  await expect(app.getByTestId("track-count")).toContainText("3 × 2.44 m");
  await app.getByRole("button", { name: "Lay 45° right" }).click();
  await expect(app.getByTestId("track-count")).toContainText("1 × 45° at 3.05 m");
  for (let i = 0; i < 3; i++) await app.getByRole("button", { name: "Lay 2.44" }).click();
  await expect(app.getByTestId("track-count")).toContainText("6 × 2.44 m");
  await expect(app.getByTestId("strip-travel")).toBeVisible();
  await panel(app, "Positions");
  await pick(app, "Follows the move of", /^take 1/);
  await expect(app.getByText(/whole move is within reach|m short/).first()).toBeVisible();
  const swing = await axis(app, "swing");
  await app.keyboard.press("Space");
  await expect.poll(async () => Math.abs((await axis(app, "swing")) - swing)).toBeGreaterThan(1);
  await app.keyboard.press("Space");
  // Hands keep the base: far down the track the arm no longer gets there.
  await put(app, "travel", 16);
  await expect(app.getByTestId("short")).toContainText("m short");
  // The base is keyed where hands left it: two keys, dragged apart on the time strip, move it in time.
  await app.getByTestId("strip").click({ position: { x: 300, y: 20 } });
  await app.getByRole("button", { name: "Keep" }).first().click();
  await expect.poll(() => keyTimes(app)).toHaveLength(2);
  const strip = app.getByRole("img", { name: "Shortfall and speed of the base over time" });
  const drawn = await strip.innerHTML();
  const [, at] = await keyTimes(app);
  await app.getByRole("button", { name: "Key 2: travel" }).focus();
  for (let i = 0; i < 12; i++) await app.keyboard.press("ArrowRight");
  await expect.poll(async () => (await keyTimes(app))[1]! - at!).toBeCloseTo(0.5, 2);
  await expect.poll(() => strip.innerHTML()).not.toBe(drawn);
  await app.keyboard.press("Control+z");
  await expect.poll(async () => (await keyTimes(app))[1]! - at!).toBeCloseTo(0, 5);
  await pick(app, "Follows the move of", "nothing");
  await expect(app.getByTestId("short")).toHaveText("");
  // Or hands fly the camera and the arm is solved.
  await put(app, "travel", 1);
  await put(app, "reach", 5);
  await app.getByRole("button", { name: "the camera", exact: true }).click();
  await atRest(app, "reach");
  const reach = await axis(app, "reach");
  await app.getByRole("region", { name: "Finder" }).click({ position: { x: 5, y: 5 } });
  await app.keyboard.down("a");
  await expect.poll(async () => Math.abs((await axis(app, "reach")) - reach)).toBeGreaterThan(0.1);
  await app.keyboard.up("a");
});

test("positions are stored, put, driven to, rehearsed, kept and undone", async ({ app, demo }) => {
  await panel(app, "Positions");
  await app.keyboard.press("Control+Shift+Digit1");
  await expect(app.getByRole("button", { name: "Go to 1" })).toBeVisible();
  await app.keyboard.press("0");
  await put(app, "swing", 24);
  await expect.poll(() => axis(app, "swing")).toBe(24);
  await app.getByRole("button", { name: "Store as 2" }).click();
  await expect(app.getByRole("button", { name: "Go to 2" })).toBeVisible();
  await app.keyboard.press("Shift+Digit1");
  await expect.poll(() => axis(app, "swing")).toBe(0);
  // Driven there it is on its way, and can be stopped.
  await app.getByRole("button", { name: "Go to 2" }).click({ modifiers: ["Shift"] });
  await app.getByRole("button", { name: "Stop here" }).click();
  await expect(app.getByRole("button", { name: "Stop here" })).toHaveCount(0);
  expect(await axis(app, "swing")).toBeLessThan(24);
  await app.getByLabel("Rehearse in, s").fill("0.5");
  await app.getByLabel("Rehearse in, s").press("Enter");
  await expect(app.getByText(/^swing needs \d\.\d s$/)).toBeVisible();
  await app.getByRole("button", { name: "Rehearse", exact: true }).click();
  await expect.poll(() => axis(app, "swing")).toBe(24);
  await open(app, demo);
  await panel(app, "Positions");
  await expect(app.getByRole("button", { name: "Go to 2" })).toBeVisible();
  await app.getByRole("button", { name: "Undo store a position of setup A" }).click();
  await expect(app.getByRole("button", { name: "Go to 2" })).toHaveCount(0);
});

test("what is typed or dragged is put and keyed at once, each axis by itself", async ({ app }) => {
  const keys = () =>
    app.evaluate(async () => {
      type Curves = Record<string, { value: number }[]>;
      const { moves } = (await (await fetch("/api/document")).json()) as {
        moves: { setup_id: number; source: { kind: string }; binned: boolean; curves: Curves }[];
      };
      const keyed = moves.find((m) => m.setup_id === 1 && !m.binned && m.source.kind === "curves");
      const values = Object.entries(keyed?.curves ?? {}).map(([axis, all]) => [
        axis,
        all.map((k) => k.value),
      ]);
      return Object.fromEntries(values) as Record<string, number[]>;
    });
  await app.keyboard.press("Home");
  await panel(app, "Positions");
  // Typed and keyed without waiting for anything: the value that was typed, and no other axis.
  await put(app, "swing", 37.5);
  await app.getByRole("button", { name: "Key here" }).click();
  await expect.poll(keys).toEqual({ swing: [expect.closeTo(37.5, 9)] });
  // An axis past its end is put at the end, and that is said.
  await put(app, "boom", 80);
  await expect(app.getByText("boom stands at its end, 55.0°: 80.0° lies beyond it.")).toBeVisible();
  await expect.poll(() => axis(app, "boom")).toBe(55);
  await app.keyboard.press("Escape");

  // Elsewhere in time, with auto-key: three typed values, one after the other.
  await app.getByTestId("strip").click({ position: { x: 400, y: 20 } });
  await app.getByTestId("finder").click({ position: { x: 5, y: 5 } });
  await app.keyboard.press("Alt+k");
  await put(app, "reach", 6);
  await put(app, "swing", -12.25);
  await put(app, "reach", 6.75);
  await expect
    .poll(keys)
    .toEqual({ swing: [expect.closeTo(37.5, 9), expect.closeTo(-12.25, 9)], reach: [6.75] });
  // A drag in the picture is one more key, and its pan stands where the hand let go.
  const box = (await app.getByTestId("finder").boundingBox())!;
  await app.mouse.move(box.x + 400, box.y + 200);
  await app.mouse.down();
  await app.mouse.move(box.x + 340, box.y + 200, { steps: 5 });
  await app.mouse.up();
  await expect.poll(async () => (await keys()).pan?.length).toBe(1);
  const pan = (await keys()).pan![0]!;
  await expect.poll(() => axis(app, "pan")).toBeCloseTo(pan, 1);
  await app.keyboard.press("Control+z");
  await expect.poll(async () => (await keys()).pan).toBeUndefined();
});

test("handles are dragged where the machine is: the camera in profile, the base while it follows", async ({
  app,
}) => {
  /** Drags a handle of a view by pixels; what is said beside the hand meanwhile. */
  const drag = async (view: string, handle: string, [dx, dy]: [number, number]) => {
    const grip = app.getByRole("region", { name: view }).locator(`[data-grip="${handle}"]`);
    await expect.poll(async () => (await grip.boundingBox())?.x ?? -1).toBeGreaterThan(0);
    const box = (await grip.boundingBox())!;
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    await app.mouse.move(x, y);
    await app.mouse.down();
    await app.mouse.move(x + dx, y + dy, { steps: 4 });
    const told = app.getByTestId("told");
    await expect(told).toBeVisible();
    const words = await told.innerText();
    await app.mouse.up();
    await expect(told).toHaveCount(0);
    return words;
  };
  await app.keyboard.press("Home");
  const boom = await axis(app, "boom");
  // The numbers that a drag changes stand beside the hand; the machine is put there.
  expect(await drag("Profile", "camera", [0, -20])).toMatch(/boom \d+\.\d°/);
  await expect.poll(() => axis(app, "boom")).toBeGreaterThan(boom + 5);
  expect(await drag("Plan", "focus", [-12, -4])).toMatch(/^focus \d+\.\d\d m$/);
  // What a machine is built of: one undo for a whole drag.
  const base = (await setup(app)).rig.base_x_m;
  expect(await drag("Plan", "base", [20, 10])).toMatch(/^x -?\d+\.\d\d · z -?\d+\.\d\d m$/);
  await expect.poll(async () => (await setup(app)).rig.base_x_m).not.toBe(base);
  await app.keyboard.press("Control+z");
  await expect.poll(async () => (await setup(app)).rig.base_x_m).toBe(base);
  // A crane whose base rolls freely follows a take: the base is dragged where it is, its start stays behind.
  await panel(app, "Machine");
  await pick(app, "Base of the crane", "pushed over the floor");
  await panel(app, "Positions");
  await pick(app, "Follows the move of", /^take 1/);
  await expect(app.getByText(/whole move is within reach|m short/).first()).toBeVisible();
  const plan = app.getByRole("region", { name: "Plan" });
  await expect(plan.locator('[data-grip="start"]')).toHaveCount(0);
  const at = await axis(app, "base x");
  await drag("Plan", "base", [25, 0]);
  await expect.poll(() => axis(app, "base x")).toBeGreaterThan(at + 0.5);
  await expect(plan.locator('[data-grip="start"]')).toBeVisible();
  expect((await setup(app)).rig.base_x_m).toBe(base);
});

test("a change without a key survives the time, is kept or discarded, and there are never two keys at one time", async ({
  app,
}) => {
  await app.keyboard.press("Home");
  await panel(app, "Positions");
  await app.getByRole("button", { name: "Key here" }).click();
  await expect.poll(() => keyTimes(app)).toHaveLength(1);
  // Another time, another pose: not keyed yet, and it stays while the time is set to and fro.
  await app.getByTestId("strip").click({ position: { x: 400, y: 20 } });
  await app.keyboard.press("0");
  await put(app, "swing", 18);
  const swung = 18;
  const finder = app.getByRole("region", { name: "Finder" });
  await expect(finder).toContainText("changed, no key yet");
  await app.getByTestId("strip").click({ position: { x: 200, y: 20 } });
  await app.getByTestId("strip").click({ position: { x: 500, y: 20 } });
  expect(await axis(app, "swing")).toBeCloseTo(swung, 0);
  await finder.click({ position: { x: 5, y: 5 } });
  await app.keyboard.press("Enter");
  await expect(finder).not.toContainText("no key yet");
  await expect.poll(() => keyTimes(app)).toHaveLength(2);
  // Half way in time it is between the two.
  await app.getByTestId("strip").click({ position: { x: 250, y: 20 } });
  await expect.poll(() => axis(app, "swing")).toBeLessThan(swung - 2);
  await app.keyboard.down("w");
  await expect.poll(() => axis(app, "boom")).toBeGreaterThan(16);
  await app.keyboard.up("w");
  await expect(finder).toContainText("no key yet");
  await app.keyboard.press("Delete");
  await expect.poll(() => axis(app, "boom")).toBeCloseTo(12, 1);
  // With auto-keying the change becomes a key by itself; a second one at that time replaces it.
  await app.keyboard.press("Alt+k");
  for (const key of ["w", "s"]) {
    await app.keyboard.down(key);
    await expect(finder).toContainText("no key yet");
    await app.keyboard.up(key);
    await expect(finder).not.toContainText("no key yet");
  }
  await expect.poll(() => keyTimes(app)).toHaveLength(3);
});

test("one, two or four views, each by a key, the picture in its place", async ({ app }) => {
  const shown = () =>
    app.locator('[data-testid^="view-"]').evaluateAll((all) => all.map((v) => v.dataset.testid));
  const corner = async () => {
    const box = (await app.getByTestId("view-lens").boundingBox())!;
    return [box.x, box.y];
  };
  const before = await corner();
  await app.keyboard.press("Alt+t");
  await expect.poll(shown).toEqual(["view-lens", "view-around"]);
  await app.keyboard.press("Alt+p");
  await expect.poll(shown).toEqual(["view-lens", "view-plan", "view-profile", "view-around"]);
  expect(await corner()).toEqual(before);
  await app.keyboard.press("Alt+f");
  await expect.poll(async () => (await shown()).length).toBe(4);
  await app.getByRole("button", { name: "Views" }).click();
  await app.getByRole("menuitemcheckbox", { name: /^plan/ }).click();
  await app.keyboard.press("Escape");
  await expect.poll(async () => (await shown()).length).toBe(2);
  await expect(app.getByRole("menu")).toHaveCount(0);
  // The camera is lifted in the profile: the machine goes there.
  const paper = app.getByTestId("profile").first();
  const sight = await paper.locator('[data-part="sight"]').getAttribute("d");
  const [, u, v] = /^M(\S+) (\S+)l/.exec(sight!)!.map(Number) as [number, number, number];
  const boom = await axis(app, "boom");
  const at = await onPaper(app, "profile", [u, v]);
  // The menu takes a moment to get out of the way.
  const under = () =>
    app.evaluate(([x, y]) => document.elementFromPoint(x, y)?.closest("svg")?.dataset.testid, at);
  await expect.poll(under).toBe("handles");
  await app.mouse.move(...at);
  await app.mouse.down();
  await app.mouse.move(...(await onPaper(app, "profile", [u, v - 0.7])), { steps: 5 });
  await app.mouse.up();
  await expect.poll(() => axis(app, "boom")).toBeGreaterThan(boom + 5);
  // In the finder: Shift trucks and booms, Ctrl goes round.
  const box = (await app.getByTestId("finder").boundingBox())!;
  await atRest(app, "boom");
  for (const [key, words] of [
    ["Shift", "m right"],
    ["Control", "round by"],
  ] as const) {
    const before = await axis(app, "swing");
    await app.keyboard.down(key);
    await app.mouse.move(box.x + 150, box.y + 100);
    await app.mouse.down();
    await app.mouse.move(box.x + 220, box.y + 100, { steps: 5 });
    await expect(app.getByTestId("wish")).toContainText(words);
    await app.mouse.up();
    await app.keyboard.up(key);
    await expect.poll(async () => Math.abs((await axis(app, "swing")) - before)).toBeGreaterThan(1);
    await atRest(app, "swing");
  }
});

test("a machine is carried by a tram, and by somebody", async ({ app }) => {
  await choose(app, "tripod");
  await pick(app, "Carried by", "tram 12");
  const x = async () =>
    Number(/x\s*(-?\d+\.\d+)/.exec((await app.getByTestId("camera-numbers").textContent())!)![1]);
  const start = await x();
  await app.keyboard.press("End");
  await expect.poll(async () => Math.abs((await x()) - start)).toBeGreaterThan(1.5);
  await pick(app, "Carried by", "conductor");
  await expect(app.getByRole("button", { name: "Undo change what carries setup A" })).toBeEnabled();
  await pick(app, "Carried by", "machine B");
  await expect(app.getByRole("combobox", { name: "Carried by" })).toContainText("machine B");
});

test("somebody and a chair stand on a dolly: pushed, in its take, and put back", async ({ app }) => {
  await choose(app, "free dolly");
  await app.keyboard.press("Alt+1");
  const hand = new Hand(app);
  await hand.key("p");
  await hand.click([0.75, 2]);
  await hand.key("Enter");
  await expect(app.getByLabel("Name of the performer")).toHaveValue("performer 3");
  await pick(app, "Carried by", /^machine A$/);
  await hand.key("c");
  await hand.click([0, 2.5]);
  await expect(app.getByLabel("Name of the piece")).toHaveValue("chair");
  await pick(app, "Carried by", /^machine A$/);
  await expect(app.getByRole("button", { name: "Undo change what carries chair" })).toBeEnabled();

  await app.keyboard.press("Alt+2");
  /** Where the dolly's lens is, and whoever is drawn last on the plan: that is the newcomer. */
  const there = async () => {
    const numbers = (await app.getByTestId("camera-numbers").textContent())!.match(/-?\d+\.\d+/g)!;
    const circle = app.locator('[data-part="people"] circle').last();
    const [x, z] = [Number(await circle.getAttribute("cx")), Number(await circle.getAttribute("cy"))];
    return { lens: Number(numbers[0]), off: [x - Number(numbers[0]), z - Number(numbers[2])] as const };
  };
  /** They are beside the lens as they were at first: they did not stay behind. */
  const beside = async (first: Awaited<ReturnType<typeof there>>) =>
    expect
      .poll(async () => {
        const { off } = await there();
        return Math.hypot(off[0] - first.off[0], off[1] - first.off[1]);
      })
      .toBeLessThan(0.03);
  await expect.poll(async () => (await there()).off[0]).toBeLessThan(5);
  const first = await there();
  await app.keyboard.down("w");
  await expect.poll(() => axis(app, "rolled")).toBeGreaterThan(1);
  await app.keyboard.up("w");
  await atRest(app, "rolled");
  const pushed = await there();
  expect(Math.abs(pushed.lens - first.lens)).toBeGreaterThan(0.8);
  await beside(first);
  // The chair as well: what moves is drawn on the plan by its outline.
  await expect(app.locator('[data-part="movers"]')).toHaveAttribute("d", /M.*M/);

  await roll(app, 1, ["s"]);
  await atRest(app, "rolled");
  await app.keyboard.press("Alt+r");
  await app.keyboard.press("Home");
  await beside(first);
  const begins = (await there()).lens;
  await app.keyboard.press("End");
  await expect.poll(async () => Math.abs((await there()).lens - begins)).toBeGreaterThan(0.2);
  await beside(first);
  await app.keyboard.press("Alt+r");

  // A dolly that is put somewhere else takes them along on the set; so does undo.
  await panel(app, "Machine");
  const chair = async () => (await documentOf(app)).scene.pieces.at(-1)!.position[0]!;
  await hand.type("Base x, m", "3.6");
  await expect.poll(chair).toBeCloseTo(2, 6);
  await app.keyboard.press("Control+z");
  await expect.poll(chair).toBeCloseTo(0, 6);
});
