import { useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import type { Document, MoverView, Piece } from "../generated/types";
import type { SetView } from "../render/setByPiece";
import type { Point } from "../geometry";
import { lengthText } from "../quantity";
import { holdPictures } from "../state/hand";
import { ink } from "../theme";
import { drawnOf } from "./drawn";
import { placed, unplaced } from "./placed";
import { withGroups, type Edits } from "./edits";
import { Hatch } from "./Hatch";
import { Grid, Handles, Label, Names, OverPlan, Pieces, Start } from "./layers";
import { PeopleNow } from "./People";
import { extended, frameOf, pieceRoute, routeOf, speed, withPieceRoute, withRoute } from "./routes";
import { SetupMarks } from "./SetupMarks";
import { nothing, setShown, useShown } from "./shown";
import { boxOf, gaps, join, round, type Box } from "./snap";
import { useFloor } from "../live/link";
import { planView } from "../machine/handView";
import { MachineHandles } from "../machine/MachineHandles";
import { toMark } from "../plan/toMark";
import { useView } from "../state/view";
import { pick, setSet, useSetState } from "../state/set";
import {
  corners,
  dot,
  draft,
  moved,
  othersThan,
  outlineOf,
  sides,
  sized,
  snapped,
  turned,
  type Sheet,
  type Taken,
} from "./tools";

interface Props {
  document: Document;
  set: SetView;
  figures: MoverView[];
  edits: Edits;
}

/** Drag in progress, and its start. */
type Drag =
  | { what: "draw"; from: Point }
  | { what: "frame"; from: Point }
  | { what: "pan"; from: Point }
  | ({ what: "move" } & Taken)
  | { what: "size"; piece: Piece; corner: Point }
  | { what: "turn"; piece: Piece }
  | { what: "waypoint"; index: number };

/** Middle and width of what the plan shows. */
interface Seen {
  x: number;
  z: number;
  w: number;
}
/** The set from above, to scale, to be drawn on. */
export function SetPlan({ document, set, figures, edits }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const drag = useRef<Drag | null>(null);
  const { stage, pieces, performers, performance } = document.scene;
  const { tool, sketch, picked, performer: who, waypoint, grid, through } = useSetState();
  const feet = useView((s) => s.feet);
  const onFloor = useFloor((s) => s.status?.setup_id ?? 0);
  const [zoomed, setZoomed] = useState<Seen | null>(null);
  const [size, setSize] = useState({ w: 800, h: 500 });
  const drawn = useMemo(() => set.plan.map(drawnOf), [set]);
  const boxes = useMemo(() => new Map(drawn.map((d) => [d.id, d.box])), [drawn]);
  // The whole stage, until it is zoomed.
  const whole = Math.max(stage.width_m * 1.14, (stage.depth_m * 1.2 * size.w) / size.h);
  const view = zoomed ?? { x: 0, z: 0, w: whole };
  const perMetre = size.w / view.w;
  const px = (pixels: number) => pixels / perMetre;
  const one = picked.length === 1 ? pieces.find((p) => p.id === picked[0]) : undefined;
  const performer = performers.find((p) => p.id === who);
  const route = performer ? routeOf(performer, performance) : one ? pieceRoute(one, performance) : null;
  const frame = frameOf(performer?.parts.find((p) => p.performance === performance)?.rides, pieces);

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
  }, [set, tool]);
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
  const sheet: Sheet = { stage, pieces, boxes, whole: stageBox, grid, px };
  const snap = (p: Point, free: boolean) => snapped(sheet, p, free);

  const hand = useMemo(() => planView(), []);

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
      drag.current = { what: "draw", from: snap(at, event.altKey) };
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
      others: [...othersThan(sheet, free), stageBox],
    };
  };

  /** Shows a drag's progress at once, without asking anybody. */
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
      const to = snap(at, event.altKey);
      const made = draft(sheet, tool, d.from, to, event.altKey);
      const dims =
        made.length === 1 ? sides(outlineOf(made[0]!)) : tool === "room" ? sides(corners(d.from, to)) : [];
      setShown({ ...nothing, boxes: made.map(outlineOf), dims });
    } else if (d.what === "frame") setShown({ ...nothing, boxes: [corners(d.from, at)] });
    else if (d.what === "move") {
      const { by, box, caught } = moved(sheet, d, at, event.altKey);
      const held = drawn.filter((p) => d.ids.includes(p.id));
      setShown({ ...nothing, dims: gaps(box, d.others, stageBox), caught, moved: { pieces: held, by } });
    } else if (d.what === "size") {
      const next = sized(sheet, d.piece, d.corner, at, event.altKey);
      setShown({ ...nothing, boxes: [outlineOf(next)], dims: sides(outlineOf(next)) });
    } else if (d.what === "turn") {
      const next = { ...d.piece, turn_deg: turned(d.piece, at, event.altKey) };
      setShown({
        ...nothing,
        boxes: [outlineOf(next)],
        note: { at, text: `${Math.round(next.turn_deg * 10) / 10}°` },
      });
    } else {
      const to = snap(at, event.altKey);
      const from = route!.waypoints[d.index - 1];
      const dims: [Point, Point][] = from ? [[placed([from.position[0], from.position[2]], frame), to]] : [];
      setShown({ ...nothing, dims, boxes: [dot(to, px(6))] });
    }
  };

  const end = (event: React.PointerEvent<SVGSVGElement>) => {
    const d = drag.current;
    // What a place of a path was clicked for stays written.
    if (!d && tool === "path") return;
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
      const made = draft(sheet, tool, d.from, snap(at, free), free);
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
      const { by } = moved(sheet, d, at, free);
      if (by[0] || by[1]) edits.move(d.ids, [by[0], 0, by[1]]);
      else setShown(nothing);
    } else if (d.what === "size") {
      const next = sized(sheet, d.piece, d.corner, at, free);
      edits.change(d.piece, next, `size ${next.name}`);
    } else if (d.what === "turn") {
      const next = { ...d.piece, turn_deg: turned(d.piece, at, free) };
      edits.change(d.piece, next, `turn ${next.name}`);
    } else if (d.what === "waypoint") moveWaypoint(d.index, snap(at, free));
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
    const to = snap(at, free);
    if (performer || (one && route)) {
      const [x, z] = unplaced(to, frame);
      const last = route?.waypoints.at(-1)?.position[1] ?? 0;
      keepRoute(
        extended(route ?? { waypoints: [] }, [round(x), last, round(z)]),
        `lengthen the path of ${(performer ?? one)!.name}`,
      );
    } else {
      setSet({ sketch: [...sketch, to] });
      setShown({ ...nothing, note: pathNote(at, sketch.length + 1) });
    }
  };
  const pathNote = (at: Point, places = sketch.length) => {
    const text =
      performer || (one && route)
        ? "a place more · Esc ends"
        : places === 0
          ? "somebody new, here"
          : `Enter: they ${places > 1 ? "walk" : "stand"} here · Esc: nobody`;
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
    const made = draft(sheet, tool, snap(at, free), snap(at, free), free);
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
  useLayoutEffect(() => {
    // Enter ends a path, and puts what the hand holds into the middle: the way without a pointer.
    const key = (event: KeyboardEvent) => {
      const elsewhere = event.target instanceof HTMLElement && event.target.closest("input, button, [role]");
      if (event.key !== "Enter" || tool === "pick" || elsewhere) return;
      const middle = snap([view.x, view.z], false);
      if (tool === "path") {
        if (sketch.length > 0) finishPath();
        else addToPath(middle, false);
        return;
      }
      const whole = tool === "room";
      const made = whole
        ? draft(sheet, tool, [stageBox.left, stageBox.top], [stageBox.right, stageBox.bottom], true)
        : draft(sheet, tool, middle, middle, false);
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
        ref={(element) => {
          svg.current = element;
          hand.attach(element);
        }}
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
          <defs>
            <Hatch id="taken-out-here" size={px(6)} />
          </defs>
          <Pieces drawn={drawn} pieces={pieces} picked={picked} line={px(1)} setup={through ?? onFloor} />
        </g>
        <Names pieces={pieces} drawn={drawn} px={px} />
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
        <PeopleNow figures={figures} px={px} />
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
        <SetupMarks document={document} px={px} />
        {one && !one.locked && tool === "pick" && <Handles piece={one} outline={outlineOf(one)} px={px} />}
      </svg>
      {tool === "pick" && (
        <MachineHandles
          view={hand}
          snap={(at, free) => {
            const [x, z] = snap([at[0], at[2]], free);
            return toMark([x, at[1], z], free);
          }}
        />
      )}
      <OverPlan viewBox={viewBox} perMetre={perMetre} feet={feet} />
      {pieces.length === 0 && tool === "pick" && <Start />}
      <span
        className="label"
        style={{ position: "absolute", left: 10, bottom: 8, color: ink.ink, pointerEvents: "none" }}
      >
        plan · {grid ? `snaps to ${lengthText(grid, feet)}${feet ? "" : " m"}` : "snaps to no grid"}
      </span>
    </section>
  );
}
