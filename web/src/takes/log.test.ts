import { expect, it } from "vitest";
import type { Document, Take } from "../generated/types";
import { drivenBy, sorted, tellsOf, wanted } from "./log";

const take = (number: number, more: Partial<Take> = {}) =>
  ({
    id: number,
    setup_id: 1,
    number,
    name: "",
    note: "",
    rating: "none",
    rolled_at: `2026-01-0${number}T10:00:00Z`,
    length_s: number,
    rolled: { performance: 1, movers: {}, clock: 1, device: null, hands: [] },
    changed: [],
    flags: [],
    pass: null,
    binned: false,
    recovered: false,
    ...more,
  }) as Take;
const document = { setups: [{ id: 1, letter: "A", name: "crane at the gate" }] } as Document;
const all = { text: "", rating: "any", setup: 0, binned: false } as const;

it("finds every word anywhere, and takes of a rating, a setup, the bin", () => {
  const t = take(3, { name: "slow push", note: "lamp late", rating: "hold" });
  expect(wanted(t, document, { ...all, text: "lamp PUSH" })).toBe(true);
  expect(wanted(t, document, { ...all, text: "gate" })).toBe(true);
  expect(wanted(t, document, { ...all, text: "lamp quick" })).toBe(false);
  expect(wanted(t, document, { ...all, rating: "good" })).toBe(false);
  expect(wanted(t, document, { ...all, setup: 2 })).toBe(false);
  expect(wanted(t, document, { ...all, binned: true })).toBe(false);
  expect(wanted(take(1, { pass: { take: 3 } as Take["pass"] }), document, all)).toBe(false);
});

it("sorts by any column, and keeps what is not known last both ways", () => {
  const takes = [take(1), take(2, { rating: "good" }), take(3, { rating: "no" })];
  const shakes = [
    { id: 1, position_cm: 0.5, rotation_deg: 1 },
    { id: 3, position_cm: 0.1, rotation_deg: 2 },
  ];
  const by = (column: Parameters<typeof sorted>[3]["by"], down: boolean) =>
    sorted(takes, document, shakes, { by: column, down }).map((t) => t.number);
  expect(by("number", true)).toEqual([3, 2, 1]);
  expect(by("rating", true)).toEqual([2, 1, 3]);
  expect(by("shake", false)).toEqual([3, 1, 2]);
  expect(by("shake", true)).toEqual([1, 3, 2]);
});

it("tells what went wrong and what has changed since", () => {
  const t = take(1, { recovered: true, changed: ["conductor"], flags: ["playback paused for 0.40 s"] });
  expect(tellsOf(t)).toEqual([
    "recovered after a restart",
    "playback paused for 0.40 s",
    "performance changed since: conductor",
  ]);
});

it("says whose hands were on what, and who took over", () => {
  const by = (...hands: [wheel: "machine" | "head" | "lens", by: string][]) =>
    drivenBy({
      rolled: { ...take(1).rolled, hands: hands.map(([wheel, name], i) => ({ wheel, by: name, from_s: i })) },
    });
  expect(by()).toBe("hands");
  expect(by(["machine", "Mira"], ["head", "Mira"], ["lens", "Mira"])).toBe("Mira");
  expect(by(["machine", "Mira"], ["head", "Ines"], ["lens", "Mira"], ["head", "Mira"])).toBe(
    "machine: Mira · head: Ines, then Mira · lens: Mira",
  );
  expect(drivenBy({ rolled: { ...take(1).rolled, device: "wand" } })).toBe("wand");
});
