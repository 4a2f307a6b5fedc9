import { useRef, useState } from "react";
import { askCalm, useCalmKind } from "../api";
import type { Changed } from "../form/contexts";
import { ParamForm } from "../form/ParamForm";
import type { Fields } from "../form/params";
import type { Calm, CalmGoal, MoveId } from "../generated/types";
import { endPreview } from "../state/preview";
import { ink } from "../theme";

/**
 * How calm the move shall be: the least smoothing that does it is found and put below, where its exact
 * values can be changed. What cannot be had within its bounds is told.
 */
export function CalmDial(props: {
  move: MoveId;
  treatment: number;
  onFound: (smooth: Calm["smooth"], how: Changed) => void;
}) {
  const { move, treatment, onFound } = props;
  const kind = useCalmKind().data;
  const [wished, setWished] = useState<CalmGoal | null>(null);
  const [found, setFound] = useState<Calm | null>(null);
  const asked = useRef<AbortController | null>(null);
  if (!kind) return null;
  const [params, usual] = kind;
  const ask = (wish: CalmGoal, how: Changed) => {
    setWished(wish);
    asked.current?.abort();
    const mine = (asked.current = new AbortController());
    void askCalm(move, treatment, wish, mine.signal).then((calm) => {
      if (mine.signal.aborted) return;
      // What was tried last is not what is wished: as it is kept, then.
      if (!calm) return endPreview();
      setFound(calm);
      onFound(calm.smooth, how);
    });
  };
  return (
    <div
      role="group"
      aria-label="Calm"
      style={{ borderBottom: `1px solid ${ink.slate3}`, paddingBottom: 4, marginBottom: 4 }}
    >
      <ParamForm
        // Before something is wished, there is nothing to bound.
        params={wished ? params : params.slice(0, 1)}
        value={(wished ?? usual) as unknown as Fields}
        onChange={(next, how) => ask(next as unknown as CalmGoal, how)}
      />
      {found?.told.map((sentence) => (
        <p key={sentence} role="alert" style={{ margin: "2px 0", fontSize: 12.5, color: ink.near }}>
          ▲ {sentence}
        </p>
      ))}
    </div>
  );
}
