import type { Document, MoverView, MachineView } from "../generated/types";
import { link } from "../live/link";
import type { Acting, StateFrame } from "../live/wire";
import { momentOf, placeAt, type Moment, type MoveFrames } from "../moves";
import { NOTHING, ownBodies, type PictureSubject } from "../render/subject";
import type { Looked } from "./looked";
import { clock, setView, useView } from "./view";

/** State for drawing loops, kept up to date by `useNow` in the shell. */
export const scene = {
  document: null as Document | null,
  /** The move that is looked at, also while live. */
  looked: null as Looked | null,
  /** Machine of the floor, or of the move on show. */
  machine: null as MachineView | null,
  now: null as MoveFrames | null,
  raw: null as MoveFrames | null,
  /** The take that is compared, and the one before as a ghost. */
  other: null as MoveFrames | null,
  ghost: null as MoveFrames | null,
  /** The performance that is shown. */
  played: NOTHING,
  /** The same of the move that is compared, with its setup and machine. */
  beside: { played: NOTHING, setup: 0, machine: null as MachineView | null },
  /** Ways of the camera that is shown, before and after treatments. */
  paths: undefined as PictureSubject["paths"],
  /** The setup that is looked through. */
  setupId: 0,
  rate: 24,
};

/** The time that is shown, seconds: known also where nothing has come yet of what is there then. */
export const hereS = () => (useView.getState().live ? (link.frame?.sceneTime ?? 0) : clock.time);

/** Moment on show; null before the first frame arrives. */
export function moment(stage = useView.getState().stage): Moment | null {
  if (useView.getState().live) {
    const f = link.frame;
    if (!f) return null;
    return {
      live: true,
      sceneTime: f.sceneTime,
      position: f.position,
      rotation: f.rotation,
      angles: f.angles,
      focal: f.focal,
      focus: f.focus,
      stop: f.stop,
      near: f.near,
      far: f.far,
      hyperfocal: f.hyperfocal,
      subject: f.subject,
      share: f.share,
      halfFrame: f.halfFrame,
      shot: f.shot,
      covered: f.covered,
      timecode: f.timecode,
      sees: f.sees,
      axes: f.axes.map((a) => a.value),
      bodies: f.bodies,
      movers: moversOf(f),
    };
  }
  const move = stage === "raw" ? scene.raw : scene.now;
  return move && move.frames > 0 ? momentOf(move, scene.rate, clock.time) : null;
}

/** Another take at this instant: the one that is compared, or the ghost of the one before. */
export function momentBeside(which: "other" | "ghost"): Moment | null {
  const move = scene[which];
  return move && move.frames > 0 ? momentOf(move, scene.rate, hereS()) : null;
}

const moversOf = ({ acting, riding }: StateFrame) => (acting ? [acting, ...riding] : riding);

/** Movers that leave the performance: a driven performer, and loads of a driven machine. */
export function moversNow(): Acting[] {
  if (useView.getState().live) return link.frame ? moversOf(link.frame) : [];
  return moment()?.movers ?? [];
}

/** Place of a performer's trunk or of a piece's foot at a time. */
export function placeNow(figure: MoverView, time: number, movers: Acting[]): [number, number, number] | null {
  const own = ownBodies(figure, movers)?.subarray(figure.piece === null ? 7 : 0);
  if (own && own.length >= 3) return [own[0]!, own[1]!, own[2]!];
  return figure.path.length > 0 ? placeAt(figure, time) : null;
}

/** Length of the time strip: of the performance, or of the move where that is longer. */
export function stripLength(document: Document, looked: Looked | null): number {
  return Math.max(document.scene.length_s, looked?.length_s ?? 0);
}

type Draw = (elapsed: number) => void;
const drawings = new Set<Draw>();
let last = 0;

/**
 * Draws with every picture the browser shows, until the answer is called; with `atMost`, no more
 * than so many times a second: paper is read, not watched, and leaves the rest to the finder. Begun by a
 * layout effect: other effects end only after what they draw on is off the page.
 */
export function everyFrame(draw: Draw, atMost = Infinity): () => void {
  let since = Infinity;
  const paced: Draw = (elapsed) => {
    since += elapsed;
    if (since < 1 / atMost) return;
    since = 0;
    draw(elapsed);
  };
  drawings.add(paced);
  if (drawings.size === 1) requestAnimationFrame(tick);
  return () => drawings.delete(paced);
}

function tick(time: number) {
  const elapsed = Math.min((time - last) / 1000, 0.25);
  last = time;
  playOn(elapsed);
  for (const draw of drawings) {
    // One drawing that fails must not stop the others, nor the next picture.
    try {
      draw(elapsed);
    } catch (error) {
      reportError(error);
    }
  }
  if (drawings.size > 0) requestAnimationFrame(tick);
}

/** Moves the clock of the move; it stops at the out point, or goes round between in and out. */
function playOn(elapsed: number) {
  const { live, playing, pace, inS, outS, loops } = useView.getState();
  if (live || playing === 0 || !scene.looked) return;
  const from = inS ?? scene.looked.begins_s;
  const to = outS ?? scene.looked.length_s;
  clock.time += elapsed * playing * pace;
  if (playing > 0) clock.time = Math.max(from, clock.time);
  if (clock.time > to || clock.time < from) {
    if (loops.move && to > from) clock.time = playing > 0 ? from : to;
    else {
      clock.time = playing > 0 ? to : from;
      setView({ playing: 0 });
    }
  }
}
