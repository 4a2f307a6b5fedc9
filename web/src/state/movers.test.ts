import { beforeEach, expect, test, vi } from "vitest";
import type { MoverView } from "../generated/types";
import type { Acting } from "../live/wire";
import type { Performance } from "../performance";

const floor = vi.hoisted(() => ({ frame: null as unknown }));
vi.mock("../live/link", () => ({ link: floor }));

const { moversNow, placeNow } = await import("./now");
const { posesAt } = await import("../render/subject");

/** A pose at a place along x. */
const at = (x: number) => [x, 0, 0, 0, 0, 0, 1];
const path: MoverView["path"] = [
  [9, 0, 0],
  [9, 0, 2],
];
const cart = { piece: 3, performer: null, bodies: [{}], path, path_hz: 1 } as unknown as MoverView;
const fitter = { piece: null, performer: 3, bodies: [{}, {}], path, path_hz: 1 } as unknown as MoverView;
const poses = { posesAt: (_: number, out: Float32Array) => out.fill(-1) } as unknown as Performance;
const played = { set: null, figures: [cart, fitter], poses, views: [] };
const carried: Acting = { kind: "performer", id: 3, bodies: Float32Array.from([...at(1), ...at(2)]) };

beforeEach(() => {
  floor.frame = { acting: null, riding: [carried] };
});

test("who goes along with a machine is where the floor has them, the others as they play", () => {
  const out = new Float32Array(21);
  posesAt(played, 0, moversNow(), out);
  expect([...out]).toEqual([...Array<number>(7).fill(-1), ...at(1), ...at(2)]);
  // A piece of the same number is another one.
  expect(placeNow(cart, 1, moversNow())).toEqual([9, 0, 2]);
  expect(placeNow(fitter, 1, moversNow())).toEqual([2, 0, 0]);
});

test("who is driven comes first, and a list of before keeps its length", () => {
  const driven: Acting = { ...carried, bodies: Float32Array.from([...at(5), ...at(6)]) };
  floor.frame = { acting: driven, riding: [carried] };
  expect(placeNow(fitter, 0, moversNow())).toEqual([6, 0, 0]);
  const short = new Float32Array(14);
  posesAt(played, 0, moversNow(), short);
  expect([...short]).toEqual(Array<number>(14).fill(-1));
  floor.frame = null;
  expect(moversNow()).toEqual([]);
});
