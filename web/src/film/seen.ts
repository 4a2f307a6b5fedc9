import { enqueueSnackbar } from "notistack";
import type { Camera } from "../generated/types";
import { scene } from "../state/now";
import { useView } from "../state/view";

/** The camera that is looked through, and what it is called: of the move that is looked at, or of the floor. */
export function seenThrough(): { camera: Camera; title: string } | null {
  const { document, looked, setupId } = scene;
  if (!useView.getState().live) return looked;
  const setup = document?.setups.find((s) => s.id === setupId);
  return setup ? { camera: setup.camera, title: `setup ${setup.letter}` } : null;
}

/** Why there is no picture, film or window. */
export const tell = (sentence: string) => void enqueueSnackbar(sentence, { variant: "warning" });
