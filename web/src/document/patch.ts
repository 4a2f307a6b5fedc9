import { LISTS } from "../generated/constants";
import type { Document, Op } from "../generated/types";

/**
 * Edits as operations by path (see `docs/wire.md`): what differs between two values as operations,
 * and operations done on the document that the page shows. In a list of things a token is the
 * thing's own number; a new one is called `new:1` until the server has named it, and has a number
 * below zero here.
 */

type Json = unknown;
type Fields = Record<string, Json>;

/** Fields that identify members of a list; the first one that members have counts. */
const NAMES = ["id", "performance", "number"] as const;
/** Fields that say which of several kinds a value is: of another kind it is replaced whole. */
const TAGS = ["kind", "motion", "piece", "by", "side"] as const;

let made = 0;
/** A number for something new, until the server gives it its own. */
export const newId = () => -++made;

export const isNew = (id: number) => id < 0;
/** A thing's number as a token of a path. */
export const token = (id: number) => (isNew(id) ? `new:${-id}` : `${id}`);
const idOf = (name: string) => (name.startsWith("new:") ? -Number(name.slice(4)) : Number(name));

const isFields = (v: Json): v is Fields => typeof v === "object" && v !== null && !Array.isArray(v);
const escaped = (key: string) => key.replaceAll("~", "~0").replaceAll("/", "~1");
export const tokens = (path: string) =>
  path
    .slice(1)
    .split("/")
    .map((t) => t.replaceAll("~1", "/").replaceAll("~0", "~"));

/** Field that identifies the members of a list; undefined for a vector. */
function nameOf(...lists: Json[][]): string | undefined {
  const members = lists.flat();
  if (members.length === 0) return undefined;
  return NAMES.find((name) => members.every((m) => isFields(m) && typeof m[name] === "number"));
}

export function same(a: Json, b: Json): boolean {
  if (a === b) return true;
  if (Array.isArray(a) && Array.isArray(b)) return a.length === b.length && a.every((v, i) => same(v, b[i]));
  if (!isFields(a) || !isFields(b)) return (a ?? null) === (b ?? null);
  return [...new Set([...Object.keys(a), ...Object.keys(b)])].every((k) => same(a[k], b[k]));
}

/** A value to be sent: what is new has no number yet. */
export function plain(value: Json): Json {
  if (Array.isArray(value)) return value.map(plain);
  if (!isFields(value)) return value;
  const kept = Object.entries(value).filter(([k, v]) => v !== undefined && !(k === "id" && Number(v) <= 0));
  return Object.fromEntries(kept.map(([k, v]) => [k, plain(v)]));
}

/** The operations that make one value at a path into another. */
export function diff(path: string, before: Json, after: Json): Op[] {
  if (same(before, after)) return [];
  if (Array.isArray(before) && Array.isArray(after)) return diffLists(path, before, after);
  if (isFields(before) && isFields(after)) {
    if (TAGS.some((tag) => before[tag] !== after[tag])) return [{ op: "replace", path, value: plain(after) }];
    return [...new Set([...Object.keys(before), ...Object.keys(after)])].flatMap((key): Op[] => {
      const [a, b, inner] = [before[key], after[key], `${path}/${escaped(key)}`];
      if (b === undefined) return a === undefined ? [] : [{ op: "remove", path: inner }];
      if (a === undefined) return [{ op: "add", path: inner, value: plain(b) }];
      return diff(inner, a, b);
    });
  }
  return [{ op: "replace", path, value: plain(after) }];
}

function diffLists(path: string, before: Json[], after: Json[]): Op[] {
  const name = nameOf(before, after);
  if (name === undefined) {
    const numbers = [...before, ...after].every((v) => typeof v !== "object");
    if (!numbers || before.length !== after.length) return [{ op: "replace", path, value: plain(after) }];
    return after.flatMap((v, i): Op[] =>
      v === before[i] ? [] : [{ op: "replace", path: `${path}/${i}`, value: v }],
    );
  }
  const idIn = (m: Json) => (m as Fields)[name] as number;
  const old = new Map(before.map((m) => [idIn(m), m]));
  const kept = new Set(after.map(idIn));
  const ops: Op[] = before
    .filter((m) => !kept.has(idIn(m)))
    .map((m) => ({ op: "remove", path: `${path}/${token(idIn(m))}` }));
  // From the end on, so that what a member comes before stands there already.
  let order = before.map(idIn).filter((id) => kept.has(id));
  for (let i = after.length - 1; i >= 0; i--) {
    const id = idIn(after[i]);
    const next = i + 1 < after.length ? idIn(after[i + 1]) : undefined;
    const before = next === undefined ? {} : { before: token(next) };
    const place = `${path}/${token(id)}`;
    if (!old.has(id)) ops.push({ op: "add", path: place, value: plain(after[i]), ...before });
    else {
      const at = order.indexOf(id);
      if (order[at + 1] !== next) ops.push({ op: "move", path: place, ...before });
      ops.push(...diff(place, old.get(id), after[i]));
    }
    order = order.filter((other) => other !== id);
    order.splice(next === undefined ? order.length : order.indexOf(next), 0, id);
  }
  return ops;
}

/** A value after an operation at some tokens within it. What is not there stays as it is. */
function done(value: Json, [first, ...rest]: string[], op: Op): Json {
  if (Array.isArray(value)) {
    const name = nameOf(value) ?? (op.op === "add" && value.length === 0 ? "id" : undefined);
    if (name === undefined) {
      const place = Number(first);
      if (!(place < value.length)) return value;
      if (rest.length > 0) return value.with(place, done(value[place], rest, op));
      return op.op === "replace" ? value.with(place, op.value) : value;
    }
    const find = (t: string) => value.findIndex((m) => (m as Fields)[name] === idOf(t));
    const place = find(first!);
    if (rest.length > 0) return place < 0 ? value : value.with(place, done(value[place], rest, op));
    return inList(value, name, place, find, op);
  }
  if (!isFields(value)) return value;
  if (rest.length > 0) return { ...value, [first!]: done(value[first!], rest, op) };
  if (op.op === "remove") return Object.fromEntries(Object.entries(value).filter(([key]) => key !== first));
  return op.op === "add" || op.op === "replace" ? { ...value, [first!]: op.value } : value;
}

function inList(list: Json[], name: string, place: number, find: (t: string) => number, op: Op): Json[] {
  const into = (others: Json[], member: Json, before: string | undefined) => {
    const next = before === undefined ? undefined : list[find(before)];
    const at = next === undefined ? others.length : others.indexOf(next);
    return others.toSpliced(at, 0, member);
  };
  switch (op.op) {
    case "add": {
      if (place >= 0) return list;
      const member = {
        ...(op.value as Fields),
        ...(name === "id" ? { id: idOf(tokens(op.path).at(-1)!) } : {}),
      };
      return into(list, member, op.before);
    }
    case "remove":
      return place < 0 ? list : list.toSpliced(place, 1);
    case "replace":
      return place < 0
        ? list
        : list.with(place, { ...(op.value as Fields), [name]: (list[place] as Fields)[name] });
    case "move":
      return place < 0 ? list : into(list.toSpliced(place, 1), list[place], op.before);
    default:
      return list;
  }
}

const isList = (root: string): root is keyof typeof LISTS => root in LISTS;
/** True for things that stay in their list when they go into the bin. */
const staysInBin = (root: string) => root === "scenes" || (isList(root) && LISTS[root].keepsBinned);

/** The tokens of a path, from the root of the document that the page holds. */
function inDocument(document: Document, path: string): string[] {
  const [root, ...rest] = tokens(path);
  if (root === "production") return rest[0] === "name" ? ["production"] : rest;
  // All scenes are listed; the one on the floor is there as a whole.
  if (root === "scenes") {
    const here = rest[0] === `${document.scene.id}` && rest.length > 1;
    return here ? ["scene", ...rest.slice(1)] : ["scenes", ...rest];
  }
  return [...(isList(root!) && LISTS[root].of === "scene" ? ["scene"] : []), root!, ...rest];
}

/**
 * The document as it will be after an operation, as far as the page can know: a new piece or setup
 * is shown when the server has made it.
 */
export function apply(document: Document, op: Op): Document {
  const all = tokens(op.path);
  const whole = all.length === 2 && (all[0] === "scenes" || isList(all[0]!));
  if (whole && op.op === "add") return document;
  // What goes into the bin stays in its list.
  if (whole && op.op === "remove" && staysInBin(all[0]!))
    return apply(document, { op: "replace", path: `${op.path}/binned`, value: true });
  const after = done(document, inDocument(document, op.path), op) as Document;
  const [root, ...rest] = all;
  const line = root === "scenes" && after.scenes.find((s) => rest[0] === `${s.id}`);
  // What the list says of the scene on the floor changes with it.
  return line && rest.length > 1 && rest[1]! in line ? (done(after, all, op) as Document) : after;
}

/** Value at a path of the document. */
export function at(document: Document, path: string): unknown {
  return inDocument(document, path).reduce<Json>((value, t) => {
    if (!Array.isArray(value)) return isFields(value) ? value[t] : undefined;
    const name = nameOf(value);
    return name ? value.find((m) => (m as Fields)[name] === idOf(t)) : value[Number(t)];
  }, document);
}

/** An operation with the numbers that new things were given. */
export function renamed(op: Op, names: ReadonlyMap<string, number>): Op {
  const name = (t: string) => `${names.get(t) ?? t}`;
  const path = op.path.split("/").map(name).join("/");
  return "before" in op && op.before !== undefined
    ? { ...op, path, before: name(op.before) }
    : { ...op, path };
}

/** Operations of one gesture together: a value that is replaced again is replaced once. */
export function merged(earlier: Op[], later: Op[]): Op[] {
  return later.reduce((ops, op) => {
    const place = op.op === "replace" ? ops.findIndex((o) => o.op === "replace" && o.path === op.path) : -1;
    // Only where nothing in between depends on the order.
    const still = place >= 0 && ops.slice(place + 1).every((o) => o.op === "replace");
    return still ? ops.with(place, op) : [...ops, op];
  }, earlier);
}
