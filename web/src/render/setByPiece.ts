import type { PerformanceId, PieceId, PiecePlan, PieceView, SetByPiece, SolidView } from "../generated/types";

/** The set as it is drawn. */
export interface SetView extends Omit<SetByPiece, "pieces" | "plan"> {
  /** Everything solid, the stage's floor first. */
  solids: SolidView[];
  /** Pieces on the plan, from the lowest to the topmost. */
  plan: PiecePlan[];
}

type Ask = (known: Record<PieceId, string>) => Promise<SetByPiece>;
type Whole = PieceView & { drawn: NonNullable<PieceView["drawn"]> };

/** Pieces of the sets that were drawn last, so that only what is drawn otherwise is sent: by performance. */
const kept = new Map<PerformanceId, Map<PieceId, Whole>>();
/** Performances whose pieces are kept: to and fro between a few of them is usual. */
const KEPT = 4;

/** The set of a performance, put together from what came before and what has changed. */
export async function setView(performance: PerformanceId, ask: Ask): Promise<SetView> {
  const had = kept.get(performance) ?? new Map<PieceId, Whole>();
  const known = Object.fromEntries([...had].map(([piece, { version }]) => [piece, version]));
  const { pieces, plan, ...rest } = await ask(known);
  const now = new Map(
    pieces.map((piece) => [piece.piece, piece.drawn ? (piece as Whole) : had.get(piece.piece)!]),
  );
  kept.delete(performance);
  kept.set(performance, now);
  for (const old of [...kept.keys()].slice(0, -KEPT)) kept.delete(old);
  return {
    ...rest,
    solids: [...now.values()].flatMap((piece) => piece.drawn.solids),
    plan: plan.flatMap((piece) => now.get(piece)?.drawn.plan ?? []),
  };
}
