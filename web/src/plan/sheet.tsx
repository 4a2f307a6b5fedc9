import { useMemo } from "react";
import type { Document, PlanMark, SetupId } from "../generated/types";
import type { SetView } from "../render/setByPiece";
import { Hatch } from "../set/Hatch";
import { pieceRoute } from "../set/routes";
import { paint, pathOf, pen } from "./inks";
import { font, ink } from "../theme";

/** Sheet of a plan: paper, grid, and everything that does not move. */

export function Grid({ width, depth }: { width: number; depth: number }) {
  const lines = [];
  for (let x = Math.ceil(-width / 2 / 2) * 2; x <= width / 2; x += 2)
    lines.push(`M${x} ${-depth / 2}V${depth / 2}`);
  for (let z = Math.ceil(-depth / 2 / 2) * 2; z <= depth / 2; z += 2)
    lines.push(`M${-width / 2} ${z}H${width / 2}`);
  return (
    <>
      <path d={lines.join("")} stroke={ink.paperLine} strokeWidth={0.04} />
      <rect
        x={-width / 2}
        y={-depth / 2}
        width={width}
        height={depth}
        fill="none"
        stroke={ink.ink}
        strokeWidth={0.22}
      />
    </>
  );
}

/** The set's pieces, and a name for what is large enough to bear it. Lamps hang out of the way. */
export function SetOutlines({
  set,
  document,
  setup,
}: {
  set: SetView;
  document: Document;
  /** Id of the setup that looks: pieces that are taken out for it are hatched. */
  setup: SetupId;
}) {
  const { pieces, performance } = document.scene;
  const drawn = useMemo(() => {
    const still = new Map(pieces.filter((p) => pieceRoute(p, performance) === null).map((p) => [p.id, p]));
    return set.plan.flatMap((plan) => {
      const piece = still.get(plan.piece);
      return piece && !plan.overhead ? [{ piece, paths: paint(plan), named: plan.label === "landmark" }] : [];
    });
  }, [set, pieces, performance]);
  return (
    <g>
      <defs>
        <Hatch id="taken-out" size={0.24} />
      </defs>
      {drawn.map(({ piece: { id, wild }, paths }) => {
        const out = wild?.includes(setup);
        return paths.map((p, i) => (
          <path
            key={`${id} ${i}`}
            data-testid={out ? `out-${id}` : undefined}
            d={p.d}
            fill={out ? "url(#taken-out)" : p.fill}
            stroke={out ? ink.paperBeyond : p.stroke}
            strokeWidth={0.06}
            strokeDasharray={out ? "0.2 0.14" : undefined}
          />
        ));
      })}
      {drawn
        .filter((d) => d.named)
        .map(({ piece: p }) => {
          const [x, , z] = p.position;
          const upright = Math.abs(Math.sin((p.turn_deg * Math.PI) / 180)) > 0.7;
          return (
            <text
              key={p.id}
              x={x}
              y={z}
              fontSize={0.95}
              fill={ink.ink}
              textAnchor="middle"
              dominantBaseline="central"
              transform={upright ? `rotate(-90 ${x} ${z})` : undefined}
            >
              {p.name}
            </text>
          );
        })}
    </g>
  );
}

export function Scale({ x, y }: { x: number; y: number }) {
  return (
    <g stroke={ink.ink} strokeWidth={0.1} fill={ink.ink}>
      <path d={`M${x} ${y - 0.3}v0.6M${x} ${y}h10M${x + 10} ${y - 0.3}v0.6`} fill="none" />
      <text x={x + 10.6} y={y} fontSize={1} stroke="none" dominantBaseline="central" fontFamily={font.number}>
        10 m
      </text>
    </g>
  );
}

/** Marks of the plan, each in the ink of its role. */
export function Marks({ marks }: { marks: PlanMark[] }) {
  return marks.map((mark, i) => <path key={i} data-role={mark.role} d={pathOf(mark)} {...pen(mark.role)} />);
}
