import type { SetView } from "../generated/types";
import { bakeSet } from "./bake";

/** Paints the set beside the page, so that a hand on the plan never waits for it. */
self.onmessage = ({ data }: MessageEvent<{ number: number; set: SetView }>) => {
  const baked = bakeSet(data.set);
  self.postMessage(
    { number: data.number, baked },
    {
      transfer: baked.flatMap((part) => [part.places.buffer, part.paint.buffer, part.faces.buffer]),
    },
  );
};
