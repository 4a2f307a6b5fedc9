import type { Setup } from "../generated/types";
import type { Moment } from "../moves";
import { stage } from "../render/stage";
import { link } from "../live/link";
import { scene } from "../state/now";

/** Where a setup's camera is: as its machine stands on the floor, or at its start. */
export function standing(setup: Setup, at: Moment) {
  if (setup.id === scene.setupId) return { position: at.position, rotation: at.rotation, focal: at.focal };
  const other = at.live ? link.frame?.others.find((o) => o.setup === setup.id) : undefined;
  if (other && setup.rig.kind !== "square_to_card") return other;
  const view = scene.played.views.find((v) => v.id === setup.id);
  if (!view) return null;
  const square = view.card && stage.beforeCard(view.card.piece, view.card.position);
  return { ...(square ?? view), focal: view.focal_mm };
}
