import { memo, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { create } from "zustand";
import type { Document, FigureView, Piece, SetView } from "../generated/types";
import type { Point } from "../geometry";
import { lengthText } from "../quantity";
import { holdPictures, scene } from "../state/now";
import { ink } from "../theme";
import { drawPieces, placed, unplaced, type Drawn } from "./drawing";
import { withGroups, type Edits } from "./edits";
import { kindOf, middleOf, newPiece, sizeOf, withSize, wordOf, type Size } from "./kinds";
import { extended, pieceRoute, routeOf, speed, withPieceRoute, withRoute } from "./routes";
import { boxOf, gaps, join, round, snapAngle, snapMove, snapPoint, type Box } from "./snap";
import { pick, setSet, useSetState } from "./store";

interface Props {
  document: Document;
  set: SetView;
  figures: FigureView[];
  edits: Edits;
}

/** What a drag does, from where it began. */
type Drag =
  | { what: "draw"; from: Point }
  | { what: "frame"; from: Point }
  | { what: "pan"; from: Point }
  | { what: "move"; from: Point; ids: number[]; box: Box; place: Point; others: Box[]; copy: boolean }
  | { what: "size"; piece: Piece; corner: Point }
  | { what: "turn"; piece: Piece }
  | { what: "waypoint"; index: number };

/** What is shown of a drag while it goes on. */
interface Shown {
  boxes: Point[][];
  dims: [Point, Point][];
  caught: { x: number | null; z: number | null };
  note: { at: Point; text: string } | null;
  /** Pieces in the hand, and how far they were taken. */
  moved: { pieces: Drawn[]; by: Point } | null;
}
/** Middle and width of what the plan shows. */
interface Seen {
  x: number;
  z: number;
  w: number;
}
const nothing: Shown = { boxes: [], dims: [], caught: { x: null, z: null }, note: null, moved: null };

const useShown = create<Shown>(() => nothing);
const setShown = (shown: Shown) => useShown.setState(shown);

/** The set from above, to scale, to be drawn on. */
export function SetPlan({ document, set, figures, edits }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const drag = useRef<Drag | null>(null);
  const { stage, pieces, performers, performance } = document.scene;
  const { tool, sketch, picked, performer: who, waypoint, grid, feet } = useSetState();
  const [zoomed, setZoomed] = useState<Seen | null>(null);
  const [size, setSize] = useState({ w: 800, h: 500 });
  const drawn = useMemo(() => drawPieces(pieces, set), [pieces, set]);
  const boxes = useMemo(() => new Map(drawn.map((d) => [d.id, d.box])), [drawn]);
  // The whole stage, until it is zoomed.
  const whole = Math.max(stage.width_m * 1.14, (stage.depth_m * 1.2 * size.w) / size.h);
  const view = zoomed ?? { x: 0, z: 0, w: whole };
  const perMetre = size.w / view.w;
  const px = (pixels: number) => pixels / perMetre;
  const one = picked.length === 1 ? pieces.find((p) => p.id === picked[0]) : undefined;
  const performer = performers.find((p) => p.id === who);
  const route = performer ? routeOf(performer, performance) : one ? pieceRoute(one, performance) : null;
  const carrier = performer?.parts.find((p) => p.performance === performance)?.rides;
  const frame = pieces.find((p) => p.id === carrier) ?? {
    position: [0, 0, 0] as Piece["position"],
    turn_deg: 0,
  };

  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => {
      const { width, height } = entry!.contentRect;
      if (width > 0 && height > 0) setSize({ w: width, h: height });
    });
    watch.observe(svg.current!);
    return () => watch.disconnect();
  }, []);
  // What was dragged stays where it was put until the set has it there.
  useLayoutEffect(() => {
    setShown(nothing);
  }, [set]);
  const height = (view.w * size.h) / size.w;
  const viewBox = `${view.x - view.w / 2} ${view.z - height / 2} ${view.w} ${height}`;
  const where = (event: { clientX: number; clientY: number }): Point => {
    const box = svg.current!.getBoundingClientRect();
    return [
      view.x - view.w / 2 + ((event.clientX - box.left) / box.width) * view.w,
      view.z - height / 2 + ((event.clientY - box.top) / box.height) * height,
    ];
  };
  const stageBox: Box = {
    left: -stage.width_m / 2,
    right: stage.width_m / 2,
    top: -stage.depth_m / 2,
    bottom: stage.depth_m / 2,
  };
  const othersThan = (ids: number[]) => [...boxes].filter(([id]) => !ids.includes(id)).map(([, box]) => box);
  const snapped = (p: Point, free: boolean, ids: number[] = []): Point =>
    free ? [round(p[0]), round(p[1])] : snapPoint(p, [...othersThan(ids), stageBox], px(8), grid);

  /** The wall under a point, and the place along it. */
  const wallAt = (p: Point) => {
    for (const wall of pieces) {
      if (wall.form.kind !== "wall" || wall.hidden) continue;
      const [x, z] = unplaced(p, wall);
      if (Math.abs(z) < wall.form.size[2] / 2 + px(14) && Math.abs(x) <= wall.form.size[0] / 2)
        return { wall, at: placed([x, 0], wall) };
    }
    return null;
  };

  /** What the tool would make between two points. */
  const draft = (a: Point, b: Point, free: boolean): Piece[] => {
    const clicked = Math.hypot(b[0] - a[0], b[1] - a[1]) < px(5);
    if (tool === "room") return clicked ? [] : room(a, b, stage.height_m, pieces);
    const kind = kindOf(tool as never);
    if (!kind) return [];
    const foot = kind.foot?.(stage) ?? 0;
    const number = Math.max(0, ...pieces.map((p) => (p.form.kind === "mark" ? p.form.number : 0))) + 1;
    const name = kind.kind === "mark" ? `mark ${number}` : kind.word;
    const made = (form: Piece["form"], [x, z]: Point, turn = 0) =>
      newPiece(
        name,
        form.kind === "mark" ? { ...form, number } : form,
        [round(x), foot, round(z)],
        round(((turn % 360) + 360) % 360),
      );
    if (kind.inWall) {
      const inA = wallAt(a);
      if (inA) {
        const along = placed([unplaced(b, inA.wall)[0], 0], inA.wall);
        const length = Math.hypot(along[0] - inA.at[0], along[1] - inA.at[1]);
        const middle: Point = clicked ? inA.at : [(along[0] + inA.at[0]) / 2, (along[1] + inA.at[1]) / 2];
        return [made(kind.make(stage, clicked ? null : [round(length), 0]), middle, inA.wall.turn_deg)];
      }
    }
    if (kind.draw === "spot" || clicked) return [made(kind.make(stage, null), a)];
    const middle: Point = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
    if (kind.draw === "line") {
      const end = free ? b : snapAngle(a, b);
      const length = Math.hypot(end[0] - a[0], end[1] - a[1]);
      const turn = (Math.atan2(end[1] - a[1], end[0] - a[0]) * 180) / Math.PI;
      const half: Point = [(a[0] + end[0]) / 2, (a[1] + end[1]) / 2];
      // A line has no direction: half a turn less reads better.
      return [made(kind.make(stage, [round(length), 0]), half, Math.abs(turn) > 90.001 ? turn + 180 : turn)];
    }
    const [w, d] = [round(Math.abs(b[0] - a[0])), round(Math.abs(b[1] - a[1]))];
    if (w < 0.02 || d < 0.02) return [];
    // A gallery runs along its longer side and is open towards the middle of the stage.
    const along = kind.kind === "gallery" && d > w;
    const turn = kind.kind !== "gallery" ? 0 : along ? (middle[0] > 0 ? 90 : 270) : middle[1] > 0 ? 180 : 0;
    return [made(kind.make(stage, along ? [d, w] : [w, d]), middle, turn)];
  };

  const outlineOf = (p: Piece): Point[] => {
    const s = sizeOf(p.form) ?? ([0.5, null, 0.5] as Size);
    const m = middleOf(p.form);
    const [x, z] = [s[0] / 2, s[2] / 2];
    const corners: Point[] = [
      [-x, m - z],
      [x, m - z],
      [x, m + z],
      [-x, m + z],
    ];
    return corners.map((c) => placed(c, p));
  };

  const begin = (event: React.PointerEvent<SVGSVGElement>) => {
    const at = where(event);
    const element = event.target as Element;
    if (event.button === 1 || event.button === 2) {
      drag.current = { what: "pan", from: at };
    } else if (event.button !== 0) return;
    else if (tool === "path") {
      addToPath(at, event.altKey);
      return;
    } else if (tool !== "pick") {
      drag.current = { what: "draw", from: snapped(at, event.altKey) };
    } else if (element.closest("[data-handle]")) {
      const [x, z] = element.getAttribute("data-handle")!.split(",").map(Number);
      drag.current = { what: "size", piece: one!, corner: [x!, z!] };
    } else if (element.closest("[data-turn]")) drag.current = { what: "turn", piece: one! };
    else if (element.closest("[data-waypoint]")) {
      const index = Number(element.getAttribute("data-waypoint"));
      setSet({ waypoint: index });
      drag.current = { what: "waypoint", index };
    } else if (element.closest("[data-performer]")) {
      setSet({
        performer: Number(element.getAttribute("data-performer")),
        picked: [],
        panel: "cast",
        waypoint: 0,
      });
      return;
    } else {
      const id = Number(element.closest("g[data-piece]")?.getAttribute("data-piece") ?? 0);
      if (!id) drag.current = { what: "frame", from: at };
      else beginMove(id, at, event);
    }
    event.currentTarget.setPointerCapture(event.pointerId);
    holdPictures(drag.current !== null);
  };

  const beginMove = (id: number, at: Point, event: React.PointerEvent) => {
    let ids = picked;
    const mine = withGroups(pieces, [id]);
    if (event.shiftKey || event.ctrlKey) {
      ids = picked.includes(id) ? picked.filter((p) => !mine.includes(p)) : [...picked, ...mine];
      setSet({ picked: ids, performer: null, panel: "pieces" });
      return;
    }
    if (!picked.includes(id)) {
      ids = mine;
      setSet({ picked: ids, performer: null, panel: "pieces" });
    }
    const free = ids.filter((p) => !pieces.find((q) => q.id === p)?.locked);
    const found = free.map((p) => boxes.get(p)).filter((b) => b !== undefined);
    if (found.length === 0) return;
    const first = pieces.find((p) => p.id === (free.includes(id) ? id : free[0]))!;
    drag.current = {
      what: "move",
      from: at,
      ids: free,
      box: join(found),
      place: [first.position[0], first.position[2]],
      others: [...othersThan(free), stageBox],
      copy: false,
    };
  };

  /** Where a drag has come to, shown at once and without asking anybody. */
  const go = (event: React.PointerEvent<SVGSVGElement>) => {
    const at = where(event);
    const d = drag.current;
    if (!d) {
      if (tool === "path") setShown({ ...nothing, note: pathNote(at) });
      else if (tool !== "pick") hover(at, event.altKey);
      return;
    }
    if (d.what === "pan")
      setZoomed({ ...view, x: view.x - at[0] + d.from[0], z: view.z - at[1] + d.from[1] });
    else if (d.what === "draw") {
      const to = snapped(at, event.altKey);
      const made = draft(d.from, to, event.altKey);
      const dims =
        made.length === 1 ? sides(outlineOf(made[0]!)) : tool === "room" ? sides(corners(d.from, to)) : [];
      setShown({ ...nothing, boxes: made.map(outlineOf), dims });
    } else if (d.what === "frame") setShown({ ...nothing, boxes: [corners(d.from, at)] });
    else if (d.what === "move") {
      const { by, box, caught } = moved(d, at, event.altKey);
      const held = drawn.filter((p) => d.ids.includes(p.id));
      setShown({ ...nothing, dims: gaps(box, d.others, stageBox), caught, moved: { pieces: held, by } });
    } else if (d.what === "size") {
      const next = sized(d, at, event.altKey);
      setShown({ ...nothing, boxes: [outlineOf(next)], dims: sides(outlineOf(next)) });
    } else if (d.what === "turn") {
      const next = { ...d.piece, turn_deg: turned(d.piece, at, event.altKey) };
      setShown({
        ...nothing,
        boxes: [outlineOf(next)],
        note: { at, text: `${Math.round(next.turn_deg * 10) / 10}°` },
      });
    } else {
      const to = snapped(at, event.altKey);
      const from = route!.waypoints[d.index - 1];
      const dims: [Point, Point][] = from ? [[placed([from.position[0], from.position[2]], frame), to]] : [];
      setShown({ ...nothing, dims, boxes: [dot(to, px(6))] });
    }
  };

  const moved = (d: Extract<Drag, { what: "move" }>, at: Point, free: boolean) => {
    const raw: Point = [at[0] - d.from[0], at[1] - d.from[1]];
    if (Math.hypot(...raw) < px(3)) return { by: [0, 0] as Point, box: d.box, caught: nothing.caught };
    const alone = d.ids.length === 1 ? pieces.find((p) => p.id === d.ids[0]) : undefined;
    let { by, caught } = free
      ? { by: [round(raw[0]), round(raw[1])] as Point, caught: nothing.caught }
      : snapMove(d.box, d.place, raw, d.others, px(8), grid);
    // What stands in walls goes along them.
    if (alone && kindOf(alone.form.kind)?.inWall) {
      const wall = wallAt([d.place[0] + raw[0], d.place[1] + raw[1]]);
      if (wall) {
        const [x, z] = placed(
          [unplaced([d.place[0] + by[0], d.place[1] + by[1]], wall.wall)[0], 0],
          wall.wall,
        );
        by = [round(x - d.place[0]), round(z - d.place[1])];
        caught = nothing.caught;
      }
    }
    const box = {
      left: d.box.left + by[0],
      right: d.box.right + by[0],
      top: d.box.top + by[1],
      bottom: d.box.bottom + by[1],
    };
    return { by, box, caught };
  };

  /** A piece whose corner was dragged; the opposite one stays. */
  const sized = (d: Extract<Drag, { what: "size" }>, at: Point, free: boolean): Piece => {
    const { piece, corner } = d;
    const s = sizeOf(piece.form)!;
    const m = middleOf(piece.form);
    const [x, z] = unplaced(snapped(at, free, [piece.id]), piece);
    const still: Point = [(-corner[0] * s[0]) / 2, m - (corner[1] * s[2]) / 2];
    const w = corner[0] ? Math.max(0.05, round(Math.abs(x - still[0]))) : s[0];
    const l = corner[1] ? Math.max(0.05, round(Math.abs(z - still[1]))) : s[2];
    const form = withSize(piece.form, [w, s[1], l]);
    const [nw, , nl] = sizeOf(form)!;
    const middle: Point = [
      corner[0] ? still[0] + (corner[0] * nw) / 2 : 0,
      corner[1] ? still[1] + (corner[1] * nl) / 2 - middleOf(form) : m - middleOf(form),
    ];
    const [px2, pz2] = placed(middle, piece);
    return { ...piece, form, position: [round(px2), piece.position[1], round(pz2)] };
  };

  const turned = (piece: Piece, at: Point, free: boolean) => {
    const angle = (Math.atan2(at[0] - piece.position[0], piece.position[2] - at[1]) * 180) / Math.PI;
    const stepped = free ? Math.round(angle * 10) / 10 : Math.round(angle / 15) * 15;
    return ((stepped % 360) + 360) % 360;
  };

  const end = (event: React.PointerEvent<SVGSVGElement>) => {
    const d = drag.current;
    drag.current = null;
    holdPictures(false);
    const { moved: held } = useShown.getState();
    setShown({ ...nothing, moved: held });
    // Should the set not come to agree, what was in the hand goes back.
    if (held) setTimeout(() => useShown.getState().moved === held && setShown(nothing), 1500);
    if (!d) return;
    const at = where(event);
    const free = event.altKey;
    if (d.what === "draw") {
      const made = draft(d.from, snapped(at, free), free);
      if (made.length === 0) return;
      edits.add(made);
      setSet({ panel: "pieces", ...(event.shiftKey ? {} : { tool: "pick" as const }) });
    } else if (d.what === "frame") {
      const box = boxOf([d.from, at]);
      const inside = drawn.filter(
        ({ box: b, id }) =>
          b.left >= box.left &&
          b.right <= box.right &&
          b.top >= box.top &&
          b.bottom <= box.bottom &&
          !pieces.find((p) => p.id === id)?.locked,
      );
      pick(
        withGroups(
          pieces,
          inside.map((b) => b.id),
        ),
      );
    } else if (d.what === "move") {
      const { by } = moved(d, at, free);
      if (by[0] || by[1]) edits.move(d.ids, [by[0], 0, by[1]]);
      else setShown(nothing);
    } else if (d.what === "size") {
      const next = sized(d, at, free);
      edits.change(d.piece, next, `size ${next.name}`);
    } else if (d.what === "turn") {
      const next = { ...d.piece, turn_deg: turned(d.piece, at, free) };
      edits.change(d.piece, next, `turn ${next.name}`);
    } else if (d.what === "waypoint") moveWaypoint(d.index, snapped(at, free));
  };

  const keepRoute = (next: NonNullable<typeof route>, label: string) => {
    if (performer) edits.changePerformer(performer, withRoute(performer, performance, next), label);
    else if (one) edits.change(one, withPieceRoute(one, performance, next), label);
  };
  const moveWaypoint = (index: number, to: Point) => {
    if (!route) return;
    const [x, z] = unplaced(to, frame);
    const waypoints = route.waypoints.map((w, i) =>
      i === index ? { ...w, position: [round(x), w.position[1], round(z)] as Piece["position"] } : w,
    );
    keepRoute({ waypoints }, `move a place of ${(performer ?? one)!.name}`);
  };

  /** A click of the path tool: onto the path of who is picked, or of somebody new. */
  const addToPath = (at: Point, free: boolean) => {
    const to = snapped(at, free);
    if (performer || (one && route)) {
      const [x, z] = unplaced(to, frame);
      const last = route?.waypoints.at(-1)?.position[1] ?? 0;
      keepRoute(
        extended(route ?? { waypoints: [] }, [round(x), last, round(z)]),
        `lengthen the path of ${(performer ?? one)!.name}`,
      );
    } else setSet({ sketch: [...sketch, to] });
  };
  const pathNote = (at: Point) => {
    const text =
      performer || (one && route)
        ? "adds a place"
        : sketch.length
          ? "Enter ends the path"
          : "who walks here?";
    return { at, text };
  };
  const finishPath = () => {
    if (sketch.length === 0) return;
    let path: NonNullable<typeof route> = { waypoints: [] };
    for (const [x, z] of sketch) path = extended(path, [x, 0, z]);
    const number = performers.length + 1;
    const somebody = { id: 0, name: `performer ${number}`, height_m: 1.75, build: 1, parts: [] };
    void edits.addPerformer(withRoute(somebody, performance, path), (id) =>
      setSet({ performer: id, picked: [], panel: "cast", tool: "pick", waypoint: 0 }),
    );
    setSet({ sketch: [] });
  };
  const hover = (at: Point, free: boolean) => {
    const made = draft(snapped(at, free), snapped(at, free), free);
    setShown({ ...nothing, boxes: made.map(outlineOf) });
  };

  const zoom = (factor: number, at: Point) => {
    const w = Math.min(400, Math.max(2, view.w * factor));
    const f = w / view.w;
    setZoomed({ x: at[0] + (view.x - at[0]) * f, z: at[1] + (view.z - at[1]) * f, w });
  };
  const onKeyDown = (event: React.KeyboardEvent) => {
    if (event.key === "+" || event.key === "=") zoom(0.8, [view.x, view.z]);
    else if (event.key === "-") zoom(1.25, [view.x, view.z]);
    else if (event.key === "0") setZoomed(null);
  };
  useEffect(() => {
    // Enter ends a path, and puts what the hand holds into the middle: the way without a pointer.
    const key = (event: KeyboardEvent) => {
      const elsewhere = event.target instanceof HTMLElement && event.target.closest("input, button, [role]");
      if (event.key !== "Enter" || tool === "pick" || elsewhere) return;
      const middle = snapped([view.x, view.z], false);
      if (tool === "path") {
        if (sketch.length > 0) finishPath();
        else addToPath(middle, false);
        return;
      }
      const whole = tool === "room";
      const made = whole
        ? draft([stageBox.left, stageBox.top], [stageBox.right, stageBox.bottom], true)
        : draft(middle, middle, false);
      if (made.length > 0) edits.add(made);
      setSet({ tool: "pick", panel: "pieces" });
    };
    window.addEventListener("keydown", key);
    return () => window.removeEventListener("keydown", key);
  });
  const walked = route?.waypoints.map((w) => placed([w.position[0], w.position[2]], frame));

  return (
    <section className="paper" aria-label="Plan" style={{ height: "100%" }}>
      <svg
        ref={svg}
        data-testid="set-plan"
        tabIndex={0}
        aria-label="Plan of the set; draw and drag pieces"
        viewBox={viewBox}
        style={{
          position: "absolute",
          inset: 0,
          width: "100%",
          height: "100%",
          touchAction: "none",
          cursor: tool === "pick" ? "default" : "crosshair",
          userSelect: "none",
          outlineOffset: -2,
          willChange: "transform",
        }}
        onPointerDown={begin}
        onPointerMove={go}
        onPointerUp={end}
        onPointerLeave={() => drag.current || setShown(nothing)}
        onDoubleClick={finishPath}
        onContextMenu={(e) => e.preventDefault()}
        onWheel={(e) => zoom(e.deltaY > 0 ? 1.12 : 0.89, where(e))}
        onKeyDown={onKeyDown}
      >
        <Grid box={stageBox} perMetre={perMetre} />
        <g style={{ pointerEvents: tool === "pick" ? undefined : "none" }}>
          <Pieces drawn={drawn} pieces={pieces} picked={picked} line={px(1)} />
        </g>
        <Names pieces={pieces} boxes={boxes} px={px} />
        {figures.map((f) => {
          const id = f.performer;
          return (
            <polyline
              key={`${f.performer} ${f.piece}`}
              points={f.path.map((p) => `${p[0]},${p[2]}`).join(" ")}
              data-performer={id ?? undefined}
              fill="none"
              stroke={id !== null && id === who ? ink.blueprint : ink.ink}
              strokeWidth={px(id !== null && id === who ? 2.5 : 1.5)}
              strokeDasharray={`${px(7)} ${px(5)}`}
              style={{ pointerEvents: id !== null && tool === "pick" ? "stroke" : "none", cursor: "pointer" }}
            />
          );
        })}
        {performers.map((p) => {
          const first = routeOf(p, performance)?.waypoints[0];
          const at = figures.find((f) => f.performer === p.id)?.path[0];
          if (!first || !at) return null;
          return (
            <g key={p.id}>
              <circle
                data-performer={p.id}
                cx={at[0]}
                cy={at[2]}
                r={px(7)}
                fill={p.id === who ? ink.blueprint : ink.ink}
                style={{ cursor: "pointer", pointerEvents: tool === "pick" ? undefined : "none" }}
              />
              <Label at={[at[0], at[2] - px(11)]} px={px} text={p.name} />
            </g>
          );
        })}
        {walked?.map((at, i) => (
          <g key={i}>
            <circle
              data-waypoint={i}
              cx={at[0]}
              cy={at[1]}
              r={px(i === waypoint ? 7 : 5.5)}
              fill={i === waypoint ? ink.blueprint : ink.paper}
              stroke={ink.blueprint}
              strokeWidth={px(2)}
              style={{ cursor: "grab", pointerEvents: tool === "pick" ? undefined : "none" }}
            />
            {i + 1 < walked.length && performer && (
              <Label
                at={[(at[0] + walked[i + 1]![0]) / 2, (at[1] + walked[i + 1]![1]) / 2 - px(6)]}
                px={px}
                text={`${speed(route!.waypoints[i]!, route!.waypoints[i + 1]!).toFixed(1)} m/s`}
              />
            )}
          </g>
        ))}
        {sketch.length > 0 && (
          <g fill={ink.blueprint} stroke={ink.blueprint}>
            <polyline points={sketch.join(" ")} fill="none" strokeWidth={px(2)} />
            {sketch.map((p, i) => (
              <circle key={i} cx={p[0]} cy={p[1]} r={px(5)} />
            ))}
          </g>
        )}
        <SetupMarks px={px} />
        {one && !one.locked && tool === "pick" && <Handles piece={one} outline={outlineOf(one)} px={px} />}
      </svg>
      <OverPlan viewBox={viewBox} perMetre={perMetre} feet={feet} />
      {pieces.length === 0 && tool === "pick" && <Start />}
      <span
        className="label"
        style={{ position: "absolute", left: 10, bottom: 8, color: ink.ink, pointerEvents: "none" }}
      >
        plan · {lengthText(grid || 0, feet)} {feet ? "" : "m"} grid
      </span>
    </section>
  );
}

/** An empty stage says what to do first. */
function Start() {
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

/** What a drag shows lies on a sheet of its own, so that the plan is not drawn again under it. */
function OverPlan({ viewBox, perMetre, feet }: { viewBox: string; perMetre: number; feet: boolean }) {
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

const corners = (a: Point, b: Point): Point[] => [a, [b[0], a[1]], b, [a[0], b[1]]];
const sides = ([a, b, c]: Point[]): [Point, Point][] => [
  [a!, b!],
  [b!, c!],
];
const dot = ([x, z]: Point, r: number): Point[] => corners([x - r, z - r], [x + r, z + r]);

/** Four walls around a rectangle, outside of it, kept together. */
function room(a: Point, b: Point, height: number, pieces: Piece[]): Piece[] {
  const [w, d, t] = [round(Math.abs(b[0] - a[0])), round(Math.abs(b[1] - a[1])), 0.3];
  const [x, z] = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
  const group = Math.max(0, ...pieces.map((p) => p.group)) + 1;
  const wall = (name: string, length: number, at: Point, turn: number): Piece => ({
    ...newPiece(
      name,
      { kind: "wall", size: [round(length), height, t], material: "brick" },
      [round(at[0]), 0, round(at[1])],
      turn,
    ),
    group,
  });
  return [
    wall("north wall", w + 2 * t, [x, z - d / 2 - t / 2], 0),
    wall("south wall", w + 2 * t, [x, z + d / 2 + t / 2], 0),
    wall("west wall", d, [x - w / 2 - t / 2, z], 90),
    wall("east wall", d, [x + w / 2 + t / 2, z], 90),
  ];
}

/** The pieces themselves; a drag moves them without drawing them again. */
const Pieces = memo(function Pieces(props: {
  drawn: Drawn[];
  pieces: Piece[];
  picked: number[];
  line: number;
}) {
  const { drawn, pieces, picked, line } = props;
  const known = new Map(pieces.map((p) => [p.id, p]));
  return drawn.map(({ id, paths, box, above }) => {
    const piece = known.get(id);
    if (!piece) return null;
    const on = picked.includes(id);
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
          pointerEvents={piece.form.kind === "wall" || piece.form.kind === "rails" ? "none" : "fill"}
        />
        {paths.map((p, i) => (
          <path
            key={i}
            d={p.d}
            fill={p.fill}
            stroke={on ? ink.blueprint : p.stroke}
            strokeWidth={on ? line * 2.5 : line}
            strokeDasharray={above ? `${line * 4} ${line * 3}` : undefined}
          />
        ))}
      </g>
    );
  });
});

function Names({
  pieces,
  boxes,
  px,
}: {
  pieces: Piece[];
  boxes: Map<number, Box>;
  px: (n: number) => number;
}) {
  return pieces.map((p) => {
    const box = boxes.get(p.id);
    if (!box || p.hidden) return null;
    const [w, h] = [box.right - box.left, box.bottom - box.top];
    const mark = p.form.kind === "mark";
    const text = mark ? String((p.form as { number: number }).number) : p.name;
    const room = px(text.length * 6.6 + 6);
    const upright = !mark && h > w && w < room;
    if (p.form.kind === "rails" || (p.form.kind === "stair" && h < px(26))) return null;
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

/** Where the cameras of the setups stand, and which way they look. */
function SetupMarks({ px }: { px: (n: number) => number }) {
  const setups = scene.document?.setups ?? [];
  return scene.views.map((v) => {
    const letter = setups.find((s) => s.id === v.id)?.letter ?? "";
    const [x, , z] = v.position;
    const [qx, qy, qz, qw] = v.rotation;
    const [fx, fz] = [-2 * (qx * qz + qw * qy), -(1 - 2 * (qx * qx + qy * qy))];
    const length = Math.hypot(fx, fz) || 1;
    return (
      <g key={v.id} pointerEvents="none">
        <path
          d={`M${x} ${z}l${(fx / length) * px(26)} ${(fz / length) * px(26)}`}
          stroke={ink.blueprint}
          strokeWidth={px(2)}
        />
        <circle cx={x} cy={z} r={px(8.5)} fill={ink.blueprint} />
        <text
          x={x}
          y={z}
          fontSize={px(11)}
          fontWeight={600}
          fill={ink.paper}
          textAnchor="middle"
          dominantBaseline="central"
        >
          {letter}
        </text>
      </g>
    );
  });
}

function Handles({ piece, outline, px }: { piece: Piece; outline: Point[]; px: (n: number) => number }) {
  const size = sizeOf(piece.form);
  const m = middleOf(piece.form);
  const top: Point = placed([0, m - (size?.[2] ?? 0.5) / 2 - px(24)], piece);
  const edge: Point = placed([0, m - (size?.[2] ?? 0.5) / 2], piece);
  const places: Point[] = [-1, 0, 1]
    .flatMap((x) => [-1, 0, 1].map((z): Point => [x, z]))
    .filter(([x, z]) => x || z);
  const flat = [
    "wall",
    "door",
    "window",
    "opening",
    "rails",
    "tram",
    "workbench",
    "pillars",
    "card",
  ].includes(piece.form.kind);
  const useful = places.filter(([x, z]) => (flat ? z === 0 : x !== 0 || z !== 0));
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
    <g stroke={ink.blueprint} strokeWidth={px(1)}>
      <path
        d={`M${a}L${b}M${a[0] - nx} ${a[1] - nz}l${2 * nx} ${2 * nz}M${b[0] - nx} ${b[1] - nz}l${2 * nx} ${2 * nz}`}
      />
      <Label at={[x, z - px(7)]} text={text} px={px} number />
    </g>
  );
}

function Label({
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
      fontFamily={number ? "Spline Sans Mono" : undefined}
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

function Grid({ box, perMetre }: { box: Box; perMetre: number }) {
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
