import { useEffect } from "react";
import { redo, undo } from "./document/edit";
import { hasPending, link, useFloor } from "./live/link";
import { turnVariant } from "./move/edits";
import { toPoint } from "./move/toPoint";
import { play, playPause, rollOrCut, step, toEnd, toStart, turnPace } from "./state/transport";
import { rateLatest } from "./takes/edits";
import { attachOrLetGo } from "./devices/attach";
import { setDial, turnDial } from "./hands/dial";
import { walkKey } from "./hands/walking";
import { captureMouse, drives, holdKey, keyName, letGo, listenKey } from "./hands/inputDevices";
import { goTo, discardPending, keepPending, storeHere, toggleAutoKey, headTo } from "./machine/positions";
import { writeStill } from "./film/film";
import { openClean, turnFullScreen } from "./film/showing";
import { chordsOf } from "./state/chords";
import { keyHandler } from "./state/keyHandler";
import { groups, showGroup } from "./state/panels";
import { hereS, scene, stripLength } from "./state/now";
import { STATIONS, type Station } from "./state/stationList";
import { goToStation } from "./state/stations";
import { zoomBy } from "./state/wheel";
import { lookBack } from "./takes/look";
import { kinds } from "./set/kinds";
import { setSet, useSetState, type Tool, take } from "./state/set";
import {
  clock,
  goLive,
  setView,
  turnDrawer,
  turnLoop,
  turnOverlay,
  turnShaped,
  turnShown,
  useView,
  type Overlays,
  type Shown,
} from "./state/view";

/** A shortcut: one line of the list of keys, and what its keys do. */
interface Shortcut {
  /** The keys as the list shows them. */
  keys: string;
  words: string;
  /**
   * What is done, by chord: "Ctrl+", "Alt+", "Shift+", then the name of the key. Without "Shift+" it counts with and
   * without Shift. None where hands are followed in the picture, on paper or in the curves.
   */
  press?: Record<string, (event: KeyboardEvent) => void>;
}

const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName)) &&
  (target as HTMLInputElement).type !== "range" &&
  (target as HTMLInputElement).type !== "checkbox";

function mark(which: "inS" | "outS") {
  const view = useView.getState();
  const here = hereS();
  const clears = view[which] !== null && Math.abs(view[which] - here) < 0.5 / scene.rate;
  setView({
    [which]: clears ? null : here,
    // What is chosen to be seen is seen again and again.
    ...(clears || view.live ? {} : { loops: { ...view.loops, move: true } }),
  });
}

/** Closer to an instant, or farther: as much time as there is on the strip. */
function zoomTime(times: number) {
  const { document, looked } = scene;
  const { live } = useView.getState();
  if (document) zoomBy(times, hereS(), stripLength(document, live ? null : looked));
}

const overlayKeys: Record<string, keyof Overlays> = {
  "Alt+4": "thirds",
  "Alt+5": "frame",
  "Alt+6": "centre",
  "Alt+7": "safe",
  "Alt+8": "horizon",
  "Alt+9": "focus",
  "Alt+0": "blur",
};

const viewKeys: Record<string, Shown> = {
  "Alt+L": "lens",
  "Alt+P": "plan",
  "Alt+O": "profile",
  "Alt+F": "front",
  "Alt+T": "around",
  "Alt+E": "second",
};

/** Tools of the set by their key. */
const tools: Record<string, Tool> = {
  X: "room",
  P: "path",
  ...Object.fromEntries(kinds.flatMap(({ drawing: { key }, usual }) => (key ? [[key, usual.kind]] : []))),
};

/** The same for several keys. */
const each = <T>(of: Record<string, T>, act: (value: T) => void): Shortcut["press"] =>
  Object.fromEntries(Object.entries(of).map(([chord, value]) => [chord, () => act(value)]));

/** The nine digits, each with its number. */
const digits = (before: string): Record<string, number> =>
  Object.fromEntries([1, 2, 3, 4, 5, 6, 7, 8, 9].map((n) => [`${before}${n}`, n]));

const stationKeys = Object.fromEntries(STATIONS.map(([name], i) => [`Alt+${i + 1}`, name]));

function escape() {
  if (document.pointerLockElement) return document.exitPointerLock();
  const { station, showKeys, importing, log } = useView.getState();
  setView({ showKeys: false, importing: false, drawing: false, log: false });
  const { tool } = useSetState.getState();
  if (station === "set")
    setSet({ tool: "pick", sketch: [], ...(tool === "pick" ? { picked: [], performer: null } : {}) });
  if (station === "operate" && !showKeys && !importing && !log) goLive();
}

/** Length of the time strip while a move is looked at, seconds. */
const whole = () => (scene.document ? stripLength(scene.document, scene.looked) : 0);

const turn = (by: -1 | 1) => {
  const { document, looked } = scene;
  if (document && looked) turnVariant(document, looked, by);
};

/** All keys of the page: this table is the handler, and the list that `?` shows. */
export const shortcuts: Record<"everywhere" | Station, Shortcut[]> = {
  everywhere: [
    { keys: "space", words: "play, pause", press: { " ": playPause } },
    { keys: "J K L", words: "play back, pause, play", press: each<-1 | 0 | 1>({ J: -1, K: 0, L: 1 }, play) },
    {
      keys: "[ ]",
      words: "play a move slower, faster: ¼ to 4 times",
      press: each<-1 | 1>({ "[": -1, "]": 1 }, turnPace),
    },
    {
      keys: "← →",
      words: "one frame; with shift ten",
      press: {
        ArrowLeft: (e) => step(e.shiftKey ? -10 : -1),
        ArrowRight: (e) => step(e.shiftKey ? 10 : 1),
      },
    },
    { keys: "Home End", words: "to the start, to the end", press: { Home: toStart, End: toEnd } },
    {
      keys: "Page Up Down",
      words: "key, mark, in or out before, after; with Shift keys only",
      press: { PageUp: (e) => toPoint(-1, e.shiftKey), PageDown: (e) => toPoint(1, e.shiftKey) },
    },
    {
      keys: "Alt + −",
      words: "zoom into time at the playhead, out; over the strip: the wheel",
      press: each({ "Alt+=": 0.5, "Alt+-": 2 }, zoomTime),
    },
    {
      keys: "I O",
      words: "set in, set out; again clears",
      press: each<"inS" | "outS">({ I: "inS", O: "outS" }, mark),
    },
    { keys: "Alt B", words: "begin again at the end, or stand", press: { "Alt+B": turnLoop } },
    {
      keys: "Alt R",
      words: "the take just rolled, from its start; again back to live",
      press: { "Alt+R": lookBack },
    },
    {
      keys: "Ctrl Z",
      words: "undo; with shift redo",
      press: { "Ctrl+Z": () => void undo(), "Ctrl+Shift+Z": () => void redo() },
    },
    { keys: `Alt 1 to ${STATIONS.length}`, words: "stations", press: each(stationKeys, goToStation) },
    {
      keys: "F2 F4",
      words: "the shelf of productions, the scenes",
      press: each<"shelf" | "scenes">({ F2: "shelf", F4: "scenes" }, turnDrawer),
    },
    {
      keys: "Alt 4 to 0",
      words: "lines over the picture, focus, blur",
      press: each(overlayKeys, turnOverlay),
    },
    {
      keys: "Alt Y",
      words: "other setups' machines in the picture",
      press: { "Alt+Y": () => turnOverlay("machines") },
    },
    {
      keys: "Alt U",
      words: "the machine's handles in the picture",
      press: { "Alt+U": () => turnOverlay("handles") },
    },
    {
      keys: "Alt D",
      words: "draw a frame in the picture",
      press: { "Alt+D": () => setView({ drawing: !useView.getState().drawing }) },
    },
    {
      keys: "Alt G N",
      words: "the last take is good, no; Alt Shift G: hold",
      press: each<"good" | "hold" | "no">(
        { "Alt+G": "good", "Alt+Shift+G": "hold", "Alt+N": "no" },
        rateLatest,
      ),
    },
    {
      keys: "Alt J",
      words: "take log",
      press: { "Alt+J": () => setView({ log: !useView.getState().log, station: "operate" }) },
    },
    { keys: "Alt S", words: "still of the picture, as a PNG", press: { "Alt+S": () => void writeStill() } },
    {
      keys: "Alt Enter",
      words: "the picture over the whole screen, and back",
      press: { "Alt+Enter": turnFullScreen },
    },
    { keys: "Alt W", words: "the frame alone in a window of its own", press: { "Alt+W": openClean } },
    { keys: "Esc", words: "back to live", press: { Escape: escape } },
    {
      keys: "?",
      words: "this list",
      press: { "?": () => setView({ showKeys: !useView.getState().showKeys }) },
    },
  ],
  operate: [
    { keys: "R", words: "record a take, cut it", press: { R: (e) => !e.repeat && rollOrCut() } },
    { keys: "arrows", words: "drive who is driven: walk, turn; Shift runs, down sits" },
    {
      keys: "Alt V",
      words: "the take before as a ghost",
      press: { "Alt+V": () => setView({ ghost: !useView.getState().ghost }) },
    },
    { keys: "Alt A", words: "attach the camera to its device, let go", press: { "Alt+A": attachOrLetGo } },
    { keys: "Shift", words: "hold for fine gear" },
    {
      keys: "1 … 9 0",
      words: "speed dial 0.1 to 1",
      press: each({ ...digits(""), "0": 10 }, (n) => setDial(n / 10)),
    },
    { keys: "- =", words: "speed dial down, up", press: each({ "-": -0.05, "=": 0.05 }, turnDial) },
    {
      keys: "Backspace",
      words: "back to where the roll began",
      press: { Backspace: () => link.send({ do: "return" }) },
    },
    { keys: "drag", words: "in the finder: pan and tilt; wheel: zoom" },
    { keys: "Shift drag", words: "there: truck and boom; wheel: push; Ctrl drag: go round" },
    { keys: "drag", words: "on the plan: camera, base, rail, aim, pivot" },
    {
      keys: "Shift 1 … 9",
      words: "go to a stored position; Alt Shift drives there, Ctrl Shift stores it",
      press: {
        ...each(digits("Shift+"), (n) => goTo(n)),
        ...each(digits("Alt+Shift+"), (n) => goTo(n, true)),
        ...each(digits("Ctrl+Shift+"), (n) => void storeHere(n)),
      },
    },
    {
      keys: "Alt H C",
      words: "level the horizon, centre the head",
      press: { "Alt+H": () => link.send({ do: "level" }), "Alt+C": () => headTo(["pan", "tilt", "roll"]) },
    },
    {
      keys: "Enter Delete",
      words: "keep or discard a change that has no key",
      // Only what is pending: a first key is set on purpose, with its button.
      press: {
        Enter: () => hasPending(useFloor.getState()) && void keepPending(),
        Delete: discardPending,
      },
    },
    { keys: "Alt K", words: "auto-key", press: { "Alt+K": toggleAutoKey } },
    {
      keys: "F6 to F10",
      words: "panels: see, machine, camera, roll, takes; again the next one",
      press: each(Object.fromEntries(groups.map((group) => [group.key, group])), showGroup),
    },
    {
      keys: "Alt L P O F T E",
      words: "views: lens, plan, profile, front, three-quarter, second camera",
      press: each(viewKeys, turnShown),
    },
    { keys: "Alt M", words: "the mouse drives; Esc lets it go", press: { "Alt+M": captureMouse } },
  ],
  set: [
    { keys: "X", words: "room; P: a person, who stands or walks" },
    {
      keys: "letter",
      words: "of a piece: draw it; with Shift another one after it",
      press: each(tools, take),
    },
    { keys: "Enter", words: "puts it into the middle; ends a path" },
    { keys: "arrows", words: "move what is picked by the grid; with Shift by 1 cm" },
    { keys: ", .", words: "turn by 15°; with Shift by 1°" },
    { keys: "Delete", words: "remove what is picked" },
    { keys: "Ctrl D G A", words: "duplicate, group, pick all" },
    { keys: "Alt", words: "while dragging: no snapping" },
    { keys: "+ - 0", words: "zoom the plan, all of it; wheel, right button drags" },
    { keys: "Esc", words: "nothing in the hand, nothing picked" },
  ],
  shape: [
    { keys: "B", words: "hold for raw", press: { B: () => setView({ stage: "raw" }) } },
    {
      keys: "+ - 0",
      words: "zoom into time at the playhead, out, all of it; wheel, with shift along",
      press: {
        ...each({ "+": 0.5, "=": 0.5, "-": 2 }, (times) => zoomBy(times, clock.time, whole())),
        "0": () => zoomBy(null, 0, whole()),
      },
    },
    { keys: ", .", words: "key before, next key: goes there and picks it; with Shift more of them" },
    { keys: "N", words: "a key at the playhead, on axes that are picked or all; double click: on one" },
    { keys: "1 … 5", words: "picked keys smooth, straight, flat, hold, free" },
    { keys: "Ctrl arrows", words: "picked keys by a frame, by a bit of value; Shift: a tenth" },
    { keys: "Ctrl A C V", words: "pick all keys, copy, paste at the playhead" },
    { keys: "Delete", words: "remove picked keys; Esc lets them go" },
    { keys: "drag", words: "a key: time and value; Shift: one of them, Alt: fine; elsewhere Shift: a box" },
    { keys: "M", words: "next mark in the curves; Shift M the one before" },
    { keys: "Alt wheel", words: "over a lane: its values closer, farther" },
    {
      keys: "C",
      words: "the next variant at the same instant, playing on; Shift C the one before",
      press: each<-1 | 1>({ C: 1, "Shift+C": -1 }, turn),
    },
    {
      keys: "V",
      words: "picture and curves, picture, curves; Shift V back",
      press: each<-1 | 1>({ V: 1, "Shift+V": -1 }, turnShaped),
    },
    {
      keys: "X",
      words: "raw and now side by side, or split by a line",
      press: { X: () => setView({ beside: !useView.getState().beside }) },
    },
    { keys: "drag", words: "in the finder: the line between raw and now" },
  ],
};

/** What a chord does in a station; its own keys come before those of all. */
function actionOf(station: Station, event: KeyboardEvent): ((event: KeyboardEvent) => void) | undefined {
  const all = [...shortcuts[station], ...shortcuts.everywhere];
  const found = (chord: string) => all.find(({ press }) => press && chord in press)?.press?.[chord];
  for (const chord of chordsOf(event)) {
    const action = found(chord);
    if (action) return action;
  }
  return undefined;
}

/** The page's own use of keys, for as long as it stands. */
export function useKeys() {
  useEffect(() => {
    const down = (event: KeyboardEvent) => {
      const key = keyName(event);
      const { drawer, station, live } = useView.getState();
      if (listenKey(event)) return;
      const control = event.ctrlKey || event.metaKey;
      const written = typing(event.target);
      const function_ = /^F\d+$/.test(event.key);
      // Hands are at the drawer; what was done there is undone from there as well.
      if (drawer && !control && !["F2", "F4"].includes(event.key)) {
        if (event.key === "Escape") setView({ drawer: null });
        return;
      }
      link.setFine(event.shiftKey && station === "operate");
      if (!written && keyHandler.current?.(event, key)) return event.preventDefault();
      // Who types is not interrupted, but by keys that write nothing.
      if (written && !event.altKey && !function_) return;
      const plain = !control && !event.altKey && !function_;
      if (plain && station === "operate" && live) {
        if (walkKey(event, true)) return event.preventDefault();
        if (drives(key) && event.key !== "?") {
          holdKey(key, true);
          return event.preventDefault();
        }
      }
      if (plain && keptByFocus(event)) return;
      const action = actionOf(station, event);
      if (!action) return;
      action(event);
      event.preventDefault();
    };
    const up = (event: KeyboardEvent) => {
      const key = keyName(event);
      link.setFine(event.shiftKey && useView.getState().station === "operate");
      holdKey(key, false);
      walkKey(event, false);
      if (key === "B" && useView.getState().station === "shape") setView({ stage: "now" });
    };
    window.addEventListener("keydown", down);
    window.addEventListener("keyup", up);
    window.addEventListener("blur", letGo);
    return () => {
      window.removeEventListener("keydown", down);
      window.removeEventListener("keyup", up);
      window.removeEventListener("blur", letGo);
    };
  }, []);
}

/** A focused button keeps its own space and Enter, and a slider its arrows. */
function keptByFocus({ target, key }: KeyboardEvent): boolean {
  const focused =
    target instanceof HTMLElement &&
    target.closest("button, [role=slider], [role=button], [role=combobox], input");
  if (!focused) return false;
  if ([" ", "Enter"].includes(key)) return !focused.matches('[aria-label="Time"]');
  return key.startsWith("Arrow") && !focused.matches('[aria-label="Time"], button');
}
