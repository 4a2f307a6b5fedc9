import type { Piece } from "../generated/types";
import type { Point } from "../geometry";

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
