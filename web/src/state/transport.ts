import { enqueueSnackbar } from "notistack";
import { holdsWheels, link, useFloor } from "../live/link";
import { json } from "../server";
import { hereS, scene } from "./now";
import { clock, setSlate, setView, useView } from "./view";

/** Time, moved by hand: the floor's while live, the take's while looking at one. */

export const mayMoveFloor = () => {
  const floor = useFloor.getState();
  return holdsWheels(floor) && floor.status?.roll === "standby";
};

export function seek(time: number) {
  if (useView.getState().live) {
    if (mayMoveFloor()) link.send({ do: "seek", time_s: time });
  } else {
    clock.time = Math.min(Math.max(scene.looked?.begins_s ?? 0, time), scene.looked?.length_s ?? 0);
  }
}

/** Frames on or back; a take is held while stepping. */
export function step(frames: number) {
  if (useView.getState().live) {
    if (mayMoveFloor()) link.send({ do: "run", on: false });
  } else setView({ playing: 0 });
  const frame = Math.round(hereS() * scene.rate) + frames;
  seek(frame / scene.rate);
}

export function play(direction: -1 | 0 | 1) {
  const { live, inS } = useView.getState();
  if (live) {
    if (mayMoveFloor()) link.send({ do: "run", on: direction !== 0 });
    return;
  }
  if (direction === 1 && clock.time >= (scene.looked?.length_s ?? 0) - 1e-3)
    clock.time = inS ?? scene.looked?.begins_s ?? 0;
  setView({ playing: direction });
}

export function playPause() {
  const { live, playing } = useView.getState();
  const running = live ? useFloor.getState().status?.running : playing !== 0;
  play(running ? 0 : 1);
}

/** Goes to a time that somebody typed: a frame, seconds or a timecode; whether it is one. */
export async function typeTime(typed: string): Promise<boolean> {
  try {
    const time = await json<number>(`scene/time?typed=${encodeURIComponent(typed)}`);
    if (!useView.getState().live) setView({ playing: 0 });
    else if (mayMoveFloor()) link.send({ do: "run", on: false });
    seek(Math.max(0, time));
    return true;
  } catch (error) {
    enqueueSnackbar((error as Error).message, { variant: "warning" });
    return false;
  }
}

/** The floor goes round as this page says, while it holds the wheels: it knows before anything else is asked. */
function tellLoop() {
  const { live, loops, inS, outS } = useView.getState();
  if (!holdsWheels(useFloor.getState())) return;
  link.send({ do: "loop", on: loops.live, from_s: live ? inS : null, to_s: live ? outS : null });
}
useView.subscribe((now, before) => {
  if ((["live", "loops", "inS", "outS"] as const).some((what) => now[what] !== before[what])) tellLoop();
});
useFloor.subscribe((now, before) => {
  if (holdsWheels(now) && !holdsWheels(before)) tellLoop();
});

/** How fast moves can be played. */
const paces = [0.25, 0.5, 1, 2, 4];

/** Slower or faster by one; what is played is the same. */
export function turnPace(by: -1 | 1) {
  const at = paces.indexOf(useView.getState().pace);
  setView({ pace: paces[Math.min(paces.length - 1, Math.max(0, at + by))]! });
}

export function toStart() {
  seek(useView.getState().live ? 0 : (useView.getState().inS ?? scene.looked?.begins_s ?? 0));
}

export function toEnd() {
  const { live, outS } = useView.getState();
  seek(live ? (scene.document?.scene.length_s ?? 0) : (outS ?? scene.looked?.length_s ?? 0));
}

/** Rolls, or cuts what counts or rolls. */
export function rollOrCut() {
  const floor = useFloor.getState();
  if (!holdsWheels(floor)) return;
  if (!floor.status) return;
  if (floor.status.roll !== "standby") return link.send({ do: "cut" });
  const { countIn, slate, inS, outS } = useView.getState();
  setView({ live: true, playing: 0, otherId: null, log: false });
  const end = scene.document?.scene.length_s ?? null;
  const pass = floor.status.below !== null;
  link.send({
    do: "roll",
    count_in_s: countIn,
    until_s: slate.ends === "out" || pass ? outS : slate.ends === "performance" ? end : null,
    note: slate.note,
    pass: {
      name: slate.pass,
      from_s: pass ? (inS ?? 0) : 0,
      pre_roll_s: slate.preRoll,
      blend_s: slate.blend,
    },
  });
}

/** Another take below is another pass: what was said of the one before is not said of it. */
useFloor.subscribe(({ status }, { status: before }) => {
  if (status?.below !== before?.below && useView.getState().slate.pass) setSlate({ pass: "" });
});
