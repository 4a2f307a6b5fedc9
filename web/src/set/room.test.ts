import { expect, test } from "vitest";
import type { Piece } from "../generated/types";
import { newPiece } from "./kinds";
import { roomOf, roomSized } from "./room";

let id = 0;
const wall = (length: number, at: [number, number], turn: number): Piece => ({
  ...newPiece("wall", { kind: "wall", size: [length, 3, 0.3], material: "brick" }, [at[0], 0, at[1]], turn),
  id: ++id,
});
/** 6 m wide and 4 m deep inside, about (1, −2). */
const walls = [
  wall(6.6, [1, -4.15], 0),
  wall(6.6, [1, -0.15], 0),
  wall(4, [-2.15, -2], 90),
  wall(4, [4.15, -2], 270),
];
walls[1]!.position[2] = 0.15;

test("four walls round a rectangle are a room, as wide and deep as it is inside", () => {
  expect(roomOf(walls)?.inside).toEqual([6, 4]);
  expect(roomOf(walls.slice(1))).toBeNull();
  expect(roomOf([...walls.slice(1), { ...walls[0]!, turn_deg: 30 }])).toBeNull();
  expect(roomOf([...walls.slice(1), { ...walls[0]!, locked: true }])).toBeNull();
});

test("a room that is made larger stays about its middle, and its walls still meet", () => {
  const sized = roomSized(roomOf(walls)!, [7, 5], walls);
  const again = roomOf(sized)!;
  expect(again.inside).toEqual([7, 5]);
  expect(sized.map((w) => (w.form.kind === "wall" ? w.form.size[0] : 0))).toEqual([7.6, 7.6, 5, 5]);
  const middle = (k: 0 | 2) => sized.reduce((sum, w) => sum + w.position[k] / 4, 0);
  expect([middle(0), middle(2)]).toEqual([1, -2]);
  expect(roomOf(roomSized(again, [6, 4], sized))?.inside).toEqual([6, 4]);
});

test("doors and windows go with the walls they stand in, and nothing else does", () => {
  const at = (kind: "door" | "block", x: number, z: number): Piece => ({
    ...newPiece(kind, { kind } as Piece["form"], [x, 0, z], 90),
    id: ++id,
  });
  const others = [at("door", 4.15, -1), at("door", 3, -1), at("block", 4.15, -1)];
  const changed = roomSized(roomOf(walls)!, [7, 4], [...walls, ...others]);
  expect(changed.slice(4).map((p) => [p.id, p.position])).toEqual([[others[0]!.id, [4.65, 0, -1]]]);
});
