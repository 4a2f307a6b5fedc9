import { expect, test } from "vitest";
import type { Piece } from "../generated/types";
import { newPiece } from "./kinds";
import { draft, moved, outlineOf, sized, snapped, turned, wallAt, type Sheet } from "./tools";

const wall: Piece = {
  ...newPiece("wall", { kind: "wall", size: [6, 3, 0.3], material: "brick" }, [0, 0, -2], 0),
  id: 1,
};
const block: Piece = {
  ...newPiece("block", { kind: "block", size: [1, 1, 2] } as Piece["form"], [3, 0, 3], 0),
  id: 2,
};
const sheet: Sheet = {
  stage: { width_m: 20, depth_m: 15, height_m: 6 },
  pieces: [wall, block],
  boxes: new Map([
    [1, { left: -3, right: 3, top: -2.15, bottom: -1.85 }],
    [2, { left: 2.5, right: 3.5, top: 2, bottom: 4 }],
  ]),
  whole: { left: -10, right: 10, top: -7.5, bottom: 7.5 },
  grid: 0.25,
  px: (pixels) => pixels / 50,
};

test("a place is caught by an edge that is near, by the grid elsewhere, by nothing while the hand is free", () => {
  expect(snapped(sheet, [2.55, 0.11], false)).toEqual([2.5, 0]);
  expect(snapped(sheet, [5.13, 5.9], false)).toEqual([5.25, 6]);
  expect(snapped(sheet, [5.1234, 5.9], true)).toEqual([5.123, 5.9]);
});

test("a door that is drawn on a wall stands in it and along it", () => {
  expect(wallAt(sheet, [1, -1.9])?.wall).toBe(wall);
  expect(wallAt(sheet, [5, -1.9])).toBeNull();
  const [door] = draft(sheet, "door", [1, -1.9], [1, -1.9], false);
  expect(door!.form.kind).toBe("door");
  expect(door!.position[0]).toBeCloseTo(1, 6);
  expect(door!.position[2]).toBeCloseTo(-2, 6);
});

test("a room is four walls kept together, outside of what was drawn; a click makes none", () => {
  const walls = draft(sheet, "room", [-4, -3], [4, 3], false);
  expect(walls.map((w) => w.name)).toEqual(["north wall", "south wall", "west wall", "east wall"]);
  expect(new Set(walls.map((w) => w.group)).size).toBe(1);
  expect(walls[0]!.position[2]).toBeCloseTo(-3.15, 6);
  // A room that is lived in is lower than the stage; a hall is as high.
  const height = ([wall]: Piece[]) => (wall?.form.kind === "wall" ? wall.form.size[1] : null);
  expect(height(walls)).toBe(Math.min(2.7, sheet.stage.height_m));
  expect(height(draft(sheet, "room", [-9, -5], [9, 5], false))).toBe(sheet.stage.height_m);
  expect(draft(sheet, "room", [0, 0], [0, 0], false)).toEqual([]);
});

test("a corner that is dragged leaves the opposite one where it is", () => {
  const next = sized(sheet, block, [1, 1], [5.2, 4.7], true);
  const far = (p: Piece) => outlineOf(p)[0]!;
  expect(far(next)[0]).toBeCloseTo(far(block)[0], 6);
  expect(far(next)[1]).toBeCloseTo(far(block)[1], 6);
  expect(outlineOf(next)[2]!.map((v) => Math.round(v * 10) / 10)).toEqual([5.2, 4.7]);
});

test("a piece is turned in steps, and finely while the hand is free", () => {
  expect(turned(block, [4, 2.6], false)).toBe(75);
  expect(turned(block, [3, 0], false)).toBe(0);
  expect(turned(block, [2, 3.1], true)).toBeCloseTo(264.3, 1);
});

test("pieces come along with the hand, but not by a tremble", () => {
  const box = sheet.boxes.get(2)!;
  const taken = {
    from: [3, 3] as [number, number],
    ids: [2],
    box,
    place: [3, 3] as [number, number],
    others: [sheet.whole],
  };
  expect(moved(sheet, taken, [3.02, 3.01], false).by).toEqual([0, 0]);
  expect(moved(sheet, taken, [4.13, 3.4], true)).toMatchObject({ by: [1.13, 0.4] });
  const { by, box: now } = moved(sheet, taken, [4.1, 3.4], false);
  expect(now.left - box.left).toBeCloseTo(by[0], 9);
});
