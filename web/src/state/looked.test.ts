import { expect, test } from "vitest";
import type { Document, Move } from "../generated/types";
import { asLong, chosenOf, lookable, lookedOf, siblings, type Looked } from "./looked";

const move = (id: number, part: Partial<Move>) =>
  ({
    id,
    setup_id: 1,
    name: "",
    source: { kind: "curves" },
    variant_of: null,
    chosen: true,
    curves: {},
    treatments: [],
    camera: null,
    rig: null,
    binned: false,
    ...part,
  }) as Move;
const take = (id: number, part = {}) => ({
  id,
  number: id + 10,
  name: "",
  setup_id: 1,
  length_s: 4,
  camera: "take's",
  rig: "take's",
  pass: null,
  rolling: false,
  binned: false,
  ...part,
});
const document = (moves: Move[]) =>
  ({
    scene: { length_s: 30 },
    setups: [{ id: 1, letter: "A", camera: "setup's", rig: "setup's" }],
    takes: [take(1, { name: "slow" }), take(2, { rolling: true }), take(3, { binned: true })],
    moves,
  }) as unknown as Document;
const of = (take: number): Partial<Move> => ({ source: { kind: "take", take } });

test("a recorded move is as long as its take and has its camera, unless it has its own", () => {
  const doc = document([move(5, of(1)), move(6, { ...of(1), camera: "own" as never, chosen: false })]);
  expect(lookedOf(doc, 5)).toMatchObject({ title: "take 11", name: "slow", length_s: 4, camera: "take's" });
  expect(lookedOf(doc, 6)).toMatchObject({ camera: "own", rig: "take's" });
  expect(chosenOf(doc, 1)?.id).toBe(5);
});

test("a keyed move is as long as the scene, one that follows as long as what it follows", () => {
  const doc = document([
    move(5, of(1)),
    move(7, { name: "arc" }),
    move(8, { source: { kind: "follow", move: 5 } }),
    move(9, { source: { kind: "follow", move: 99 } }),
  ]);
  expect(lookedOf(doc, 7)).toMatchObject({
    title: "keys of setup A",
    name: "arc",
    length_s: 30,
    take: null,
    camera: "setup's",
  });
  expect(lookedOf(doc, 8)).toMatchObject({ title: "setup A, following", length_s: 4 });
  expect(lookedOf(doc, 9)?.length_s).toBe(0);
});

test("what rolls, is binned or gone is not looked at", () => {
  const doc = document([move(5, of(2)), move(6, of(3)), move(7, { binned: true }), move(8, of(1))]);
  expect([5, 6, 7, 77, null].map((id) => lookedOf(doc, id))).toEqual([null, null, null, null, null]);
  expect(lookable(doc).map((l) => l.move.id)).toEqual([8]);
});

test("variants are those of the same take, or of the same first", () => {
  const doc = document([
    move(5, of(1)),
    move(6, { ...of(1), variant_of: 5, chosen: false }),
    move(7, {}),
    move(8, { variant_of: 7, chosen: false }),
    move(9, { variant_of: 7, binned: true }),
    move(10, {}),
  ]);
  const ids = (id: number) =>
    siblings(
      doc,
      doc.moves.find((m) => m.id === id)!,
    ).map((m) => m.id);
  expect([ids(6), ids(8), ids(10)]).toEqual([[5, 6], [7, 8], [10]]);
  expect(lookable(doc).map((l) => l.move.id)).toEqual([5, 7, 10]);
});

test("a retimed move is as long as its frames; one that is not keeps what it comes from", () => {
  const looked = { length_s: 8.03 } as Looked;
  expect(asLong(looked, [0, 8], 24)).toBe(looked);
  expect(asLong(looked, [2, 8], 24)).toMatchObject({ begins_s: 2, length_s: 8.03 });
  expect(asLong(looked, undefined, 24)).toBe(looked);
  expect(asLong(looked, [0, 10.5], 24)!.length_s).toBe(10.5);
});
