import { beforeEach, expect, test, vi } from "vitest";
import type { AxisView, MachineView } from "../generated/types";
import {
  changeAxis,
  choosePreset,
  keepPreset,
  keysOf,
  loadInputs,
  presetOf,
  removePreset,
  setInputs,
  useInputs,
} from "./inputs";

const axes = ["swing", "lift", "pan"].map(
  (name) => ({ name, hand: name, base: false, unit: "°", group: "machine" }) as AxisView,
);
const preset = () => presetOf(useInputs.getState(), "crane", axes);
const sent: unknown[] = [];

beforeEach(() => {
  setInputs({ own: {}, used: {}, loose: {}, waits: null, captured: false, pad: null });
  sent.length = 0;
  vi.stubGlobal("fetch", async (_: string, init?: { body: string }) => {
    if (init) sent.push(JSON.parse(init.body));
    return new Response(JSON.stringify({ own: { crane: { slow: {} } }, used: { crane: "slow" } }));
  });
});

test("an axis that a preset does not know has what is usual", () => {
  const usually = preset();
  const { swing } = usually;
  const other = { ...swing!, shaping: { ...swing!.shaping, inverted: true } };
  setInputs({ own: { crane: { mine: { swing: other, gone: other } } }, used: { crane: "mine" } });
  expect(preset()).toEqual({ ...usually, swing: other });
  // Another kind of machine has its own.
  expect(presetOf(useInputs.getState(), "dolly", axes)).toEqual(usually);
});

test("what is changed is loose until it has a name, and only then kept", () => {
  const usually = preset();
  const shaping = { ...usually.pan!.shaping, inverted: true };
  changeAxis("crane", usually, "pan", { shaping });
  expect(preset().pan!.shaping.inverted).toBe(true);
  expect(preset().swing).toEqual(usually.swing);
  expect(sent).toEqual([]);
  keepPreset("crane", "mine", preset());
  expect(useInputs.getState().loose).toEqual({});
  expect(sent).toEqual([{ own: { crane: { mine: preset() } }, used: { crane: "mine" } }]);
});

test("another preset drops what was loose, of this kind of machine only", () => {
  const usually = preset();
  keepPreset("crane", "mine", usually);
  const flipped = { shaping: { ...usually.pan!.shaping, inverted: true } };
  changeAxis("crane", usually, "pan", flipped);
  changeAxis("dolly", usually, "pan", flipped);
  choosePreset("crane", "");
  expect(Object.keys(useInputs.getState().loose)).toEqual(["dolly"]);
  expect(preset()).toEqual(usually);
});

test("a preset that is taken away leaves the usual one", () => {
  const usually = preset();
  keepPreset("crane", "mine", { ...usually, pan: { ...usually.pan!, sources: [] } });
  expect(preset().pan!.sources).toEqual([]);
  removePreset("crane", "mine");
  expect(preset()).toEqual(usually);
  expect(useInputs.getState().own).toEqual({ crane: {} });
});

test("what was kept is read again", async () => {
  await loadInputs();
  expect(useInputs.getState().used).toEqual({ crane: "slow" });
});

test("strips name the keys of an axis, and none where something else drives it", () => {
  const usually = preset();
  const mine = { ...usually, lift: { ...usually.lift!, sources: [] } };
  const keys = keysOf(mine, { axes } as MachineView);
  expect(keys[1]).toBe(null);
  const swing = usually.swing!.sources.find((s) => s.by === "keys");
  if (swing?.by !== "keys") throw new Error("swing has no keys");
  expect(keys[0]).toEqual([swing.less, swing.more]);
});
