import { create } from "zustand";
import type { AxisView, MachineView } from "../generated/types";
import { type AxisInput, DIAL, type Preset, assigned, usual, usualShaping } from "./assign";

/** Assignments as they are kept: for each kind of machine its own presets, and which one is used. */
interface Kept {
  own: Record<string, Record<string, Preset>>;
  used: Record<string, string>;
}

interface Inputs extends Kept {
  /** Inputs that were changed and not kept under a name yet, by kind of machine. */
  loose: Record<string, Preset>;
  /** The axis that waits for the control that is to drive it. */
  waits: string | null;
  /** The mouse belongs to the machine. */
  captured: boolean;
  /** The gamepad that was heard. */
  pad: string | null;
}

export const useInputs = create<Inputs>(() => ({
  own: {},
  used: {},
  loose: {},
  waits: null,
  captured: false,
  pad: null,
}));

export const setInputs = useInputs.setState;

/** Reads what is kept. */
export async function loadInputs() {
  const answer = await fetch("/api/inputs");
  const kept = answer.ok ? ((await answer.json()) as Partial<Kept> | null) : null;
  if (kept?.own && kept.used) setInputs({ own: kept.own, used: kept.used });
}

function keep() {
  const { own, used } = useInputs.getState();
  void fetch("/api/inputs", {
    method: "PUT",
    headers: { "content-type": "application/json" },
    body: JSON.stringify({ own, used } satisfies Kept),
  });
}

/** Inputs of each axis of a machine, and of the speed dial; an axis that a preset does not know has its default. */
export function presetOf(state: Inputs, kind: string, axes: AxisView[]): Preset {
  const still = { ...usual(axes), [DIAL]: { sources: [], shaping: usualShaping } };
  // Who flies with the mouse changes speed while flying: the wheel is the dial's.
  const usually = kind === "free_camera" ? assigned(still, DIAL, { by: "wheel" }) : still;
  const own = state.loose[kind] ?? state.own[kind]?.[state.used[kind] ?? ""];
  return Object.fromEntries(Object.entries(usually).map(([name, input]) => [name, own?.[name] ?? input]));
}

/** Changes a preset; it is loose until it is kept under a name. */
export function changePreset(kind: string, preset: Preset) {
  setInputs(({ loose }) => ({ loose: { ...loose, [kind]: preset } }));
}

export function changeAxis(kind: string, preset: Preset, axis: string, input: Partial<AxisInput>) {
  changePreset(kind, { ...preset, [axis]: { ...preset[axis]!, ...input } });
}

/** Uses a preset by its name; "" is the usual one. */
export function choosePreset(kind: string, name: string) {
  setInputs(({ used, loose }) => ({
    used: { ...used, [kind]: name },
    loose: Object.fromEntries(Object.entries(loose).filter(([k]) => k !== kind)),
  }));
  keep();
}

/** Keeps what is set now under a name. */
export function keepPreset(kind: string, name: string, preset: Preset) {
  setInputs(({ own, used, loose }) => ({
    own: { ...own, [kind]: { ...own[kind], [name]: preset } },
    used: { ...used, [kind]: name },
    loose: Object.fromEntries(Object.entries(loose).filter(([k]) => k !== kind)),
  }));
  keep();
}

export function removePreset(kind: string, name: string) {
  setInputs(({ own, used }) => ({
    own: { ...own, [kind]: Object.fromEntries(Object.entries(own[kind] ?? {}).filter(([n]) => n !== name)) },
    used: { ...used, [kind]: "" },
  }));
  keep();
}

/** The keys of each axis, for strips and hints. */
export function keysOf(preset: Preset, machine: MachineView): (readonly [string, string] | null)[] {
  return machine.axes.map((axis) => {
    const keys = preset[axis.name]?.sources.find((s) => s.by === "keys");
    return keys?.by === "keys" ? ([keys.less, keys.more] as const) : null;
  });
}
