import { create } from "zustand";
import type { Document } from "../generated/types";
import { momentWhenReady } from "../moves";
import { stills } from "../render/still";
import { eyeOf, machinesSeen, pictureAmong, pictureOf } from "../state/picture";
import { kept, pngOf, saveAs } from "../state/browser";
import type { Looked } from "../state/looked";
import { moment, scene } from "../state/now";
import { useView } from "../state/view";
import { burnIn, linesOf } from "./burnIn";
import { seenThrough, tell } from "./seen";
import { framesBetween, pixelsOf } from "./size";

/** Container of a film. */
export type Kept = "webm" | "mp4";

/** A film that is being written, frame by frame; none while there is none. */
export const useFilm = create<{ writing: { done: number; count: number; stop: boolean } | null }>(() => ({
  writing: null,
}));

export const stopFilm = () =>
  useFilm.setState(({ writing }) => ({ writing: writing && { ...writing, stop: true } }));

const codecs = { webm: "vp9", mp4: "avc" } as const;

/** The kinds that this browser can write. */
export async function kinds(): Promise<Kept[]> {
  if (typeof VideoEncoder === "undefined") return [];
  const { canEncodeVideo } = await import("mediabunny");
  const all = Object.keys(codecs) as Kept[];
  const can = await Promise.all(all.map((kind) => canEncodeVideo(codecs[kind])));
  return all.filter((_, i) => can[i]);
}

/** Name of a file without its ending. */
const nameOf = (document: Document, title: string) =>
  `scene${document.scene.number}-${title.replace(/[^\p{L}\p{N}]+/gu, "")}`;

/** How films and stills are written, kept in this browser. */
export interface Chosen {
  kept: Kept;
  /** The longer side, pixels. */
  long: number;
  /** Production, take, timecode, frame and lens in the foot of the picture. */
  written: boolean;
}

export const chosenFilm = (): Chosen => kept("film", { kept: "webm", long: 1280, written: true });

/** Writes the picture at this instant as a PNG: of the move on show, or of the floor. */
export async function writeStill(): Promise<void> {
  const { document } = scene;
  const [at, through] = [moment(), seenThrough()];
  if (!document || !at || !through) return tell("There is no picture yet; try again in a moment.");
  const { camera, title } = through;
  const size = pixelsOf(camera, chosenFilm().long);
  const blob = await stills.picture(() => ({ ...eyeOf(at, camera), subject: pictureOf(at), size }), pngOf);
  if (!blob) return tell("The still could not be written; choose a smaller picture.");
  const frame = String(Math.round(at.sceneTime * scene.rate)).padStart(4, "0");
  saveAs(blob, `${nameOf(document, title)}-${frame}.png`);
}

/**
 * Writes the move that is looked at as a film, between in and out: each frame is drawn as it is worked
 * out, however long that takes, and nothing of the screen gets into it.
 */
export async function writeFilm(document: Document, looked: Looked, wanted: Chosen): Promise<void> {
  const move = scene.now;
  if (useFilm.getState().writing) return;
  if (!move) return tell(`The frames of ${looked.title} are still on their way; try again in a moment.`);
  const media = await import("mediabunny");
  // The film goes on with what it began with, whatever is looked at meanwhile.
  const { played, machine } = scene;
  const setup = looked.move.setup_id;
  const { num, den } = document.scene.rate;
  const { inS, outS } = useView.getState();
  const [from, to] = framesBetween(inS, outS, move, num / den);
  const size = pixelsOf(looked.camera, wanted.long);
  const canvas = window.document.createElement("canvas");
  [canvas.width, canvas.height] = size;
  const paper = canvas.getContext("2d", { alpha: false })!;
  const target = new media.BufferTarget();
  const format = wanted.kept === "webm" ? new media.WebMOutputFormat() : new media.Mp4OutputFormat();
  const output = new media.Output({ format, target });
  const source = new media.CanvasSource(canvas, {
    codec: codecs[wanted.kept],
    quality: media.QUALITY_VERY_HIGH,
    keyFrameInterval: 1,
  });
  output.addVideoTrack(source, { frameRate: num / den });
  const count = to - from;
  useFilm.setState({ writing: { done: 0, count, stop: false } });
  try {
    await window.document.fonts.load('500 20px "Spline Sans Mono"');
    await move.readyBetween(from, to);
    await output.start();
    for (let i = 0; i < count; i++) {
      if (useFilm.getState().writing?.stop) return await output.cancel();
      const at = await momentWhenReady(move, num / den, ((from + i) * den) / num);
      if (!at) throw new Error(`${looked.title} was changed meanwhile`);
      const subject = pictureAmong(played, { setup, machine }, at, machinesSeen());
      await stills.picture(
        () => ({ ...eyeOf(at, looked.camera, setup), subject, size }),
        (canvas) => paper.drawImage(canvas, 0, 0),
      );
      if (wanted.written) burnIn(paper, linesOf(document, looked, from + i, at), size);
      await source.add((i * den) / num, den / num);
      useFilm.setState(({ writing }) => ({ writing: writing && { ...writing, done: i + 1 } }));
      // Hands and the floor come between two frames.
      await new Promise((next) => setTimeout(next));
    }
    await output.finalize();
    saveAs(
      new Blob([target.buffer!], { type: format.mimeType }),
      `${nameOf(document, looked.title)}.${wanted.kept}`,
    );
  } catch (error) {
    const why = (error as Error).message;
    tell(`The film could not be written: ${why}. Choose a smaller picture, or the other kind.`);
  } finally {
    useFilm.setState({ writing: null });
  }
}
