import { useCallback, useRef } from "react";
import type { Point } from "../geometry";
import { correcting } from "../state/correcting";
import { moment } from "../state/now";
import { setView, useView } from "../state/view";
import { rightedOnPaper, type Vec } from "./paper";

/**
 * Where a move is looked at and a correction is open, what is dragged on paper is put right. `where` is the
 * place under a hand, `near_m` how near to the camera a hand holds it.
 */
export function useRighting(where: (event: React.PointerEvent) => Point, near_m: number) {
  const held = useRef<{ moves: boolean; camera: Vec; from: Point; dragged: boolean } | null>(null);
  const put = (event: React.PointerEvent, done: boolean) => {
    const { moves, camera, from } = held.current!;
    correcting.current?.put(rightedOnPaper(moves, camera, from, where(event)), done);
  };
  const holds = useCallback(() => held.current !== null, []);
  const hands = {
    onPointerDown: (event: React.PointerEvent) => {
      const at = !useView.getState().live && correcting.current ? moment() : null;
      if (!at || event.button !== 0) return;
      const from = where(event);
      const [x, , z] = at.position;
      event.currentTarget.setPointerCapture(event.pointerId);
      setView({ playing: 0 });
      const moves = Math.hypot(from[0] - x, from[1] - z) < near_m;
      held.current = { moves, camera: [...at.position], from, dragged: false };
    },
    onPointerMove: (event: React.PointerEvent) => {
      if (!held.current) return;
      held.current.dragged = true;
      put(event, false);
    },
    onPointerUp: (event: React.PointerEvent) => {
      // A click puts nothing right.
      if (held.current?.dragged) put(event, true);
      held.current = null;
    },
  };
  return { holds, hands };
}
