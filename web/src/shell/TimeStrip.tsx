import { useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import type { Document, MoverView, Setup } from "../generated/types";
import { holdsWheels, useFloor } from "../live/link";
import { runningMove } from "../machine/positions";
import { KeyMarks } from "../move/KeyMarks";
import type { Looked } from "../state/looked";
import { everyFrame, hereS, scene, stripLength } from "../state/now";
import { clock, setView, turnLoop, useView } from "../state/view";
import { TIME_LEFT, TIME_RIGHT } from "../shape/time";
import { turnWheel } from "../state/wheel";
import { shownOf, turned } from "../state/window";
import { font, ink } from "../theme";
import { Icon } from "../form/icons";
import { Typed } from "../form/Typed";
import { playPause, seek, toEnd, toStart, typeTime } from "../state/transport";

/** The buttons of the transport and the frame. */
const TRANSPORT = 262;

/** Frames along the bottom: playhead, in and out, the performance's marks, keys, the move's extent. */
export function TimeStrip({
  document,
  looked,
  setup,
  figures,
}: {
  document: Document;
  looked: Looked | null;
  setup: Setup;
  figures: MoverView[];
}) {
  const strip = useRef<HTMLDivElement>(null);
  const head = useRef<HTMLDivElement>(null);
  const rolled = useRef<HTMLDivElement>(null);
  const number = useRef<HTMLSpanElement>(null);
  const runs = useRef(false);
  const [width, setWidth] = useState(900);
  const live = useView((s) => s.live);
  const shape = useView((s) => s.station === "shape");
  const playing = useView((s) => s.playing);
  const pace = useView((s) => s.pace);
  const inS = useView((s) => s.inS);
  const outS = useView((s) => s.outS);
  const status = useFloor((s) => s.status);
  const mine = useFloor(holdsWheels);
  const length = stripLength(document, live ? null : looked);
  const window = useView((s) => s.window);
  const [from, to] = useMemo(() => shownOf(window, length), [window, length]);
  const loop = useView((s) => (s.live ? s.loops.live : s.loops.move));
  const rate = document.scene.rate.num / document.scene.rate.den;
  const begins = looked?.begins_s ?? 0;
  const running = live ? !!status?.running : playing !== 0;
  const rolling = status?.roll === "rolling";
  const keyed = live ? runningMove(document, setup) : looked?.move;

  useEffect(() => {
    runs.current = running;
  }, [running]);
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => setWidth(entry!.contentRect.width));
    watch.observe(strip.current!);
    return () => watch.disconnect();
  }, []);

  useLayoutEffect(
    () =>
      everyFrame(() => {
        const at = hereS();
        const share = (at - from) / (to - from);
        // What plays out of the window takes it along; in Shape the curves do.
        const { window, station } = useView.getState();
        if (window && station !== "shape" && runs.current && (share < 0 || share > 1))
          setView({ window: turned(window, length, at, share < 0 && at > 0 ? -1 : 1) });
        head.current!.style.transform = `translateX(${Math.min(share, 1 + 1e-3) * width}px)`;
        head.current!.style.visibility = share >= 0 && (share <= 1 || to === length) ? "visible" : "hidden";
        if (rolled.current) rolled.current.style.width = `${share * width}px`;
        const text = String(Math.floor(at * scene.rate + 1e-6));
        if (number.current && number.current.textContent !== text) number.current.textContent = text;
      }),
    [from, to, length, width],
  );

  const scrub = (event: React.PointerEvent<HTMLDivElement>) => {
    if (!(event.buttons & 1)) return;
    const box = event.currentTarget.getBoundingClientRect();
    seek(timeAt(event.clientX, box));
  };
  const timeAt = (clientX: number, box: DOMRect) =>
    from + Math.min(1, Math.max(0, (clientX - box.left) / box.width)) * (to - from);
  const x = (seconds: number) => ((seconds - from) / (to - from)) * width;
  const still = live && (!mine || rolling);

  return (
    <footer
      style={{
        gridColumn: "1 / -1",
        height: 60,
        display: "flex",
        borderTop: `1px solid ${ink.slate3}`,
        background: ink.slate1,
      }}
    >
      <div
        style={{
          width: TRANSPORT,
          flex: "none",
          display: "flex",
          alignItems: "center",
          gap: 6,
          padding: "0 10px",
          borderRight: `1px solid ${ink.slate3}`,
        }}
      >
        <Button label="To the start (Home)" icon="start" onClick={toStart} off={still} />
        <Button
          label={running ? "Pause (space)" : "Play (space)"}
          icon={running ? "pause" : "play"}
          onClick={playPause}
          strong
          off={still}
        />
        <Button label="To the end (End)" icon="end" onClick={toEnd} off={still} />
        <Button
          label={loop ? "Begins again at its end (Alt B)" : "Stands at its end (Alt B)"}
          icon={loop ? "loop" : "once"}
          pressed={loop}
          onClick={turnLoop}
          off={still}
        />
        <span style={{ marginLeft: 6, whiteSpace: "nowrap" }}>
          <Typed
            label="Frame"
            hint="Type a frame (120), seconds (5.2 s) or a timecode"
            read={() => number.current?.textContent ?? ""}
            onKeep={typeTime}
            off={still}
            wide={9}
          >
            <span ref={number} className="num" data-testid="frame" style={{ fontSize: 17, fontWeight: 500 }}>
              0
            </span>
          </Typed>
          <span style={{ color: ink.chalkDim, fontSize: 12.5 }}> of {Math.round(length * rate)}</span>
          {!live && pace !== 1 && (
            <button
              className="plain"
              title="How fast it plays ([ and ]); a click plays it as it is"
              onClick={() => setView({ pace: 1 })}
              style={{ marginLeft: 8, color: ink.pick }}
            >
              {paceWord(pace)}
            </button>
          )}
        </span>
      </div>
      <div
        style={{
          flex: 1,
          minWidth: 0,
          // In Shape the ruler is that of the curves above it.
          padding: shape ? `0 ${TIME_RIGHT}px 0 ${TIME_LEFT - TRANSPORT}px` : "0 18px 0 12px",
        }}
      >
        <div
          ref={strip}
          role="slider"
          tabIndex={0}
          aria-label="Time"
          aria-valuemin={0}
          aria-valuemax={Math.round(length * rate)}
          aria-valuenow={live ? 0 : Math.round(clock.time * rate)}
          data-testid="strip"
          onPointerDown={(e) => {
            e.currentTarget.setPointerCapture(e.pointerId);
            scrub(e);
          }}
          onPointerMove={scrub}
          onWheel={(e) => turnWheel(e, timeAt(e.clientX, e.currentTarget.getBoundingClientRect()), length)}
          style={{
            position: "relative",
            height: "100%",
            cursor: "col-resize",
            touchAction: "none",
            // What is outside of the window of time is not drawn beside the ruler.
            clipPath: from > 0 || to < length ? "inset(0 -8px)" : undefined,
          }}
        >
          <Ruler width={width} first={from * rate} frames={(to - from) * rate} x={(f) => x(f / rate)} />
          <div
            style={{
              ...bar,
              left: x(0),
              width: x(Math.min(length, document.scene.length_s)) - x(0),
              background: ink.slate3,
              top: 36,
              height: 8,
            }}
          />
          {live && rolling && (
            <div ref={rolled} style={{ ...bar, background: ink.rec, top: 36, height: 8 }} />
          )}
          {!live && looked && (
            <div
              style={{
                ...bar,
                left: x(looked.begins_s),
                width: x(looked.length_s) - x(looked.begins_s),
                background: ink.pick,
                top: 36,
                height: 8,
              }}
            />
          )}
          {(inS !== null || outS !== null) && (
            <div
              title="In and out"
              style={{
                ...bar,
                left: x(inS ?? begins),
                width: Math.max(2, x(outS ?? looked?.length_s ?? length) - x(inS ?? begins)),
                top: 32,
                height: 3,
                background: ink.chalk,
              }}
            />
          )}
          {keyed && (
            <KeyMarks
              move={keyed}
              letter={document.setups.find((s) => s.id === keyed.setup_id)?.letter ?? ""}
              rate={rate}
              x={x}
              still={rolling || (live && !mine)}
            />
          )}
          {spread(figures, x, width).map(({ key, at, word, shown, before }) => (
            <span
              key={key}
              title={word}
              style={{
                position: "absolute",
                left: at,
                top: 45,
                height: 13,
                ...(before
                  ? { borderRight: `1px dotted ${ink.near}`, paddingRight: 4, transform: "translateX(-100%)" }
                  : { borderLeft: `1px dotted ${ink.near}`, paddingLeft: 4 }),
                fontSize: 10.5,
                lineHeight: "13px",
                color: ink.near,
                whiteSpace: "nowrap",
                pointerEvents: "none",
              }}
            >
              {shown && word}
            </span>
          ))}
          <div
            ref={head}
            style={{ position: "absolute", left: 0, top: 2, bottom: 3, width: 0, pointerEvents: "none" }}
          >
            <svg width="11" height="54" style={{ position: "absolute", left: -5.5 }} aria-hidden>
              <path d="M0 0H11L5.5 7Z" fill={ink.chalk} />
              <path d="M5.5 6V54" stroke={ink.chalk} />
            </svg>
          </div>
        </div>
      </div>
    </footer>
  );
}

/**
 * Marks of everybody in the order of time; a word that would lie on the one before is left out, and one
 * for which there is no more room stands before its mark.
 */
function spread(figures: MoverView[], x: (seconds: number) => number, width: number) {
  const all = figures.flatMap((f) =>
    f.marks.map(([time, word]) => {
      const [at, long] = [x(time), word.length * 5.4 + 10];
      return { key: `${f.name} ${time}`, at, word, long, shown: true, before: at + long > width };
    }),
  );
  all.sort((a, b) => a.at - b.at);
  let end = -1;
  for (const mark of all) {
    const from = mark.before ? mark.at - mark.long : mark.at;
    mark.shown = from >= end;
    if (mark.shown) end = mark.before ? mark.at : mark.at + mark.long;
  }
  return all;
}

const paceWord = (pace: number) => `${pace === 0.25 ? "¼" : pace === 0.5 ? "½" : pace}×`;

const bar = { position: "absolute", left: 0, height: 5, borderRadius: 2 } as const;

function Ruler(props: {
  width: number;
  /** The first frame that is shown, and how many are. */
  first: number;
  frames: number;
  x: (frame: number) => number;
}) {
  const { width, first, frames, x } = props;
  // A number about every 90 pixels, at a round count of frames.
  const every = [6, 12, 24, 48, 96, 120, 240, 480, 960, 2400].find((n) => (n / frames) * width >= 70) ?? 4800;
  const step = every / 12;
  const ticks = [];
  for (let k = Math.ceil(first / step - 1e-9); k * step <= first + frames + 1e-9; k++) ticks.push(k * step);
  return (
    <svg width="100%" height="34" style={{ position: "absolute", overflow: "visible" }} aria-hidden>
      <path d={`M0 31H${width}`} stroke={ink.slate3} />
      {ticks.map((f) => {
        const whole = Math.abs(f / every - Math.round(f / every)) < 1e-9;
        return (
          <path key={f} d={`M${x(f)} 31V${whole ? 21 : 28}`} stroke={whole ? ink.chalkDim : ink.chalkFaint} />
        );
      })}
      {ticks
        .filter((f) => f % every === 0)
        .map((f) => (
          <text
            key={f}
            x={x(f)}
            y={14}
            textAnchor={f === 0 ? "start" : "middle"}
            fontSize={11}
            fill={ink.chalkDim}
            fontFamily={font.number}
          >
            {f}
          </text>
        ))}
    </svg>
  );
}

function Button({
  label,
  icon,
  onClick,
  strong,
  pressed,
  off,
}: {
  label: string;
  icon: "start" | "end" | "play" | "pause" | "loop" | "once";
  /** Of what is turned on and off. */
  pressed?: boolean;
  onClick: () => void;
  strong?: boolean;
  off?: boolean;
}) {
  return (
    <button
      className="plain"
      aria-label={label}
      title={label}
      aria-pressed={pressed}
      disabled={off}
      onClick={onClick}
      style={{
        width: strong ? 38 : pressed === undefined ? 30 : 24,
        height: 28,
        display: "grid",
        placeItems: "center",
        borderRadius: 4,
        border: `1px solid ${ink.slate3}`,
        ...(strong && !off ? { background: ink.chalk, color: ink.slate0 } : {}),
      }}
    >
      <Icon name={icon} size={17} />
    </button>
  );
}
