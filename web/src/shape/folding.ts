import type { Key } from "../move/picked";
import type { AxisView, LaneKind } from "../generated/types";
import { spanOf, type Envelope, type Lanes as Curves } from "../moves";

/** Lane on show: its kind, and the index of its curve among those that came. */
export interface Shown extends Omit<LaneKind, "least"> {
  i: number;
  /** End stops; null where there is none. */
  min: number | null;
  max: number | null;
  /** Least range on show, so that a still axis looks still. */
  least: number;
}

export interface Lane extends Shown {
  raw: Envelope;
  now: Envelope;
  /** Keys that can be taken hold of. */
  keys: Key[];
}

/** The lane of an axis: the place of its curve is that of the axis. */
export const ofAxis = (axis: AxisView, i: number): Shown => ({
  ...axis,
  i,
  from_zero: false,
  least: axis.unit === "m" ? 0.2 : axis.unit === "mm" ? 4 : 2,
});

/** Share of the least range below which an axis stands still. */
const STILL = 1e-3;

/** The names of the lanes in which something moves. */
export function movingOf(all: Shown[], curves: Curves): string[] {
  const still = ({ i, least }: Shown) => {
    const [low, high] = spanOf([curves.raw[i]!, curves.now[i]!]);
    return high - low < STILL * least;
  };
  return all.filter((lane) => !still(lane)).map((lane) => lane.name);
}

/**
 * Lanes that are drawn, and those that are folded to their names: by hand, or because nothing moves in
 * them. Where nothing moves at all, all are drawn.
 */
export function folding(all: Shown[], moving: string[], turned: Record<string, boolean>) {
  const isFolded = ({ name }: Shown) => turned[name] ?? (moving.length > 0 && !moving.includes(name));
  return { drawn: all.filter((l) => !isFolded(l)), folded: all.filter(isFolded) };
}
