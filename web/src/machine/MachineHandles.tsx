import { useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import type { HandleLook } from "../generated/types";
import type { Point } from "../geometry";
import { everyFrame, moment } from "../state/now";
import { axisInk, ink } from "../theme";
import { handlesNow, useDragging, type Told } from "./dragging";
import type { Handle, Vec } from "./handles";
import type { HandView } from "./handView";
import { useRail } from "./rail";

interface Props {
  view: HandView;
  /** Ground under the handles. */
  on?: "paper" | "picture";
  /** Handles that are shown here. */
  shows?: (handle: Handle) => boolean;
  /** Pulls a dragged place to where it is likely meant; `free` while the hand wants it exactly there. */
  snap?: (at: Vec, free: boolean) => Vec;
}

const all = () => true;
const nowhere = (at: Vec) => at;
const OUT = "translate(-999 -999)";

/**
 * Handles of the machine on the floor, over a plan, a profile or a picture: drawn where the machine is, dragged
 * there. Beside the hand stand the numbers that it changes; what the camera can reach is drawn while it is dragged.
 */
export function MachineHandles({ view, on = "paper", shows = all, snap = nowhere }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const [handles, setHandles] = useState<Handle[]>([]);
  const [told, setTold] = useState<Told | null>(null);
  const picked = useRail((s) => s.picked);
  const dragging = useDragging(view, setTold, snap);
  const colours = useMemo(() => (on === "paper" ? paper : picture), [on]);

  useLayoutEffect(() => {
    let listed = "";
    return everyFrame(() => {
      const now = handlesNow().filter(shows);
      const list = now.map((h) => `${h.id} ${h.look}`).join();
      if (list !== listed) {
        listed = list;
        setHandles(now);
      }
      const camera = now.length > 0 && moment();
      const eye = camera && view.toPixels(camera.position);
      for (const handle of now) {
        const part = svg.current?.querySelector(`[data-grip="${handle.id}"]`);
        const at = view.toPixels(handle.at);
        // A bar lies across the view.
        const across = handle.look === "bar" && at && eye ? Math.atan2(at[1] - eye[1], at[0] - eye[0]) : 0;
        const turn = across ? ` rotate(${((across * 180) / Math.PI).toFixed(1)})` : "";
        const to = at ? `translate(${at[0].toFixed(1)} ${at[1].toFixed(1)})${turn}` : OUT;
        if (part && part.getAttribute("transform") !== to) part.setAttribute("transform", to);
      }
    }, 16);
  }, [view, shows]);

  useEffect(() => dragging.letGoOfOthers(handles));

  const where = (event: React.PointerEvent): Point => {
    const { left, top } = svg.current!.getBoundingClientRect();
    return [event.clientX - left, event.clientY - top];
  };
  return (
    <>
      <svg
        ref={svg}
        data-testid="handles"
        aria-label="Handles of the machine"
        style={{ position: "absolute", inset: 0, width: "100%", height: "100%", pointerEvents: "none" }}
      >
        {told && <Reached told={told} view={view} colours={colours} />}
        {handles.map((handle) => (
          <g
            key={handle.id}
            data-grip={handle.id}
            transform={OUT}
            style={{ pointerEvents: "all", cursor: "grab", touchAction: "none" }}
            opacity={handle.faint ? 0.75 : undefined}
            onPointerDown={(event) => {
              if (event.button !== 0) return;
              event.stopPropagation();
              // Else words would be marked on the way.
              event.preventDefault();
              event.currentTarget.setPointerCapture(event.pointerId);
              // Where it is now, and not where it was when the list was made.
              const now = handlesNow().find((h) => h.id === handle.id);
              if (now) dragging.begin(now, where(event));
            }}
            onPointerMove={(event) => dragging.move(where(event), event.altKey)}
            onPointerUp={() => dragging.end()}
            onPointerCancel={() => dragging.end()}
          >
            <title>{handle.word}</title>
            <Shape
              look={handle.look}
              colours={colours}
              faint={handle.faint}
              filled={picked !== null && handle.id === `point ${picked + 1}`}
            />
            {handle.faint && (
              <text x={9} y={-6} fontSize={11} {...haloed(colours)}>
                {handle.word}
              </text>
            )}
          </g>
        ))}
      </svg>
      {told && <Words told={told} view={view} colours={colours} />}
    </>
  );
}

interface Colours {
  ground: string;
  line: string;
  aim: string;
  text: string;
  short: string;
}

const paper: Colours = {
  ground: ink.paper,
  line: ink.blueprint,
  aim: ink.paperBeyond,
  text: ink.ink,
  short: ink.paperBeyond,
};
const picture: Colours = {
  ground: ink.slate0,
  line: ink.pick,
  aim: ink.near,
  text: ink.chalk,
  short: ink.beyond,
};

/** Letters that are read over anything. */
const haloed = ({ ground, text }: Colours) =>
  ({ fill: text, stroke: ground, strokeWidth: 3, paintOrder: "stroke", strokeLinejoin: "round" }) as const;

interface ShapeProps {
  look: HandleLook;
  colours: Colours;
  faint: boolean;
  filled: boolean;
}

/** A handle, and the room around it that a hand may miss it by. */
function Shape({ look, colours, faint, filled }: ShapeProps) {
  const line = {
    fill: filled ? colours.line : colours.ground,
    stroke: colours.line,
    strokeWidth: 2,
    strokeDasharray: faint ? "3 2" : undefined,
  };
  switch (look) {
    case "camera":
      // A ring: what lies in its middle keeps its own handle.
      return (
        <>
          <circle r={14} fill="transparent" />
          <circle r={12} fill="none" stroke={colours.ground} strokeWidth={4} />
          <circle r={12} fill="none" stroke={colours.line} strokeWidth={2} />
        </>
      );
    case "bar":
      return (
        <>
          <rect x={-8} y={-14} width={16} height={28} fill="transparent" />
          <path d="M0 -11V11" stroke={colours.ground} strokeWidth={6} />
          <path d="M0 -11V11" stroke={colours.line} strokeWidth={3} />
        </>
      );
    case "square":
      return (
        <>
          <circle r={10} fill="transparent" />
          <rect x={-4.5} y={-4.5} width={9} height={9} {...line} />
        </>
      );
    case "round":
      return (
        <>
          <circle r={11} fill="transparent" />
          <circle r={4.5} {...line} />
        </>
      );
    case "cross":
      return (
        <>
          <circle r={12} fill="transparent" />
          <path d="M-9 0H9M0 -9V9" stroke={colours.ground} strokeWidth={6} />
          <path d="M-9 0H9M0 -9V9" stroke={colours.aim} strokeWidth={2.5} />
        </>
      );
  }
}

/** The place that the handle gets to, and the ways that the camera can go from there. */
function Reached({ told, view, colours }: { told: Told; view: HandView; colours: Colours }) {
  const at = view.toPixels(told.at);
  const hand = view.toPixels(told.hand);
  if (!at) return null;
  return (
    <g pointerEvents="none">
      {told.traces.map(({ axis, points, ends }) => {
        const there = points.map((p) => view.toPixels(p)).filter((p) => p !== null);
        if (there.length < points.length) return null;
        const [first, last] = [there[0]!, there.at(-1)!];
        return (
          <g key={axis} fill={axisInk(axis)} stroke={colours.text} strokeWidth={0.5}>
            <polyline points={there.join(" ")} fill="none" stroke={colours.ground} strokeWidth={4.5} />
            <polyline points={there.join(" ")} fill="none" stroke={axisInk(axis)} strokeWidth={2.5} />
            {ends && [first, last].map(([cx, cy], i) => <circle key={i} cx={cx} cy={cy} r={4} />)}
          </g>
        );
      })}
      {told.short && hand && (
        <path d={`M${at}L${hand}`} stroke={colours.short} strokeWidth={1.5} strokeDasharray="4 3" />
      )}
      <circle
        cx={at[0]}
        cy={at[1]}
        r={9}
        fill="none"
        stroke={told.short ? colours.short : colours.line}
        strokeWidth={2}
        strokeDasharray="4 3"
      />
    </g>
  );
}

/** Between the hand and its words, pixels. */
const BESIDE_PX = 18;

/** The numbers that a hand changes, beside it, on the side where there is room. */
function Words({ told, view, colours }: { told: Told; view: HandView; colours: Colours }) {
  const box = useRef<HTMLDivElement>(null);
  useLayoutEffect(() => {
    const words = box.current!;
    const at = view.toPixels(told.hand) ?? view.toPixels(told.at);
    const room = words.parentElement!;
    if (!at) return;
    const [w, h] = [words.offsetWidth, words.offsetHeight];
    const right = at[0] + BESIDE_PX;
    const x = right + w < room.clientWidth ? right : at[0] - BESIDE_PX - w;
    const within = (v: number, most: number) => Math.max(2, Math.min(v, most - 2));
    words.style.left = `${within(x, room.clientWidth - w)}px`;
    words.style.top = `${within(at[1] - BESIDE_PX - h / 2, room.clientHeight - h)}px`;
  });
  return (
    <div
      ref={box}
      data-testid="told"
      className="num"
      style={{
        position: "absolute",
        width: "max-content",
        maxWidth: "100%",
        padding: "1px 5px",
        borderRadius: 3,
        fontSize: 12.5,
        lineHeight: 1.35,
        pointerEvents: "none",
        userSelect: "none",
        color: told.short ? colours.short : colours.text,
        background: `${colours.ground}D8`,
      }}
    >
      {told.lines.map((line) => (
        <div key={line}>{line}</div>
      ))}
    </div>
  );
}
