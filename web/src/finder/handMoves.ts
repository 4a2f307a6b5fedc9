import { askReach } from "../api";
import { holdsWheels, link, useFloor } from "../live/link";
import { turn } from "../geometry";
import { bringQuietly, byName, timeStands } from "../machine/bring";
import type { Moment } from "../moves";
import { correcting, type By } from "../state/correcting";
import { moment, scene } from "../state/now";
import { newest } from "../state/newest";
import { setView, useView } from "../state/view";

/**
 * Moving the camera by hand in the finder. Live, a drag pans and tilts; with Shift it trucks and booms, with
 * Ctrl it goes round what is in focus; the wheel zooms, with Shift it pushes. While the scene's time stands the
 * machine is put there under the hand. While time runs it is driven: pan, tilt and zoom at once, the rest when
 * the hand lets go. Where a move is looked at, a drag goes into the correction that is open.
 */

type Vec = [number, number, number];

/** Camera in the world: metres, quaternion, degrees. */
interface Place {
  position: Vec;
  rotation: readonly number[];
  angles: Vec;
}

interface HandMove {
  word: string;
  position: Vec;
  angles: Vec | null;
}

const may = () => useView.getState().live && holdsWheels(useFloor.getState());
const axis = (name: string) => scene.machine?.axes.findIndex((a) => a.name === name) ?? -1;
/** Values that the hand has brought axes to, until the floor has put them there. */
let held: Record<string, number> = {};
const putHeld = newest(bringQuietly);

/** Puts an axis farther by an amount while time stands, else drives it farther. */
function farther(name: string, by: number) {
  const i = axis(name);
  const view = scene.machine?.axes[i];
  if (!view || by === 0) return;
  if (!timeStands()) return link.nudge(i, by);
  const value = (held[name] ?? link.frame!.axes[i]!.value) + by;
  held = { ...held, [name]: Math.min(Math.max(value, view.min ?? -Infinity), view.max ?? Infinity) };
  void putHeld(held).then(() => (held = {}));
}

/** HandMove of a hand that moved; `far` is the distance of what the hand holds. */
export function wished(
  how: "truck" | "orbit",
  at: Place,
  [dx, dy]: readonly [number, number],
  metresPerPixel: number,
  far: number,
): HandMove {
  if (how === "truck") {
    // The picture follows the hand, so the camera goes the other way.
    const right = turn(at.rotation, 0, [1, 0, 0]);
    const [side, up] = [-dx * metresPerPixel, dy * metresPerPixel];
    const position: Vec = [
      at.position[0] + right[0] * side,
      at.position[1] + up,
      at.position[2] + right[2] * side,
    ];
    return { word: `${side.toFixed(2)} m right, ${up.toFixed(2)} m up`, position, angles: null };
  }
  const by = -dx * 0.3;
  const [pan, tilt, roll] = at.angles;
  const radians = (pan * Math.PI) / 180;
  const level = far * Math.cos((tilt * Math.PI) / 180);
  const [mx, mz] = [at.position[0] + Math.sin(radians) * level, at.position[2] - Math.cos(radians) * level];
  const turned = radians + (by * Math.PI) / 180;
  const position: Vec = [mx - Math.sin(turned) * level, at.position[1], mz + Math.cos(turned) * level];
  return { word: `round by ${by.toFixed(0)}°`, position, angles: [pan + by, tilt, roll] };
}

const putWish = newest(sendTo);

async function sendTo(wish: HandMove) {
  const frame = link.frame;
  if (!frame) return;
  const near = frame.axes.map((a) => a.value);
  const reach = await askReach(frame.setup, wish.position, near, wish.angles).catch(() => null);
  if (reach) await bringQuietly(byName(reach.axes));
}

/** Correction by a hand that moved, from where it took hold. */
export function putRight(
  moves: boolean,
  at: Place,
  by: readonly [number, number],
  half: number,
  width: number,
  far: number,
): By {
  if (!moves) {
    const perPixel = (2 * Math.atan(half) * 180) / Math.PI / width;
    return { move_cm: [0, 0, 0], turn_deg: [-by[0] * perPixel, by[1] * perPixel, 0] };
  }
  const { position } = wished("truck", at, by, (2 * half * far) / width, far);
  const move_cm = position.map((v, i) => (v - at.position[i]!) * 100) as Vec;
  return { move_cm, turn_deg: [0, 0, 0] };
}

/** A picture that is put right: where the hand took hold, and what it saw then. */
let right: { x: number; y: number; moves: boolean; at: Moment } | null = null;

function rightens(event: React.PointerEvent, done: boolean) {
  if (!right || !correcting.current) return;
  const { x, y, moves, at } = right;
  const by = [event.clientX - x, event.clientY - y] as const;
  const seen = { ...at, position: [...at.position] as Vec, angles: [...at.angles] as Vec };
  const width = event.currentTarget.clientWidth;
  correcting.current.put(putRight(moves, seen, by, at.halfFrame[0], width, Math.min(at.focus, 20)), done);
}

/** A truck or an orbit from where the camera was when the hand took hold. */
let drag: { how: "truck" | "orbit"; x: number; y: number; from: Place; wish: HandMove | null } | null = null;

/** Hands for the picture; `tell` shows what a drag wants. */
export function handMoves(tell: (word: string) => void) {
  return {
    onPointerDown: (event: React.PointerEvent) => {
      if (event.button !== 0 || document.pointerLockElement) return;
      const at = !useView.getState().live && correcting.current ? moment() : null;
      if (at) {
        event.currentTarget.setPointerCapture(event.pointerId);
        setView({ playing: 0 });
        right = { x: event.clientX, y: event.clientY, moves: event.shiftKey, at };
        return;
      }
      if (!may()) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      const how = event.shiftKey ? "truck" : event.ctrlKey ? "orbit" : null;
      drag = how && link.frame && { how, x: event.clientX, y: event.clientY, from: link.frame, wish: null };
    },
    onPointerMove: (event: React.PointerEvent) => {
      const frame = link.frame;
      if (!(event.buttons & 1)) right = null;
      if (right) return rightens(event, false);
      if (!(event.buttons & 1) || !may() || !frame || document.pointerLockElement) return;
      const width = event.currentTarget.clientWidth;
      if (drag) {
        const far = Math.min(frame.focus, 20);
        const metres = (2 * frame.halfFrame[0] * far) / width;
        const by = [event.clientX - drag.x, event.clientY - drag.y] as const;
        // What is put under the hand has moved already.
        drag.wish = wished(drag.how, timeStands() ? drag.from : frame, by, metres, far);
        tell(drag.wish.word);
        if (timeStands()) void putWish(drag.wish);
        return;
      }
      // The picture follows the hand: a pixel is worth the angle it shows.
      const perPixel = (2 * Math.atan(frame.halfFrame[0]) * 180) / Math.PI / width;
      farther("pan", -event.movementX * perPixel);
      farther("tilt", event.movementY * perPixel);
    },
    onPointerUp: (event: React.PointerEvent) => {
      // A click puts nothing right.
      if (right && (right.x !== event.clientX || right.y !== event.clientY)) rightens(event, true);
      right = null;
      if (drag?.wish && !timeStands()) void sendTo(drag.wish);
      drag = null;
      tell("");
    },
    onWheel: (event: React.WheelEvent) => {
      const frame = link.frame;
      if (!may() || !frame || document.pointerLockElement) return;
      // With Shift some browsers turn the wheel on its side.
      const turned = event.deltaY || event.deltaX;
      if (!event.shiftKey) return farther("zoom", -Math.sign(turned) * frame.focal * 0.04);
      const ahead = turn(frame.rotation, 0, [0, 0, -1]);
      const by = -Math.sign(turned) * 0.25;
      const position = frame.position.map((v, k) => v + ahead[k]! * by) as Vec;
      void putWish({ word: "", position, angles: null });
    },
  };
}
