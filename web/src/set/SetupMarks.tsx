import { useLayoutEffect, useRef } from "react";
import type { Document } from "../generated/types";
import { standing } from "../camera/standing";
import { turn } from "../geometry";
import { everyFrame, moment } from "../state/now";
import { ink } from "../theme";

/** Paper is read, not watched: so many pictures a second are enough. */
const OFTEN = 12;

/** The camera of every setup on the plan, where it stands now, with its letter and the way it looks. */
export function SetupMarks({ document, px }: { document: Document; px: (pixels: number) => number }) {
  const group = useRef<SVGGElement>(null);
  const setups = document.setups.filter((s) => !s.binned);
  useLayoutEffect(
    () =>
      everyFrame(() => {
        const at = moment();
        if (!at) return;
        for (const setup of document.setups) {
          const mark = group.current?.querySelector(`[data-setup="${setup.id}"]`);
          const there = standing(setup, at);
          if (!mark || !there) continue;
          const [x, , z] = there.position;
          const [dx, , dz] = turn(there.rotation, 0, [0, 0, -1]);
          const heading = ((Math.atan2(dx, -dz) * 180) / Math.PI).toFixed(1);
          const to = `translate(${x.toFixed(3)} ${z.toFixed(3)})`;
          if (mark.getAttribute("transform") !== to) mark.setAttribute("transform", to);
          const turned = `rotate(${heading})`;
          const line = mark.firstElementChild!;
          if (line.getAttribute("transform") !== turned) line.setAttribute("transform", turned);
        }
      }, OFTEN),
    [document],
  );
  return (
    <g ref={group} pointerEvents="none">
      {setups.map(({ id, letter }) => (
        <g key={id} data-setup={id} transform="translate(-9999 0)">
          <path d={`M0 0V${-px(26)}`} stroke={ink.blueprint} strokeWidth={px(2)} />
          <circle r={px(8.5)} fill={ink.blueprint} />
          <text
            fontSize={px(11)}
            fontWeight={600}
            fill={ink.paper}
            textAnchor="middle"
            dominantBaseline="central"
          >
            {letter}
          </text>
        </g>
      ))}
    </g>
  );
}
