import * as THREE from "three";
import type { SetView } from "./setByPiece";

export type Card = SetView["cards"][number];

/** Image of a card at a scene time: of a sequence the first before it begins, the last from its end on. */
export function imageAt({ image, sequence }: Pick<Card, "image" | "sequence">, time: number): number {
  if (!sequence) return image;
  // A frame's own time is not to fall into the frame before.
  const k = Math.floor((time - sequence.start_s) * sequence.rate + 1e-6);
  return sequence.images[Math.min(Math.max(k, 0), sequence.images.length - 1)] ?? image;
}

/** Number of images held ready; of more, those go that were not seen for longest. */
const READY = 48;
/** Number of images of a sequence that are asked for ahead. */
const AHEAD = 4;

/** Images of cards, loaded when they are asked for. */
export class CardImages {
  private readonly ready = new Map<number, THREE.Texture>();
  private readonly coming = new Map<number, Promise<void>>();
  private readonly gone = new Set<number>();

  /** `came` is called with every image that arrives. */
  constructor(private readonly came: () => void) {}

  /** Texture of a card at a time, if it is there; else it is on its way. */
  shown(card: Card, time: number): THREE.Texture | null {
    const id = imageAt(card, time);
    if (card.sequence)
      for (let k = 1; k <= AHEAD; k++) void this.there(imageAt(card, time + k / card.sequence.rate));
    const texture = this.ready.get(id);
    if (!texture) {
      void this.there(id);
      return null;
    }
    // The last one asked for is the last to go.
    this.ready.delete(id);
    this.ready.set(id, texture);
    return texture;
  }

  /** Waits until an image is there, or known to be gone. */
  there(id: number): Promise<void> {
    if (id === 0 || this.ready.has(id) || this.gone.has(id)) return Promise.resolve();
    const known = this.coming.get(id);
    if (known) return known;
    const coming = new THREE.TextureLoader()
      .loadAsync(`/api/assets/${id}/image`)
      .then((texture) => this.keep(id, texture))
      .catch(() => void this.gone.add(id))
      .finally(() => this.coming.delete(id));
    this.coming.set(id, coming);
    return coming;
  }

  private keep(id: number, texture: THREE.Texture) {
    texture.colorSpace = THREE.SRGBColorSpace;
    this.ready.set(id, texture);
    for (const [old, unseen] of this.ready) {
      if (this.ready.size <= READY) break;
      unseen.dispose();
      this.ready.delete(old);
    }
    this.came();
  }
}
