import { expect, test } from "vitest";
import type { BuiltHandle, HandleView, MachineView, RigSpec, Setup } from "../generated/types";
import type { StateFrame } from "../live/wire";
import { handlesOf, type Handle, type Vec } from "./handles";

const machine = (handles: HandleView[], built: BuiltHandle[]) => ({ handles, built }) as MachineView;
const frame = (...handles: Vec[]) => ({ handles }) as unknown as StateFrame;
const built = ({ does }: Handle, at: Vec) => (does.kind === "builds" ? does.with(at) : null);
const said = ({ does }: Handle, at: Vec) => (does.kind === "builds" ? does.says(at) : null);

const standing: BuiltHandle[] = [
  { word: "base", look: "square", sets: { kind: "floor", x: "track/x_m", z: "track/z_m" } },
  {
    word: "heading",
    look: "round",
    sets: { kind: "heading", path: "track/heading_deg", x: "track/x_m", z: "track/z_m" },
  },
];
const crane = {
  id: 1,
  rig: { kind: "telescopic_crane", track: { x_m: 1, z_m: 2, heading_deg: 30 } } as unknown as RigSpec,
} as Setup;

test("handles of axes are where the state frame says, in the machine's order", () => {
  const views: HandleView[] = [
    { word: "camera", look: "camera" },
    { word: "focus", look: "bar" },
  ];
  const handles = handlesOf(crane, machine(views, []), frame([1, 2, 3], [1, 2, -1]));
  expect(handles.map((h) => [h.word, h.at, h.does])).toEqual([
    ["camera", [1, 2, 3], { kind: "axes" }],
    ["focus", [1, 2, -1], { kind: "axes" }],
  ]);
  // A frame of the machine before has fewer.
  expect(handlesOf(crane, machine(views, []), frame([0, 0, 0]))).toHaveLength(1);
  expect(handlesOf(crane, machine(views, []), null)).toEqual([]);
});

test("place and heading are set by the parameters that the machine names, in cm and tenths", () => {
  const [base, heading] = handlesOf(crane, machine([], standing), null);
  expect(base!.at).toEqual([1, 0, 2]);
  expect(built(base!, [3.004, 0, -1])).toMatchObject({ track: { x_m: 3, z_m: -1, heading_deg: 30 } });
  expect(said(base!, [3.004, 0, -1])).toBe("x 3.00 · z -1.00 m");
  expect(heading!.at[0]).toBeCloseTo(1 + 0.5 * 1.6);
  expect(built(heading!, [2, 0, 2])).toMatchObject({ track: { x_m: 1, heading_deg: 90 } });
  expect(heading!.level).toBe(true);
});

test("a base that its axes have moved is held where it is, its start stays behind", () => {
  const moves: HandleView[] = [
    { word: "base", look: "square" },
    { word: "heading", look: "round" },
  ];
  const there = handlesOf(crane, machine(moves, standing), frame([4, 0, 2], [4, 0, 0.4]));
  expect(there.map((h) => [h.id, h.does.kind, h.faint])).toEqual([
    ["base", "axes", false],
    ["heading", "axes", false],
    ["start", "builds", true],
  ]);
  expect(built(there[2]!, [0, 0, 0])).toMatchObject({ track: { x_m: 0, z_m: 0 } });
  const still = handlesOf(crane, machine(moves, standing), frame([1.01, 0, 2], [1, 0, 0.4]));
  expect(still.map((h) => h.id)).toEqual(["base", "heading"]);
});

test("a rail's points and tangents are dragged in space", () => {
  const rig = {
    kind: "rail",
    points: [
      { id: 1, position: [0, 1, 0], tangent: null },
      { id: 2, position: [3, 1, 0], tangent: [1, 0, 0] },
    ],
  } as unknown as RigSpec;
  const point = (i: number): BuiltHandle => ({
    word: `point ${i + 1}`,
    look: "square",
    sets: { kind: "place", path: `points/${i}/position` },
  });
  const tangent: BuiltHandle = {
    word: "tangent 2",
    look: "round",
    sets: { kind: "tangent", path: "points/1/tangent", from: "points/1/position" },
  };
  const handles = handlesOf({ rig } as Setup, machine([], [point(0), point(1), tangent]), null);
  expect(handles.map((h) => [h.word, h.at])).toEqual([
    ["point 1", [0, 1, 0]],
    ["point 2", [3, 1, 0]],
    ["tangent 2", [3.9, 1, 0]],
  ]);
  expect(built(handles[0]!, [0.504, 1.2, -0.25])).toMatchObject({
    points: [{ position: [0.5, 1.2, -0.25] }, {}],
  });
  expect(built(handles[2]!, [3, 1, -1.8])).toMatchObject({ points: [{}, { tangent: [0, 0, -2] }] });
  // A point that is gone while the machine's view still names it is left out.
  expect(handlesOf({ rig } as Setup, machine([], [point(5)]), null)).toEqual([]);
});
