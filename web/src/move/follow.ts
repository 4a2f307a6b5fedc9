import type { Gap } from "../generated/types";

/** Stretches of time as frames. */
export const framesOf = (gaps: Gap[], rate: number) =>
  gaps.map(({ from_s, to_s, short_m }) => ({
    from: Math.floor(from_s * rate + 1e-6),
    to: Math.ceil(to_s * rate - 1e-6),
    short_m,
  }));
