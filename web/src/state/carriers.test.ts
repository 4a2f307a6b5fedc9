import { expect, test } from "vitest";
import type { Document } from "../generated/types";
import { carrierKey, ofMachines, ofPieces, ridersOf } from "./carriers";

const on = (id: number, move: number | null = null) => ({ by: "setup", id, move }) as const;

const document = {
  setups: [
    { id: 1, letter: "A", binned: false },
    { id: 2, letter: "B", binned: false },
    { id: 3, letter: "C", binned: true },
  ],
  moves: [
    {
      id: 9,
      setup_id: 2,
      binned: false,
      chosen: true,
      name: "push",
      source: { kind: "curves" },
      treatments: [],
    },
  ],
  takes: [],
  scene: {
    performance: 1,
    length_s: 8,
    performers: [
      { name: "fitter", parts: [{ performance: 2, rides: on(1) }] },
      { name: "conductor", parts: [{ performance: 1, rides: on(1) }] },
    ],
    pieces: [
      { id: 4, name: "chair", rides: on(1, 9) },
      { id: 5, name: "table" },
    ],
  },
} as unknown as Document;

test("machines carry as they go, or as one of their moves does; that of a setup may be left out", () => {
  const words = (but?: number) => ofMachines(document, but).map(([, word]) => word);
  expect(words()).toEqual(["machine A", "machine B", "machine B, push"]);
  expect(words(2)).toEqual(["machine A"]);
});

test("every carrier has a word of its own", () => {
  const all = [...ofPieces(document.scene.pieces), ...ofMachines(document)].map(([c]) => carrierKey(c));
  expect(new Set([...all, carrierKey(null)]).size).toBe(6);
  expect(carrierKey(undefined)).toBe(carrierKey(null));
});

test("a machine names who stands on it in the performance that plays", () => {
  expect(ridersOf(document, 1)).toEqual(["conductor", "chair"]);
  expect(ridersOf(document, 2)).toEqual([]);
});
