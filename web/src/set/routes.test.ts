import { expect, test } from "vitest";
import type { Performer, Route } from "../generated/types";
import { extended, routeOf, speed, withRoute, withSpeed, withStop } from "./routes";

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
