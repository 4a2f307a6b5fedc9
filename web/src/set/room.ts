import type { Piece } from "../generated/types";
import { kindOf } from "./kinds";
import { unplaced } from "./placed";
import { round } from "./snap";

/** Four walls round a rectangle: how wide and deep it is inside. */
export interface Room {
  walls: Piece[];
  inside: [wide: number, deep: number];
}

const sizeOf = (p: Piece): [number, number, number] => (p.form.kind === "wall" ? p.form.size : [0, 0, 0]);

/** True for a wall along the depth of the stage. */
const upright = (p: Piece) => Math.abs(Math.sin((p.turn_deg * Math.PI) / 180)) > 0.999;
const level = (p: Piece) => Math.abs(Math.cos((p.turn_deg * Math.PI) / 180)) > 0.999;

/** Distance between the inner faces of two walls, metres. */
function between(pair: Piece[], axis: 0 | 2): number {
  const [a, b] = pair as [Piece, Piece];
  return Math.abs(a.position[axis] - b.position[axis]) - (sizeOf(a)[2] + sizeOf(b)[2]) / 2;
}

/** The room that pieces make, if they are the four walls of one and nothing else. */
export function roomOf(pieces: Piece[]): Room | null {
  if (pieces.length !== 4 || !pieces.every((p) => p.form.kind === "wall" && !p.locked)) return null;
  const [across, along] = [pieces.filter(upright), pieces.filter(level)];
  if (across.length !== 2 || along.length !== 2) return null;
  const inside: Room["inside"] = [round(between(across, 0)), round(between(along, 2))];
  return inside.every((v) => v > 0) ? { walls: pieces, inside } : null;
}

/** Distance from a wall's middle, besides its thickness, within which a piece stands in the wall, metres. */
const NEAR_M = 0.1;

/** True if a door, window or opening stands in a wall. */
function standsIn(wall: Piece, p: Piece): boolean {
  const [x, z] = unplaced([p.position[0], p.position[2]], wall);
  const [length, , thick] = sizeOf(wall);
  return (
    !!kindOf(p.form.kind)?.drawing.in_wall && Math.abs(z) <= thick / 2 + NEAR_M && Math.abs(x) <= length / 2
  );
}

/** Changes of a room that gets another width and depth about its middle: its walls, and the pieces in them. */
export function roomSized(room: Room, size: Room["inside"], pieces: Piece[]): Piece[] {
  const walls = wallsSized(room, size);
  const along = pieces.flatMap((p) => {
    const i = room.walls.findIndex((wall) => standsIn(wall, p));
    if (i < 0) return [];
    const [before, now] = [room.walls[i]!.position, walls[i]!.position];
    return [
      { ...p, position: p.position.map((v, k) => round(v + now[k]! - before[k]!)) as Piece["position"] },
    ];
  });
  return [...walls, ...along];
}

function wallsSized({ walls, inside }: Room, [wide, deep]: Room["inside"]): Piece[] {
  const by = [wide - inside[0], deep - inside[1]] as const;
  const pairs = { 0: walls.filter(upright), 2: walls.filter(level) };
  return walls.map((wall) => {
    // Each wall goes outward by half of what is gained across it, and grows by what is gained along it.
    const axis = upright(wall) ? 0 : 2;
    const [gained, longer] = axis === 0 ? by : [by[1], by[0]];
    const other = pairs[axis].find((p) => p !== wall)!;
    const way = Math.sign(wall.position[axis] - other.position[axis]);
    const position = wall.position.map((v, k) =>
      k === axis ? round(v + (way * gained) / 2) : v,
    ) as Piece["position"];
    const [length, height, thick] = sizeOf(wall);
    const size: [number, number, number] = [round(length + longer), height, thick];
    return { ...wall, position, form: { ...wall.form, size } as Piece["form"] };
  });
}
