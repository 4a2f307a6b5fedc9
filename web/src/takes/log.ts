import type { Document, Rating, SetupId, ShakeView, Take } from "../generated/types";
import { ink } from "../theme";

export const ratings = ["good", "hold", "no"] as const satisfies Rating[];
export const ratingInk: Record<Rating, string> = {
  none: ink.chalkDim,
  good: ink.within,
  hold: ink.near,
  no: ink.beyond,
};

export type Column =
  "number" | "setup" | "name" | "rating" | "length" | "shake" | "turn" | "device" | "rolled";
export interface Sorting {
  by: Column;
  down: boolean;
}

/** Search in the log. */
export interface Wanted {
  text: string;
  rating: Rating | "any";
  setup: SetupId;
  binned: boolean;
}

/** Driver of a take: a device, or hands by wheel. Who had a wheel first is named; who took over, after it. */
export function drivenBy({ rolled }: Pick<Take, "rolled">): string {
  if (rolled.device !== null) return rolled.device;
  const { hands } = rolled;
  const had = (wheel: string) => hands.filter((h) => h.wheel === wheel).map((h) => h.by || "nobody");
  const wheels = [...new Set(hands.map((h) => h.wheel))];
  const told = wheels.map((wheel) => [wheel, had(wheel).join(", then ")] as const);
  const names = new Set(told.map(([, who]) => who));
  if (names.size === 0) return "hands";
  if (names.size === 1) return [...names][0]!;
  return told.map(([wheel, who]) => `${wheel}: ${who}`).join(" · ");
}

/** Remarks on a take: its end, and changes since. */
export function tellsOf(take: Take): string[] {
  return [
    ...(take.recovered ? ["recovered after a restart"] : []),
    ...take.flags,
    ...(take.changed.length ? [`performance changed since: ${take.changed.join(", ")}`] : []),
    ...(take.rolled.clock !== null && take.rolled.clock < 1 ? [`rolled at ${take.rolled.clock}×`] : []),
  ];
}

/** True if a take matches a search; every word must be somewhere. Passes stand below theirs. */
export function wanted(take: Take, document: Document, want: Wanted): boolean {
  if (take.pass || take.binned !== want.binned) return false;
  if (want.rating !== "any" && take.rating !== want.rating) return false;
  if (want.setup && take.setup_id !== want.setup) return false;
  const setup = document.setups.find((s) => s.id === take.setup_id);
  const text = [
    String(take.number),
    take.name,
    take.note,
    drivenBy(take),
    setup?.name ?? "",
    ...tellsOf(take),
  ]
    .join(" ")
    .toLowerCase();
  return want.text
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}

const rank: Record<Rating, number> = { good: 3, hold: 2, none: 1, no: 0 };

/** Takes in order of a column; equal ones by number. What is not known comes last either way. */
export function sorted(
  takes: Take[],
  document: Document,
  shakes: ShakeView[],
  { by, down }: Sorting,
): Take[] {
  const shake = (t: Take) => shakes.find((s) => s.id === t.id);
  const value = (t: Take): number | string | null => {
    switch (by) {
      case "number":
        return t.number;
      case "setup":
        return document.setups.findIndex((s) => s.id === t.setup_id);
      case "name":
        return t.name.toLowerCase();
      case "rating":
        return rank[t.rating];
      case "length":
        return t.length_s;
      case "shake":
        return shake(t)?.position_cm ?? null;
      case "turn":
        return shake(t)?.rotation_deg ?? null;
      case "device":
        return drivenBy(t);
      case "rolled":
        return t.rolled_at;
    }
  };
  const sign = down ? -1 : 1;
  return takes.toSorted((a, b) => {
    const [x, y] = [value(a), value(b)];
    if (x === null || y === null) return Number(x === null) - Number(y === null);
    if (x === y) return (a.number - b.number) * sign;
    return (x < y ? -1 : 1) * sign;
  });
}
