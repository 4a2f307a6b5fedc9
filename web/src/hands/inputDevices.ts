import { standStill, walkPad } from "./walking";
import { useEffect } from "react";
import type { MachineView } from "../generated/types";
import { hasAnyWheel, link, useFloor } from "../live/link";
import { setView, useView } from "../state/view";
import { DIAL, assigned, type Preset, type Source } from "./assign";
import { turnDial } from "./dial";
import { changePreset, loadInputs, presetOf, setInputs, useInputs } from "./inputs";

/** From keys, gamepad and mouse to hands on axes; what is asked is shaped by the floor. */

/** How often a gamepad is read. */
const POLL_MS = 15;
/** Way of a stick from which it is taken for meant, 0 to 1. */
const MEANT = 0.6;

const held = new Set<string>();
let bound: { machine: MachineView; kind: string; preset: Preset } | null = null;

/** The key of an event by its place on the keyboard, so that Shift does not change its name. */
export function keyName(event: KeyboardEvent): string {
  if (/^Key[A-Z]$/.test(event.code)) return event.code.slice(3);
  const places: Record<string, string> = {
    BracketLeft: "[",
    BracketRight: "]",
    Semicolon: ";",
    Quote: "'",
    Comma: ",",
    Period: ".",
    Slash: "/",
    Backslash: "\\",
  };
  return places[event.code] ?? event.key;
}

/** True if a key drives an axis. */
export function drives(key: string): boolean {
  const has = (s: Source) => s.by === "keys" && (s.less === key || s.more === key);
  return !!bound && Object.values(bound.preset).some((input) => input.sources.some(has));
}

export function holdKey(key: string, down: boolean) {
  if (down) held.add(key);
  else held.delete(key);
  apply();
}

export function letGo() {
  held.clear();
  standStill();
  link.letGo();
}

const padState = () => navigator.getGamepads().find((p) => p?.connected) ?? null;

function rateOf(source: Source, pad: Gamepad | null): number {
  switch (source.by) {
    case "keys":
      return (held.has(source.more) ? 1 : 0) - (held.has(source.less) ? 1 : 0);
    case "stick":
      return (pad?.axes[source.axis] ?? 0) * (source.flip ? -1 : 1);
    case "buttons":
      return (pad?.buttons[source.more]?.value ?? 0) - (pad?.buttons[source.less]?.value ?? 0);
    default:
      return 0;
  }
}

/** Puts all hands where they are now. */
function apply() {
  if (!bound) return;
  const acting = useFloor.getState().status;
  // Whoever is driven alone has the pad.
  const taken = !!acting?.acting && walkPad(acting.alone);
  const pad = taken ? null : padState();
  // A control that is moved to be given to an axis drives nothing meanwhile.
  const waits = useInputs.getState().waits !== null;
  bound.machine.axes.forEach((axis, i) => {
    const sources = waits ? [] : (bound!.preset[axis.name]?.sources ?? []);
    const rate = sources.reduce((sum, s) => sum + rateOf(s, pad), 0);
    link.hold(i, Math.min(1, Math.max(-1, rate)));
  });
}

const mayDrive = () => {
  const view = useView.getState();
  return view.live && view.station === "operate" && hasAnyWheel(useFloor.getState());
};

function poll() {
  const pad = padState();
  if ((pad?.id ?? null) !== useInputs.getState().pad) setInputs({ pad: pad?.id ?? null });
  if (pad) listenPad(pad);
  if (!mayDrive()) return;
  if (pad) apply();
  dialBy(pad);
}

/** A trigger or stick on the speed dial turns it as long as it is held; how fast, a second. */
const DIAL_RATE = 0.6;
/** The dial is told in steps that can be seen. */
const DIAL_STEP = 0.02;
let owed = 0;

function dialBy(pad: Gamepad | null) {
  const { sources, shaping } = bound?.preset[DIAL] ?? { sources: [], shaping: null };
  const rate = useInputs.getState().waits ? 0 : sources.reduce((sum, s) => sum + rateOf(s, pad), 0);
  if (!shaping || Math.abs(rate) < shaping.dead_zone) return;
  owed += (rate * (shaping.inverted ? -1 : 1) * DIAL_RATE * POLL_MS) / 1000;
  if (Math.abs(owed) < DIAL_STEP) return;
  turnDial(owed);
  owed = 0;
}

/** The mouse on the axes it drives: a pixel is worth an angle or a distance. */
function moved(along: "x" | "y" | "wheel", by: number) {
  if (!bound || !mayDrive()) return;
  const dial = bound.preset[DIAL];
  if (along === "wheel" && dial?.sources.some((s) => s.by === "wheel"))
    turnDial(0.05 * by * (dial.shaping.inverted ? -1 : 1));
  bound.machine.axes.forEach((axis, i) => {
    const meant = bound!.preset[axis.name]?.sources.some(
      (s) => (s.by === "mouse" && s.along === along) || (s.by === "wheel" && along === "wheel"),
    );
    if (!meant) return;
    const unit = { "°": 0.06, m: 0.004, mm: 0.1 }[axis.unit] ?? 0.01;
    const zoom = axis.name === "zoom" && along === "wheel" ? (link.frame?.focal ?? 35) * 0.4 : 1;
    const inverted = bound!.preset[axis.name]!.shaping.inverted ? -1 : 1;
    link.nudge(i, by * unit * zoom * inverted * (link.fine ? 0.2 : 1));
  });
}

/** Gives an axis the control that was moved. */
function give(source: Source) {
  const { waits } = useInputs.getState();
  if (!waits || !bound) return;
  const preset = assigned(bound.preset, waits, source);
  // At once: the control is still in the hand, and what it drove before must not move.
  bound = { ...bound, preset };
  changePreset(bound.kind, preset);
  setInputs({ waits: null });
}

/** Places of the sticks when nothing waited for them. */
let rest: number[] = [];
function listenPad(pad: Gamepad) {
  if (!useInputs.getState().waits) {
    rest = [...pad.axes];
    return;
  }
  const axis = pad.axes.findIndex((v, i) => Math.abs(v - (rest[i] ?? 0)) > MEANT);
  // Up on a stick is negative; up should be more.
  if (axis >= 0) return give({ by: "stick", axis, flip: axis % 2 === 1 });
  const pressed = pad.buttons.findIndex((b) => b.value > MEANT);
  if (pressed >= 0) give({ by: "buttons", less: pressed ^ 1, more: pressed });
}

let first: string | null = null;
/** A key while an axis waits: the first is for less, the second for more. Whether it was taken. */
export function listenKey(event: KeyboardEvent): boolean {
  if (!useInputs.getState().waits) {
    first = null;
    return false;
  }
  if (event.key === "Escape") setInputs({ waits: null });
  else if (keyName(event).length === 1) {
    const key = keyName(event);
    if (first === null || first === key) first = key;
    else {
      give({ by: "keys", less: first, more: key });
      first = null;
    }
  }
  event.preventDefault();
  return true;
}

/** Takes the mouse, or gives it back. */
export function captureMouse() {
  const host = document.querySelector<HTMLElement>('[data-testid="finder"]');
  if (document.pointerLockElement) document.exitPointerLock();
  else void Promise.resolve(host?.requestPointerLock()).catch(() => undefined);
}

/** Runs as long as the page does: binds the machine on the floor, reads gamepad and mouse. */
export function useDriver(machine: MachineView | undefined, kind: string | undefined) {
  const inputs = useInputs();
  const hands = useFloor((s) => (hasAnyWheel(s) ? s.status?.hands.join() : undefined));
  const setupId = useFloor((s) => s.status?.setup_id);
  useEffect(() => void loadInputs().catch(() => undefined), []);
  useEffect(() => {
    bound = machine && kind ? { machine, kind, preset: presetOf(inputs, kind, machine.axes) } : null;
  }, [machine, kind, inputs]);
  const preset = machine && kind ? presetOf(inputs, kind, machine.axes) : null;
  const shaping = machine?.axes.map(
    (a) => preset?.[a.name]?.shaping ?? { dead_zone: 0, curve: 1, inverted: false, speed: 1, drag: 1 },
  );
  const text = JSON.stringify(shaping ?? []);
  useEffect(() => {
    // Whoever gets a wheel says anew how it takes their hands.
    if (hands) link.send({ do: "shape", axes: JSON.parse(text) as never });
  }, [hands, setupId, text]);
  useEffect(() => {
    const timer = setInterval(poll, POLL_MS);
    const onMove = (event: MouseEvent) => {
      if (!document.pointerLockElement) return;
      const { waits } = useInputs.getState();
      if (waits && Math.hypot(event.movementX, event.movementY) > 6)
        return give({
          by: "mouse",
          along: Math.abs(event.movementX) > Math.abs(event.movementY) ? "x" : "y",
        });
      moved("x", event.movementX);
      moved("y", -event.movementY);
    };
    const onWheel = (event: WheelEvent) => {
      if (useInputs.getState().waits) return give({ by: "wheel" });
      if (document.pointerLockElement) moved("wheel", -Math.sign(event.deltaY));
    };
    const onLock = () => {
      const captured = !!document.pointerLockElement;
      setInputs({ captured });
      if (captured) setView({ drawing: false });
    };
    document.addEventListener("mousemove", onMove);
    document.addEventListener("wheel", onWheel, { passive: true });
    document.addEventListener("pointerlockchange", onLock);
    return () => {
      clearInterval(timer);
      document.removeEventListener("mousemove", onMove);
      document.removeEventListener("wheel", onWheel);
      document.removeEventListener("pointerlockchange", onLock);
    };
  }, []);
}
