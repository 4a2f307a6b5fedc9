import { useEffect, useRef } from "react";
import type { Correction } from "../generated/types";
import type { Changed } from "../form/contexts";
import { corrected, correcting, type By } from "../state/correcting";
import { scene } from "../state/now";
import { clock } from "../state/view";
import { ink } from "../theme";

/** While a correction is open, what is dragged in the picture is its key at the playhead. */
export function ByHand({
  keys,
  onKeys,
}: {
  keys: Correction["keys"];
  onKeys: (keys: Correction["keys"], how: Changed) => void;
}) {
  // As it stood when the hand took hold; what is tried meanwhile comes back as `keys`.
  const held = useRef<Correction["keys"] | null>(null);
  useEffect(() => {
    const put = (by: By, done: boolean) => {
      held.current ??= keys;
      const next = corrected(held.current, clock.time, by, 0.5 / scene.rate);
      if (done) held.current = null;
      onKeys(next, done ? { tried: false } : { tried: true });
    };
    correcting.current = { keys, put };
    return () => {
      correcting.current = null;
    };
  }, [keys, onKeys]);
  return (
    <p style={{ margin: "2px 0", fontSize: 12.5, color: ink.chalkDim }}>
      Drag in the picture: it is put right at this frame; with shift the camera moves. On the path (beside the
      picture) drag the camera, or round it to turn it.
    </p>
  );
}
