import type { Piece, Stage } from "../generated/types";
import type { Point } from "../geometry";
import { placed, unplaced } from "./placed";
import { footOf, kindOf, middleOf, newForm, newPiece, sizeOf, withSize, type Size } from "./kinds";
import { round, snapAngle, snapMove, snapPoint, type Box } from "./snap";
import type { Tool } from "../state/set";

/** Results of tools and handles of the plan at a place of the hand. Nothing here draws or keeps anything. */

/** Sheet of the plan: its pieces and its scale. */
export interface Sheet {
  stage: Stage;
  pieces: Piece[];
  /** Around each piece, by its number. */
  boxes: Map<number, Box>;
  /** The stage itself. */
  whole: Box;
  grid: number;
  /** Metres of so many pixels. */
  px: (pixels: number) => number;
}

/** Pieces on their way: where they were taken hold of, and what they may catch on. */
export interface Taken {
  from: Point;
  ids: number[];
  box: Box;
  place: Point;
  others: Box[];
}

export const corners = (a: Point, b: Point): Point[] => [a, [b[0], a[1]], b, [a[0], b[1]]];
export const sides = ([a, b, c]: Point[]): [Point, Point][] => [
  [a!, b!],
  [b!, c!],
];
export const dot = ([x, z]: Point, r: number): Point[] => corners([x - r, z - r], [x + r, z + r]);

/** Boxes of all pieces but some. */
export const othersThan = ({ boxes }: Sheet, ids: number[]) =>
  [...boxes].filter(([id]) => !ids.includes(id)).map(([, box]) => box);

/** A place, caught by edges, middles and the grid unless the hand is `free`. */
export const snapped = (sheet: Sheet, p: Point, free: boolean, ids: number[] = []): Point =>
  free
    ? [round(p[0]), round(p[1])]
    : snapPoint(p, [...othersThan(sheet, ids), sheet.whole], sheet.px(8), sheet.grid);

/** The wall under a point, and the place along it. */
export function wallAt({ pieces, px }: Sheet, p: Point) {
  for (const wall of pieces) {
    if (wall.form.kind !== "wall" || wall.hidden) continue;
    const [x, z] = unplaced(p, wall);
    if (Math.abs(z) < wall.form.size[2] / 2 + px(14) && Math.abs(x) <= wall.form.size[0] / 2)
      return { wall, at: placed([x, 0], wall) };
  }
  return null;
}

/** Piece that a tool would make between two points. */
export function draft(sheet: Sheet, tool: Tool, a: Point, b: Point, free: boolean): Piece[] {
  const { stage, pieces, px } = sheet;
  const clicked = Math.hypot(b[0] - a[0], b[1] - a[1]) < px(5);
  if (tool === "room") return clicked ? [] : room(a, b, stage.height_m, pieces);
  const kind = kindOf(tool as never);
  if (!kind) return [];
  const { drawing } = kind;
  const foot = footOf(kind, stage);
  const number = Math.max(0, ...pieces.map((p) => ("number" in p.form ? p.form.number : 0))) + 1;
  const name = "number" in kind.usual ? `${kind.word} ${number}` : kind.word;
  const made = (form: Piece["form"], [x, z]: Point, turn = 0) =>
    newPiece(
      name,
      "number" in form ? { ...form, number } : form,
      [round(x), foot, round(z)],
      round(((turn % 360) + 360) % 360),
    );
  if (drawing.in_wall) {
    const inA = wallAt(sheet, a);
    if (inA) {
      const along = placed([unplaced(b, inA.wall)[0], 0], inA.wall);
      const length = Math.hypot(along[0] - inA.at[0], along[1] - inA.at[1]);
      const middle: Point = clicked ? inA.at : [(along[0] + inA.at[0]) / 2, (along[1] + inA.at[1]) / 2];
      return [made(newForm(kind, stage, clicked ? null : [round(length), 0]), middle, inA.wall.turn_deg)];
    }
  }
  if (drawing.by === "spot" || clicked) return [made(newForm(kind, stage, null), a)];
  const middle: Point = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
  if (drawing.by === "line") {
    const end = free ? b : snapAngle(a, b);
    const length = Math.hypot(end[0] - a[0], end[1] - a[1]);
    const turn = (Math.atan2(end[1] - a[1], end[0] - a[0]) * 180) / Math.PI;
    const half: Point = [(a[0] + end[0]) / 2, (a[1] + end[1]) / 2];
    // A line has no direction: half a turn less reads better.
    return [
      made(newForm(kind, stage, [round(length), 0]), half, Math.abs(turn) > 90.001 ? turn + 180 : turn),
    ];
  }
  const [w, d] = [round(Math.abs(b[0] - a[0])), round(Math.abs(b[1] - a[1]))];
  if (w < 0.02 || d < 0.02) return [];
  const along = drawing.faces_middle && d > w;
  const turn = !drawing.faces_middle ? 0 : along ? (middle[0] > 0 ? 90 : 270) : middle[1] > 0 ? 180 : 0;
  return [made(newForm(kind, stage, along ? [d, w] : [w, d]), middle, turn)];
}

/** The outline of a piece as it will stand. */
export function outlineOf(p: Piece): Point[] {
  const s = sizeOf(p.form) ?? ([0.5, null, 0.5] as Size);
  const m = middleOf(p.form);
  const [x, z] = [s[0] / 2, s[2] / 2];
  const corners: Point[] = [
    [-x, m - z],
    [x, m - z],
    [x, m + z],
    [-x, m + z],
  ];
  return corners.map((c) => placed(c, p));
}

/** Way of pieces with a hand, and what caught them. Doors and windows go along their walls. */
export function moved(sheet: Sheet, d: Taken, at: Point, free: boolean) {
  const { pieces, px, grid } = sheet;
  const none = { x: null, z: null };
  const raw: Point = [at[0] - d.from[0], at[1] - d.from[1]];
  if (Math.hypot(...raw) < px(3)) return { by: [0, 0] as Point, box: d.box, caught: none };
  const alone = d.ids.length === 1 ? pieces.find((p) => p.id === d.ids[0]) : undefined;
  let { by, caught } = free
    ? { by: [round(raw[0]), round(raw[1])] as Point, caught: none }
    : snapMove(d.box, d.place, raw, d.others, px(8), grid);
  if (alone && kindOf(alone.form.kind)?.drawing.in_wall) {
    const wall = wallAt(sheet, [d.place[0] + raw[0], d.place[1] + raw[1]]);
    if (wall) {
      const [x, z] = placed([unplaced([d.place[0] + by[0], d.place[1] + by[1]], wall.wall)[0], 0], wall.wall);
      by = [round(x - d.place[0]), round(z - d.place[1])];
      caught = none;
    }
  }
  const box = {
    left: d.box.left + by[0],
    right: d.box.right + by[0],
    top: d.box.top + by[1],
    bottom: d.box.bottom + by[1],
  };
  return { by, box, caught };
}

/** A piece whose corner was dragged; the opposite one stays. */
export function sized(sheet: Sheet, piece: Piece, corner: Point, at: Point, free: boolean): Piece {
  const s = sizeOf(piece.form)!;
  const m = middleOf(piece.form);
  const [x, z] = unplaced(snapped(sheet, at, free, [piece.id]), piece);
  const still: Point = [(-corner[0] * s[0]) / 2, m - (corner[1] * s[2]) / 2];
  const w = corner[0] ? Math.max(0.05, round(Math.abs(x - still[0]))) : s[0];
  const l = corner[1] ? Math.max(0.05, round(Math.abs(z - still[1]))) : s[2];
  const form = withSize(piece.form, [w, s[1], l]);
  const [nw, , nl] = sizeOf(form)!;
  const middle: Point = [
    corner[0] ? still[0] + (corner[0] * nw) / 2 : 0,
    corner[1] ? still[1] + (corner[1] * nl) / 2 - middleOf(form) : m - middleOf(form),
  ];
  const [px2, pz2] = placed(middle, piece);
  return { ...piece, form, position: [round(px2), piece.position[1], round(pz2)] };
}

/** Turn of a piece whose handle is at a place; in steps of 15° unless the hand is free. */
export function turned(piece: Piece, at: Point, free: boolean): number {
  const angle = (Math.atan2(at[0] - piece.position[0], piece.position[2] - at[1]) * 180) / Math.PI;
  const stepped = free ? Math.round(angle * 10) / 10 : Math.round(angle / 15) * 15;
  return ((stepped % 360) + 360) % 360;
}

/** A room that is narrower than this is lived in: its walls end below the ceiling of the stage, metres. */
const LIVED_IN_M = 8;
/** Height of a room that is lived in, metres; common practice, no source. */
const LIVED_IN_HEIGHT_M = 2.7;

/** Four walls around a rectangle, outside of it, kept together; a hall's are as high as the stage. */
function room(a: Point, b: Point, ceiling: number, pieces: Piece[]): Piece[] {
  const [w, d, t] = [round(Math.abs(b[0] - a[0])), round(Math.abs(b[1] - a[1])), 0.3];
  const height = Math.min(w, d) < LIVED_IN_M ? Math.min(ceiling, LIVED_IN_HEIGHT_M) : ceiling;
  const [x, z] = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
  const group = Math.max(0, ...pieces.map((p) => p.group)) + 1;
  const wall = (name: string, length: number, at: Point, turn: number): Piece => ({
    ...newPiece(
      name,
      { kind: "wall", size: [round(length), height, t], material: "brick" },
      [round(at[0]), 0, round(at[1])],
      turn,
    ),
    group,
  });
  return [
    wall("north wall", w + 2 * t, [x, z - d / 2 - t / 2], 0),
    wall("south wall", w + 2 * t, [x, z + d / 2 + t / 2], 0),
    wall("west wall", d, [x - w / 2 - t / 2, z], 90),
    wall("east wall", d, [x + w / 2 + t / 2, z], 90),
  ];
}
