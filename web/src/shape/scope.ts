import type { Scope } from "../generated/types";

/** Where and how much a treatment works, in a few words; of axes, where it works on them. */
export function scopeWords(scope: Scope, share: number | null, ofAxes = true): string {
  const axes = !ofAxes
    ? ""
    : scope.axes
      ? scope.axes.length
        ? scope.axes.join(", ")
        : "no axis"
      : "every axis";
  const time = scope.range ? `${scope.range.from_s.toFixed(1)}–${scope.range.to_s.toFixed(1)} s` : "always";
  const strength = share === null ? "strength over time" : share === 1 ? "" : `${Math.round(100 * share)} %`;
  return [axes, time, strength].filter(Boolean).join(" · ");
}

/** An axis comes into the scope or leaves it; all of them are said by saying none. */
export function withAxis(scope: Scope, all: string[], name: string): Scope {
  const now = scope.axes ?? all;
  const next = now.includes(name)
    ? now.filter((a) => a !== name)
    : all.filter((a) => a === name || now.includes(a));
  const { range } = scope;
  return { ...(range ? { range } : {}), ...(next.length === all.length ? {} : { axes: next }) };
}

/** The stretch from in to out with soft edges that fit into it; two seconds where they are not set. */
export function rangeOf(inS: number | null, outS: number | null): NonNullable<Scope["range"]> {
  const from_s = inS ?? 0;
  const to_s = outS !== null && outS - from_s >= 0.2 ? outS : from_s + 2;
  const edge = Math.max(0.05, Math.min(0.5, (to_s - from_s) / 4));
  return { from_s, to_s, ease_in_s: edge, ease_out_s: edge };
}
