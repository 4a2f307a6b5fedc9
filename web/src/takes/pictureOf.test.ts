import { expect, it } from "vitest";
import type { Document, Take } from "../generated/types";
import { madeOf } from "./pictureOf";

const take = { id: 1, samples: 240, pass: null, rolling: false, binned: false } as unknown as Take;
const move = {
  id: 7,
  chosen: true,
  binned: false,
  source: { kind: "take", take: 1 },
  treatments: [],
  camera: null,
};
const document = (takes: unknown[], treatments: unknown[] = []) =>
  ({ takes, moves: [{ ...move, treatments }] }) as unknown as Document;

it("changes with the treatments and the passes that count, and with nothing else", () => {
  const pass = { id: 2, samples: 240, pass: { take: 1, muted: false }, rolling: false, binned: false };
  const plain = madeOf(document([take]), take);
  expect(madeOf(document([{ ...take, name: "another", rating: "good" }]), take)).toBe(plain);
  const others = [
    madeOf(document([take], [{ id: 1, kind: "smooth" }]), take),
    madeOf(document([take, pass]), take),
  ];
  expect(new Set([plain, ...others]).size).toBe(3);
  expect(madeOf(document([take, { ...pass, pass: { take: 1, muted: true } }]), take)).toBe(plain);
});
