import { expect, test } from "vitest";
import type { AxisView } from "../generated/types";
import { DIAL, assigned } from "./assign";
import { presetOf, useInputs } from "./inputs";

const lens = { name: "zoom", hand: "zoom", group: "lens" } as unknown as AxisView;
const wheels = (kind: string) => {
  const preset = presetOf(useInputs.getState(), kind, [lens]);
  return Object.keys(preset).filter((name) => preset[name]!.sources.some((s) => s.by === "wheel"));
};

test("the wheel zooms, and changes the speed of who flies", () => {
  expect(wheels("telescopic_crane")).toEqual(["zoom"]);
  expect(wheels("free_camera")).toEqual([DIAL]);
});

test("a control that is given to the dial is taken from the axis that had it", () => {
  const preset = presetOf(useInputs.getState(), "telescopic_crane", [lens]);
  const after = assigned(preset, DIAL, { by: "wheel" });
  expect(after.zoom!.sources.some((s) => s.by === "wheel")).toBe(false);
  expect(after[DIAL]!.sources).toEqual([{ by: "wheel" }]);
});
