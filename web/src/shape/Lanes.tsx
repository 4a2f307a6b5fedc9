import { memo, useCallback, useEffect, useLayoutEffect, useMemo, useRef } from "react";
import { useJobLanes, useKeysEvery, useLanes } from "../api";
import type { AxisView, JobView, MachineView } from "../generated/types";
import { spanOf, trace, valueAt, type Envelope, type Lanes as Curves } from "../moves";
import { decimals } from "../quantity";
import { seek } from "../state/transport";
import { everyFrame, moment } from "../state/now";
import type { Looked } from "../state/looked";
import { curvesDrawn } from "../state/preview";
import { clock, useView } from "../state/view";
import { axisInk, font, ink } from "../theme";

const LEFT = 92;

/** One axis' lane. */
interface Lane {
  axis: AxisView;
  raw: Envelope;
  now: Envelope;
}

/** One lane an axis over one time axis: the raw take thin, the move bold, the limits as bands. */
export function Lanes(props: { looked: Looked; machine: MachineView; job: JobView | undefined }) {
  const { looked, machine, job } = props;
  const { data: lanes, isPlaceholderData } = useLanes(looked);
  useEffect(() => {
    if (lanes && !isPlaceholderData) curvesDrawn();
  }, [lanes, isPlaceholderData]);
  // Keys that a job has made lie over the move until they are kept or forgotten.
  const made = useJobLanes(job).data;
  const ofJob = job?.state === "keys" && !!made;
  const curves = ofJob ? made : lanes;
  const every = looked.move.treatments.findLast((t) => t.on && t.kind === "keys");
  const taken = useKeysEvery(looked, every?.kind === "keys" ? every.every : undefined).data;
  // Keys that a treatment takes stand on every lane, those of a keyed move on the lanes of their axes.
  const { curves: own } = looked.move;
  const keys = useCallback(
    (axis: string) => (every ? (taken ?? []) : (own[axis] ?? []).map((k) => k.time_s)),
    [every, taken, own],
  );
  return curves ? (
    <Drawn axes={machine.axes} curves={curves} keys={keys} ofJob={ofJob} />
  ) : (
    <section className="panel" />
  );
}

interface DrawnProps {
  axes: AxisView[];
  curves: Curves;
  /** The times at which an axis has keys. */
  keys: (axis: string) => number[];
  /** They are what a job found, not the move's. */
  ofJob: boolean;
}

/** The curves as they are there; asking for others does not render it. */
const Drawn = memo(function Drawn({ axes: all, curves, keys, ofJob }: DrawnProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const head = useRef<HTMLDivElement>(null);
  const values = useRef<HTMLDivElement>(null);
  const stage = useView((s) => s.stage);
  const length = (curves.samples - 1) / curves.rate;
  // What carried or led the machine is no curve of its own.
  const shown = useMemo(
    () => all.flatMap((axis, i) => (axis.group === "carrier" ? [] : [{ axis, i }])),
    [all],
  );
  const axes = shown.map(({ axis }) => axis);

  // At once, not after the next picture: somebody drags a control.
  useLayoutEffect(() => {
    const element = canvas.current!;
    const lanes = shown.map(({ axis, i }) => ({ axis, raw: curves.raw[i]!, now: curves.now[i]! }));
    const draw = () => {
      drawLanes(element, lanes, curves, stage, keys);
      // When these curves came onto the screen, for measures.
      element.dataset.drawn = String(performance.now());
    };
    draw();
    const watch = new ResizeObserver(draw);
    watch.observe(element);
    return () => watch.disconnect();
  }, [shown, curves, stage, keys]);

  useEffect(
    () =>
      everyFrame(() => {
        const width = canvas.current!.clientWidth - LEFT;
        head.current!.style.transform = `translateX(${LEFT + (clock.time / length) * width}px)`;
        const at = ofJob ? null : moment();
        shown.forEach(({ axis, i }, row) => {
          const cell = values.current?.children[row];
          const value = at?.axes[i] ?? valueAt(curves, curves.now[i]!, clock.time);
          const text = decimals(value, axis.unit === "mm" ? 0 : 2);
          const number = cell?.querySelector(".num");
          if (number && number.textContent !== text) number.textContent = text;
        });
      }),
    [shown, curves, length, ofJob],
  );

  const scrub = (event: React.PointerEvent<HTMLElement>) => {
    if (!(event.buttons & 1)) return;
    const box = event.currentTarget.getBoundingClientRect();
    seek((Math.max(0, event.clientX - box.left - LEFT) / (box.width - LEFT)) * length);
  };
  return (
    <section
      className="panel"
      aria-label="Lanes"
      style={{ height: "100%", display: "flex", flexDirection: "column", padding: "8px 10px 6px" }}
    >
      <div style={{ display: "flex", justifyContent: "space-between", marginBottom: 4 }}>
        <span className="label">Lanes</span>
        <span style={{ fontSize: 12.5, color: ink.chalkDim }}>
          raw thin · now bold · <span className="key">B</span> hold for raw
        </span>
      </div>
      <div
        style={{ position: "relative", flex: 1, minHeight: 0, cursor: "col-resize", touchAction: "none" }}
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          scrub(e);
        }}
        onPointerMove={scrub}
      >
        <canvas
          ref={canvas}
          role="img"
          aria-label={`Curves of ${axes.map((a) => a.name).join(", ")}`}
          style={{ position: "absolute", width: "100%", height: "100%" }}
        />
        <div
          ref={values}
          style={{
            position: "absolute",
            inset: 0,
            display: "grid",
            gridTemplateRows: `repeat(${axes.length}, 1fr)`,
            pointerEvents: "none",
          }}
        >
          {axes.map((axis) => (
            <div key={axis.name} data-testid={`lane-${axis.name}`} style={{ paddingTop: 5 }}>
              <div style={{ color: axisInk(axis.ink), lineHeight: 1.2 }}>{axis.name}</div>
              <span className="num" style={{ fontSize: 12.5 }} /> <span className="unit">{axis.unit}</span>
            </div>
          ))}
        </div>
        <div
          ref={head}
          style={{
            position: "absolute",
            top: 0,
            bottom: 0,
            left: 0,
            width: 1,
            background: ink.chalk,
            opacity: 0.7,
            pointerEvents: "none",
          }}
        />
      </div>
    </section>
  );
});

function drawLanes(
  element: HTMLCanvasElement,
  lanes: Lane[],
  curves: Curves,
  stage: "raw" | "now",
  keys: (axis: string) => number[],
) {
  const density = window.devicePixelRatio;
  const [width, height] = [element.clientWidth, element.clientHeight];
  element.width = width * density;
  element.height = height * density;
  // Long curves are drawn fastest by the processor: where there is no graphics card, ten times.
  // Nothing shines through, so that the browser lays no picture over another.
  const pen = element.getContext("2d", { willReadFrequently: true, alpha: false });
  if (!pen || width < LEFT + 10) return;
  pen.scale(density, density);
  pen.fillStyle = ink.slate1;
  pen.fillRect(0, 0, width, height);
  const lane = height / lanes.length;
  lanes.forEach(({ axis, raw, now }, i) => {
    const top = i * lane + 6;
    const room = lane - 12;
    const [low, high] = range(axis, raw, now);
    const y = (v: number) => top + room - ((v - low) / (high - low)) * room;
    pen.strokeStyle = ink.slate3;
    line(pen, 0, i * lane + lane - 0.5, width, i * lane + lane - 0.5);
    // Past an end stop: a faint band with its edge.
    pen.fillStyle = `${ink.near}22`;
    if (axis.max !== null && axis.max < high) pen.fillRect(LEFT, top, width - LEFT, y(axis.max) - top);
    if (axis.min !== null && axis.min > low)
      pen.fillRect(LEFT, y(axis.min), width - LEFT, top + room - y(axis.min));
    const color = axisInk(axis.ink);
    curve(pen, raw, width, y, stage === "raw" ? color : `${color}8C`, stage === "raw" ? 2.2 : 1);
    if (stage === "now") curve(pen, now, width, y, color, 2.2);
    if (stage === "now") dots(pen, now, curves, keys(axis.name), width, y);
    pen.fillStyle = ink.chalkDim;
    pen.font = `10px ${font.number}`;
    pen.textAlign = "right";
    if (lane > 46) {
      const digits = high - low < 1 ? 2 : high - low < 20 ? 1 : 0;
      pen.fillText(high.toFixed(digits), LEFT - 5, top + 8);
      pen.fillText(low.toFixed(digits), LEFT - 5, top + room);
    }
  });
}

/** What a lane shows: its curves with some air, and no less than makes a still axis look still. */
function range(axis: AxisView, raw: Envelope, now: Envelope): [number, number] {
  const [low, high] = spanOf([raw, now]);
  const least = axis.unit === "m" ? 0.2 : axis.unit === "mm" ? 4 : 2;
  const air = Math.max((high - low) * 0.12, (least - (high - low)) / 2, least * 0.05);
  return [low - air, high + air];
}

function line(pen: CanvasRenderingContext2D, x0: number, y0: number, x1: number, y1: number) {
  pen.lineWidth = 1;
  pen.beginPath();
  pen.moveTo(x0, y0);
  pen.lineTo(x1, y1);
  pen.stroke();
}

/** A key as a dot on its curve. */
function dots(
  pen: CanvasRenderingContext2D,
  curve: Envelope,
  curves: Curves,
  keys: number[],
  width: number,
  y: (v: number) => number,
) {
  const length = Math.max(1, curves.samples - 1) / curves.rate;
  pen.fillStyle = ink.chalk;
  for (const time of keys) {
    const share = Math.min(1, time / length);
    pen.beginPath();
    pen.arc(LEFT + share * (width - LEFT), y(valueAt(curves, curve, time)), 2.2, 0, 7);
    pen.fill();
  }
}

function curve(
  pen: CanvasRenderingContext2D,
  values: Envelope,
  width: number,
  y: (v: number) => number,
  color: string,
  thick: number,
) {
  pen.strokeStyle = color;
  pen.lineWidth = thick;
  pen.lineJoin = "round";
  pen.beginPath();
  trace(values, (share, v) => pen.lineTo(LEFT + share * (width - LEFT), y(v)));
  pen.stroke();
}
