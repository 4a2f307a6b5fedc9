import { expect, test } from "vitest";
import type { Piece, SetView, SolidView, Stage } from "../generated/types";
import { drawPieces, placed, unplaced } from "./drawing";
import { kindOf, newForm, newPiece } from "./kinds";

const at = (position: [number, number, number], turn_deg: number) => ({ position, turn_deg });
const stage = { height_m: 6.2 } as Stage;
const piece = (id: number, kind: Piece["form"]["kind"], position: [number, number, number]): Piece => ({
  ...newPiece(kind, newForm(kindOf(kind)!, stage, null), position),
  id,
});
const square = (x: number, z: number, half: number): [number, number][] => [
  [x - half, z - half],
  [x + half, z - half],
  [x + half, z + half],
  [x - half, z + half],
];
const solid = (of: number, name: string, footprint: [number, number][]) =>
  ({ piece: of, name, footprint }) as unknown as SolidView;
const set = (solids: SolidView[]) => ({ solids, outlines: [] }) as unknown as SetView;

test("a quarter turn to the right takes the right hand side towards the viewer", () => {
  const [x, z] = placed([1, 0], at([10, 0, 20], 90));
  expect(x).toBeCloseTo(10, 12);
  expect(z).toBeCloseTo(21, 12);
});

test.each([0, 17, 90, -135, 359])("what is placed at %i° is found again in the piece's own frame", (turn) => {
  const where = at([3, 0, -4], turn);
  const [x, z] = unplaced(placed([0.7, -1.3], where), where);
  expect(x).toBeCloseTo(0.7, 12);
  expect(z).toBeCloseTo(-1.3, 12);
});

test("small pieces lie on large ones, and a box goes round what is drawn", () => {
  const pieces = [piece(1, "block", [0, 0, 0]), piece(2, "block", [5, 0, 5])];
  const drawn = drawPieces(
    pieces,
    set([solid(1, "body", square(0, 0, 0.5)), solid(2, "body", square(5, 5, 2))]),
  );
  expect(drawn.map((d) => d.id)).toEqual([2, 1]);
  expect(drawn[0]!.box).toMatchObject({ left: 3, right: 7, top: 3, bottom: 7 });
  expect(drawn[1]!.area).toBeCloseTo(1, 12);
});

test("a door opens its wall and shows how it swings", () => {
  const wall = piece(1, "wall", [0, 0, 0]);
  const door = {
    ...piece(2, "door", [1, 0, 0]),
    form: { kind: "door", width: 1, height: 2.1, open_deg: 0 },
  } as Piece;
  const solids = [solid(1, "wall", square(0, 0, 2)), solid(2, "leaf", square(1, 0, 0.1))];
  const drawn = drawPieces([wall, door], set(solids));
  expect(drawn.map((d) => d.id)).toEqual([1, 2]);
  const [gap, leaf, swing] = drawn[1]!.paths;
  expect([gap!.d, leaf!.fill, swing!.fill]).toEqual([
    expect.stringContaining("0.5"),
    expect.not.stringMatching(gap!.fill),
    "none",
  ]);
  // From the free jamb round to where the leaf stands square to the wall.
  expect(swing!.d).toBe("M1.500,0.000A1 1 0 0 1 0.500,1.000L0.500,0.000");
});

test("what hangs over people's heads is not filled; the floor's own solids are nobody's", () => {
  const [lamp] = drawPieces(
    [piece(3, "lamp", [1, 5, 1])],
    set([solid(3, "shade", square(1, 1, 0.2)), solid(0, "floor", square(0, 0, 40))]),
  );
  expect(lamp!.above).toBe(true);
  expect(lamp!.paths.map((p) => p.fill)).toEqual(["none"]);
  expect(lamp!.box.right).toBeCloseTo(1.2, 12);
});

test("a piece of which nothing is drawn still has its place, to be caught by", () => {
  const [bare] = drawPieces([piece(4, "vehicle", [2, 0, 3])], set([]));
  expect(bare!.paths).toEqual([]);
  expect([bare!.box.left, bare!.box.top]).toEqual([2, 3]);
});
