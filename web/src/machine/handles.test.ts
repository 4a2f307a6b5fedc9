import { expect, test } from "vitest";
import type { MachineView, RigSpec, Setup } from "../generated/types";
import { handlesOf } from "./handles";

const setup = (rig: RigSpec) => ({ rig }) as Setup;
const rail: RigSpec = {
  kind: "rail",
  points: [
    { id: 1, position: [0, 1, 0], tangent: null },
    { id: 2, position: [3, 1, 0], tangent: [1, 0, 0] },
  ],
  closed: false,
  facing: "aims",
  heading_deg: 0,
  aim_m: [1, 1.5, -4],
  offset_m: [0, 0, 0],
  follows: null,
  lens_m: 0.3,
};

test("a rail's points, tangents and aim are dragged", () => {
  const handles = handlesOf(setup(rail), null, null);
  expect(handles.map((h) => h.word)).toEqual(["point 1", "point 2", "tangent 2", "aim"]);
  const moved = handles[0]!.set!([0.5, 1.2, -0.25]);
  expect(moved.kind === "rail" && moved.points[0]!.position).toEqual([0.5, 1.2, -0.25]);
  const pulled = handles[2]!.set!([3, 1, -1.8]);
  expect(pulled.kind === "rail" && pulled.points[1]!.tangent).toEqual([0, 0, -2]);
});

test("what is carried is not dragged by parameters of the floor", () => {
  const carried = { ...rail, carried: { by: "piece" as const, id: 3 } };
  expect(handlesOf({ rig: carried } as Setup, null, null)).toEqual([]);
});

test("a machine is moved and turned by the parameters that its placement names", () => {
  const crane = {
    kind: "telescopic_crane",
    track: { x_m: 1, z_m: 2, heading_deg: 30 },
  } as unknown as RigSpec;
  const placement = ["track/x_m", "track/z_m", "track/heading_deg"];
  const machine = { placement, bodies: [], axes: [] } as unknown as MachineView;
  const [base, heading] = handlesOf(setup(crane), machine, null);
  expect(base!.at).toEqual([1, 0, 2]);
  expect(base!.set!([3.004, 0, -1])).toMatchObject({ track: { x_m: 3, z_m: -1, heading_deg: 30 } });
  expect(heading!.set!([2, 0, 2])).toMatchObject({ track: { x_m: 1, heading_deg: 90 } });
});
