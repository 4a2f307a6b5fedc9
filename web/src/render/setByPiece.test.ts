import { expect, test } from "vitest";
import type { PieceView, SetByPiece } from "../generated/types";
import { setView } from "./setByPiece";

const piece = (id: number, version: string, sent: boolean): PieceView => ({
  piece: id as PieceView["piece"],
  version,
  drawn: sent ? ({ solids: [{ piece: id, name: version }], plan: { piece: id } } as never) : null,
});
const answer = (pieces: PieceView[]) =>
  ({ pieces, plan: pieces.map((p) => p.piece).toReversed(), lights: [] }) as unknown as SetByPiece;

test("a piece that the page has is not sent again, and stands where it stood", async () => {
  const asked: Record<number, string>[] = [];
  const ask = (pieces: PieceView[]) => (known: Record<number, string>) => {
    asked.push(known);
    return Promise.resolve(answer(pieces));
  };
  await setView(1 as never, ask([piece(0, "a", true), piece(1, "b", true), piece(2, "c", true)]));
  const now = await setView(1 as never, ask([piece(0, "a", false), piece(2, "d", true)]));
  expect(asked).toEqual([{}, { 0: "a", 1: "b", 2: "c" }]);
  expect(now.solids.map((s) => s.name)).toEqual(["a", "d"]);
  expect(now.plan.map((p) => p.piece)).toEqual([2, 0]);
  // Another performance has pieces of its own.
  await setView(2 as never, ask([piece(0, "a", true)]));
  expect(asked[2]).toEqual({});
});

test("two questions at once are each put together with the pieces that they named, whichever is answered first", async () => {
  const performance = 7 as never;
  await setView(performance, () => Promise.resolve(answer([piece(1, "a", true), piece(2, "b", true)])));
  const answers: ((said: SetByPiece) => void)[] = [];
  const later = () => new Promise<SetByPiece>((resolve) => answers.push(resolve));
  const [older, newer] = [setView(performance, later), setView(performance, later)];
  // The newer one is without piece 2, which the older one still has and does not send again.
  answers[1]!(answer([piece(1, "c", true)]));
  expect((await newer).solids.map((s) => s.name)).toEqual(["c"]);
  answers[0]!(answer([piece(1, "a", false), piece(2, "b", false)]));
  expect((await older).solids.map((s) => s.name)).toEqual(["a", "b"]);
});
