import { useRef, useState } from "react";
import { edit } from "../document/edit";
import type { Move } from "../generated/types";
import { link } from "../live/link";
import { ink } from "../theme";
import { freeTime, keyTimes, moveOps, type KeyTime } from "./keyed";

/** More times of keys than a hand could tell apart here are only shown; the curves have them one by one. */
const MOST = 200;

/** The keys of a move on the time strip: dragged there, stepped by the arrows. */
export function KeyMarks(props: {
  move: Move;
  letter: string;
  rate: number;
  x: (seconds: number) => number;
  /** Nobody may drag them now. */
  still: boolean;
}) {
  const { move, letter, rate, x, still } = props;
  const times = keyTimes(move.curves);
  const [dragged, setDragged] = useState<number | null>(null);
  const drag = useRef<{ gesture: string; from: number; at: number; now: number } | null>(null);
  const put = (time: KeyTime, wanted: number, gesture: string) => {
    const to = freeTime(times, time, wanted, rate);
    if (to !== time.time_s) void edit(`move a key of setup ${letter}`, moveOps(move.id, time, to), gesture);
    return to;
  };
  if (times.length > MOST) {
    const ticks = times.map(({ time_s }) => `M${x(time_s).toFixed(1)} 34V44`).join("");
    return (
      <svg
        role="img"
        aria-label={`Keys at ${times.length} times`}
        style={{ position: "absolute", inset: 0, width: "100%", height: "100%", pointerEvents: "none" }}
      >
        <path d={ticks} stroke={ink.chalk} strokeWidth="1" />
      </svg>
    );
  }
  return times.map((time, i) => (
    <button
      // By its keys, so that it stays the same while it is dragged.
      key={time.keys.map((k) => `${k.axis}${k.id}`).join()}
      className="plain"
      data-steps
      aria-label={`Key ${i + 1}: ${time.keys.map((k) => k.axis).join(", ")}`}
      title={time.keys.map((k) => `${k.axis} ${k.value.toFixed(2)}`).join(" · ")}
      disabled={still}
      onPointerDown={(e) => {
        e.stopPropagation();
        e.currentTarget.setPointerCapture(e.pointerId);
        drag.current = { gesture: crypto.randomUUID(), from: e.clientX, at: time.time_s, now: time.time_s };
        setDragged(i);
      }}
      onPointerMove={(e) => {
        e.stopPropagation();
        if (!drag.current || !(e.buttons & 1)) return;
        const { gesture, from, at } = drag.current;
        const seconds = (e.clientX - from) / Math.max(1e-6, x(1) - x(0));
        drag.current.now = put(time, at + seconds, gesture);
      }}
      onPointerUp={() => {
        const { from, at, now } = drag.current ?? { from: 0, at: 0, now: 0 };
        drag.current = null;
        setDragged(null);
        // A click that moved nothing goes there.
        if (now === at && from) link.send({ do: "seek", time_s: time.time_s });
      }}
      onKeyDown={(e) => {
        const by = { ArrowLeft: -1, ArrowRight: 1 }[e.key];
        if (!by) return;
        e.preventDefault();
        e.stopPropagation();
        put(time, time.time_s + by / rate, `key ${move.id} ${i}`);
      }}
      style={{
        position: "absolute",
        left: x(time.time_s) - 7,
        top: 31,
        width: 14,
        height: 16,
        cursor: still ? undefined : "ew-resize",
        touchAction: "none",
      }}
    >
      <svg width="14" height="16" viewBox="0 0 14 16" aria-hidden style={{ display: "block" }}>
        <path
          d="M7 3L11.5 8.5L7 14L2.5 8.5Z"
          fill={dragged === i ? ink.pick : ink.chalk}
          stroke={ink.slate0}
          strokeWidth="1"
        />
      </svg>
    </button>
  ));
}
