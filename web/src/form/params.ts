import type { Case, Param } from "../generated/types";

/** Values of described parameters, as they stand in the JSON of the thing they belong to. */
export type Fields = Record<string, unknown>;

/** What parameters are to begin with. */
export function startOf(params: Param[]): Fields {
  return Object.fromEntries(params.map((p) => [p.path, p.optional ? null : startOfOne(p)]));
}

function startOfOne({ holds }: Param): unknown {
  switch (holds.kind) {
    case "number":
      return holds.start;
    case "choice":
      return holds.options[0]?.[0] ?? "";
    case "switch":
      return false;
    case "variant":
      return holds.cases[0] ? startOfCase(holds.tag, holds.cases[0]) : null;
  }
}

/** A way of several, as it is to begin with. */
export const startOfCase = (tag: string | null, { name, params }: Case): Fields => ({
  ...(tag === null ? {} : { [tag]: name }),
  ...startOf(params),
});

/** Which of several ways a value is; undefined for none. */
export function caseOf(tag: string | null, cases: Case[], value: unknown): Case | undefined {
  if (typeof value !== "object" || value === null) return undefined;
  const fields = value as Fields;
  return cases.find((c) => (tag === null ? c.params.some((p) => p.path in fields) : fields[tag] === c.name));
}

/** Where a slider stands, from 0 to 1; through the logarithm where a number spans orders of magnitude. */
export function shareOf(value: number, min: number, max: number, log: boolean): number {
  const at = (v: number) => (log ? Math.log(v) : v);
  const share = (at(Math.max(value, log ? min : -Infinity)) - at(min)) / (at(max) - at(min));
  return Math.min(1, Math.max(0, share));
}

/** The number at a slider's place: whole, or with as many digits as can be told apart. */
export function valueAt(share: number, min: number, max: number, log: boolean, whole: boolean): number {
  const value = log ? min * (max / min) ** share : min + (max - min) * share;
  if (whole) return Math.round(value);
  return log ? Number(value.toPrecision(2)) : Number(value.toFixed(max - min <= 2 ? 2 : 1));
}
