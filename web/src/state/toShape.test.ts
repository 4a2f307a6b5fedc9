import { expect, test } from "vitest";
import type { Document } from "../generated/types";
import { moveToShape } from "./looked";

const take = (id: number, more: object = {}) => ({
  id,
  number: id,
  setup_id: 1,
  length_s: 5,
  rating: "none",
  ...more,
});
const move = (id: number, of: number) => ({
  id,
  setup_id: 1,
  chosen: true,
  source: { kind: "take", take: of },
});

/** Three takes of setup 1 and their moves; the first is good. */
const document = (more: object[] = []) =>
  ({
    setups: [{ id: 1, letter: "A" }],
    takes: [take(1, { rating: "good" }), take(2), take(3), ...more],
    moves: [move(11, 1), move(12, 2), move(13, 3), move(14, 4)],
    scene: { length_s: 20 },
  }) as unknown as Document;

test("what was just rolled is shaped; what was looked at before goes on", () => {
  expect(moveToShape(document(), null, 2)).toBe(13);
  expect(moveToShape(document(), 12, 3)).toBe(12);
  expect(moveToShape(document(), 12, 2)).toBe(13);
});

test("without news it is the good take; what still rolls, is binned or a pass is no news", () => {
  expect(moveToShape(document(), null, 3)).toBe(11);
  for (const more of [{ rolling: true }, { binned: true }, { pass: { take: 1 } }])
    expect(moveToShape(document([take(4, more)]), null, 3)).toBe(11);
  expect(moveToShape({ ...document(), takes: [], moves: [] }, null, 0)).toBeNull();
});
