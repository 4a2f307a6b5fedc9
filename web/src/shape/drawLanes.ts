import type { Mark } from "../generated/types";
import { trace, valueAt, type Envelope, type Lanes as Curves } from "../moves";
import type { Picks } from "../move/picked";
import { axisInk, font, ink } from "../theme";
import { handlesOf, xOf, yOf, type Geometry, type Place } from "./geometry";
import { NAMES_WIDE } from "./time";

const LEFT = NAMES_WIDE;

/** Marks and picks that lie over the curves. */
export interface Over {
  /** The times at which a treatment takes keys. */
  taken: number[];
  /** Keys that are picked, and how far they are from where they lie while a hand moves them. */
  picks: Picks;
  by_s: number;
  by: number;
  /** The axis whose values move too. */
  held: string | null;
  /** A box that picks what is inside, corner to corner. */
  box: [number, number, number, number] | null;
  marks: Mark[];
}

/** More picked keys than this have no handles: nobody could tell them apart. */
const HANDLES = 12;

export const markInk: Record<Mark["kind"], string> = {
  stop: ink.near,
  turn: ink.chalk,
  beyond: ink.beyond,
  fast: ink.beyond,
};

/** Lanes: the raw take thin, the move bold, limits as bands, keys as squares, marks along the foot. */
export function drawLanes(
  element: HTMLCanvasElement,
  g: Geometry,
  curves: Curves,
  stage: "raw" | "now",
  over: Over,
) {
  const { width, height } = g;
  const end = Math.max(1, curves.samples - 1) / curves.rate;
  const density = window.devicePixelRatio;
  element.width = width * density;
  element.height = height * density;
  // Long curves are drawn fastest by the processor: where there is no graphics card, ten times.
  // Nothing shines through, so that the browser lays no picture over another.
  const pen = element.getContext("2d", { willReadFrequently: true, alpha: false });
  if (!pen || width < LEFT + 10) return;
  pen.scale(density, density);
  pen.fillStyle = ink.slate1;
  pen.fillRect(0, 0, width, height);
  const together = g.places.length > 1 && g.places[0]!.top === g.places[1]!.top;
  const x = (share: number) => xOf(g, curves.start + share * end);
  for (const place of g.places) {
    const { lane, top, room, low, high } = place;
    const y = (v: number) => yOf(place, v);
    pen.strokeStyle = ink.slate3;
    line(pen, 0, top + room + 5.5, width, top + room + 5.5);
    const color = axisInk(lane.ink);
    pen.save();
    // What is outside of the window is not drawn over the names, nor what is outside of its values
    // over other lanes.
    pen.beginPath();
    pen.rect(LEFT - 5, top - 5, width - LEFT + 5, room + 10);
    pen.clip();
    // Past an end stop: a faint band with its edge.
    pen.fillStyle = `${ink.near}22`;
    if (lane.max !== null && lane.max < high && !together)
      pen.fillRect(LEFT, top - 5, width - LEFT, y(lane.max) - top + 5);
    if (lane.min !== null && lane.min > low && !together)
      pen.fillRect(LEFT, y(lane.min), width - LEFT, top + room + 5 - y(lane.min));
    const thin = stage !== "raw";
    if (!thin || lane.raw !== lane.now)
      curve(pen, lane.raw, x, y, thin ? `${color}8C` : color, thin ? 1 : 2.2);
    if (stage === "now") curve(pen, lane.now, x, y, color, 2.2);
    if (stage === "now") dots(pen, g, place, curves, over.taken);
    keys(pen, g, place, over);
    marks(pen, g, place, over.marks);
    pen.restore();
    pen.fillStyle = ink.chalkDim;
    pen.font = `10px ${font.number}`;
    pen.textAlign = "right";
    if (room > 34 && !together) {
      const digits = high - low < 1 ? 2 : high - low < 20 ? 1 : 0;
      pen.fillText(high.toFixed(digits), LEFT - 5, top + 8);
      pen.fillText(low.toFixed(digits), LEFT - 5, top + room);
    }
  }
  if (over.box) {
    const [x0, y0, x1, y1] = over.box;
    pen.strokeStyle = ink.pick;
    pen.lineWidth = 1;
    pen.strokeRect(x0 + 0.5, y0 + 0.5, x1 - x0, y1 - y0);
  }
}

function line(pen: CanvasRenderingContext2D, x0: number, y0: number, x1: number, y1: number) {
  pen.lineWidth = 1;
  pen.beginPath();
  pen.moveTo(x0, y0);
  pen.lineTo(x1, y1);
  pen.stroke();
}

/** A key that a treatment takes, as a dot on its curve. */
function dots(pen: CanvasRenderingContext2D, g: Geometry, place: Place, curves: Curves, times: number[]) {
  pen.fillStyle = ink.chalk;
  for (const time of times) {
    pen.beginPath();
    pen.arc(xOf(g, time), yOf(place, valueAt(curves, place.lane.now, time)), 2.2, 0, 7);
    pen.fill();
  }
}

/** Half a key's side, pixels. */
const HALF = 3.5;

/** Keys as squares, picked ones full, with the handles of their free sides. */
function keys(pen: CanvasRenderingContext2D, g: Geometry, place: Place, over: Over) {
  const { lane } = place;
  const mine = new Set(over.picks[lane.name]);
  const few = Object.values(over.picks).reduce((n, ids) => n + ids.length, 0) <= HANDLES;
  const still = over.by_s === 0 && over.by === 0;
  // Where keys stand closer than can be seen, some stand for all.
  const squares = (picked: boolean, stroke: string, fill: string) => {
    let last = -Infinity;
    pen.beginPath();
    for (const key of lane.keys) {
      if (mine.has(key.id) !== picked) continue;
      const x = xOf(g, key.time_s + (picked ? over.by_s : 0));
      if (x < LEFT - HALF || x > g.width + HALF || Math.abs(x - last) < 2.5) continue;
      last = x;
      const y = yOf(place, key.value + (picked && over.held === lane.name ? over.by : 0));
      pen.rect(x - HALF, y - HALF, 2 * HALF, 2 * HALF);
    }
    pen.fillStyle = fill;
    pen.strokeStyle = stroke;
    pen.lineWidth = 1.5;
    pen.fill();
    pen.stroke();
  };
  squares(false, axisInk(lane.ink), ink.slate1);
  if (few && still) {
    pen.strokeStyle = pen.fillStyle = ink.pick;
    for (const key of lane.keys.filter((k) => mine.has(k.id)))
      for (const handle of handlesOf(g, place, key)) {
        line(pen, xOf(g, key.time_s), yOf(place, key.value), handle.x, handle.y);
        pen.beginPath();
        pen.arc(handle.x, handle.y, 3, 0, 7);
        pen.fill();
      }
  }
  squares(true, ink.pick, ink.pick);
}

/** Draws marks as bars along the foot of the lane. */
function marks(pen: CanvasRenderingContext2D, g: Geometry, { lane, top, room }: Place, all: Mark[]) {
  for (const mark of all) {
    if (mark.axis !== lane.name) continue;
    const [from, to] = [xOf(g, mark.from_s), xOf(g, mark.to_s)];
    pen.fillStyle = markInk[mark.kind];
    pen.fillRect(from, top + room + 2, Math.max(3, to - from), 2.5);
  }
}

function curve(
  pen: CanvasRenderingContext2D,
  values: Envelope,
  x: (share: number) => number,
  y: (v: number) => number,
  color: string,
  thick: number,
) {
  pen.strokeStyle = color;
  pen.lineWidth = thick;
  pen.lineJoin = "round";
  pen.beginPath();
  trace(values, (share, v) => pen.lineTo(x(share), y(v)));
  pen.stroke();
}
