import type { PiecePlan, PlanMark, Role } from "../generated/types";
import { closed, open, type Point } from "../geometry";
import { ink } from "../theme";

/** Pen of a role: fill and stroke, and for roles that are not pieces of the set the width, metres, and dashes. */
interface Ink {
  fill: string;
  stroke: string;
  width?: number;
  dash?: string;
  opacity?: number;
}

/** How each role of the plan's marks is painted here. What the marks are is worked out by the server. */
const inks: Record<Role, Ink> = {
  wall: { fill: ink.ink, stroke: "none" },
  thing: { fill: ink.paperFill, stroke: ink.ink, width: 0.06 },
  glass: { fill: ink.blueprint, stroke: "none" },
  rail: { fill: ink.paperShade, stroke: "none" },
  tape: { fill: ink.blueprint, stroke: "none" },
  gap: { fill: ink.paper, stroke: ink.ink },
  way: { fill: "none", stroke: ink.ink },
  track: { fill: ink.ink, stroke: "none" },
  sleeper: { fill: ink.paperShade, stroke: "none", opacity: 0.6 },
  guide: { fill: "none", stroke: ink.paperShade, width: 0.1 },
  rough: { fill: "none", stroke: ink.beyond, width: 0.12 },
  machine: { fill: ink.ink, stroke: "none" },
  person: { fill: ink.ink, stroke: "none" },
  walk: { fill: "none", stroke: ink.ink, width: 0.07, dash: "0.35 0.25" },
  path: { fill: "none", stroke: ink.blueprint, width: 0.1 },
  tick: { fill: "none", stroke: ink.blueprint, width: 0.06 },
  sight: { fill: ink.blueprint, stroke: ink.blueprint, width: 0.06, opacity: 0.13 },
  dimension: { fill: "none", stroke: ink.blueprint, width: 0.05 },
};

/** SVG attributes that paint in the ink of a role. Opacity counts for the fill alone. */
export function pen(role: Role) {
  const { fill, stroke, width, dash, opacity } = inks[role];
  return { fill, fillOpacity: opacity, stroke, strokeWidth: width, strokeDasharray: dash };
}

/** A mark as SVG draws it. */
export interface Painted {
  d: string;
  fill: string;
  stroke: string;
}

/** Marks of a piece; what hangs over people's heads is seen through. */
export const paint = ({ marks, overhead }: PiecePlan): Painted[] =>
  marks.map((mark) => {
    const { fill, stroke } = inks[mark.role];
    return { d: pathOf(mark), fill: overhead ? "none" : fill, stroke };
  });

/** Path of a mark. Text has no path; of a length this is the line alone, without the number. */
export function pathOf(mark: PlanMark): string {
  switch (mark.shape) {
    case "areas":
      return mark.outlines.map((outline) => closed(outline as Point[])).join("");
    case "lines":
      return mark.lines.map((line) => open(line as Point[])).join("");
    case "leaf": {
      const { hinge, closed: from, open: to, radius_m } = mark;
      return `M${at(from)}A${radius_m} ${radius_m} 0 0 1 ${at(to)}L${at(hinge)}`;
    }
    case "spots":
      return mark.places.map((place) => circle(place, mark.radius_m)).join("");
    case "length":
      return `M${at(mark.from)}L${at(mark.to)}`;
    case "words":
      return "";
  }
}

const at = (p: readonly number[]) => p.map((v) => v.toFixed(3)).join();

function circle([x, z]: readonly [number, number], r: number): string {
  return `M${at([x - r, z])}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0z`;
}
