import type { Setup } from "../generated/types";
import type { Moment } from "../moves";
import { stage } from "../render/stage";
import { scene } from "../state/now";

/** Where a setup's camera is: live for the one on the floor, at its start for the others. */
export function standing(setup: Setup, at: Moment) {
  if (setup.id === scene.setupId) return { position: at.position, rotation: at.rotation, focal: at.focal };
  const view = scene.views.find((v) => v.id === setup.id);
  if (!view) return null;
  const square = view.card && stage.beforeCard(view.card.piece, view.card.position);
  return { ...(square ?? view), focal: view.focal_mm };
}
