import { zipSync } from "fflate";
import type { Document, Setup } from "../generated/types";
import { tell } from "../film/seen";
import { framesBetween, pixelsOf } from "../film/size";
import { momentWhenReady, type Moment } from "../moves";
import { stills, type StillPicture } from "../render/still";
import { pictureOf } from "../state/picture";
import { scene, moment } from "../state/now";
import { pngOf, saveAs } from "../state/browser";
import { setView, useView } from "../state/view";
import { standing } from "./standing";

/** The longer side of a still, pixels. */
const LONG = 1920;

/**
 * A PNG for every frame, or those from in to out: of the take that is looked at, so that a card follows that take's camera,
 * or of the performance.
 */
export async function saveStills(document: Document, setup: Setup) {
  const size = pixelsOf(setup.camera, LONG);
  const move = useView.getState().live ? null : scene.now;
  const base = moment();
  if (!base) return;
  const card = setup.rig.kind === "square_to_card" && setup.rig.card;
  if (card && document.scene.pieces.some((p) => p.id === card && p.hidden))
    return tell("The card of this camera is hidden, so it would not be in the stills; show it in Set first.");
  const { inS, outS } = useView.getState();
  const all = { first: 0, frames: Math.max(1, Math.floor(document.scene.length_s * scene.rate)) };
  const [first, end] = framesBetween(inS, outS, move ?? all, scene.rate);
  const count = end - first;
  const files: Record<string, Uint8Array> = {};
  setView({ stills: { done: 0, count } });
  for (let i = 0; i < count && useView.getState().stills; i++) {
    const sceneTime = (first + i) / scene.rate;
    const at: Moment | null = move
      ? await momentWhenReady(move, scene.rate, sceneTime).catch(() => null)
      : { ...base, sceneTime };
    if (!at) {
      setView({ stills: null });
      return tell("The stills could not be written: the move was changed meanwhile. Try again.");
    }
    const picture = (): StillPicture | null => {
      const from = standing(setup, at);
      if (!from) return null;
      const still = { subject: pictureOf(at), camera: setup.camera, setup: setup.id };
      // Cards turn with the moment, so the camera is asked again after they have; no other picture comes between.
      stills.draw({ ...still, through: from, size: [16, 16] });
      return { ...still, through: standing(setup, at) ?? from, size };
    };
    const blob = await stills.picture(picture, pngOf);
    if (!standing(setup, at)) break;
    if (blob)
      files[`setup${setup.letter}-${String(first + i).padStart(5, "0")}.png`] = new Uint8Array(
        await blob.arrayBuffer(),
      );
    if (useView.getState().stills) setView({ stills: { done: i + 1, count } });
  }
  const stopped = !useView.getState().stills;
  setView({ stills: null });
  if (stopped) return;
  const archive = zipSync(files, { level: 0 });
  saveAs(
    new Blob([archive as Uint8Array<ArrayBuffer>], { type: "application/zip" }),
    `scene${document.scene.number}-setup${setup.letter}-stills.zip`,
  );
}
