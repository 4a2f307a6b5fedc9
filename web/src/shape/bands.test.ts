import { expect, test } from "vitest";
import type { Described, Move } from "../generated/types";
import { inOrder, placeOf } from "./bands";

const kind = (name: string, level: Described["level"]) => ({ name, level }) as Described;
const kinds = [
  kind("trim", "time"),
  kind("smooth", "machine"),
  kind("keys", "machine"),
  kind("shake", "camera"),
];
const list = (...names: string[]) => names.map((kind, i) => ({ id: i + 1, kind })) as Move["treatments"];

test("a treatment comes after those of its own band and before those of later ones", () => {
  expect(placeOf("smooth", list(), kinds)).toBeUndefined();
  expect(placeOf("smooth", list("smooth", "keys"), kinds)).toBeUndefined();
  expect(placeOf("smooth", list("smooth", "shake", "shake"), kinds)).toBe("2");
  expect(placeOf("trim", list("smooth", "shake"), kinds)).toBe("1");
  expect(placeOf("shake", list("smooth", "shake"), kinds)).toBeUndefined();
});

test("several come in the order of their bands, those of one as they came", () => {
  const all = list("shake", "keys", "trim", "smooth");
  expect(inOrder(all, kinds).map((t) => t.kind)).toEqual(["trim", "keys", "smooth", "shake"]);
});
