import { useLayoutEffect, useRef, type RefObject } from "react";
import { curvesNow, dragKeys, dragOps, editKeys, picksNow, turnSide } from "../move/keyEdits";
import {
  countOf,
  isPicked,
  joined,
  pickKeys,
  shifter,
  turned,
  type Key,
  type Picks,
  type Shifter,
} from "../move/picked";
import type { Move } from "../generated/types";
import type { Looked } from "../state/looked";
import { holdPictures } from "../state/hand";
import { seek } from "../state/transport";
import {
  handlesOf,
  keyAt,
  keysIn,
  placeAt,
  sideAt,
  timeOf,
  valueOf,
  type Geometry,
  type Handle,
  type Place,
  type Range,
} from "./geometry";
import { NAMES_WIDE } from "./time";

/** Action of a hand on the curves. */
export type Hold =
  | { what: "time"; from: Range; moved: boolean }
  | { what: "box"; from: Range; to: Range; base: Picks }
  | {
      what: "keys";
      from: Range;
      moved: boolean;
      place: Place;
      key: Key;
      /** Layout of the curves when the action began. */
      geometry: Geometry;
      curves: Move["curves"];
      picks: Picks;
      shift: Shifter;
      gesture: string;
      by_s: number;
      by: number;
      /** Keys that a click without a move picks. */
      click: Picks;
    }
  | { what: "side"; handle: Handle; geometry: Geometry; gesture: string };

/** More keys than this follow the hand by themselves; what comes of them is worked out when it lets go. */
const TOGETHER = 200;
/** Way of the hand before it moves anything, pixels. */
const STARTS = 3;

/**
 * A hand on the curves: on nothing it takes the time along, with shift it draws a box that picks; on a key
 * it moves all that is picked (shift: only time or only value; alt: a tenth as far and off the frames); on
 * the end of a free side it turns the key. A double click sets a key in.
 */
export function useKeyHands(props: {
  looked: Looked;
  rate: number;
  /** Current layout of the curves. */
  geometry: RefObject<Geometry | null>;
  /** The axes that may have keys. */
  keyed: (axis: string) => boolean;
  /** Draws anew, at once. */
  paint: () => void;
  /** Sets a first key on an axis that has none. */
  begin: (place: Place, time_s: number) => void;
}) {
  const { looked, rate, geometry, keyed, begin } = props;
  const hold = useRef<Hold | null>(null);
  const latest = useRef(props.paint);
  useLayoutEffect(() => {
    latest.current = props.paint;
  });
  const paint = () => latest.current();
  const { id } = looked.move;

  const where = (event: React.PointerEvent | React.MouseEvent): Range => {
    const box = event.currentTarget.getBoundingClientRect();
    return [event.clientX - box.left, event.clientY - box.top];
  };
  const handleAt = (g: Geometry, [x, y]: Range): Handle | undefined => {
    const picks = picksNow(looked);
    if (countOf(picks) > 12) return undefined;
    return g.places
      .flatMap((place) =>
        place.lane.keys
          .filter((k) => isPicked(picks, place.lane.name, k.id))
          .flatMap((key) => handlesOf(g, place, key)),
      )
      .find((h) => Math.hypot(h.x - x, h.y - y) < 7);
  };
  const scrub = (g: Geometry, x: number) => seek(Math.max(g.window[0], timeOf(g, x)));

  const onPointerDown = (event: React.PointerEvent<HTMLElement>) => {
    const g = geometry.current;
    if (!g || event.button !== 0) return;
    const from = where(event);
    event.currentTarget.setPointerCapture(event.pointerId);
    const key = keyAt(g, ...from);
    const handle = key ? undefined : handleAt(g, from);
    if (handle) {
      hold.current = { what: "side", handle, geometry: g, gesture: crypto.randomUUID() };
      return;
    }
    if (key) {
      const mine = { [key.place.lane.name]: [key.key.id] };
      const picks = picksNow(looked);
      const already = isPicked(picks, key.place.lane.name, key.key.id);
      const click = event.shiftKey ? turned(picks, mine) : mine;
      const now = already ? picks : event.shiftKey ? joined(picks, mine) : mine;
      pickKeys(id, now);
      hold.current = {
        what: "keys",
        from,
        moved: false,
        ...key,
        geometry: g,
        curves: curvesNow(looked),
        picks: now,
        shift: shifter(curvesNow(looked), now, key.key.time_s),
        gesture: crypto.randomUUID(),
        by_s: 0,
        by: 0,
        click: already ? click : now,
      };
      return;
    }
    if (event.shiftKey) {
      hold.current = { what: "box", from, to: from, base: picksNow(looked) };
      return;
    }
    hold.current = { what: "time", from, moved: false };
    scrub(g, from[0]);
  };

  const onPointerMove = (event: React.PointerEvent<HTMLElement>) => {
    const g = geometry.current;
    const h = hold.current;
    if (!g) return;
    const at = where(event);
    if (!h) {
      const grip = at[0] > NAMES_WIDE && (keyAt(g, ...at) ?? handleAt(g, at));
      event.currentTarget.style.cursor = grip ? "grab" : "col-resize";
      return;
    }
    const away = h.what === "side" ? 0 : Math.hypot(at[0] - h.from[0], at[1] - h.from[1]);
    if (h.what === "time") {
      h.moved ||= away >= STARTS;
      scrub(g, at[0]);
    } else if (h.what === "box") {
      h.to = at;
      pickKeys(id, joined(h.base, keysIn(g, h.from, h.to)));
      paint();
    } else if (h.what === "keys") {
      if (!h.moved && away < STARTS) return;
      if (!h.moved) holdPictures(countOf(h.picks) > TOGETHER);
      h.moved = true;
      const fine = event.altKey ? 0.1 : 1;
      let [dx, dy] = [(at[0] - h.from[0]) * fine, (at[1] - h.from[1]) * fine];
      if (event.shiftKey && Math.abs(dx) > Math.abs(dy)) dy = 0;
      else if (event.shiftKey) dx = 0;
      const wanted = timeOf(h.geometry, h.from[0] + dx) - timeOf(h.geometry, h.from[0]);
      h.by_s = dx === 0 ? 0 : h.shift(wanted, event.altKey ? null : rate);
      h.by = valueOf(h.place, h.from[1] + dy) - valueOf(h.place, h.from[1]);
      paint();
      if (countOf(h.picks) <= TOGETHER) put(h);
    } else {
      const { handle } = h;
      const side = sideAt(h.geometry, handle, ...at);
      const other = handle.side === "before" ? "after" : "before";
      const opposite = handle.key[other];
      const mine = handle.key[handle.side];
      // Sides with one slope are one line, until alt breaks it.
      const one =
        opposite.side === "free" &&
        mine.side === "free" &&
        Math.abs(opposite.slope - mine.slope) <= 1e-9 * Math.max(1, Math.abs(mine.slope));
      const both = one && !event.altKey ? { [other]: { ...opposite, slope: side.slope } } : {};
      turnSide(looked, handle.place.lane.name, handle.key.id, { [handle.side]: side, ...both }, h.gesture);
    }
  };

  const put = (h: Hold & { what: "keys" }) => {
    const ops = dragOps(id, h.curves, h.picks, h.by_s, h.place.lane.name, h.by);
    if (ops.length > 0) dragKeys(looked, ops, countOf(h.picks), h.gesture);
  };

  const onPointerUp = () => {
    const h = hold.current;
    hold.current = null;
    if (!h) return;
    if (h.what === "keys") {
      holdPictures(false);
      if (h.moved) put(h);
      else pickKeys(id, h.click);
    } else if (h.what === "time" && !h.moved) pickKeys(id, {});
    paint();
  };

  const onDoubleClick = (event: React.MouseEvent<HTMLElement>) => {
    const g = geometry.current;
    const [x, y] = where(event);
    if (!g || x < NAMES_WIDE || keyAt(g, x, y)) return;
    const place = placeAt(g, y);
    if (!place || !keyed(place.lane.name)) return;
    const at_s = Math.max(0, Math.round(timeOf(g, x) * rate) / rate);
    if (place.lane.keys.length === 0) begin(place, at_s);
    else void editKeys(looked, "add a key", { do: "insert", at_s }, { [place.lane.name]: [] });
  };

  return { hold, onPointerDown, onPointerMove, onPointerUp, onPointerCancel: onPointerUp, onDoubleClick };
}
