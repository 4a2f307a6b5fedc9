import type { SetView } from "../generated/types";
import { bakeSet } from "./bake";

/** Paints the set beside the page, so that a hand on the plan never waits for it. */
self.onmessage = ({ data }: MessageEvent<{ number: number; set: SetView }>) => {
  const baked = bakeSet(data.set);
  self.postMessage(
    { number: data.number, baked },
    {
      transfer: [baked.places.buffer, baked.paint.buffer, baked.faces.buffer],
    },
  );
};
