import { expect, test } from "vitest";
import type { Piece, Stage } from "../generated/types";
import { kindOf, newForm, newPiece } from "./kinds";
import { byKind } from "./listed";

const piece = (kind: Piece["form"]["kind"], name: string) =>
  ({ ...newPiece(kind, newForm(kindOf(kind)!, { height_m: 6 } as Stage, null), [0, 0, 0]), name }) as Piece;
const pieces = [piece("lamp", "work light"), piece("wall", "north wall"), piece("lamp", "bulb")];
const listed = (sought: string) =>
  byKind(pieces, sought).map(({ kind, list }) => [kind, list.map((p) => p.name)]);

test("pieces stand by kind in the order of the palette", () => {
  expect(listed("")).toEqual([
    ["wall", ["north wall"]],
    ["lamp", ["work light", "bulb"]],
  ]);
});

test("what is sought is found by its name or its kind", () => {
  expect(listed(" North ")).toEqual([["wall", ["north wall"]]]);
  expect(listed("lamp")).toEqual([["lamp", ["work light", "bulb"]]]);
  expect(listed("nothing")).toEqual([]);
});
