import type { SideView } from "./panels";
import type { Station } from "./stationList";
import { create } from "zustand";
import type { CurvesOf, MoveId } from "../generated/types";
import type { Window } from "./window";

/** Panels beside the picture in Shape, and their labels. */
export const shapePanels = [
  ["figures", "figures"],
  ["path", "path"],
  ["camera", "camera of this move"],
  ["files", "files"],
] as const;
export type ShapePanel = (typeof shapePanels)[number][0];

/** When a roll ends by itself. */
export type Ends = "key" | "out" | "performance";

/** Entries of the slate before a roll. */
export interface Slate {
  note: string;
  ends: Ends;
  /** Counts aloud. */
  sound: boolean;
  /** Name of a pass, seconds of pre-roll and seconds of its joints. */
  pass: string;
  preRoll: number;
  blend: number;
}

/** Drawers that drop down from the slate. */
export type Drawer = "shelf" | "scenes" | "carry";

/** Views that can be seen large. */
export type Shown = "lens" | "plan" | "profile" | "front" | "around" | "second";

/** Overlays of the picture. */
export interface Overlays {
  frame: boolean;
  thirds: boolean;
  centre: boolean;
  safe: boolean;
  horizon: boolean;
  focus: boolean;
  blur: boolean;
  /** The machines of the other setups are in the picture. */
  machines: boolean;
  /** Handles of the machine are in the picture. */
  handles: boolean;
}

/** View state of this page; nothing here is the server's or the floor's. */
interface View {
  station: Station;
  drawer: Drawer | null;
  /** Live through the floor's camera, or looking at a move. */
  live: boolean;
  moveId: MoveId | null;
  /** The move after its treatments, or as it was rolled or keyed. */
  stage: "now" | "raw";
  /** −1 back, 0 still, 1 forward; for a move. */
  playing: -1 | 0 | 1;
  inS: number | null;
  outS: number | null;
  side: SideView;
  /** The views that are large: one, two or four. The lens keeps its place. */
  shown: Shown[];
  /** The setup that the second camera is of; the first other one without. */
  second: number | null;
  /** A change that has no key becomes one by itself. */
  autoKey: boolean;
  /** Place of the line between raw and now, 0 to 1. */
  wipe: number;
  countIn: number;
  slate: Slate;
  /** The take before shows where it was while the next one is driven. */
  ghost: boolean;
  /** The take log is open. */
  log: boolean;
  /** The move that is compared with the one looked at. */
  otherId: MoveId | null;
  /** Side by side, or split by a line. */
  beside: boolean;
  overlays: Overlays;
  /** A frame is being drawn in the picture. */
  drawing: boolean;
  /** Subject of the three-quarter view: "machine", "driven", or a performer. */
  about: string;
  /** Stills being written. */
  stills: { done: number; count: number } | null;
  /** The window of time that Shape shows, seconds; all of it without one. */
  window: Window | null;
  /** Content of the curves in Shape. */
  curvesOf: CurvesOf;
  /** Parts of Shape that are shown. */
  shaped: "both" | "picture" | "curves";
  /** Panel beside the picture in Shape. */
  shapePanel: ShapePanel;
  /** Shape was opened from the floor, which comes back with another station. */
  fromFloor: boolean;
  /** Loops: the performance, and moves. */
  loops: { live: boolean; move: boolean };
  /** Factor on the speed at which a move plays. */
  pace: number;
  /** Curves lie over one another; those of one unit have one scale. */
  lanesOver: boolean;
  lanesToScale: boolean;
  showKeys: boolean;
  importing: boolean;
  /** Lengths in feet and inches instead of metres. */
  feet: boolean;
}

export const useView = create<View>(() => ({
  station: "operate",
  drawer: null,
  live: true,
  moveId: null,
  stage: "now",
  playing: 0,
  inS: null,
  outS: null,
  side: "profile",
  shown: ["lens"],
  second: null,
  autoKey: false,
  wipe: 0.5,
  countIn: 0,
  slate: { note: "", ends: "key", sound: true, pass: "", preRoll: 1, blend: 0.5 },
  ghost: false,
  log: false,
  otherId: null,
  beside: false,
  overlays: {
    frame: true,
    thirds: false,
    centre: true,
    safe: false,
    horizon: false,
    focus: false,
    blur: false,
    machines: false,
    handles: true,
  },
  drawing: false,
  about: "driven",
  stills: null,
  window: null,
  curvesOf: "axes",
  shaped: "both",
  shapePanel: "figures",
  fromFloor: false,
  loops: { live: true, move: false },
  pace: 1,
  lanesOver: false,
  lanesToScale: false,
  showKeys: false,
  importing: false,
  feet: typeof localStorage !== "undefined" && localStorage.getItem("lengths") === "feet",
}));

export const setView = useView.setState;

/** Turns the loop of what is shown on or off. */
export function turnLoop() {
  const { live, loops } = useView.getState();
  setView({ loops: live ? { ...loops, live: !loops.live } : { ...loops, move: !loops.move } });
}

/** Opens a drawer, or shuts it. */
export const turnDrawer = (drawer: Drawer) =>
  setView({ drawer: useView.getState().drawer === drawer ? null : drawer });

/** Feet and inches, or metres; kept in this browser. */
export function showFeet(feet: boolean) {
  localStorage.setItem("lengths", feet ? "feet" : "metres");
  setView({ feet });
}

const shapes = ["both", "picture", "curves"] as const;

/** The next of picture and curves, picture, curves; or the one before. */
export function turnShaped(by: 1 | -1) {
  const now = shapes.indexOf(useView.getState().shaped);
  setView({ shaped: shapes[(now + by + 3) % 3]! });
}

export function turnOverlay(name: keyof Overlays) {
  const { overlays } = useView.getState();
  setView({ overlays: { ...overlays, [name]: !overlays[name] } });
}

const order: Shown[] = ["lens", "plan", "profile", "front", "around", "second"];

/** Shows a view beside what is shown, or takes it away. One stays; of three, a fourth comes along. */
export function turnShown(view: Shown) {
  const { shown } = useView.getState();
  const on = shown.includes(view);
  if (on && shown.length === 1) return;
  let next = on ? shown.filter((v) => v !== view) : [...shown, view];
  if (!on && next.length === 3) next = [...next, order.find((v) => !next.includes(v))!];
  if (on && next.length === 3) next = next.slice(0, 2);
  if (next.length > 4) next = [...next.slice(0, 3), view];
  const { side } = useView.getState();
  setView({
    shown: next.toSorted((a, b) => order.indexOf(a) - order.indexOf(b)),
    // A three-quarter view is one picture: it is large or small.
    ...(side === "around" && next.includes("around") ? { side: "machine" as const } : {}),
  });
}

/** Looks at a move; `play` from its beginning. */
export function lookAt(moveId: MoveId, play = false) {
  const { station, fromFloor, ...now } = useView.getState();
  const same = now.moveId === moveId && !now.live;
  if (play || !same) clock.time = 0;
  setView({
    live: false,
    moveId,
    playing: play ? 1 : 0,
    otherId: null,
    // Another move in Shape does not change where one came from.
    fromFloor: fromFloor && station === "shape",
    ...(same ? {} : { inS: null, outS: null, window: null, stage: "now" }),
  });
}

/** Another variant of what is looked at: at the same instant, playing on, in the same window. */
export const lookAtVariant = (moveId: MoveId) => setView({ live: false, moveId, otherId: null });

/** Back to the floor. */
export function goLive() {
  const { live } = useView.getState();
  // A window of time was that of what was looked at.
  setView({
    live: true,
    playing: 0,
    otherId: null,
    ...(live ? {} : { window: null }),
  });
}

/** Two moves against one another. */
export function compare(moveId: MoveId, otherId: MoveId) {
  lookAt(moveId);
  setView({ otherId, log: false, station: "operate" });
}

export function setSlate(part: Partial<Slate>) {
  setView({ slate: { ...useView.getState().slate, ...part } });
}

/** Time of the move being looked at; moves every frame, so it is no React state. */
export const clock = { time: 0 };
