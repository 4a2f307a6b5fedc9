import { valueOf, withValue } from "../form/params";
import type { MachineView, Rigging, Setup } from "../generated/types";
import type { StateFrame } from "../live/wire";
import { baseOf } from "./kinds";

export type Vec = readonly [number, number, number];

/** Something of a machine that is dragged on paper. */
export interface Handle {
  id: string;
  word: string;
  at: Vec;
  shape: "square" | "round" | "cross";
  /** The machine with it elsewhere; its parameters change. */
  set?: (at: Vec) => Rigging;
  /** The axes that bring it elsewhere; the machine goes there when the hand lets go. */
  go?: (at: Vec) => Record<string, number>;
}

const cm = (v: number) => Math.round(v * 100) / 100;
const cms = (at: Vec) => at.map(cm) as [number, number, number];
/** Distance of a tangent's handle from its point, for a tangent of 1. */
const PULL = 0.9;
/** Distance from its base at which a machine's heading is taken, metres. */
const LEVER = 1.6;

const turnOf = ([x, , z]: Vec, [bx, bz]: readonly [number, number]) =>
  Math.round((Math.atan2(x - bx, -(z - bz)) * 1800) / Math.PI) / 10;
const ahead = ([x, z]: readonly [number, number], deg: number): Vec => [
  x + Math.sin((deg * Math.PI) / 180) * LEVER,
  0,
  z - Math.cos((deg * Math.PI) / 180) * LEVER,
];

/** Handles for place and heading of a machine. */
function standHandles(rig: Rigging, [xAt, zAt, headingAt]: NonNullable<MachineView["placement"]>): Handle[] {
  const base = baseOf(rig, [xAt, zAt, headingAt]);
  const heading = valueOf(rig, headingAt);
  if (!base || typeof heading !== "number") return [];
  return [
    {
      id: "base",
      word: "base",
      at: [base[0], 0, base[1]],
      shape: "square",
      set: ([x, , z]) => withValue(withValue(rig, xAt, cm(x)), zAt, cm(z)),
    },
    {
      id: "heading",
      word: "heading",
      at: ahead(base, heading),
      shape: "round",
      set: (at) => withValue(rig, headingAt, turnOf(at, base)),
    },
  ];
}

function railHandles(rig: Extract<Rigging, { kind: "rail" }>): Handle[] {
  const set = (i: number, point: (typeof rig.points)[number]): Rigging => ({
    ...rig,
    points: rig.points.map((p, k) => (k === i ? point : p)),
  });
  const points = rig.points.map((p, i): Handle => ({
    id: `point ${i}`,
    word: `point ${i + 1}`,
    at: p.position,
    shape: "square",
    set: (at) => set(i, { ...p, position: cms(at) }),
  }));
  const tangents = rig.points.flatMap((p, i): Handle[] =>
    p.tangent
      ? [
          {
            id: `tangent ${i}`,
            word: `tangent ${i + 1}`,
            at: p.position.map((v, k) => v + p.tangent![k]! * PULL) as unknown as Vec,
            shape: "round",
            set: (at) =>
              set(i, {
                ...p,
                tangent: at.map((v, k) => (v - p.position[k]!) / PULL) as [number, number, number],
              }),
          },
        ]
      : [],
  );
  const aims = rig.facing === "aims" && rig.follows === null;
  const aim: Handle[] = aims
    ? [{ id: "aim", word: "aim", at: rig.aim_m, shape: "cross", set: (at) => ({ ...rig, aim_m: cms(at) }) }]
    : [];
  return [...points, ...tangents, ...aim];
}

/** Handles of a machine, where they are now. */
export function handlesOf(setup: Setup, machine: MachineView | null, frame: StateFrame | null): Handle[] {
  const { rig } = setup;
  const body = (name: string): Vec | null => {
    const i = machine?.bodies.findIndex((b) => b.name === name) ?? -1;
    const b = frame?.bodies;
    return i >= 0 && b && b.length >= i * 7 + 3 ? [b[i * 7]!, b[i * 7 + 1]!, b[i * 7 + 2]!] : null;
  };
  const axis = (name: string) =>
    frame?.axes[machine?.axes.findIndex((a) => a.name === name) ?? -1]?.value ?? 0;
  const live: Handle[] = [];
  const pivot = rig.kind === "orbit_arm" ? body("pivot") : null;
  if (pivot)
    live.push({
      id: "pivot",
      word: "pivot",
      at: pivot,
      shape: "cross",
      go: ([x, y, z]) => ({
        "pivot x": axis("pivot x") + x - pivot[0],
        "pivot y": axis("pivot y") + y - pivot[1],
        "pivot z": axis("pivot z") + z - pivot[2],
      }),
    });
  const aim = rig.kind === "aim_rig" ? body("aim point") : null;
  if (aim && rig.kind === "aim_rig")
    live.push({
      id: "aim",
      word: "aim",
      at: aim,
      shape: "cross",
      go: ([x, y, z]) => {
        // From the root's own frame, unless it is measured from somebody.
        const turn = rig.follows === null ? (axis("root turn") * Math.PI) / 180 : 0;
        const [dx, dz] = [x - aim[0], z - aim[2]];
        return {
          "aim x": axis("aim x") + dx * Math.cos(turn) + dz * Math.sin(turn),
          "aim y": axis("aim y") + y - aim[1],
          "aim z": axis("aim z") - dx * Math.sin(turn) + dz * Math.cos(turn),
        };
      },
    });
  // What is carried is measured from its carrier: its numbers are in the panel.
  if (rig.carried) return live;
  if (rig.kind === "rail") return [...railHandles(rig), ...live];
  return [...(machine?.placement ? standHandles(rig, machine.placement) : []), ...live];
}
