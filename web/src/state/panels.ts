import { setView, useView } from "./view";

/** The panels of Operate by task: what a group is called, its key, and its panels with their words. */
export const groups = [
  {
    name: "see",
    key: "F6",
    panels: [
      ["profile", "Profile"],
      ["around", "Around"],
    ],
  },
  {
    name: "machine",
    key: "F7",
    panels: [
      ["machine", "Machine"],
      ["positions", "Positions"],
      ["inputs", "Inputs"],
    ],
  },
  {
    name: "camera",
    key: "F8",
    panels: [
      ["camera", "Camera"],
      ["setups", "Setups"],
    ],
  },
  {
    name: "roll",
    key: "F9",
    panels: [
      ["roll", "Slate"],
      ["devices", "Devices"],
    ],
  },
  { name: "takes", key: "F10", panels: [["takes", "Takes"]] },
] as const;

export type Group = (typeof groups)[number];
/** Name of a panel of Operate. */
export type SideView = Group["panels"][number][0];

export const sides: readonly SideView[] = groups.flatMap((g): SideView[] => g.panels.map(([side]) => side));

const has = (group: Group, side: SideView) => group.panels.some(([panel]) => panel === side);

/** The group that a panel belongs to. */
export const groupOf = (side: SideView): Group => groups.find((g) => has(g, side))!;

/** The panel of each group that was open last. */
const last = new Map<string, SideView>();

/** What a group shows when it is chosen: the panel that was open last; where it is open, the next one. */
export function panelOf(group: Group, now: SideView): SideView {
  if (!has(group, now)) return last.get(group.name) ?? group.panels[0][0];
  const place = group.panels.findIndex(([panel]) => panel === now);
  return group.panels[(place + 1) % group.panels.length]![0];
}

export function showPanel(side: SideView) {
  last.set(groupOf(side).name, side);
  setView({ side, importing: false });
}

/** By its key, or a press. */
export const showGroup = (group: Group) => showPanel(panelOf(group, useView.getState().side));
