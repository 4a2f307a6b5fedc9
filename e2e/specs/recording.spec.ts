import type { Page } from "@playwright/test";
import { readCsv } from "../files.ts";
import { documentOf, hearStandIn, pick, startStandIn } from "../rigs.ts";
import { axis, expect, roll, test } from "../server.ts";
import { panel } from "../panels.ts";

/** A take's axes at the full rate, as the server writes them. */
async function axesOf(page: Page, take: number): Promise<Record<string, number>[]> {
  const { moves } = await documentOf(page);
  const move = moves.find(({ source }) => source.kind === "take" && source.take === take)!.id;
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    page.evaluate((move) => {
      const link = window.document.createElement("a");
      link.href = `/api/moves/${move}/export?as=axes&stage=raw`;
      link.download = "";
      link.click();
    }, move),
  ]);
  return readCsv(await file.path());
}

/** The way of the fitter, and the takes as they were rolled. */
const fitterOf = (page: Page) =>
  page.evaluate(async () => {
    const document = (await (await fetch("/api/document")).json()) as {
      scene: {
        performers: { name: string; parts: { route: { waypoints: { position: number[] }[] } }[] }[];
      };
      takes: { rolled: { movers: Record<string, string> }; changed: string[]; setup_id: number }[];
    };
    const fitter = document.scene.performers.find((p) => p.name === "fitter")!;
    return { way: fitter.parts[0]!.route.waypoints.map((w) => w.position), takes: document.takes };
  });

const column = (rows: Record<string, number>[], name: string) => rows.map((r) => r[name]!);
const finder = (page: Page) => page.getByTestId("finder").click({ position: { x: 5, y: 5 } });
const rolled = (page: Page) => expect(page.getByRole("button", { name: "Roll", exact: true })).toBeVisible();

test("three passes make one take: the arm, then the head, then focus", async ({ app }) => {
  await roll(app, 3, ["d"]);
  const first = await axesOf(app, 3);
  await panel(app, "Slate");
  await pick(app, "Take below", /^take 3/);
  await expect(app.getByTestId("slate-take")).toContainText("3 pass");
  const slate = app.getByRole("region", { name: "Slate" });
  const arm = async (...names: string[]) => {
    for (const name of ["swing", "boom", "reach", "pan", "tilt", "roll", "zoom", "focus", "iris"]) {
      const button = slate.getByRole("button", { name, exact: true });
      const on = (await button.getAttribute("aria-pressed")) === "true";
      if (on !== names.includes(name)) await button.click();
      await expect(button).toHaveAttribute("aria-pressed", String(names.includes(name)));
    }
  };
  for (const [name, keys, ...names] of [
    ["head", "f", "pan", "tilt", "roll"],
    ["focus", "n", "focus"],
  ] as const) {
    await arm(...names);
    await finder(app);
    await app.keyboard.press("r");
    await expect(app.getByText(/rolling \d\d:/)).toBeVisible();
    await app.keyboard.down(keys);
    // It ends by itself, with the take below.
    await rolled(app);
    await app.keyboard.up(keys);
    await expect(app.getByRole("list", { name: "Passes of take 3" })).toContainText(name);
  }
  const both = await axesOf(app, 3);
  expect(both.length).toBe(first.length);
  for (const name of ["swing_deg", "boom_deg", "reach_m", "zoom_mm"])
    expect(column(both, name)).toEqual(column(first, name));
  expect(column(both, "pan_deg").at(-1)).toBeLessThan(column(first, "pan_deg").at(-1)! - 10);
  expect(column(both, "focus_m").at(-1)).not.toBeCloseTo(column(first, "focus_m").at(-1)!, 1);

  // Muted, the head is as it was first; undone, it is as it was passed.
  const passes = app.getByRole("list", { name: "Passes of take 3" });
  await passes.getByRole("button", { name: "mute" }).first().click();
  await expect(app.getByRole("button", { name: "Undo mute a pass of take 3" })).toBeEnabled();
  expect(column(await axesOf(app, 3), "pan_deg")).toEqual(column(first, "pan_deg"));
  await app.keyboard.press("Control+z");
  await expect(app.getByRole("button", { name: "Redo mute a pass of take 3" })).toBeEnabled();
  expect(column(await axesOf(app, 3), "pan_deg")).toEqual(column(both, "pan_deg"));

  // Punched in: a second of it again, everything armed.
  await arm("swing", "boom", "reach", "pan", "tilt", "roll", "zoom", "focus", "iris");
  await app.getByTestId("strip").click({ position: { x: 40, y: 20 } });
  const frame = async () => Number(await app.getByTestId("frame").textContent());
  await expect.poll(frame).toBeLessThan(24);
  await app.keyboard.press("i");
  await expect(slate).toContainText(/from 0\.\d\d s/);
  await app.getByTestId("strip").click({ position: { x: 110, y: 20 } });
  await expect.poll(frame).toBeGreaterThan(42);
  await app.keyboard.press("o");
  await expect(slate).toContainText(/to \d\.\d\d s/);
  await finder(app);
  await app.keyboard.press("r");
  await expect(app.getByRole("list", { name: "Passes of take 3" })).toContainText("whole");
  await rolled(app);
  const punched = await axesOf(app, 3);
  expect(punched.length).toBe(both.length);
  expect(punched[0]).toEqual(both[0]);
  expect(punched.at(-1)).toEqual(both.at(-1));
});

test("somebody is driven, and filmed from two setups afterwards", async ({ app }) => {
  await panel(app, "Slate");
  await pick(app, "Who is driven", "fitter");
  await finder(app);
  await app.keyboard.press("r");
  await expect(app.getByText(/rolling \d\d:/)).toBeVisible();
  await app.keyboard.down("ArrowUp");
  await expect(app.getByText(/rolling 00:02/)).toBeVisible();
  await app.keyboard.down("ArrowRight");
  await expect(app.getByText(/rolling 00:03/)).toBeVisible();
  await app.keyboard.up("ArrowRight");
  await app.keyboard.up("ArrowUp");
  await app.keyboard.press("r");
  await expect(app.getByRole("button", { name: "Undo drive fitter" })).toBeEnabled();
  const route = () => fitterOf(app);
  const { way, takes } = await route();
  const [a, b] = [way[0]!, way.at(-1)!];
  expect(Math.hypot(b[0]! - a[0]!, b[2]! - a[2]!)).toBeGreaterThan(1.5);
  // The takes that are there were rolled against something else.
  expect(takes[0]!.changed).toEqual(["fitter"]);
  await panel(app, "Takes");
  await expect(app.getByTestId("take-1")).toContainText("performance changed since: fitter");

  await roll(app, 1, ["d"]);
  await app.getByRole("combobox", { name: "Setup" }).first().click();
  await app.getByRole("option", { name: /^B/ }).click();
  await expect(app.getByRole("region", { name: "Finder" })).toContainText("B");
  await roll(app, 1, ["f"]);
  const after = (await route()).takes.slice(-2);
  expect(new Set(after.map((t) => t.setup_id)).size).toBe(2);
  for (const take of after) expect(take.changed).toEqual([]);
  expect(after[0]!.rolled.movers).toEqual(after[1]!.rolled.movers);
});

test("a device in other hands moves the aim, and leads somebody of the scene", async ({ app }) => {
  await hearStandIn(app);
  await pick(app, "Movement of the simulated device", "sweep");
  await pick(app, "Second device of this setup", "opentrackio 1");
  await pick(app, "What the second device moves", "aim, at where it is");
  const before = await axis(app, "pan");
  await expect.poll(async () => Math.abs((await axis(app, "pan")) - before)).toBeGreaterThan(2);
  await finder(app);
  await app.keyboard.press("Control+z");
  await app.keyboard.press("Control+z");
  await expect(app.getByRole("combobox", { name: "Second device of this setup" })).toHaveText("none");

  await panel(app, "Slate");
  await pick(app, "Who is driven", "fitter");
  await pick(app, "What leads who is driven", "opentrackio 1");
  await expect(app.getByText("They go where the device is carried")).toBeVisible();
  await app.getByLabel("Metres on set for a real one, of who is driven").fill("4");
  await app.getByLabel("Metres on set for a real one, of who is driven").press("Enter");
  await finder(app);
  await app.keyboard.press("r");
  await expect(app.getByText(/rolling 00:04/)).toBeVisible();
  await app.keyboard.press("r");
  await expect(app.getByRole("button", { name: "Undo drive fitter" })).toBeEnabled();
  const { way } = await fitterOf(app);
  const xs = way.map((p) => p[0]!);
  const zs = way.map((p) => p[2]!);
  const wide = Math.hypot(Math.max(...xs) - Math.min(...xs), Math.max(...zs) - Math.min(...zs));
  // Of two metres to and fro in ten seconds, four times as large, there is a part.
  expect(wide).toBeGreaterThan(1);
  expect(wide).toBeLessThan(9);
});

test("a device in somebody's hands is rolled to a take, a fifth of it lost, and steadied", async ({
  app,
}) => {
  await startStandIn(app);
  await pick(app, "Loss of the simulated device", "20 % lost");
  const lost = async () =>
    Number(/(\d+) lost/.exec((await app.getByTestId("source-opentrackio 1").textContent())!)![1]);
  await expect.poll(lost).toBeGreaterThan(20);
  await finder(app);
  await app.keyboard.press("Alt+a");
  await expect(app.getByText("follows opentrackio 1")).toBeVisible();
  await expect(app.getByTestId("delay")).toContainText("ms late");
  await roll(app, 2, []);
  const rows = await axesOf(app, 3);
  // The hand moved it, smoothly: no step of a sample is wider than a hand is quick.
  const [x, pan] = [column(rows, "x_m"), column(rows, "pan_deg")];
  expect(Math.max(...pan) - Math.min(...pan)).toBeGreaterThan(1);
  const steps = x.slice(1).map((v, i) => Math.abs(v - x[i]!));
  expect(Math.max(...steps)).toBeLessThan(0.02);
  // What the device said is kept beside, and its packets too.
  expect(column(rows, "device_x_m").some((v, i) => v !== column(rows, "device_x_m")[i - 1])).toBe(true);
  await app.keyboard.press("Alt+j");
  const row = app.getByTestId("log-3");
  await expect(row).toContainText("opentrackio 1");
  const [capture] = await Promise.all([
    app.waitForEvent("download"),
    row.getByRole("link", { name: "pcap" }).click(),
  ]);
  expect(capture.suggestedFilename()).toMatch(/take3\.pcap$/);
  // Let go, it comes to rest where it is; steadied otherwise, the take is calmer.
  await app.keyboard.press("Alt+j");
  await app.keyboard.press("Alt+a");
  await panel(app, "Devices");
  await expect(app.getByText("not attached")).toBeVisible();
  await panel(app, "Takes");
  await app.getByTestId("take-3").getByTitle("Look at this take").click();
  await app.getByRole("button", { name: "Shape" }).click();
  await app.getByRole("button", { name: "Add steady" }).click();
  const shake = app.getByTestId("figure-shake, position").locator("td.num");
  await expect
    .poll(async () => {
      const [raw, now] = (await shake.allTextContents()).map(Number);
      return now! < raw!;
    })
    .toBe(true);
});

test("the take log is sorted, filtered, rated and searched; two takes are compared", async ({ app }) => {
  await roll(app, 1, ["d"]);
  await app.keyboard.press("Alt+g");
  await expect(app.getByRole("button", { name: "Undo mark take 3 as good" })).toBeEnabled();
  await app.keyboard.press("Alt+j");
  const log = app.getByRole("region", { name: "Take log" });
  const numbers = async () =>
    (await log.locator('[data-testid^="log-"]').all()).map((row) => row.getAttribute("data-testid"));
  const order = async () => Promise.all(await numbers());
  expect(await order()).toEqual(["log-3", "log-2", "log-1"]);
  await log.getByRole("button", { name: "length", exact: false }).click();
  expect(await order()).toEqual(["log-3", "log-2", "log-1"]);
  await log.getByRole("button", { name: "length", exact: false }).click();
  expect(await order()).toEqual(["log-1", "log-2", "log-3"]);

  // Without the mouse: along the rows, rated, and undone.
  await log.getByTestId("log-2").focus();
  await app.keyboard.press("h");
  await expect(log.getByRole("button", { name: "Take 2: hold" })).toHaveAttribute("aria-pressed", "true");
  await app.keyboard.press("ArrowDown");
  await expect(log.getByTestId("log-3")).toBeFocused();
  await app.keyboard.press("n");
  await expect(log.getByRole("button", { name: "Take 3: no" })).toHaveAttribute("aria-pressed", "true");
  await log.getByRole("button", { name: "hold", exact: true }).first().click();
  expect(await order()).toEqual(["log-2"]);
  await log.getByRole("button", { name: "any", exact: true }).click();
  await log.getByLabel("Search takes").fill("stays stop");
  expect(await order()).toEqual(["log-1"]);
  await log.getByLabel("Search takes").fill("nothing like it");
  await expect(log).toContainText("No take fits");
  await log.getByLabel("Search takes").fill("");
  await log.getByRole("button", { name: "Bin take 3" }).click();
  await expect(log.getByTestId("log-3")).toHaveCount(0);
  await log.getByRole("button", { name: "Bin (1)" }).click();
  await log.getByRole("button", { name: "Restore take 3" }).click();
  await log.getByRole("button", { name: "Back to takes" }).click();
  await expect(log.getByTestId("log-3")).toBeVisible();

  await log.getByLabel("Compare take 1").click();
  await log.getByLabel("Compare take 2").click();
  await log.getByRole("button", { name: "Compare", exact: true }).click();
  await expect(app.getByRole("slider", { name: "Line between take 1 and take 2" })).toBeVisible();
  await expect(app.getByText(/take 2 · 8\.0 s · shake/)).toBeVisible();
  await app.getByRole("button", { name: "side by side" }).click();
  await expect(app.getByRole("region", { name: "Other finder" }).locator("canvas")).toBeVisible();
  await pick(app, "Axis of the curves", "pan");
  await expect(app.getByRole("img", { name: "pan in both takes" })).toBeVisible();
  await app.keyboard.press("Escape");
  await expect(app.getByRole("region", { name: "Finder" })).toContainText("live");
});

test("a slate is held before the lens while it counts, and a slow roll is true to the scene", async ({
  app,
}) => {
  await panel(app, "Slate");
  await app.getByLabel("Note on the slate").fill("half speed");
  await app.getByLabel("Note on the slate").press("Enter");
  await app.getByRole("button", { name: "0.5×" }).click();
  await pick(app, "Count in, seconds", "5 s");
  await finder(app);
  await app.keyboard.press("r");
  // The board stands for as long as it counts: one look at all of it, in whatever second that is.
  const board = app.getByRole("status", { name: "Slate" });
  await expect(board).toContainText(/24 at 0\.5×.*half speed/s);
  await expect(app.getByTestId("count")).toHaveText(/^[1-5]$/);
  await expect(app.getByText(/rolling 00:01/)).toBeVisible();
  await app.keyboard.press("r");
  await panel(app, "Takes");
  await expect(app.getByTestId("take-3")).toContainText("rolled at 0.5×");
  await expect(app.getByLabel("Note on take 3")).toHaveValue("half speed");
  // The ghost of the take before shows while the next one is driven.
  await app.keyboard.press("Alt+v");
  await app.keyboard.down("d");
  await expect.poll(async () => Math.abs(await axis(app, "swing"))).toBeGreaterThan(2);
  await app.keyboard.up("d");
  await expect(app.getByTestId("ghost").locator("path")).toHaveAttribute("d", /^M/);
});

test("a phone comes in through a door of its own, with a code, over TLS", async ({ app, browser }) => {
  await panel(app, "Devices");
  const asked = await app.evaluate(async () =>
    (
      await fetch("/api/devices/phone", {
        method: "PUT",
        headers: { "content-type": "application/json" },
        body: JSON.stringify({ on: true, tls: true, port: 0 }),
      })
    ).json(),
  );
  const { address, code } = asked as { address: string; code: string };
  const door = address.replace(/\/\/[^:]+:/, "//127.0.0.1:");
  const context = await browser.newContext({
    ignoreHTTPSErrors: true,
    viewport: { width: 390, height: 800 },
  });
  const phone = await context.newPage();
  await phone.goto(door);
  const held = await context.newCDPSession(phone);
  await held.send("DeviceOrientation.setDeviceOrientationOverride", { alpha: 0, beta: 90, gamma: 0 });
  await phone.getByLabel("Code on the operator's page").fill("000000" === code ? "111111" : "000000");
  await phone.getByRole("button", { name: "Connect" }).click();
  await expect(phone.locator("#why")).toContainText("the code is wrong");
  await phone.getByLabel("Code on the operator's page").fill(code);
  await phone.getByRole("button", { name: "Connect" }).click();
  await expect(phone.locator("#state")).toContainText("Connected.");
  // Nothing of the operator's is to be had there.
  expect((await context.request.get(`${door}/api/document`)).status()).toBe(404);

  await expect(app.getByTestId("source-phone 1")).toContainText("heard");
  await finder(app);
  await app.keyboard.press("Alt+a");
  await expect(app.getByText("follows phone 1")).toBeVisible();
  const before = await axis(app, "pan");
  await held.send("DeviceOrientation.setDeviceOrientationOverride", { alpha: 340, beta: 90, gamma: 0 });
  await expect.poll(async () => (await axis(app, "pan")) - before).toBeGreaterThan(15);
  await context.close();
  await expect(app.getByTestId("source-phone 1")).toContainText("silent");
});
