import { pieceKinds } from "../generated/pieces";
import { valueOf, withValue } from "../form/params";
import type { Extent, Form, Param, Piece, PieceKind, Stage } from "../generated/types";

/** How a piece is put on the plan: with one click, along a line, or over an area. */
export type Draw = "spot" | "line" | "area";

/** Whole lengths along a piece's own x, y and z; none where a length does not mean anything. */
export type Size = [number, number | null, number];

interface Kind {
  kind: Form["kind"];
  key?: string;
  draw: Draw;
  /** True for a piece as high as the stage. */
  tall?: boolean;
  /** A new one, where it is more than the usual one in the size that was drawn. */
  make?: (stage: Stage, size: [number, number] | null) => Form;
  /** Height of its foot when it is new. */
  foot?: (stage: Stage) => number;
  /** Stands in a wall. */
  inWall?: boolean;
}

const step = (v: number) => Math.round(v * 1000) / 1000;
const underCeiling = (stage: Stage) => Math.min(5, Math.max(0.5, stage.height_m - 1.2));

/** Every kind that can be drawn, in the order of the palette. */
export const kinds: Kind[] = [
  { kind: "wall", key: "W", draw: "line", tall: true },
  { kind: "door", key: "D", draw: "line", inWall: true },
  { kind: "window", key: "N", draw: "line", inWall: true, foot: () => 1 },
  { kind: "opening", key: "U", draw: "line", inWall: true },
  { kind: "block", key: "B", draw: "area" },
  { kind: "round", key: "Y", draw: "area" },
  { kind: "stair", key: "S", draw: "spot" },
  { kind: "platform", key: "F", draw: "area" },
  { kind: "ramp", draw: "area" },
  {
    kind: "pillars",
    key: "Q",
    draw: "line",
    make: (stage, size) => {
      const gaps = size ? Math.max(1, Math.round(size[0] / 7)) : 0;
      const spacing = size ? step(size[0] / gaps) : 4;
      return { kind: "pillars", count: gaps + 1, spacing, width: 0.5, height: stage.height_m, base: true };
    },
  },
  { kind: "gallery", key: "G", draw: "area" },
  { kind: "rails", key: "R", draw: "line" },
  { kind: "tram", key: "T", draw: "spot" },
  { kind: "vehicle", key: "V", draw: "spot" },
  { kind: "workbench", key: "H", draw: "spot" },
  { kind: "table", draw: "area" },
  { kind: "chair", key: "C", draw: "spot" },
  {
    kind: "lamp",
    key: "E",
    draw: "spot",
    foot: underCeiling,
    make: (stage) => ({
      kind: "lamp",
      cord: step(Math.max(0.4, stage.height_m - underCeiling(stage))),
    }),
  },
  { kind: "mark", key: "M", draw: "spot" },
];

export const kindOf = (kind: Form["kind"]) => kinds.find((k) => k.kind === kind);

/** Descriptions of the kinds. */
const described = Object.fromEntries(pieceKinds.map((k) => [k.usual.kind, k])) as Record<
  Form["kind"],
  PieceKind
>;

export const wordOf = (kind: Form["kind"]) => described[kind].word;

/** A new one; `size` is what was drawn, and missing after a mere click. */
export function newForm(kind: Kind, stage: Stage, size: [number, number] | null): Form {
  if (kind.make) return kind.make(stage, size);
  const { usual } = described[kind.kind];
  const [x, y, z] = sizeOf(usual) ?? [1, 1, 1];
  const high = kind.tall ? stage.height_m : y;
  return withSize(usual, [size?.[0] ?? x, high, (kind.draw === "area" && size?.[1]) || z]);
}

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
