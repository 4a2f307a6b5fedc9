import type { AxisView } from "../generated/types";
import { axisFlag, type AxisState } from "../live/wire";
import { decimals } from "../quantity";

/** State of a strip. */
export interface StripState {
  /** Place of the needle between the two ends, 0 to 1. */
  share: number;
  value: string;
  /** At rest, a word about the end it stands at; moving, its speed, or how long until the end. */
  beside: string;
  /** Past: led against its end while the camera is wanted farther. */
  tone: "plain" | "near" | "past";
}

const digitsOf = ({ unit }: AxisView) => (unit === "m" ? 2 : unit === "mm" ? 0 : 1);

/** The ends that are drawn; an axis without ends goes once round, or as far as a stage is wide. */
function endsOf({ min, max, unit }: AxisView): [number, number] {
  if (min !== null && max !== null) return [min, max];
  return unit === "°" ? [-180, 180] : [-20, 20];
}

/** True for an axis that cannot move: a prime has no zoom. */
export const isFixed = ({ min, max }: AxisView) => min !== null && min === max;

/** Soon at an end, seconds: how long until then is said instead of how fast it goes. */
const SOON_S = 3;
export function stripOf(axis: AxisView, state: AxisState): StripState {
  const digits = digitsOf(axis);
  const [low, high] = endsOf(axis);
  const fixed = isFixed(axis);
  const round = axis.min === null && axis.unit === "°";
  const around = round ? ((((state.value + 180) % 360) + 360) % 360) - 180 : state.value;
  const atEnd = !!(state.flags & axisFlag.atEnd);
  const near = !fixed && (atEnd || !!(state.flags & axisFlag.nearEnd));
  const past = !!(state.flags & axisFlag.past);
  const still = Math.abs(state.speed) < 0.5 * 10 ** -digits;
  const word = fixed ? "fixed" : past ? "past" : atEnd ? "end" : near ? "near" : "";
  const speed = `${state.speed > 0 ? "+" : "−"}${Math.abs(state.speed).toFixed(digits)}`;
  const moving = state.stopsIn < SOON_S ? `${state.stopsIn.toFixed(1)} s` : speed;
  // A focus ring has as much way from 1 m to 2 as from 2 to far away: it goes by one over the distance.
  const along = (v: number) => (axis.name === "focus" ? -1 / Math.max(v, 1e-3) : v);
  const share = (along(around) - along(low)) / (along(high) - along(low));
  return {
    share: fixed ? 0.5 : Math.min(1, Math.max(0, share)),
    value: decimals(state.value, digits),
    beside: still ? word : moving,
    tone: past ? "past" : near ? "near" : "plain",
  };
}
