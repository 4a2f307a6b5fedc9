import { useLayoutEffect, useRef } from "react";
import type { MoverView } from "../generated/types";
import { outline, closed, type Point } from "../geometry";
import { placesOf } from "../moves";
import { posesAt } from "../render/subject";
import { everyFrame, hereS, moversNow, placeNow, scene } from "../state/now";
import { ink } from "../theme";

/** Paper is read, not watched: so many pictures a second are enough. */
const OFTEN = 12;

/** Performers and moving pieces at the playhead, on the plan. */
export function PeopleNow({ figures, px }: { figures: MoverView[]; px: (pixels: number) => number }) {
  const group = useRef<SVGGElement>(null);
  useLayoutEffect(() => {
    let drawn = "";
    return everyFrame(() => {
      const [time, movers] = [hereS(), moversNow()];
      const now = `${time} ${placesOf(movers)}`;
      if (!group.current || now === drawn) return;
      drawn = now;
      [...group.current.children].forEach((child, i) => {
        const [x, , z] = placeNow(figures[i]!, time, movers) ?? [0, 0, 0];
        child.setAttribute("transform", `translate(${x.toFixed(3)} ${z.toFixed(3)})`);
      });
    }, OFTEN);
  }, [figures]);
  return (
    <g ref={group} pointerEvents="none">
      {figures.map((f) => (
        <g key={`${f.performer} ${f.piece}`} data-now={f.name}>
          {f.performer !== null ? (
            <circle r={px(6)} fill={ink.paperPeople} stroke={ink.paper} strokeWidth={px(1.5)} />
          ) : (
            <path
              d={`M${-px(6)} 0h${2 * px(6)}M0 ${-px(6)}v${2 * px(6)}`}
              stroke={ink.paperPeople}
              strokeWidth={px(2)}
            />
          )}
        </g>
      ))}
    </g>
  );
}

/** Performers from the front or from the side: their outlines at the playhead. */
export function PeopleInElevation({
  figures,
  flat,
}: {
  figures: MoverView[];
  flat: (at: [number, number, number]) => Point;
}) {
  const group = useRef<SVGGElement>(null);
  useLayoutEffect(() => {
    const all = figures.flatMap((f) => f.bodies.map((body) => ({ body, piece: f.piece !== null })));
    const poses = new Float32Array(all.length * 7);
    let drawn = "";
    return everyFrame(() => {
      const [time, movers] = [hereS(), moversNow()];
      const now = `${time} ${scene.played.poses?.state} ${placesOf(movers)}`;
      if (!group.current || !scene.played.poses || now === drawn) return;
      drawn = now;
      posesAt(scene.played, time, movers, poses);
      // Pieces as pieces are drawn, and people before them.
      for (const [i, path] of [...group.current.children].entries()) {
        const shapes = all.map(({ body, piece }, k) =>
          piece === (i === 0) ? closed(outline(body, poses, k, flat)) : "",
        );
        path.setAttribute("d", shapes.join(""));
      }
    }, OFTEN);
  }, [figures, flat]);
  return (
    <g ref={group} data-testid="people-elevation" pointerEvents="none">
      <path fill={ink.paperFill} stroke={ink.paperShade} strokeWidth={0.04} />
      <path fill={ink.paperPeople} stroke={ink.paper} strokeWidth={0.03} />
    </g>
  );
}
