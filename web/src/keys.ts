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
import { keyHandler } from "./state/keyHandler";
import { groups, showGroup } from "./state/panels";
import { hereS, scene, stripLength } from "./state/now";
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

export const shortcuts: Record<"everywhere" | "set" | "operate" | "shape", [string, string][]> = {
  everywhere: [
    ["space", "play, pause"],
    ["J K L", "play back, pause, play"],
    ["[ ]", "play a move slower, faster: ¼ to 4 times"],
    ["← →", "one frame; with shift ten"],
    ["Home End", "to the start, to the end"],
    ["Page Up Down", "key, mark, in or out before, after; with Shift keys only"],
    ["Alt + −", "zoom into time at the playhead, out; over the strip: the wheel"],
    ["I O", "set in, set out; again clears"],
    ["Alt B", "begin again at the end, or stand"],
    ["Alt R", "the take just rolled, from its start; again back to live"],
    ["Ctrl Z", "undo; with shift redo"],
    ["Alt 1 to 3", "stations"],
    ["F2 F4", "the shelf of productions, the scenes"],
    ["Alt S", "still of the picture, as a PNG"],
    ["Alt Enter", "the picture over the whole screen, and back"],
    ["Alt W", "the frame alone in a window of its own"],
    ["Esc", "back to live"],
    ["?", "this list"],
  ],
  operate: [
    ["R", "roll, cut"],
    ["arrows", "drive who is driven: walk, turn; Shift runs, down sits"],
    ["Alt G N", "good, no; Alt Shift G: hold"],
    ["Alt J", "take log"],
    ["Alt V", "the take before as a ghost"],
    ["Alt A", "attach the camera to its device, let go"],
    ["Shift", "hold for fine gear"],
    ["1 … 9 0", "speed dial 0.1 to 1"],
    ["- =", "speed dial down, up"],
    ["Backspace", "drive back to where the roll began"],
    ["drag", "in the finder: pan and tilt; wheel: zoom"],
    ["Shift drag", "there: truck and boom; wheel: push; Ctrl drag: go round"],
    ["drag", "on the plan: camera, base, rail, aim, pivot"],
    ["Shift 1 … 9", "go to a stored position; Ctrl Shift stores it"],
    ["Alt H C", "level the horizon, centre the head"],
    ["Enter Delete", "keep or discard a change that has no key"],
    ["Alt K", "write keys by themselves"],
    ["F6 to F10", "panels: see, machine, camera, roll, takes; again the next one"],
    ["Alt L P O F T E", "views: lens, plan, profile, front, three-quarter, second camera"],
    ["Alt M", "the mouse drives; Esc lets it go"],
    ["Alt 4 to 0", "lines over the picture, focus, blur"],
    ["Alt Y", "other setups' machines in the picture"],
    ["Alt D", "draw a frame in the picture"],
  ],
  set: [
    ["X", "room; P draws a path"],
    ["letter", "of a piece: draw it; with Shift another one after it"],
    ["Enter", "puts it into the middle; ends a path"],
    ["arrows", "move what is picked by the grid; with Shift by 1 cm"],
    [", .", "turn by 15°; with Shift by 1°"],
    ["Delete", "remove what is picked"],
    ["Ctrl D G A", "duplicate, group, pick all"],
    ["Alt", "while dragging: no snapping"],
    ["+ - 0", "zoom the plan, all of it; wheel, right button drags"],
    ["Esc", "nothing in the hand, nothing picked"],
  ],
  shape: [
    ["B", "hold for raw"],
    ["+ - 0", "zoom into time at the playhead, out, all of it; wheel, with shift along"],
    [", .", "key before, next key: goes there and picks it; with Shift more of them"],
    ["N", "a key at the playhead, on axes that are picked or all; double click: on one"],
    ["1 … 5", "picked keys smooth, straight, flat, hold, free"],
    ["Ctrl arrows", "picked keys by a frame, by a bit of value; Shift: a tenth"],
    ["Ctrl A C V", "pick all keys, copy, paste at the playhead"],
    ["Delete", "remove picked keys; Esc lets them go"],
    ["drag", "a key: time and value; Shift: one of them, Alt: fine; elsewhere Shift: a box"],
    ["M", "next mark in the curves; Shift M the one before"],
    ["Alt wheel", "over a lane: its values closer, farther"],
    ["C", "the next variant at the same instant, playing on; Shift C the one before"],
    ["V", "picture and curves, picture, curves; Shift V back"],
    ["X", "raw and now side by side, or split by a line"],
    ["drag", "in the finder: the line between raw and now"],
  ],
};

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
  Digit4: "thirds",
  Digit5: "frame",
  Digit6: "centre",
  Digit7: "safe",
  Digit8: "horizon",
  Digit9: "focus",
  Digit0: "blur",
  KeyY: "machines",
};

const viewKeys: Record<string, Shown> = {
  KeyL: "lens",
  KeyP: "plan",
  KeyO: "profile",
  KeyF: "front",
  KeyT: "around",
  KeyE: "second",
};

/** Tools of the set by their key. */
const tools: Record<string, Tool> = {
  X: "room",
  P: "path",
  ...Object.fromEntries(kinds.filter((k) => k.key).map((k) => [k.key!, k.kind])),
};

/** All keys of the page, in one place. */
export function useKeys() {
  useEffect(() => {
    const down = (event: KeyboardEvent) => {
      const key = keyName(event);
      const view = useView.getState();
      if (listenKey(event)) return;
      const drawer = ({ F2: "shelf", F4: "scenes" } as const)[event.key];
      if (drawer && !event.altKey && !event.ctrlKey) {
        event.preventDefault();
        return turnDrawer(drawer);
      }
      // Hands are at the drawer; what was done there is undone from there as well.
      if (view.drawer && !(event.ctrlKey || event.metaKey)) {
        if (event.key === "Escape") setView({ drawer: null });
        return;
      }
      const group = view.station === "operate" && groups.find((g) => g.key === event.key);
      if (group) {
        event.preventDefault();
        return showGroup(group);
      }
      link.setFine(event.shiftKey && view.station === "operate");
      if (!typing(event.target) && keyHandler.current?.(event, key)) {
        event.preventDefault();
        return;
      }
      if (event.ctrlKey || event.metaKey) {
        const digit = /^Digit([1-9])$/.exec(event.code);
        if (digit && event.shiftKey && view.station === "operate") {
          event.preventDefault();
          void storeHere(Number(digit[1]));
        }
        if (key === "Z" && !typing(event.target)) {
          event.preventDefault();
          if (event.shiftKey) void redo();
          else void undo();
        }
        return;
      }
      if (event.altKey) {
        const station = ({ Digit1: "set", Digit2: "operate", Digit3: "shape" } as const)[
          event.code as "Digit1"
        ];
        const overlay = overlayKeys[event.code];
        if (station) goToStation(station);
        else if (overlay) turnOverlay(overlay);
        else if (event.code === "KeyD") setView({ drawing: !view.drawing });
        else if (view.station === "operate" && viewKeys[event.code]) turnShown(viewKeys[event.code]!);
        else if (event.code === "KeyM") captureMouse();
        else if (event.code === "KeyB") turnLoop();
        else if (event.code === "KeyR") lookBack();
        else if (event.code === "Equal" || event.code === "NumpadAdd") zoomTime(0.5);
        else if (event.code === "Minus" || event.code === "NumpadSubtract") zoomTime(2);
        else if (event.code === "KeyK") toggleAutoKey();
        else if (event.code === "KeyH") link.send({ do: "level" });
        else if (event.code === "KeyG") rateLatest(event.shiftKey ? "hold" : "good");
        else if (event.code === "KeyN") rateLatest("no");
        else if (event.code === "KeyJ") setView({ log: !view.log, station: "operate" });
        else if (event.code === "KeyV") setView({ ghost: !view.ghost });
        else if (event.code === "KeyA") attachOrLetGo();
        else if (event.code === "KeyS") void writeStill();
        else if (event.code === "KeyW") openClean();
        else if (event.code === "Enter") turnFullScreen();
        else if (event.code === "KeyC") headTo(["pan", "tilt", "roll"]);
        else return;
        event.preventDefault();
        return;
      }
      if (typing(event.target)) return;
      if (view.station === "operate" && view.live && walkKey(event, true)) {
        event.preventDefault();
        return;
      }
      if (view.station === "operate" && drives(key) && view.live && event.key !== "?") {
        holdKey(key, true);
        event.preventDefault();
        return;
      }
      if (act(event, key)) event.preventDefault();
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

/** A key that is pressed once; whether it meant something. */
function act(event: KeyboardEvent, key: string): boolean {
  const view = useView.getState();
  const focused =
    event.target instanceof HTMLElement &&
    event.target.closest("button, [role=slider], [role=button], [role=combobox], input");
  // A focused button keeps its own space and arrows.
  if (focused && [" ", "Enter"].includes(event.key) && !focused.matches('[aria-label="Time"]')) return false;
  if (focused && event.key.startsWith("Arrow") && !focused.matches('[aria-label="Time"], button'))
    return false;
  const once: Record<string, () => void> = {
    " ": playPause,
    J: () => play(-1),
    K: () => play(0),
    L: () => play(1),
    "[": () => turnPace(-1),
    "]": () => turnPace(1),
    ArrowLeft: () => step(event.shiftKey ? -10 : -1),
    ArrowRight: () => step(event.shiftKey ? 10 : 1),
    Home: toStart,
    End: toEnd,
    PageUp: () => toPoint(-1, event.shiftKey),
    PageDown: () => toPoint(1, event.shiftKey),
    I: () => mark("inS"),
    O: () => mark("outS"),
    Escape: () => {
      if (document.pointerLockElement) {
        document.exitPointerLock();
        return;
      }
      setView({ showKeys: false, importing: false, drawing: false, log: false });
      if (view.station === "set")
        setSet({
          tool: "pick",
          ...(useSetState.getState().tool === "pick" ? { picked: [], performer: null } : {}),
        });
      if (view.station === "operate" && !view.showKeys && !view.importing && !view.log) goLive();
    },
    "?": () => setView({ showKeys: !view.showKeys }),
  };
  if (view.station === "operate") {
    once.R = () => !event.repeat && rollOrCut();
    once.Backspace = () => link.send({ do: "return" });
    // Only what is pending: a first key is set on purpose, with its button.
    once.Enter = () => hasPending(useFloor.getState()) && void keepPending();
    once.Delete = discardPending;
    once["-"] = () => turnDial(-0.05);
    once["="] = () => turnDial(0.05);
    const digit = /^Digit([1-9])$/.exec(event.code);
    if (digit && event.shiftKey) once[event.key] = () => goTo(Number(digit[1]));
    else if (/^[0-9]$/.test(event.key))
      once[event.key] = () => setDial(event.key === "0" ? 1 : Number(event.key) / 10);
  } else if (view.station === "set") {
    const tool = tools[key];
    // A path goes on from who is picked; other tools begin anew.
    if (tool) once[key] = () => take(tool);
  } else {
    once.B = () => setView({ stage: "raw" });
    const document = scene.document;
    const whole = document ? stripLength(document, scene.looked) : 0;
    once["+"] = once["="] = () => zoomBy(0.5, clock.time, whole);
    once["-"] = () => zoomBy(2, clock.time, whole);
    once["0"] = () => zoomBy(null, 0, whole);
    once.X = () => setView({ beside: !view.beside });
    once.V = () => turnShaped(event.shiftKey ? -1 : 1);
    const { looked } = scene;
    once.C = () => document && looked && turnVariant(document, looked, event.shiftKey ? -1 : 1);
  }
  const action = once[key] ?? once[event.key];
  action?.();
  return !!action;
}
