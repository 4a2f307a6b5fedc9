import { pieceKinds } from "../generated/pieces";
import { valueOf, withValue } from "../form/params";
import type { Drawing, Extent, Form, Param, Piece, PieceKind, Stage } from "../generated/types";

/** Whole lengths along a piece's own x, y and z; none where a length does not mean anything. */
export type Size = [number, number | null, number];

/** A kind of piece that can be drawn on the plan. */
export type Kind = PieceKind & { drawing: Drawing };

const step = (v: number) => Math.round(v * 1000) / 1000;

/** Every kind that can be drawn, in the order of the palette. */
export const kinds: Kind[] = pieceKinds.filter((kind): kind is Kind => kind.drawing !== null);

export const kindOf = (kind: Form["kind"]) => kinds.find((k) => k.usual.kind === kind);

/** Descriptions of the kinds. */
const described = Object.fromEntries(pieceKinds.map((k) => [k.usual.kind, k])) as Record<
  Form["kind"],
  PieceKind
>;

export const wordOf = (kind: Form["kind"]) => described[kind].word;

/** True for a piece whose depth is dragged on the plan: not drawn as a line, and its depth is one of its numbers. */
export const hasDepth = (kind: Form["kind"]) =>
  !!described[kind].extents[2]?.path && described[kind].drawing?.by !== "line";

/** Height of the foot of a new piece above the floor, metres; what hangs leaves room below a low ceiling. */
export const footOf = ({ drawing }: Kind, stage: Stage) =>
  drawing.hangs_by ? Math.min(drawing.foot_m, Math.max(0.5, stage.height_m - 1.2)) : drawing.foot_m;

/** Form of a new piece; `drawn` is the size on the plan, and missing after a mere click. */
export function newForm(kind: Kind, stage: Stage, drawn: [number, number] | null): Form {
  const { usual, drawing } = kind;
  const [x, y, z] = sizeOf(usual) ?? [1, 1, 1];
  const high = drawing.tall ? stage.height_m : y;
  let form = usual;
  if (drawing.repeats && drawn) {
    const [count, apart] = drawing.repeats;
    form = withValue(form, count, Math.max(1, Math.round(drawn[0] / apart)) + 1);
  }
  if (drawing.hangs_by) {
    const cord = Math.max(0.4, stage.height_m - footOf(kind, stage));
    form = withValue(form, drawing.hangs_by, step(cord));
  }
  const long = drawing.repeats && drawn ? drawn[0] + repeatedWidth(form) : (drawn?.[0] ?? x);
  return withSize(form, [long, high, (drawing.by === "area" && drawn?.[1]) || z]);
}

/** Length that a row of repeats has besides their spacing, metres: a line is drawn from middle to middle. */
const repeatedWidth = (form: Form) => number(form, described[form.kind].extents[0]?.plus_of ?? null);

const number = (form: Form, path: string | null) => (path === null ? 0 : Number(valueOf(form, path)));

/** How often the parameter of an extent counts in a form. */
const factor = (form: Form, { times, each }: Extent) => times * (each ? number(form, each[0]) - each[1] : 1);

const lengthOf = (form: Form, extent: Extent) =>
  number(form, extent.path) * factor(form, extent) + extent.plus + number(form, extent.plus_of);

/** Lengths along a piece's own axes; none where it has none. */
export function sizeOf(form: Form): Size | null {
  const [x, y, z] = described[form.kind].extents;
  return x && z ? [lengthOf(form, x), y && lengthOf(form, y), lengthOf(form, z)] : null;
}

/** Offset of the middle of a piece's size from its foot, along the piece's own z. */
export function middleOf(form: Form): number {
  const { middle_z } = described[form.kind];
  return middle_z ? lengthOf(form, middle_z) : 0;
}

/** Form with other lengths within bounds; of two that share a parameter the greater change counts. */
export function withSize(form: Form, size: Size): Form {
  const changes = described[form.kind].extents.flatMap((extent, k) => {
    const wanted = size[k];
    if (!extent?.path || wanted == null) return [];
    return [{ extent, path: extent.path, wanted, by: Math.abs(wanted - lengthOf(form, extent)) }];
  });
  return changes
    .filter(({ extent, by }) => by > 1e-9 && factor(form, extent) !== 0)
    .toSorted((a, b) => a.by - b.by)
    .reduce((now, { extent, path, wanted }) => {
      const value = (wanted - extent.plus - number(form, extent.plus_of)) / factor(form, extent);
      return withValue(now, path, Math.max(0.001, step(value)));
    }, form);
}

/** Parameters of a kind besides the lengths that its handles change. */
export function settable(form: Form): Param[] {
  const { params, extents } = described[form.kind];
  const plain = new Set(extents.flatMap((e) => (e?.path && !e.each ? [e.path] : [])));
  const hidden = ({ holds }: Param) =>
    holds.kind === "row" && holds.params.every((part) => plain.has(part.path));
  return params.filter((p) => !hidden(p));
}

/** New piece of a form at a place. */
export function newPiece(name: string, form: Form, position: [number, number, number], turn_deg = 0): Piece {
  return { id: 0, name, form, position, turn_deg, group: 0, locked: false, hidden: false, routes: [] };
}
