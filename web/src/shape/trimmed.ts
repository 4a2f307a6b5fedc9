import type { Trim } from "../generated/types";

const hundredths = (seconds: number) => Math.max(0, Math.round(seconds * 100) / 100);

/** A trim that takes off what of a move, as that trim leaves it, lies outside of in and out. */
export function trimmedTo(
  trim: Trim,
  move: { begins_s: number; length_s: number },
  inS: number | null,
  outS: number | null,
): Trim {
  return {
    start_s: hundredths(trim.start_s + (inS ?? move.begins_s) - move.begins_s),
    end_s: hundredths(trim.end_s + move.length_s - (outS ?? move.length_s)),
  };
}
