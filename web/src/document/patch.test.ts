import { describe, expect, it } from "vitest";
import type { Document, Op } from "../generated/types";
import { apply, at, diff, merged, newId, plain, renamed, token } from "./patch";

const way = (...xs: [number, number][]) => xs.map(([id, x]) => ({ id, x, position: [x, 0, 0] }));
const document = (waypoints: unknown[]) =>
  ({
    production: "Last Tram",
    scenes: [],
    scene: {
      id: 1,
      name: "Yard",
      pieces: [],
      performances: [{ id: 1, name: "as written" }],
      performers: [
        { id: 3, name: "conductor", parts: [{ performance: 1, motion: "walks", route: { waypoints } }] },
      ],
    },
    setups: [
      { id: 1, binned: false, rig: { kind: "tripod", base_x_m: 1 } },
      { id: 2, binned: false, rig: { kind: "jib", arm_m: 2 } },
    ],
    takes: [],
    lens_sets: [],
  }) as unknown as Document;
const route = "/performers/3/parts/1/route/waypoints";
const waypoints = (d: Document) => at(d, route) as { id: number; x: number }[];
const after = (d: Document, ops: Op[]) => ops.reduce(apply, d);

describe("what differs", () => {
  it("is named field by field, members by their numbers", () => {
    const before = way([4, 0], [8, 1]);
    const next = [before[0], { ...before[1]!, x: 7, position: [7, 0, 0] }];
    expect(diff(route, before, next)).toEqual([
      { op: "replace", path: `${route}/8/x`, value: 7 },
      { op: "replace", path: `${route}/8/position/0`, value: 7 },
    ]);
  });

  it("is nothing where nothing differs, and a field that comes or goes is added or removed", () => {
    expect(diff("/a", { x: 1, y: undefined }, { x: 1 })).toEqual([]);
    expect(diff("/a", { x: 1, y: null }, { x: 1, z: 2 })).toEqual([
      { op: "remove", path: "/a/y" },
      { op: "add", path: "/a/z", value: 2 },
    ]);
  });

  it("is the whole where a value is of another kind, or a vector of another length", () => {
    const jib = { kind: "jib", arm_m: 2 };
    expect(diff("/setups/1/rig", { kind: "tripod", base_x_m: 1 }, jib)).toEqual([
      { op: "replace", path: "/setups/1/rig", value: jib },
    ]);
    expect(diff("/a", [1, 2], [1, 2, 3])).toEqual([{ op: "replace", path: "/a", value: [1, 2, 3] }]);
    expect(diff("/a", [[1, 2]], [[1, 3]])).toEqual([{ op: "replace", path: "/a", value: [[1, 3]] }]);
  });

  it("makes of any list any other, done on the document", () => {
    let state = 1;
    const random = (n: number) => (state = (state * 48271) % 2147483647) % n;
    for (let round = 0; round < 500; round++) {
      const old = way(...Array.from({ length: random(6) }, (_, i): [number, number] => [i + 1, i]));
      const kept = old.filter(() => random(3) > 0).map((m) => (random(2) ? m : { ...m, x: random(9) }));
      const next = [...kept];
      for (let i = random(3); i > 0; i--)
        next.splice(random(next.length + 1), 0, way([newId(), random(9)])[0]!);
      if (next.length > 1 && random(2)) next.push(next.shift()!);
      const done = after(document(old), diff(route, old, next));
      expect(waypoints(done)).toEqual(next);
    }
  });
});

describe("operations on the document", () => {
  it("reach the production, the scene and its things", () => {
    const d = after(document(way([4, 0])), [
      { op: "replace", path: "/production/name", value: "First Tram" },
      { op: "replace", path: "/scenes/1/name", value: "Hall" },
      { op: "replace", path: "/setups/2/rig/arm_m", value: 3 },
      { op: "remove", path: "/setups/1" },
      { op: "move", path: "/setups/2", before: "1" },
    ]);
    expect([d.production, d.scene.name]).toEqual(["First Tram", "Hall"]);
    expect(d.setups.map((s) => [s.id, s.binned])).toEqual([
      [2, false],
      [1, true],
    ]);
    expect(at(d, "/setups/2/rig/arm_m")).toBe(3);
  });

  it("leave alone what they do not name", () => {
    const d = document(way([4, 0]));
    const next = apply(d, { op: "replace", path: "/setups/2/rig/arm_m", value: 3 });
    expect(next.scene).toBe(d.scene);
    expect(next.setups[0]).toBe(d.setups[0]);
    expect(apply(d, { op: "replace", path: "/performers/9/name", value: "x" })).toEqual(d);
  });

  it("take the numbers that new things were given", () => {
    const id = newId();
    const names = new Map([[token(id), 12]]);
    expect(renamed({ op: "replace", path: `${route}/${token(id)}/x`, value: 1 }, names).path).toBe(
      `${route}/12/x`,
    );
    expect(renamed({ op: "move", path: `${route}/4`, before: token(id) }, names)).toMatchObject({
      before: "12",
    });
    expect(
      plain({
        id: 0,
        name: "a",
        parts: [
          { id, x: 1, y: undefined },
          { id: 4, x: 2 },
        ],
      }),
    ).toEqual({
      name: "a",
      parts: [{ x: 1 }, { id: 4, x: 2 }],
    });
  });

  it("of one gesture are sent once", () => {
    const x = (value: number): Op => ({ op: "replace", path: "/pieces/1/position/0", value });
    const y: Op = { op: "replace", path: "/pieces/1/position/1", value: 5 };
    expect(merged([x(1), y], [x(2)])).toEqual([x(2), y]);
    const add: Op = { op: "add", path: "/pieces/new:1", value: {} };
    expect(merged([x(1), add], [x(2)])).toEqual([x(1), add, x(2)]);
  });
});
