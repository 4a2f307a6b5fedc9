import { useRef } from "react";
import { askReach } from "../api";
import { changeRig } from "../camera/setups";
import { handlesOf, type Handle, type Vec } from "../machine/handles";
import { bring, bringQuietly, byName, timeStands } from "../machine/bring";
import { setRail } from "../machine/rail";
import { holdsWheels, link, useFloor } from "../live/link";
import { scene } from "../state/now";
import { newest } from "../state/newest";
import { setView, useView } from "../state/view";
import type { Point } from "../geometry";

/** Answer of the machine to something dragged on paper. */
export interface Told {
  at: Vec;
  word: string;
  short: number;
  limits: string[];
}

/** A drag on paper. */
interface Drag {
  what: Handle | "camera";
  gesture: string;
  start: Vec;
  /** Asks for the newest place, as soon as the answer for the one before is there. */
  to: (at: Vec) => Promise<void>;
  /** Answer to the newest place so far. */
  asked: Promise<void>;
  released: boolean;
  /** Values that the machine drives to when the hand lets go while time runs. */
  axes: Record<string, number> | null;
}

/** How near a hand has to be, in metres on paper. */
const NEAR_M = 0.55;

export const setupOnFloor = () => scene.document?.setups.find((s) => s.id === link.frame?.setup);

/** The handles of the machine on the floor, where they are now; none while a take is looked at. */
export function handlesNow(): Handle[] {
  const setup = setupOnFloor();
  if (!setup || !useView.getState().live) return [];
  return handlesOf(setup, scene.machine, link.frame);
}

/**
 * Drags the camera and the machine's handles. While the scene's time stands the machine is put there under the
 * hand; while it runs the machine drives there when the hand lets go. `flat` is where a
 * place lies on paper, `moved` a place taken to where the hand is.
 */
export function usePaperDrag(
  svg: React.RefObject<SVGSVGElement | null>,
  flat: (p: Vec) => Point,
  moved: (start: Vec, hand: Point) => Vec,
  tell: (told: Told | null) => void,
  snap: (at: Vec) => Vec = (at) => at,
) {
  const drag = useRef<Drag | null>(null);

  const where = (event: React.PointerEvent): Point => {
    const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(
      svg.current!.getScreenCTM()!.inverse(),
    );
    return [p.x, p.y];
  };
  const may = () =>
    useView.getState().live &&
    holdsWheels(useFloor.getState()) &&
    useFloor.getState().status?.roll === "standby";

  /** Sentences about axes that do not get there. */
  const go = async (d: Drag, axes: Record<string, number>): Promise<string[]> => {
    d.axes = timeStands() ? null : axes;
    return d.axes ? [] : bringQuietly(axes);
  };
  const ask = async (d: Drag, at: Vec) => {
    const frame = link.frame;
    const on = setupOnFloor();
    if (!frame || !on) return;
    if (d.what === "camera") {
      const near = frame.axes.map((a) => a.value);
      const reach = await askReach(on.id, [...at], near);
      await go(d, byName(reach.axes));
      if (!d.released) tell({ at, word: "", short: reach.shortfall_m, limits: reach.limits });
    } else if (d.what.go) {
      const limits = await go(d, d.what.go(at));
      if (!d.released) tell({ at, word: limits[0] ?? d.what.word, short: 0, limits: [] });
    } else if (d.what.set) {
      const place = d.what.id === "base" || d.what.id.startsWith("point") ? snap(at) : at;
      // The handle as it is now: what else has changed of the machine meanwhile stays.
      const { id } = d.what;
      const what = handlesNow().find((h) => h.id === id) ?? d.what;
      await changeRig(on, what.set!(place), d.gesture);
      if (!d.released) tell({ at: place, word: what.word, short: 0, limits: [] });
    }
  };
  const finish = (d: Drag) => {
    if (d.axes) void bring(d.axes);
    tell(null);
  };

  return {
    onPointerDown: (event: React.PointerEvent) => {
      const frame = link.frame;
      if (event.button !== 0 || !frame || !may()) return;
      const [x, y] = where(event);
      const away = (at: Vec) => {
        const [hx, hy] = flat(at);
        return Math.hypot(hx - x, hy - y);
      };
      const handles = handlesNow().filter((h) => away(h.at) < NEAR_M);
      const nearest = handles.toSorted((a, b) => away(a.at) - away(b.at))[0];
      const camera = away(frame.position) < NEAR_M + 0.3;
      // Where they lie on each other the camera is what is meant, unless a handle is nearer.
      const what =
        nearest && (!camera || away(nearest.at) < away(frame.position)) ? nearest : camera ? "camera" : null;
      if (!what) return;
      if (what !== "camera" && what.id.startsWith("point")) {
        setRail({ picked: Number(what.id.slice(6)) });
        if (useView.getState().side !== "machine") setView({ side: "machine" });
      }
      event.currentTarget.setPointerCapture(event.pointerId);
      const begun: Drag = {
        what,
        gesture: crypto.randomUUID(),
        start: what === "camera" ? frame.position : what.at,
        to: newest((at: Vec) => ask(begun, at)),
        asked: Promise.resolve(),
        released: false,
        axes: null,
      };
      drag.current = begun;
    },
    onPointerMove: (event: React.PointerEvent) => {
      const d = drag.current;
      if (!d) return;
      d.asked = d.to(moved(d.start, where(event)));
    },
    onPointerUp: () => {
      const d = drag.current;
      drag.current = null;
      if (!d) return;
      d.released = true;
      void d.asked.then(() => finish(d));
    },
  };
}

/** Text about a drag of the camera: its place, and whether the machine gets there. */
export function toldText({ word, short, limits }: Told): [string, boolean] {
  if (short > 0.005) return [`${short.toFixed(2)} m short: ${limits.join(", ")}`, true];
  return [word || "within reach", false];
}
