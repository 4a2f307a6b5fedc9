import type { Piece, SetView, SolidView } from "../generated/types";
import { closed, type Point } from "../geometry";
import { ink } from "../theme";
import { boxOf, type Box } from "./snap";

/** A piece as the plan shows it. */
export interface Drawn {
  id: number;
  /** Outlines by how they are filled. */
  paths: { d: string; fill: string; stroke: string }[];
  box: Box;
  area: number;
  /** Hangs over people's heads: drawn as seen through. */
  above: boolean;
}

/** From here up a piece hangs over people's heads, metres. */
const OVERHEAD = 2.4;
/** What stands in a wall and cuts it open. */
export const inWalls: ReadonlySet<string> = new Set(["window", "door", "opening"]);

/** Turned to the right by degrees, and moved. */
export function placed([x, z]: Point, piece: Pick<Piece, "position" | "turn_deg">): Point {
  const a = (piece.turn_deg * Math.PI) / 180;
  return [
    piece.position[0] + x * Math.cos(a) - z * Math.sin(a),
    piece.position[2] + x * Math.sin(a) + z * Math.cos(a),
  ];
}

/** From the plan into a piece's own frame. */
export function unplaced([x, z]: Point, piece: Pick<Piece, "position" | "turn_deg">): Point {
  const a = (piece.turn_deg * Math.PI) / 180;
  const [dx, dz] = [x - piece.position[0], z - piece.position[2]];
  return [dx * Math.cos(a) + dz * Math.sin(a), dz * Math.cos(a) - dx * Math.sin(a)];
}

/** How thick a wall is taken to be where a door opens it, metres: what is thicker keeps its edges. */
const THROUGH_M = 0.3;

/** A door as plans show it: the gap in the wall, and the quarter circle of its leaf. */
function doorwayOf(piece: Piece, width: number) {
  const [w, t] = [width / 2, THROUGH_M / 2];
  const gap: Point[] = [
    [-w, -t],
    [w, -t],
    [w, t],
    [-w, t],
  ];
  const at = (p: Point) => placed(p, piece).map((v) => v.toFixed(3));
  return {
    gap: gap.map((p) => placed(p, piece)),
    swing: `M${at([w, 0])}A${width} ${width} 0 0 1 ${at([-w, width])}L${at([-w, 0])}`,
  };
}

const light = new Set(["tram", "gallery", "workbench", "stair", "platform", "ramp", "vehicle", "table"]);

function fillOf(piece: Piece, solid: SolidView): string | null {
  const kind = piece.form.kind;
  if (kind === "tram") return solid.name === "side" ? ink.paperFill : null;
  if (kind === "vehicle") return solid.name === "body" || solid.name === "cab" ? ink.paperFill : null;
  if (kind === "lamp") return solid.name === "shade" ? ink.paper : null;
  if (kind === "mark") return ink.blueprint;
  if (kind === "door") return solid.name === "leaf" ? ink.ink : null;
  if (kind === "window") return solid.name === "pane" ? ink.blueprint : null;
  if (kind === "gallery" && solid.name !== "deck") return null;
  if (kind === "stair" && solid.name !== "step") return null;
  if (kind === "workbench" && solid.name !== "top") return null;
  if (kind === "chair") return solid.name === "leg" ? null : ink.paperFill;
  if (kind === "table" && solid.name !== "top") return null;
  if (kind === "platform" && solid.name !== "deck") return null;
  if (kind === "block" || kind === "round") return ink.paperFill;
  if (kind === "rails") return ink.paperShade;
  return light.has(kind) ? ink.paperFill : ink.ink;
}

/** Every piece as the plan draws it, large ones first so that small ones lie on top. */
export function drawPieces(pieces: Piece[], set: SetView): Drawn[] {
  const solids = new Map<number, SolidView[]>();
  for (const s of set.solids) {
    if (s.piece === 0) continue;
    const list = solids.get(s.piece);
    if (list) list.push(s);
    else solids.set(s.piece, [s]);
  }
  const outlines = new Map(set.outlines.map((o) => [o.piece, o.outline as Point[]]));
  const drawn = pieces.map((piece): Drawn => {
    const points: Point[] = [];
    const byFill = new Map<string, string[]>();
    const put = (fill: string, outline: Point[]) => {
      points.push(...outline);
      const list = byFill.get(fill);
      if (list) list.push(closed(outline));
      else byFill.set(fill, [closed(outline)]);
    };
    const doorway = piece.form.kind === "door" ? doorwayOf(piece, piece.form.width) : null;
    if (doorway) put(ink.paper, doorway.gap);
    for (const solid of solids.get(piece.id) ?? []) {
      const fill = fillOf(piece, solid);
      if (fill) put(fill, solid.footprint as Point[]);
    }
    const outline = outlines.get(piece.id);
    if (outline) {
      const hole = piece.form.kind === "opening";
      put(
        hole ? ink.paper : ink.paperFill,
        outline.map((p) => placed(p, piece)),
      );
    }
    if (points.length === 0) points.push([piece.position[0], piece.position[2]]);
    const box = boxOf(points);
    const above = piece.position[1] >= OVERHEAD && !inWalls.has(piece.form.kind);
    const paths = [...byFill].map(([fill, d]) => ({
      d: d.join(""),
      fill: above ? "none" : fill,
      stroke: fill === ink.ink || fill === ink.blueprint || fill === ink.paperShade ? "none" : ink.ink,
    }));
    if (doorway) paths.push({ d: doorway.swing, fill: "none", stroke: ink.ink });
    return {
      id: piece.id,
      above,
      paths,
      box,
      area: (box.right - box.left) * (box.bottom - box.top),
    };
  });
  return drawn.sort((a, b) => b.area - a.area);
}
