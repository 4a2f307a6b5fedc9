import type { PiecePlan, PlanLabel } from "../generated/types";
import { paint, type Painted } from "../plan/inks";
import type { Box } from "./snap";

/** A piece as the plan shows it. */
export interface Drawn {
  id: number;
  paths: Painted[];
  box: Box;
  overhead: boolean;
  /** It is taken hold of by its ink alone. */
  thin: boolean;
  label: PlanLabel;
}

export function drawnOf(plan: PiecePlan): Drawn {
  const [left, top, right, bottom] = plan.bounds;
  const { piece: id, overhead, thin, label } = plan;
  return { id, paths: paint(plan), box: { left, top, right, bottom }, overhead, thin, label };
}
