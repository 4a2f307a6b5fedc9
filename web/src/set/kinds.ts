import type { Form, Piece, Stage } from "../generated/types";

/** How a piece is put on the plan: with one click, along a line, or over an area. */
export type Draw = "spot" | "line" | "area";

/** Whole lengths along a piece's own x, y and z; none where a length does not mean anything. */
export type Size = [number, number | null, number];

interface Kind {
  kind: Form["kind"];
  word: string;
  key?: string;
  draw: Draw;
  /** A new one; `size` is what was drawn, and missing after a mere click. */
  make: (stage: Stage, size: [number, number] | null) => Form;
  /** Height of its foot when it is new. */
  foot?: (stage: Stage) => number;
  /** Stands in a wall. */
  inWall?: boolean;
}

type Of<K extends Form["kind"]> = Extract<Form, { kind: K }>;

const step = (v: number) => Math.round(v * 1000) / 1000;

/** Every kind that can be drawn, in the order of the palette. */
export const kinds: Kind[] = [
  {
    kind: "wall",
    word: "wall",
    key: "W",
    draw: "line",
    make: (stage, size) => ({
      kind: "wall",
      size: [size?.[0] ?? 4, stage.height_m, 0.3],
      material: "brick",
    }),
  },
  {
    kind: "door",
    word: "door",
    key: "D",
    draw: "line",
    inWall: true,
    make: (_, size) => ({ kind: "door", width: size?.[0] ?? 0.9, height: 2.1, open_deg: 0 }),
  },
  {
    kind: "window",
    word: "window",
    key: "N",
    draw: "line",
    inWall: true,
    foot: () => 1,
    make: (_, size) => ({ kind: "window", width: size?.[0] ?? 1.2, height: 1.2, lit: false }),
  },
  {
    kind: "opening",
    word: "opening",
    key: "U",
    draw: "line",
    inWall: true,
    make: (_, size) => ({ kind: "opening", width: size?.[0] ?? 1.5, height: 2.1 }),
  },
  {
    kind: "block",
    word: "box",
    key: "B",
    draw: "area",
    make: (_, size) => ({ kind: "block", size: [size?.[0] ?? 1, 1, size?.[1] ?? 1], material: "timber" }),
  },
  {
    kind: "round",
    word: "cylinder",
    key: "Y",
    draw: "area",
    make: (_, size) => ({
      kind: "round",
      radius: size ? step(Math.max(...size) / 2) : 0.3,
      height: 0.9,
      material: "timber",
    }),
  },
  {
    kind: "stair",
    word: "stair",
    key: "S",
    draw: "spot",
    make: () => ({ kind: "stair", steps: 16, rise: 0.18, run: 0.26, width: 1.2 }),
  },
  {
    kind: "platform",
    word: "platform",
    key: "F",
    draw: "area",
    make: (_, size) => ({ kind: "platform", size: [size?.[0] ?? 2, 0.6, size?.[1] ?? 1] }),
  },
  {
    kind: "ramp",
    word: "ramp",
    draw: "area",
    make: (_, size) => ({ kind: "ramp", size: [size?.[0] ?? 1.2, 0.5, size?.[1] ?? 3] }),
  },
  {
    kind: "pillars",
    word: "pillars",
    key: "Q",
    draw: "line",
    make: (stage, size) => {
      const gaps = size ? Math.max(1, Math.round(size[0] / 7)) : 0;
      const spacing = size ? step(size[0] / gaps) : 4;
      return { kind: "pillars", count: gaps + 1, spacing, width: 0.5, height: stage.height_m, base: true };
    },
  },
  {
    kind: "gallery",
    word: "gallery",
    key: "G",
    draw: "area",
    make: (_, size) => ({ kind: "gallery", size: [size?.[0] ?? 6, 2.88, size?.[1] ?? 2.5] }),
  },
  {
    kind: "rails",
    word: "tram rails",
    key: "R",
    draw: "line",
    make: (_, size) => ({ kind: "rails", length: size?.[0] ?? 20, gauge: 1.435 }),
  },
  {
    kind: "tram",
    word: "tram",
    key: "T",
    draw: "spot",
    make: () => ({ kind: "tram", length: 14.6, bays: 7, lit: true }),
  },
  {
    kind: "vehicle",
    word: "vehicle",
    key: "V",
    draw: "spot",
    make: () => ({ kind: "vehicle", size: [4.4, 1.9, 1.8] }),
  },
  {
    kind: "workbench",
    word: "workbench",
    key: "H",
    draw: "spot",
    make: () => ({ kind: "workbench", length: 3 }),
  },
  {
    kind: "table",
    word: "table",
    draw: "area",
    make: (_, size) => ({ kind: "table", size: [size?.[0] ?? 1.6, 0.75, size?.[1] ?? 0.8] }),
  },
  { kind: "chair", word: "chair", key: "C", draw: "spot", make: () => ({ kind: "chair" }) },
  {
    kind: "lamp",
    word: "lamp",
    key: "E",
    draw: "spot",
    foot: (stage) => Math.min(5, Math.max(0.5, stage.height_m - 1.2)),
    make: (stage) => ({
      kind: "lamp",
      cord: step(Math.max(0.4, stage.height_m - Math.min(5, Math.max(0.5, stage.height_m - 1.2)))),
    }),
  },
  {
    kind: "mark",
    word: "mark",
    key: "M",
    draw: "spot",
    make: () => ({ kind: "mark", number: 1, tape: "yellow" }),
  },
];

export const kindOf = (kind: Form["kind"]) => kinds.find((k) => k.kind === kind);

const words: Partial<Record<Form["kind"], string>> = { card: "card", mesh: "mesh" };
export const wordOf = (kind: Form["kind"]) => kindOf(kind)?.word ?? words[kind] ?? kind;

/** Lengths along a piece's own axes that a handle can change; none where it has none. */
export function sizeOf(form: Form): Size | null {
  switch (form.kind) {
    case "block":
    case "platform":
    case "ramp":
    case "gallery":
    case "vehicle":
    case "table":
    case "wall":
      return form.kind === "wall" ? [form.size[0], form.size[1], form.size[2]] : [...form.size];
    case "round":
      return [form.radius * 2, form.height, form.radius * 2];
    case "door":
    case "window":
    case "opening":
      return [form.width, form.height, 0.3];
    case "card":
      return [form.width, form.height, 0.1];
    case "rails":
      return [form.length, null, form.gauge + 0.1];
    case "tram":
      return [form.length, null, 2.4];
    case "workbench":
      return [form.length, null, 0.8];
    case "pillars":
      return [(form.count - 1) * form.spacing + form.width, form.height, form.width];
    case "stair":
      return [form.width, form.steps * form.rise, form.steps * form.run];
    case "mesh":
      return form.size.map((v) => v * form.scale) as Size;
    default:
      return null;
  }
}

/** Where the middle of a piece's size is from its foot, along its own z. */
export const middleOf = (form: Form) => (form.kind === "stair" ? -(form.steps * form.run) / 2 : 0);

/** The same form with other lengths. */
export function withSize(form: Form, [x, y, z]: Size): Form {
  const h = y ?? 1;
  switch (form.kind) {
    case "block":
    case "platform":
    case "ramp":
    case "gallery":
    case "vehicle":
    case "table":
    case "wall":
      return { ...form, size: [x, h, z] } as Form;
    case "round": {
      const old = form.radius * 2;
      const across = Math.abs(x - old) > Math.abs(z - old) ? x : z;
      return { ...form, radius: step(across / 2), height: h };
    }
    case "door":
    case "window":
    case "opening":
    case "card":
      return { ...form, width: x, height: h };
    case "rails":
    case "tram":
    case "workbench":
      return { ...form, length: x };
    case "pillars":
      return {
        ...form,
        height: h,
        spacing: form.count > 1 ? step(Math.max(0.1, x - form.width) / (form.count - 1)) : form.spacing,
      };
    case "stair":
      return { ...form, width: x, run: step(z / form.steps), rise: step(h / form.steps) };
    case "mesh": {
      const scale = Math.max(0.001, step(x / form.size[0]));
      return { ...form, scale };
    }
    default:
      return form;
  }
}

/** What else can be set in numbers, in the order of the panel. */
export function numbersOf(form: Form): { key: string; label: string; unit: string; whole?: boolean }[] {
  switch (form.kind) {
    case "pillars":
      return [
        { key: "count", label: "count", unit: "", whole: true },
        { key: "spacing", label: "spacing", unit: "m" },
        { key: "width", label: "thickness", unit: "m" },
      ];
    case "stair":
      return [
        { key: "steps", label: "steps", unit: "", whole: true },
        { key: "rise", label: "rise", unit: "m" },
        { key: "run", label: "run", unit: "m" },
      ];
    case "door":
      return [{ key: "open_deg", label: "open", unit: "°" }];
    case "tram":
      return [{ key: "bays", label: "bays", unit: "", whole: true }];
    case "rails":
      return [{ key: "gauge", label: "gauge", unit: "m" }];
    case "lamp":
      return [{ key: "cord", label: "cord", unit: "m" }];
    case "mark":
      return [{ key: "number", label: "number", unit: "", whole: true }];
    case "mesh":
      return [{ key: "scale", label: "scale", unit: "" }];
    default:
      return [];
  }
}

/** Lamps, windows and trams that can be lit, pillars with guards. */
export const switchOf = (form: Form): { key: "lit" | "base"; label: string } | null =>
  form.kind === "window" || form.kind === "tram"
    ? { key: "lit", label: "lit" }
    : form.kind === "pillars"
      ? { key: "base", label: "guards" }
      : null;

export const materials: Of<"block">["material"][] = [
  "timber",
  "brick",
  "plaster",
  "concrete",
  "steel",
  "dark_steel",
  "glass",
  "tram_red",
  "tram_cream",
  "signal",
];

/** A new piece. */
export function newPiece(name: string, form: Form, position: [number, number, number], turn_deg = 0): Piece {
  return { id: 0, name, form, position, turn_deg, group: 0, locked: false, hidden: false, routes: [] };
}
