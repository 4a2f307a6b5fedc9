import type { PiecePlan, PlanMark, Role } from "../generated/types";
import { closed, type Point } from "../geometry";
import { ink } from "../theme";

/** How each role of the plan's marks is painted here. What the marks are is worked out by the server. */
const inks: Record<Role, { fill: string; stroke: string }> = {
  wall: { fill: ink.ink, stroke: "none" },
  thing: { fill: ink.paperFill, stroke: ink.ink },
  glass: { fill: ink.blueprint, stroke: "none" },
  rail: { fill: ink.paperShade, stroke: "none" },
  tape: { fill: ink.blueprint, stroke: "none" },
  gap: { fill: ink.paper, stroke: ink.ink },
  way: { fill: "none", stroke: ink.ink },
};

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

function pathOf(mark: PlanMark): string {
  if (mark.shape === "areas") return mark.outlines.map((outline) => closed(outline as Point[])).join("");
  const { hinge, closed: from, open, radius_m } = mark;
  const at = (p: readonly number[]) => p.map((v) => v.toFixed(3)).join();
  return `M${at(from)}A${radius_m} ${radius_m} 0 0 1 ${at(open)}L${at(hinge)}`;
}
