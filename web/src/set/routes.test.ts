import { expect, test } from "vitest";
import type { Part, Performer, Piece, Route } from "../generated/types";
import { carried, extended, routeOf, speed, withRoute, withSpeed, withStop } from "./routes";

const walk = (): Route => {
  let route: Route = { waypoints: [] };
  for (const x of [0, 2.7, 5.4]) route = extended(route, [x, 0, 0]);
  return route;
};

test("places are reached at a walk, one after the other", () => {
  expect(walk().waypoints.map((w) => w.time_s)).toEqual([0, 2, 4]);
});

test("another speed moves what comes later, and leaves what came before", () => {
  const faster = withSpeed(walk(), 0, 2.7);
  expect(faster.waypoints.map((w) => w.time_s)).toEqual([0, 1, 3]);
  expect(speed(faster.waypoints[0]!, faster.waypoints[1]!)).toBeCloseTo(2.7, 9);
});

test("a stop moves what comes later by its length", () => {
  const stops = withStop(walk(), 1, 1.5);
  expect(stops.waypoints.map((w) => w.time_s)).toEqual([0, 2, 5.5]);
  expect(withStop(stops, 1, 0.5).waypoints[2]!.time_s).toBe(4.5);
});

test("each performance has its own route", () => {
  const somebody: Performer = { id: 1, name: "x", height_m: 1.7, build: 1, parts: [] };
  const both = withRoute(withRoute(somebody, 1, walk()), 2, { waypoints: walk().waypoints.slice(0, 1) });
  expect(routeOf(both, 1)?.waypoints.length).toBe(3);
  expect(routeOf(both, 2)?.waypoints.length).toBe(1);
  expect(routeOf(both, 3)).toBe(null);
});

test("who comes onto a piece, or off it, stays where they are on the set", () => {
  const piece = { id: 4, position: [2, 0.5, 1], turn_deg: 90 } as Piece;
  const place = { id: 1, time_s: 0, stop_s: 0, position: [2, 0.5, 3], facing_deg: 100, posture: "stand" };
  const part = { performance: 1, rides: null, motion: "walks", route: { waypoints: [place] } } as Part;
  const on = carried(part, { by: "piece", id: 4 }, [piece]);
  // Two metres behind its foot as the plan sees it is to the right of a piece that was turned to the right.
  expect(on).toMatchObject({
    rides: { by: "piece", id: 4 },
    route: { waypoints: [{ position: [2, 0, 0], facing_deg: 10 }] },
  });
  const machine = { by: "setup", id: 7, move: null } as const;
  expect(carried(on, machine, [piece])).toEqual({ ...part, rides: machine });
  const captured = {
    performance: 1,
    rides: null,
    motion: "captured",
    position: [2, 0, 3],
    turn_deg: 5,
  } as Part;
  expect(carried(carried(captured, { by: "piece", id: 4 }, [piece]), null, [piece])).toEqual(captured);
});
