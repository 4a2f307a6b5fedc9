import { useRef } from "react";
import { askDrag } from "../api";
import { changeRig } from "../camera/setups";
import type { Point } from "../geometry";
import type { MachineView, SetupId, Trace } from "../generated/types";
import { holdsWheels, link, useFloor } from "../live/link";
import { newest } from "../state/newest";
import { setView, useView } from "../state/view";
import { scene } from "../state/now";
import { bring, bringQuietly, timeStands } from "./bring";
import { handlesOf, type Handle, type Vec } from "./handles";
import type { HandView } from "./handView";
import { setRail } from "./rail";

/** Answer of the machine to a hand that drags. */
export interface Told {
  /** Place of the handle, and the place where the hand wants it. */
  at: Vec;
  hand: Vec;
  lines: string[];
  short: boolean;
  /** Ways that the camera can go from there, axis by axis. */
  traces: Trace[];
}

interface Drag {
  what: Handle;
  /** The setup whose machine it is. */
  setup: SetupId;
  place: (hand: Point) => Vec | null;
  /** From the hand to the handle, pixels: it is held where the hand took hold. */
  offset: Point;
  gesture: string;
  /** Asks for the newest place, as soon as the answer for the one before is there. */
  to: (at: Vec) => Promise<void>;
  asked: Promise<void>;
  released: boolean;
  /** The hand has moved: it was no click. */
  went: boolean;
  /** Values of the axes that the drag has moved so far, by name. */
  moved: Record<string, number>;
}

export const setupOnFloor = () => scene.document?.setups.find((s) => s.id === link.frame?.setup);

/** Handles of the machine on the floor; none while hands are off: a move is looked at, or a take rolls. */
export function handlesNow(): Handle[] {
  const setup = setupOnFloor();
  const floor = useFloor.getState();
  const may = useView.getState().live && holdsWheels(floor) && floor.status?.roll === "standby";
  return may && setup && scene.machine ? handlesOf(setup, scene.machine, link.frame) : [];
}

/** Values of axes as a hand reads them. */
export function valueLines(machine: Pick<MachineView, "axes">, moved: Record<string, number>): string[] {
  const one = ({ name, unit }: MachineView["axes"][number]) => {
    const value = moved[name];
    if (value === undefined) return [];
    const text = value.toFixed(unit === "m" ? 2 : unit === "mm" ? 0 : 1);
    return [`${name} ${text}${unit === "°" ? "" : " "}${unit}`];
  };
  return machine.axes.flatMap(one);
}

/** Distance by which a machine is short, and the end stops that it stands at. */
export const shortLines = (short_m: number, limits: string[]) => [`${short_m.toFixed(2)} m short`, ...limits];

const isPoint = ({ id }: Handle) => /^point \d/.test(id);

/** Shortest distance that is told, metres. */
const TOLD_M = 0.005;

/**
 * Drags handles. While the scene's time stands the machine is put there under the hand; while it runs the machine
 * drives there when the hand lets go. `tell` hears what the machine answers; `snap` pulls places to where things
 * want to stand.
 */
export function useDragging(
  view: HandView,
  tell: (told: Told | null) => void,
  snap: (at: Vec, free: boolean) => Vec,
) {
  const drag = useRef<Drag | null>(null);

  const ask = async (d: Drag, hand: Vec) => {
    const [frame, on, machine] = [link.frame, setupOnFloor(), scene.machine];
    // What was meant for one machine moves no other one that came onto the floor meanwhile.
    if (!frame || !machine || on?.id !== d.setup) return;
    const { does, id } = d.what;
    if (does.kind === "builds") {
      // The handle as it is now: what else has changed of the machine meanwhile stays.
      const now = handlesOf(on, machine, frame).find((h) => h.id === id)?.does;
      if (now?.kind !== "builds") return;
      await changeRig(on, now.with(hand), d.gesture);
      if (!d.released) tell({ at: hand, hand, lines: [now.says(hand)], short: false, traces: [] });
      return;
    }
    const near = frame.axes.map((a) => a.value);
    const found = await askDrag(on.id, id, hand, near);
    const targets = Object.fromEntries(
      machine.axes.flatMap(({ name }, i) => {
        const value = found.targets[i];
        return value === null || value === undefined ? [] : [[name, value] as const];
      }),
    );
    // Put there, the machine counts from where it is now; not yet driven, from where it was.
    d.moved = timeStands() ? { ...d.moved, ...targets } : targets;
    if (timeStands() && Object.keys(targets).length > 0) await bringQuietly(targets);
    if (d.released) return;
    const short = found.shortfall_m > TOLD_M;
    const lines = short ? shortLines(found.shortfall_m, found.limits) : valueLines(machine, d.moved);
    const { at, traces } = found;
    tell({ at, hand, lines: lines.length > 0 ? lines : ["within reach"], short, traces });
  };

  const handAt = (d: Drag, [x, y]: Point, free: boolean): Vec | null => {
    const place = d.place([x + d.offset[0], y + d.offset[1]]);
    return place && d.what.look === "square" ? snap(place, free) : place;
  };

  const end = () => {
    const d = drag.current;
    drag.current = null;
    if (!d) return;
    d.released = true;
    view.release?.();
    // A click on a point shows its numbers.
    if (!d.went && isPoint(d.what)) setView({ side: "machine" });
    void d.asked.then(() => {
      // While time runs nothing was put: the machine drives there now.
      const waits = !timeStands() && link.frame?.setup === d.setup && Object.keys(d.moved).length > 0;
      if (waits) void bring(d.moved);
      tell(null);
    });
  };

  return {
    end,
    /** Lets go of a handle that is not there any more: a take begins, or the wheels are somebody else's. */
    letGoOfOthers(there: Handle[]) {
      const d = drag.current;
      if (!d || there.some((h) => h.id === d.what.id)) return;
      // What now rolls, or is somebody else's, is driven nowhere.
      d.moved = {};
      end();
    },
    begin(what: Handle, hand: Point) {
      const at = view.toPixels(what.at);
      const on = setupOnFloor();
      if (!at || !on) return;
      if (isPoint(what)) setRail({ picked: Number(what.id.slice(6)) - 1 });
      const begun: Drag = {
        what,
        setup: on.id,
        place: view.hold(what.at, what.look === "square" || what.level),
        offset: [at[0] - hand[0], at[1] - hand[1]],
        gesture: crypto.randomUUID(),
        to: newest((to: Vec) => ask(begun, to)),
        asked: Promise.resolve(),
        released: false,
        went: false,
        moved: {},
      };
      drag.current = begun;
    },
    move(hand: Point, free: boolean) {
      const d = drag.current;
      const to = d && handAt(d, hand, free);
      if (!d || !to) return;
      d.went = true;
      d.asked = d.to(to);
    },
  };
}
