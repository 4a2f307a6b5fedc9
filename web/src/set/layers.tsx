import { memo } from "react";
import type { Piece, SetupId } from "../generated/types";
import type { Point } from "../geometry";
import { lengthText } from "../quantity";
import { pen } from "../plan/inks";
import { font, ink } from "../theme";
import type { Drawn } from "./drawn";
import { placed } from "./placed";
import { hasDepth, middleOf, sizeOf, wordOf } from "./kinds";
import { useShown } from "./shown";
import type { Box } from "./snap";

/** Layers of the plan of the set, sheet over sheet. */

/** An empty stage says what to do first. */
export function Start() {
  return (
    <div
      style={{
        position: "absolute",
        inset: 0,
        top: "45%",
        display: "grid",
        placeContent: "center",
        justifyItems: "center",
        color: ink.ink,
        pointerEvents: "none",
        lineHeight: 1.7,
      }}
    >
      <b>The stage is empty.</b>
      <span>
        Press <span className="key">X</span> and drag a room, or choose a piece at the left.
      </span>
    </div>
  );
}

/** Sheet for drags, so that the plan is not drawn again under them. */
export function OverPlan({ viewBox, perMetre, feet }: { viewBox: string; perMetre: number; feet: boolean }) {
  const { boxes, dims, caught, note, moved } = useShown();
  const px = (pixels: number) => pixels / perMetre;
  const dash = { stroke: ink.beyond, strokeWidth: px(1), strokeDasharray: `${px(6)} ${px(4)}` };
  return (
    <svg
      viewBox={viewBox}
      style={{
        position: "absolute",
        inset: 0,
        width: "100%",
        height: "100%",
        pointerEvents: "none",
        willChange: "transform",
      }}
    >
      {moved && (
        <g transform={`translate(${moved.by[0]} ${moved.by[1]})`}>
          {moved.pieces.flatMap((piece) =>
            piece.paths.map((p, i) => (
              <path
                key={`${piece.id} ${i}`}
                d={p.d}
                fill={p.fill}
                stroke={ink.blueprint}
                strokeWidth={px(2)}
                opacity={0.9}
              />
            )),
          )}
        </g>
      )}
      {caught.x !== null && <path d={`M${caught.x} -500V500`} {...dash} />}
      {caught.z !== null && <path d={`M-500 ${caught.z}H500`} {...dash} />}
      {boxes.map((b, i) => (
        <polygon
          key={i}
          points={b.join(" ")}
          fill={ink.blueprint}
          fillOpacity={0.14}
          stroke={ink.blueprint}
          strokeWidth={px(1.5)}
        />
      ))}
      {dims.map(([a, b], i) => (
        <Dimension
          key={i}
          a={a}
          b={b}
          px={px}
          text={lengthText(Math.hypot(a[0] - b[0], a[1] - b[1]), feet)}
        />
      ))}
      {note && <Label at={[note.at[0], note.at[1] - px(14)]} px={px} text={note.text} />}
    </svg>
  );
}

/** The pieces themselves; a drag moves them without drawing them again. */
export const Pieces = memo(function Pieces(props: {
  drawn: Drawn[];
  pieces: Piece[];
  picked: number[];
  line: number;
  /** Id of the setup that looks: pieces that are taken out for it are hatched. */
  setup: SetupId;
}) {
  const { drawn, pieces, picked, line, setup } = props;
  const known = new Map(pieces.map((p) => [p.id, p]));
  return drawn.map(({ id, paths, box, overhead, thin }) => {
    const piece = known.get(id);
    if (!piece) return null;
    const on = picked.includes(id);
    const out = !!piece.wild?.includes(setup);
    return (
      <g
        key={id}
        data-piece={id}
        data-name={piece.name}
        opacity={piece.hidden ? 0.3 : 1}
        style={{ pointerEvents: piece.locked ? "none" : undefined, cursor: "move" }}
      >
        {/* Thin things need something to take hold of. */}
        <rect
          x={box.left - 2 * line}
          y={box.top - 2 * line}
          width={box.right - box.left + 4 * line}
          height={box.bottom - box.top + 4 * line}
          fill="none"
          pointerEvents={thin ? "none" : "fill"}
        />
        {paths.map((p, i) => (
          <path
            key={i}
            d={p.d}
            fill={out ? "url(#taken-out-here)" : p.fill}
            stroke={on ? ink.blueprint : out ? ink.paperBeyond : p.stroke}
            strokeWidth={on ? line * 2.5 : line}
            strokeDasharray={overhead || out ? `${line * 4} ${line * 3}` : undefined}
          />
        ))}
      </g>
    );
  });
});

export function Names({ pieces, drawn, px }: { pieces: Piece[]; drawn: Drawn[]; px: (n: number) => number }) {
  const known = new Map(pieces.map((p) => [p.id, p]));
  return drawn.map(({ id, box, label }) => {
    const p = known.get(id);
    if (!p || p.hidden || label === "none") return null;
    const [w, h] = [box.right - box.left, box.bottom - box.top];
    const mark = label === "number" && "number" in p.form;
    const text = "number" in p.form && mark ? String(p.form.number) : p.name;
    const room = px(text.length * 6.6 + 6);
    const upright = !mark && h > w && w < room;
    if (!mark && (Math.max(w, h) < room || Math.min(w, h) < px(13))) return null;
    const [x, z] = mark
      ? [box.right + px(7), (box.top + box.bottom) / 2]
      : [(box.left + box.right) / 2, (box.top + box.bottom) / 2];
    return (
      <text
        key={p.id}
        x={x}
        y={z}
        fontSize={px(12)}
        fill={ink.ink}
        textAnchor="middle"
        dominantBaseline="central"
        paintOrder="stroke"
        stroke={ink.paper}
        strokeWidth={px(3)}
        strokeOpacity={0.8}
        pointerEvents="none"
        transform={upright ? `rotate(-90 ${x} ${z})` : undefined}
      >
        {text}
      </text>
    );
  });
}

export function Handles({
  piece,
  outline,
  px,
}: {
  piece: Piece;
  outline: Point[];
  px: (n: number) => number;
}) {
  const size = sizeOf(piece.form);
  const m = middleOf(piece.form);
  const top: Point = placed([0, m - (size?.[2] ?? 0.5) / 2 - px(24)], piece);
  const edge: Point = placed([0, m - (size?.[2] ?? 0.5) / 2], piece);
  const places: Point[] = [-1, 0, 1]
    .flatMap((x) => [-1, 0, 1].map((z): Point => [x, z]))
    .filter(([x, z]) => x || z);
  const deep = hasDepth(piece.form.kind);
  const useful = places.filter(([, z]) => deep || z === 0);
  return (
    <g>
      <polygon
        points={outline.join(" ")}
        fill="none"
        stroke={ink.blueprint}
        strokeWidth={px(1)}
        strokeDasharray={`${px(4)} ${px(3)}`}
        pointerEvents="none"
      />
      <path d={`M${edge}L${top}`} stroke={ink.blueprint} strokeWidth={px(1)} />
      <circle
        data-turn
        cx={top[0]}
        cy={top[1]}
        r={px(6)}
        fill={ink.paper}
        stroke={ink.blueprint}
        strokeWidth={px(1.5)}
        style={{ cursor: "grab" }}
      >
        <title>Turn {wordOf(piece.form.kind)}</title>
      </circle>
      {size &&
        useful.map(([x, z]) => {
          const [cx, cz] = placed([(x * size[0]) / 2, m + (z * size[2]) / 2], piece);
          return (
            <rect
              key={`${x} ${z}`}
              data-handle={`${x},${z}`}
              x={cx - px(4)}
              y={cz - px(4)}
              width={px(8)}
              height={px(8)}
              fill={ink.paper}
              stroke={ink.blueprint}
              strokeWidth={px(1.5)}
              style={{ cursor: "nwse-resize" }}
            />
          );
        })}
    </g>
  );
}

function Dimension({ a, b, text, px }: { a: Point; b: Point; text: string; px: (n: number) => number }) {
  const [x, z] = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
  const [nx, nz] = [(-(b[1] - a[1]) / length) * px(5), ((b[0] - a[0]) / length) * px(5)];
  return (
    <g {...pen("dimension")} strokeWidth={px(1)}>
      <path
        d={`M${a}L${b}M${a[0] - nx} ${a[1] - nz}l${2 * nx} ${2 * nz}M${b[0] - nx} ${b[1] - nz}l${2 * nx} ${2 * nz}`}
      />
      <Label at={[x, z - px(7)]} text={text} px={px} number />
    </g>
  );
}

export function Label({
  at,
  text,
  px,
  number,
}: {
  at: Point;
  text: string;
  px: (n: number) => number;
  number?: boolean;
}) {
  return (
    <text
      x={at[0]}
      y={at[1]}
      fontSize={px(12)}
      fontFamily={number ? font.number : undefined}
      fontWeight={500}
      fill={number ? ink.blueprint : ink.ink}
      textAnchor="middle"
      paintOrder="stroke"
      stroke={ink.paper}
      strokeWidth={px(3.5)}
      pointerEvents="none"
    >
      {text}
    </text>
  );
}

export function Grid({ box, perMetre }: { box: Box; perMetre: number }) {
  const step = [0.25, 0.5, 1, 2, 5, 10].find((s) => s * perMetre >= 14) ?? 20;
  const lines = [];
  for (let x = Math.ceil(box.left / step) * step; x <= box.right + 1e-9; x += step)
    lines.push(`M${x} ${box.top}V${box.bottom}`);
  for (let z = Math.ceil(box.top / step) * step; z <= box.bottom + 1e-9; z += step)
    lines.push(`M${box.left} ${z}H${box.right}`);
  return (
    <g pointerEvents="none">
      <path d={lines.join("")} stroke={ink.paperLine} strokeWidth={1 / perMetre} />
      <rect
        x={box.left}
        y={box.top}
        width={box.right - box.left}
        height={box.bottom - box.top}
        fill="none"
        stroke={ink.blueprint}
        strokeWidth={2 / perMetre}
        strokeDasharray={`${10 / perMetre} ${5 / perMetre}`}
      />
    </g>
  );
}
