import { useEffect } from "react";
import { hasPending, link, useFloor } from "../live/link";
import { axisFlag } from "../live/wire";
import { everyFrame } from "../state/now";
import { useView } from "../state/view";
import { keepPending } from "./positions";

/** With auto-keying armed, what hands made becomes a key as soon as they rest. */
export function useAutoKey() {
  useEffect(() => {
    let busy = false;
    return everyFrame(() => {
      const frame = link.frame;
      if (busy || !frame || !useView.getState().autoKey || !hasPending(useFloor.getState())) return;
      if (frame.axes.some((a) => a.flags & axisFlag.driven || Math.abs(a.speed) > 1e-3)) return;
      busy = true;
      void keepPending().finally(() => (busy = false));
    }, 8);
  }, []);
}
