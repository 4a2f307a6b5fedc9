import { memo, useEffect, useMemo } from "react";
import { useMove, useMoveMachine, usePlayed, usePlays, useRawMove } from "../api";
import type { Document, MachineView, Setup } from "../generated/types";
import { scene } from "../state/now";
import { chosenOf, lookedOf, useLengths, type Looked } from "../state/looked";
import { clock, useView } from "../state/view";
import { NOTHING, type Played } from "./subject";

interface Props {
  document: Document;
  played: Played;
  /** The move that is looked at, also while live. */
  looked: Looked | null;
  /** The move that is compared with it. */
  other: Looked | null;
  setup: Setup;
  /** Of what is looked through. */
  machine: MachineView | null;
}

/**
 * Keeps what drawing loops read up to date: they never wait for React, and what is looked at under
 * treatments that are tried comes here, so that nothing else is rendered for it. Shows nothing.
 */
export const Pictures = memo(function Pictures(props: Props) {
  const { document, played, looked, other, setup, machine } = props;
  const live = useView((s) => s.live);
  const ghost = useView((s) => s.ghost) && live;
  const seen = live ? undefined : (looked ?? undefined);
  const { data: now = null, isPlaceholderData: old } = useMove(seen);
  const raw = useRawMove(seen).data ?? null;
  const otherMove = useMove(other ?? undefined).data ?? null;
  // The ghost is the take of this setup that was rolled last.
  const ghostOf = useMemo(() => {
    const own = (t: Document["takes"][number]) =>
      t.setup_id === setup.id && !t.rolling && !t.binned && !t.pass;
    const before = ghost && document.takes.findLast(own);
    const move = before && chosenOf(document, before.id);
    return (move && lookedOf(document, move.id)) || undefined;
  }, [ghost, document, setup.id]);
  const ghostMove = useMove(ghostOf).data ?? null;
  const otherPlayed = usePlayed(usePlays(other)) ?? NOTHING;
  const otherMachine = useMoveMachine(other ?? undefined).data ?? null;
  const paths = useMemo(() => ({ raw: raw && raw.path, now: now && now.path }), [raw, now]);

  useEffect(() => {
    Object.assign(scene, {
      document,
      looked,
      machine,
      now,
      raw,
      other: other ? otherMove : null,
      ghost: ghost ? ghostMove : null,
      played,
      beside: { played: otherPlayed, setup: other?.move.setup_id ?? 0, machine: otherMachine },
      paths,
      setupId: (live ? setup.id : looked?.move.setup_id) ?? 0,
      rate: document.scene.rate.num / document.scene.rate.den,
    });
  });
  const rate = document.scene.rate.num / document.scene.rate.den;
  const of = seen?.move.id;
  useEffect(() => {
    if (now && of !== undefined && !old) {
      const begins = now.first / rate;
      const ends = begins + (now.frames - 1) / rate;
      useLengths.setState({ [of]: [begins, ends] });
      // The playhead stays on what is left of it.
      if (!live) clock.time = Math.min(ends, Math.max(begins, clock.time));
    }
  }, [now, old, of, rate, live]);
  return null;
});
