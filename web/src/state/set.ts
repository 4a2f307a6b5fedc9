import { create } from "zustand";
import type { Form, PerformerId } from "../generated/types";

/** Tool of the hand on the plan. */
export type Tool = "pick" | "room" | "path" | Form["kind"];

/** Panels beside the plan in Set, and their labels. */
export const setPanels = [
  ["pieces", "Pieces"],
  ["cast", "Cast"],
  ["setups", "Setups"],
  ["camera", "Camera"],
] as const;
export type SetPanel = (typeof setPanels)[number][0];

interface SetState {
  tool: Tool;
  /** Places of a path that is being drawn for somebody new. */
  sketch: [number, number][];
  /** Ids of the picked pieces. */
  picked: number[];
  /** The performer whose path is edited. */
  performer: PerformerId | null;
  /** The place on the path that was touched last. */
  waypoint: number;
  /** Grid, metres; 0 is off. */
  grid: number;
  /** Content of the panel at the right. */
  panel: SetPanel;
  /** The setup whose eye the picture is seen through; none from outside. */
  through: number | null;
}

export const useSetState = create<SetState>(() => ({
  tool: "pick",
  sketch: [],
  picked: [],
  performer: null,
  waypoint: 0,
  grid: 0.25,
  panel: "pieces",
  through: null,
}));

export const setSet = useSetState.setState;

/** Takes a tool into the hand; a person is always somebody new. */
export const take = (tool: Tool) =>
  setSet({ tool, sketch: [], ...(tool === "path" ? { performer: null, picked: [] } : {}) });

/** Goes on with the path of who or what is picked. */
export const lengthenPath = () => setSet({ tool: "path", sketch: [] });

export function pick(ids: number[]) {
  setSet({ picked: ids, performer: null, tool: "pick" });
}
