import { holdsWheels, link, useFloor } from "../live/link";
import { moment, scene } from "../state/now";
import { clock, setView, useView } from "../state/view";

/** Time, moved by hand: the floor's while live, the take's while looking at one. */

const mayMoveFloor = () => {
  const floor = useFloor.getState();
  return holdsWheels(floor) && floor.status?.roll === "standby";
};

export function seek(time: number) {
  if (useView.getState().live) {
    if (mayMoveFloor()) link.send({ do: "seek", time_s: time });
  } else {
    clock.time = Math.min(Math.max(0, time), scene.take?.length_s ?? 0);
  }
}

/** Frames on or back; a take is held while stepping. */
export function step(frames: number) {
  const at = moment();
  if (!at) return;
  if (useView.getState().live) {
    if (mayMoveFloor()) link.send({ do: "run", on: false });
  } else setView({ playing: 0 });
  const frame = Math.round(at.sceneTime * scene.rate) + frames;
  seek(frame / scene.rate);
}

export function play(direction: -1 | 0 | 1) {
  const { live, inS } = useView.getState();
  if (live) {
    if (mayMoveFloor()) link.send({ do: "run", on: direction !== 0 });
    return;
  }
  if (direction === 1 && clock.time >= (scene.take?.length_s ?? 0) - 1e-3) clock.time = inS ?? 0;
  setView({ playing: direction });
}

export function playPause() {
  const { live, playing } = useView.getState();
  const running = live ? useFloor.getState().status?.running : playing !== 0;
  play(running ? 0 : 1);
}

export function toStart() {
  seek(useView.getState().live ? 0 : (useView.getState().inS ?? 0));
}

export function toEnd() {
  const { live, outS } = useView.getState();
  seek(live ? (scene.document?.scene.length_s ?? 0) : (outS ?? scene.take?.length_s ?? 0));
}

/** Rolls, or cuts what counts or rolls. */
export function rollOrCut() {
  const floor = useFloor.getState();
  if (!holdsWheels(floor)) return;
  if (floor.status?.roll !== "standby") return link.send({ do: "cut" });
  setView({ live: true, playing: 0 });
  link.send({ do: "roll", count_in_s: useView.getState().countIn });
}
