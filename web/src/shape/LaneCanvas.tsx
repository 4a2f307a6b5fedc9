import { memo, useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { edit } from "../document/edit";
import { newId } from "../document/patch";
import type { Mark, Move } from "../generated/types";
import { keyOps } from "../move/keyed";
import { curvesNow } from "../move/keyEdits";
import { usePicked, type Key } from "../move/picked";
import { alike, valueAt, type Lanes as Curves } from "../moves";
import { decimals } from "../quantity";
import type { Looked } from "../state/looked";
import { everyFrame, moment } from "../state/now";
import { clock, setView, useView } from "../state/view";
import { turnWheel } from "../state/wheel";
import { turned, type Window } from "../state/window";
import { axisInk, ink } from "../theme";
import { drawLanes } from "./drawLanes";
import { folding, movingOf, type Lane, type Shown } from "./folding";
import {
  geometryOf,
  placeAt,
  rangesOf,
  timeOf,
  valueOf,
  zoomedRange,
  type Geometry,
  type Layout,
  type Place,
  type Range,
} from "./geometry";
import { NAMES_WIDE } from "./time";
import { useKeyHands } from "./useKeyHands";

const LEFT = NAMES_WIDE;
const noPicks = {};
const noKeys: Key[] = [];

interface Props {
  looked: Looked;
  shown: Shown[];
  curves: Curves;
  /** Seconds from the start to the end of the ruler. */
  whole: number;
  /** Window of time on show. */
  time: Window;
  rate: number;
  /** The times at which a treatment takes keys. */
  taken: number[];
  /** The keys of the move. */
  own: Move["curves"];
  /** True for an axis that may have keys. */
  keyed: (axis: string) => boolean;
  marks: Mark[];
  /** They are what a job found, not the move's. */
  ofJob: boolean;
}

/** The curves as they are there; asking for others does not render it. */
export const LaneCanvas = memo(function LaneCanvas(props: Props) {
  const { looked, shown: all, curves, whole, time, rate, taken, own, keyed, marks, ofJob } = props;
  const canvas = useRef<HTMLCanvasElement>(null);
  const head = useRef<HTMLDivElement>(null);
  const values = useRef<HTMLDivElement>(null);
  const stage = useView((s) => s.stage);
  const of = useView((s) => s.curvesOf);
  const over = useView((s) => s.lanesOver);
  const toScale = useView((s) => s.lanesToScale);
  const picks = usePicked((s) => (s.move === looked.move.id ? s.keys : noPicks));
  const [zoomedBy, setZoomedBy] = useState<Layout["zoomed"]>({});
  const [byHand, setByHand] = useState<Record<string, boolean>>({});
  const turn = (name: string, fold: boolean) => setByHand((t) => ({ ...t, [name]: fold }));
  // What moves is seen on the whole: a window in which an axis rests does not fold it.
  const covers = time[0] === 0 && time[1] === whole;
  const [kept, setKept] = useState<{ of: Shown[]; moving: string[] } | null>(null);
  const known = kept?.of === all ? kept.moving : null;
  const now = covers || !known ? movingOf(all, curves) : known;
  const moving = known && known.join() === now.join() ? known : now;
  if (moving !== known) setKept({ of: all, moving });
  const { drawn: shown, folded } = useMemo(() => folding(all, moving, byHand), [all, moving, byHand]);

  const geometry = useRef<Geometry | null>(null);
  const seen = useRef<Curves | null>(null);
  const layout = useMemo<Layout>(
    () => ({ over, true_to_scale: toScale, zoomed: zoomedBy }),
    [over, toScale, zoomedBy],
  );
  const lanes = useMemo(
    () =>
      shown.map((lane): Lane => {
        const keys = own[lane.name] ?? noKeys;
        const [raw, now] = [curves.raw[lane.i]!, curves.now[lane.i]!];
        // Where nothing is treated there is one curve, not two that lie on one another.
        return { ...lane, raw: alike(raw, now) ? now : raw, now, keys };
      }),
    [shown, curves, own],
  );
  const ranges = useMemo(() => rangesOf(lanes, layout), [lanes, layout]);

  const paint = () => {
    const element = canvas.current;
    if (!element) return;
    const held = hands.hold.current;
    // What a hand holds stays to the scale that it had, and is drawn from where it was.
    const still = held?.what === "keys" || held?.what === "side" ? held : null;
    const kept = held?.what === "keys" ? held : null;
    const now = kept ? lanes.map((l) => ({ ...l, keys: kept.curves[l.name] ?? noKeys })) : lanes;
    const scale = (i: number): Range => {
      const was = still?.geometry.places.find((p) => p.lane.name === lanes[i]!.name);
      return was ? [was.low, was.high] : ranges[i]!;
    };
    const size: Range = [element.clientWidth, element.clientHeight];
    geometry.current = geometryOf(
      now,
      now.map((_, i) => scale(i)),
      size,
      time,
      over,
    );
    const box =
      held?.what === "box" ? ([...held.from, ...held.to] as [number, number, number, number]) : null;
    drawLanes(element, geometry.current, curves, stage, {
      taken,
      picks: kept?.picks ?? picks,
      by_s: kept?.by_s ?? 0,
      by: kept?.by ?? 0,
      held: kept?.place.lane.name ?? null,
      box,
      marks,
    });
    if (seen.current === curves) return;
    // When these curves came onto the screen, for measures.
    seen.current = curves;
    element.dataset.drawn = String(performance.now());
  };
  const begin = useCallback(
    (place: Place, time_s: number) => {
      const value = valueAt(curves, curves.now[place.lane.i]!, time_s);
      const ops = keyOps(looked.move.id, curvesNow(looked), time_s, { [place.lane.name]: value }, newId);
      void edit(`add a key: ${looked.title}`, ops);
    },
    [curves, looked],
  );
  const hands = useKeyHands({ looked, rate, geometry, keyed, paint, begin });

  // At once, not after the next picture: somebody drags a control.
  useLayoutEffect(paint);
  const painted = useRef(paint);
  useLayoutEffect(() => {
    painted.current = paint;
  });
  useEffect(() => {
    const watch = new ResizeObserver(() => painted.current());
    watch.observe(canvas.current!);
    return () => watch.disconnect();
  }, []);

  useLayoutEffect(
    () =>
      everyFrame(() => {
        const width = canvas.current!.clientWidth - LEFT;
        const share = (clock.time - time[0]) / (time[1] - time[0]);
        head.current!.style.transform = `translateX(${LEFT + share * width}px)`;
        head.current!.style.visibility = share >= 0 && share <= 1 ? "visible" : "hidden";
        // Playing goes on to the next page.
        const { playing } = useView.getState();
        if (playing !== 0 && (share > 1 || share < 0))
          setView({ window: turned(time, whole, clock.time, playing) });
        const at = ofJob || of !== "axes" ? null : moment();
        shown.forEach(({ unit, i }, row) => {
          const cell = values.current?.children[row];
          const value = at?.axes[i] ?? valueAt(curves, curves.now[i]!, clock.time);
          const text = decimals(value, unit === "mm" ? 0 : 2);
          const number = cell?.querySelector(".num");
          if (number && number.textContent !== text) number.textContent = text;
        });
      }),
    [shown, curves, whole, time, ofJob, of],
  );

  /** Over a lane with alt, the wheel zooms its values about what is under the pointer. */
  const onWheel = (event: React.WheelEvent<HTMLElement>) => {
    const g = geometry.current;
    const box = event.currentTarget.getBoundingClientRect();
    const [x, y] = [event.clientX - box.left, event.clientY - box.top];
    const place = g && placeAt(g, y);
    if (!g) return;
    if (!event.altKey || !place) return turnWheel(event, timeOf(g, Math.max(LEFT, x)), whole);
    const of = over ? g.places : [place];
    const times = event.deltaY > 0 ? 1.25 : 0.8;
    const next = of.map((p) => [p.lane.name, zoomedRange([p.low, p.high], valueOf(p, y), times)] as const);
    setZoomedBy((z) => ({ ...z, ...Object.fromEntries(next) }));
  };
  return (
    <>
      <div
        style={{ position: "relative", flex: 1, minHeight: 0, cursor: "col-resize", touchAction: "none" }}
        onPointerDown={hands.onPointerDown}
        // With Shift a browser picks all text from its last caret to here.
        onMouseDown={(e) => e.shiftKey && e.preventDefault()}
        onPointerMove={hands.onPointerMove}
        onPointerUp={hands.onPointerUp}
        onPointerCancel={hands.onPointerCancel}
        onDoubleClick={hands.onDoubleClick}
        onWheel={onWheel}
      >
        <canvas
          ref={canvas}
          role="img"
          aria-label={`Curves of ${shown.map((a) => a.name).join(", ")}`}
          style={{ position: "absolute", width: "100%", height: "100%" }}
        />
        <div
          ref={values}
          style={{
            position: "absolute",
            inset: 0,
            display: "grid",
            width: NAMES_WIDE,
            gridTemplateRows: `repeat(${shown.length}, minmax(0, 1fr))`,
          }}
        >
          {shown.map((axis) => (
            <div
              key={axis.name}
              data-testid={`lane-${axis.name}`}
              style={{
                display: "flex",
                flexWrap: "wrap",
                columnGap: 7,
                alignContent: "center",
                alignItems: "baseline",
                overflow: "hidden",
                lineHeight: 1.25,
              }}
            >
              <button
                className="plain"
                title={`Fold ${axis.name} to its name`}
                onPointerDown={(e) => e.stopPropagation()}
                onDoubleClick={(e) => e.stopPropagation()}
                onClick={() => turn(axis.name, true)}
                style={{ color: axisInk(axis.ink), whiteSpace: "nowrap" }}
              >
                {axis.name}
              </button>
              {zoomedBy[axis.name] && (
                <button
                  className="plain"
                  aria-label={`All values of ${axis.name}`}
                  title="All of its values again"
                  onPointerDown={(e) => e.stopPropagation()}
                  onClick={() =>
                    setZoomedBy((z) =>
                      Object.fromEntries(Object.entries(z).filter(([name]) => name !== axis.name)),
                    )
                  }
                  style={{ color: ink.pick }}
                >
                  ↕
                </button>
              )}
              <span style={{ whiteSpace: "nowrap" }}>
                <span className="num" style={{ fontSize: 12.5 }} /> <span className="unit">{axis.unit}</span>
              </span>
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
      {folded.length > 0 && (
        <div
          role="group"
          aria-label="Folded curves"
          style={{ display: "flex", flexWrap: "wrap", gap: "0 16px", paddingTop: 3, fontSize: 13 }}
        >
          <span style={{ color: ink.chalkDim, width: NAMES_WIDE - 16 }}>folded</span>
          {folded.map(({ name, ink: of }) => (
            <button
              key={name}
              className="plain"
              title={`Show the curve of ${name}`}
              onClick={() => turn(name, false)}
              style={{ color: axisInk(of) }}
            >
              {name}
            </button>
          ))}
        </div>
      )}
    </>
  );
});
