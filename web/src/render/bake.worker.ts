import type { SetView } from "./setByPiece";
import { bakeSet } from "./bake";

/** Paints the set beside the page, so that a hand on the plan never waits for it. */
self.onmessage = ({ data }: MessageEvent<SetView>) => {
  const baked = bakeSet(data);
  const transfer = baked.flatMap((part) => [part.places.buffer, part.paint.buffer, part.faces.buffer]);
  self.postMessage(baked, { transfer });
};
