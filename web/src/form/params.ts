import type { Case, Param } from "../generated/types";
import { keyAt } from "./course";

/** Values of described parameters, as they stand in the JSON of the thing they belong to. */
export type Fields = Record<string, unknown>;

/** Value at a path of tokens with slashes; undefined where nothing is. */
export const valueOf = (fields: unknown, path: string): unknown =>
  path.split("/").reduce<unknown>((part, token) => (part as Fields | null | undefined)?.[token], fields);

/** Fields with another value at a path. */
export function withValue<T>(fields: T, path: string, value: unknown): T {
  const [first, ...rest] = path.split("/");
  const inner =
    rest.length === 0 ? value : withValue((fields as Fields)[first!] as Fields, rest.join("/"), value);
  if (Array.isArray(fields)) return fields.map((v: unknown, i) => (i === Number(first) ? inner : v)) as T;
  return { ...fields, [first!]: inner };
}

/** Default values of parameters. */
export function startOf(params: Param[]): Fields {
  const all = params.flatMap((p) => (p.holds.kind === "row" ? p.holds.params : [p]));
  return all.reduce<Fields>(
    (fields, p) => withNew(fields, p.path, p.absent === null ? startOfOne(p) : null) as Fields,
    {},
  );
}

/** Fields with a value at a path that need not be there yet: numbers in it make lists. */
function withNew(fields: unknown, path: string, value: unknown): unknown {
  const [first, ...rest] = path.split("/");
  const put = (inner: unknown) => (rest.length === 0 ? value : withNew(inner, rest.join("/"), value));
  if (/^\d+$/.test(first!)) {
    const list = Array.isArray(fields) ? [...(fields as unknown[])] : [];
    list[Number(first)] = put(list[Number(first)]);
    return list;
  }
  return { ...(fields as Fields), [first!]: put((fields as Fields | undefined)?.[first!]) };
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
    case "curve":
      return holds.start.map(([time_s, value]) => keyAt(time_s, value));
    case "list":
      return holds.none === null ? [startOf(holds.params)] : [];
    default:
      return null;
  }
}

/** A way of several, as it is to begin with. */
export const startOfCase = (tag: string | null, { name, params }: Case): Fields => ({
  ...(tag === null ? {} : { [tag]: name }),
  ...startOf(params),
});

/** The fields that say when something happens or begins. */
const whens = ["at_s", "from_s"];
const whenOf = (fields: Fields) => whens.find((name) => typeof fields[name] === "number");

/** Nearer than this, seconds, two would be at one time. */
const APART_S = 0.02;

/**
 * Several with one more. What happens at a time happens now, or a while after the last where there is
 * one already; they stay in order.
 */
export function withAnother(several: Fields[], params: Param[], now: number | null): Fields[] {
  const last = several.at(-1);
  const one = { ...startOf(params), ...(last && !("at_s" in last) ? last : {}) };
  const when = whenOf(one);
  if (when === undefined) return [...several, one];
  const time = (fields: Fields) => Number(fields[when]);
  const later = (last ? time(last) : 0) + Number(last?.over_s ?? 0) + 1;
  const free = now !== null && several.every((s) => Math.abs(time(s) - now) > APART_S);
  const next = { ...one, [when]: free || !last ? (now ?? 0) : later };
  return [...several, next].toSorted((a, b) => time(a) - time(b));
}

/** A thing to be added: what happens at a time in it happens now. */
export function happening<T>(value: T, now: number): T {
  if (Array.isArray(value)) return value.map((v: unknown) => happening(v, now)) as T;
  if (typeof value !== "object" || value === null) return value;
  const entries = Object.entries(value).map(([k, v]) => [
    k,
    k === "at_s" ? now : happening(v as unknown, now),
  ]);
  return Object.fromEntries(entries) as T;
}

/** Alternative that a value is of; undefined for none. */
export function caseOf(tag: string | null, cases: Case[], value: unknown): Case | undefined {
  if (typeof value !== "object" || value === null) return undefined;
  const fields = value as Fields;
  return cases.find((c) => (tag === null ? c.params.some((p) => p.path in fields) : fields[tag] === c.name));
}

/** The name under which values are usual; undefined for values of one's own. */
export const presetOf = (presets: Param["presets"], fields: Fields) =>
  presets.find((p) => p.sets.every(([path, v]) => valueOf(fields, path) === v))?.word;

/** Summary of a folded thing in a few words: its numbers and alternatives. */
export function summaryOf(params: Param[], fields: Fields): string {
  const words = params.flatMap((p): string[] => {
    const value = p.path ? valueOf(fields, p.path) : fields;
    switch (p.holds.kind) {
      case "number":
        // A part of something without a unit says nothing by itself.
        return typeof value === "number" && (p.unit || !p.of) ? [withUnit(value, p.unit)] : [];
      case "choice":
        return [p.holds.options.find(([name]) => name === value)?.[1] ?? ""];
      case "switch":
        return value ? [p.label] : [];
      case "row":
        return [summaryOf(p.holds.params, fields)];
      case "list":
        return [severalOf(p.holds.params, value as Fields[])];
      case "variant": {
        const way = caseOf(p.holds.tag, p.holds.cases, value);
        return way ? [summaryOf(way.params, value as Fields)] : [];
      }
      default:
        return [];
    }
  });
  return words.filter((word) => word !== "").join(" · ");
}

/** Several in a few words: which way the only one goes, or how many there are. */
function severalOf(params: Param[], several: Fields[]): string {
  const ways = params.flatMap(({ path, holds }) =>
    holds.kind === "variant" ? [caseOf(holds.tag, holds.cases, valueOf(several[0], path))?.label ?? ""] : [],
  );
  return several.length > 1 ? `${several.length}` : ways.join(" · ");
}

/** A number with no more digits than it needs. */
const withUnit = (value: number, unit: string) =>
  `${Number(value.toFixed(2))}${unit && unit !== "°" ? " " : ""}${unit}`;

/** Accessible name of a field: "Start x", "Lowest boom". */
export const nameOf = ({ of, label }: Param) => (of ? `${of} ${label}` : label);

/** Place of a slider, 0 to 1; through the logarithm for a number that spans orders of magnitude. */
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

/** A number some steps on, within its bounds; where it is shown by its order, a step is a part of it. */
export function stepped(value: number, steps: number, holds: Param["holds"]): number {
  if (holds.kind !== "number") return value;
  const { min, max, step, whole, log } = holds;
  const by = whole ? Math.max(1, Math.round(step)) : step;
  const next = log && !whole ? value * 1.05 ** steps : value + by * steps;
  return Math.min(max, Math.max(min, whole ? Math.round(next) : Number(next.toPrecision(6))));
}
