import { memo, useEffect, useMemo } from "react";
import { useMove, usePerformance, useRawMove, useSetupViews } from "../api";
import type { Document, MachineView, MoverView, SetView, Setup } from "../generated/types";
import { pathOf } from "../moves";
import { scene } from "../state/now";
import { chosenOf, lookedOf, useLengths, type Looked } from "../state/looked";
import { clock, useView } from "../state/view";
import { stage } from "./stage";

interface Props {
  document: Document;
  set: SetView;
  figures: MoverView[];
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
  const { document, set, figures, looked, other, setup, machine } = props;
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
  const performance = usePerformance().data ?? null;
  const views = useSetupViews().data;

  useEffect(() => {
    Object.assign(scene, {
      document,
      looked,
      machine,
      now,
      raw,
      other: other ? otherMove : null,
      ghost: ghost ? ghostMove : null,
      performance,
      figures,
      views: views ?? [],
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
  useEffect(() => {
    stage.setSet(set);
    stage.setMovers(figures);
  }, [set, figures]);
  useEffect(() => stage.setMachine(machine), [set, machine]);
  useEffect(() => stage.setOthers(views ?? []), [set, views]);
  useEffect(() => stage.setPaths(raw && pathOf(raw), now && pathOf(now)), [raw, now]);
  return null;
});
