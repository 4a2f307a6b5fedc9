import { expect, it } from "vitest";
import type { Document } from "../generated/types";
import { apply, at } from "./patch";

const line = (id: number, number: string) => ({ id, number, name: "x", binned: false, takes: 2 });
const document = {
  scene: { id: 2, number: "2", name: "x", stage: { width_m: 4 }, binned: false },
  scenes: [line(1, "1"), line(2, "2"), line(3, "3")],
} as unknown as Document;
const replace = (path: string, value: unknown) => apply(document, { op: "replace", path, value });

it("what is said of a scene changes in the list, and on the floor where it is there", () => {
  const here = replace("/scenes/2/number", "12");
  expect([here.scene.number, here.scenes[1]!.number]).toEqual(["12", "12"]);
  const other = replace("/scenes/3/number", "13");
  expect([other.scene.number, other.scenes[2]!.number]).toEqual(["2", "13"]);
  expect(replace("/scenes/2/stage/width_m", 9).scenes).toEqual(document.scenes);
  expect(at(other, "/scenes/3/number")).toBe("13");
});

it("scenes are ordered and binned, and a new one is shown when the server has made it", () => {
  const moved = apply(document, { op: "move", path: "/scenes/3", before: "1" });
  expect(moved.scenes.map((s) => s.id)).toEqual([3, 1, 2]);
  expect(apply(document, { op: "remove", path: "/scenes/3" }).scenes[2]!.binned).toBe(true);
  expect(apply(document, { op: "add", path: "/scenes/new:1", value: { number: "4" } })).toBe(document);
});
