import { useContext, useRef, useState } from "react";
import type { CurveKey } from "../generated/types";
import { ink } from "../theme";
import { NumberField } from "./fields";
import { Long, Now, type Changed } from "./contexts";
import { added, moved, shareOfX, shareOfY, valueOn, without, xOfShare, type Frame } from "./course";

const WIDE = 220;
const HIGH = 84;
const EDGE = 6;

/** A course drawn by keys: dragged, moved by the arrows, typed; a double click adds one, Delete takes one away. */
export function CourseField(props: {
  name: string;
  unit: string;
  /** What it is drawn over; time as long as the move where missing. */
  over: { unit: string; min: number; max: number } | null;
  min: number;
  max: number;
  keys: CurveKey[];
  onChange: (keys: CurveKey[], how: Changed) => void;
}) {
  const { name, unit, over, min, max, keys, onChange } = props;
  const long = useContext(Long);
  const now = useContext(Now);
  const [picked, setPicked] = useState(0);
  const dragged = useRef<{ keys: CurveKey[]; moved: boolean } | null>(null);
  const paper = useRef<SVGSVGElement>(null);
  const to = Math.max(over?.max ?? long, over ? 0 : keys.at(-1)!.time_s, 0.1);
  const frame: Frame = { from: over?.min ?? 0, to, log: over !== null, min, max };
  const x = (v: number) => EDGE + (WIDE - 2 * EDGE) * shareOfX(frame, v);
  const y = (v: number) => HIGH - EDGE - (HIGH - 2 * EDGE) * shareOfY(frame, v);
  const at = (e: { clientX: number; clientY: number }): [number, number] => {
    const box = paper.current!.getBoundingClientRect();
    const share = ((e.clientX - box.left) * (WIDE / box.width) - EDGE) / (WIDE - 2 * EDGE);
    const up = 1 - ((e.clientY - box.top) * (HIGH / box.height) - EDGE) / (HIGH - 2 * EDGE);
    return [xOfShare(frame, Math.min(1, Math.max(0, share))), min + (max - min) * up];
  };
  const one = keys[Math.min(picked, keys.length - 1)]!;
  const index = keys.indexOf(one);
  const put = (i: number, px: number, py: number, how: Changed) =>
    onChange(moved(keys, i, frame, px, py), how);
  const kept: Changed = { tried: false };
  const stepX = (by: number) => xOfShare(frame, shareOfX(frame, one.time_s) + by);
  const points = Array.from({ length: 111 }, (_, i) => xOfShare(frame, i / 110));
  const line = points.map(
    (px, i) => `${i ? "L" : "M"}${x(px).toFixed(1)} ${y(valueOn(keys, px)).toFixed(1)}`,
  );
  const lines = [min, 0, 1, max].filter((v, i, all) => v >= min && v <= max && all.indexOf(v) === i);
  const what = over?.unit ?? "s";
  return (
    <div role="group" aria-label={name} style={{ padding: "2px 0 4px" }}>
      <svg
        ref={paper}
        viewBox={`0 0 ${WIDE} ${HIGH}`}
        style={{
          display: "block",
          width: "100%",
          background: ink.slate0,
          borderRadius: 3,
          touchAction: "none",
        }}
        onDoubleClick={(e) => {
          const [px] = at(e);
          onChange(added(keys, px, valueOn(keys, px)), kept);
        }}
      >
        {lines.map((v) => (
          <path
            key={v}
            d={`M0 ${y(v)}H${WIDE}`}
            stroke={ink.slate3}
            strokeWidth={v === 0 || v === 1 ? 1 : 0.5}
          />
        ))}
        {lines.map((v) => (
          <text key={v} x={2} y={y(v) + (v === min ? -2 : 8)} fontSize={8} fill={ink.chalkDim} aria-hidden>
            {v}
          </text>
        ))}
        <path d={line.join("")} fill="none" stroke={ink.pick} strokeWidth={1.5} />
        {keys.map((key, i) => (
          <circle
            key={i}
            role="slider"
            tabIndex={0}
            aria-label={`${name}, key ${i + 1}`}
            aria-valuemin={min}
            aria-valuemax={max}
            aria-valuenow={key.value}
            aria-valuetext={`${key.value} ${unit} at ${key.time_s} ${what}`}
            cx={x(key.time_s)}
            cy={y(key.value)}
            r={i === index ? 5 : 4}
            fill={i === index ? ink.chalk : ink.pick}
            style={{ cursor: "move" }}
            onFocus={() => setPicked(i)}
            onPointerDown={(e) => {
              e.currentTarget.setPointerCapture(e.pointerId);
              setPicked(i);
              dragged.current = { keys, moved: false };
            }}
            onPointerMove={(e) => {
              if (!dragged.current) return;
              dragged.current = { keys: moved(keys, i, frame, ...at(e)), moved: true };
              onChange(dragged.current.keys, { tried: true });
            }}
            onPointerUp={() => {
              const last = dragged.current;
              dragged.current = null;
              if (last?.moved) onChange(last.keys, kept);
            }}
            onKeyDown={(e) => {
              const by = e.shiftKey ? 0.002 : 0.02;
              const moves: Record<string, () => void> = {
                ArrowLeft: () => put(i, stepX(-by), key.value, kept),
                ArrowRight: () => put(i, stepX(by), key.value, kept),
                ArrowUp: () => put(i, key.time_s, key.value + by * (max - min), kept),
                ArrowDown: () => put(i, key.time_s, key.value - by * (max - min), kept),
                Delete: () => onChange(without(keys, i), kept),
              };
              const act = moves[e.key];
              if (!act) return;
              // What is meant for the key does not step the frame.
              e.preventDefault();
              e.stopPropagation();
              act();
            }}
          />
        ))}
      </svg>
      <div style={{ display: "flex", alignItems: "baseline", gap: 8, fontSize: 12.5 }}>
        <button
          className="plain"
          style={{ color: ink.pick }}
          title="At the playhead where there is room, or in the widest gap; a double click adds one there"
          onClick={() => {
            const here = over ? null : now();
            const wide = keys
              .map((k, i) => [k.time_s, (keys[i + 1]?.time_s ?? to) - k.time_s] as const)
              .toSorted((a, b) => b[1] - a[1])[0]!;
            const more = here === null ? keys : added(keys, here, valueOn(keys, here));
            const place = wide[0] + wide[1] / 2;
            const next = more === keys ? added(keys, place, valueOn(keys, place)) : more;
            if (next !== keys) onChange(next, kept);
          }}
        >
          + key
        </button>
        <span style={{ marginLeft: "auto", color: ink.chalkDim }}>
          {index + 1} of {keys.length}
        </span>
        <NumberField
          label={`${name}, at`}
          unit={what}
          digits={2}
          step={0.1}
          min={frame.from}
          max={over?.max ?? 36000}
          value={one.time_s}
          onChange={(v, gesture) => put(index, v, one.value, { tried: false, gesture })}
        />
        <NumberField
          label={`${name}, value`}
          unit={unit}
          digits={2}
          step={0.05}
          min={min}
          max={max}
          value={one.value}
          onChange={(v, gesture) => put(index, one.time_s, v, { tried: false, gesture })}
        />
      </div>
    </div>
  );
}
