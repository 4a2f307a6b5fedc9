import { useEffect, useRef } from "react";
import type { Correction } from "../generated/types";
import type { Changed } from "../form/contexts";
import { corrected, correcting } from "../state/correcting";
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
    correcting.current = (by, done) => {
      held.current ??= keys;
      const next = corrected(held.current, clock.time, by, 0.5 / scene.rate);
      if (done) held.current = null;
      onKeys(next, done ? { tried: false } : { tried: true });
    };
    return () => {
      correcting.current = null;
    };
  }, [keys, onKeys]);
  return (
    <p style={{ margin: "2px 0", fontSize: 12.5, color: ink.chalkDim }}>
      Drag in the picture: it is put right at this frame. With shift the camera moves.
    </p>
  );
}
