import { useMemo, useRef, useState } from "react";
import type { Document, MoverView, Piece } from "../generated/types";
import type { SetView } from "../render/setByPiece";
import { closed, outline, type Point } from "../geometry";
import { liesUpright } from "../machine/handles";
import { sheetView } from "../machine/handView";
import { MachineHandles } from "../machine/MachineHandles";
import { lengthText } from "../quantity";
import { font, ink } from "../theme";
import type { Edits } from "./edits";
import { sizeOf, withSize, type Size } from "./kinds";
import { PeopleInElevation } from "./People";
import { boxOf, round, type Box } from "./snap";
import { useView } from "../state/view";
import { pick, setSet, useSetState } from "../state/set";

interface PieceDrag {
  piece: Piece;
  top: boolean;
  y: number;
}

/** From the front or from the side: drag pieces up and down, and their tops to make them higher. */
export function Elevation(props: { document: Document; set: SetView; figures: MoverView[]; edits: Edits }) {
  const { document, set, figures, edits } = props;
  const svg = useRef<SVGSVGElement>(null);
  const [from, setFrom] = useState<"front" | "side">("front");
  const [drag, setDrag] = useState<PieceDrag | null>(null);
  const [by, setBy] = useState(0);
  const { picked, grid } = useSetState();
  const feet = useView((s) => s.feet);
  const { stage, pieces } = document.scene;
  const across = from === "front" ? stage.width_m : stage.depth_m;

  const flat = useMemo(
    () =>
      ([x, y, z]: [number, number, number]): Point => [from === "front" ? x : -z, -y],
    [from],
  );
  const hand = useMemo(
    () =>
      sheetView(
        ([x, y, z]) => flat([x, y, z]),
        ([x, , z], [u, v]) => (from === "front" ? [u, -v, z] : [x, -v, -u]),
      ),
    [flat, from],
  );
  const shapes = useMemo(() => {
    const found = new Map<number, { d: string; points: Point[] }>();
    for (const solid of set.solids) {
      if (solid.piece === 0) continue;
      const points = outline(solid, [...solid.position, ...solid.rotation], 0, flat);
      const known = found.get(solid.piece) ?? { d: "", points: [] };
      known.d += closed(points);
      known.points.push(...points);
      found.set(solid.piece, known);
    }
    return new Map([...found].map(([id, { d, points }]) => [id, { d, box: boxOf(points) }]));
  }, [set, flat]);

  // A wall in front of everything is seen through.
  const walls = useMemo(
    () => new Set(set.plan.filter((p) => p.thin && p.marks[0]?.role === "wall").map((p) => p.piece)),
    [set],
  );
  const margin = 1.2;
  const box = `${-across / 2 - margin} ${-stage.height_m - margin} ${across + 2 * margin} ${stage.height_m + 2 * margin}`;
  const heightAt = (event: React.PointerEvent) => {
    const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(
      svg.current!.getScreenCTM()!.inverse(),
    );
    return -p.y;
  };
  const snap = (v: number, free: boolean) => {
    const step = grid || 0.05;
    return free ? round(v) : round(Math.round(v / step) * step);
  };
  const result = (d: PieceDrag, amount: number): Piece => {
    const { piece } = d;
    if (!d.top)
      return {
        ...piece,
        position: [piece.position[0], round(piece.position[1] + amount), piece.position[2]],
      };
    const size = sizeOf(piece.form)!;
    const high = Math.max(0.05, round(size[1]! + amount));
    return { ...piece, form: withSize(piece.form, [size[0], high, size[2]] as Size) };
  };
  const begin = (event: React.PointerEvent<SVGSVGElement>) => {
    const element = event.target as Element;
    const id = Number(element.closest("[data-piece]")?.getAttribute("data-piece") ?? 0);
    const piece = pieces.find((p) => p.id === id);
    if (event.button !== 0) return;
    if (!piece) return pick([]);
    if (!picked.includes(id)) setSet({ picked: [id], performer: null, panel: "pieces" });
    if (piece.locked) return;
    setDrag({ piece, top: !!element.closest("[data-top]"), y: heightAt(event) });
    event.currentTarget.setPointerCapture(event.pointerId);
  };
  const go = (event: React.PointerEvent) => {
    const d = drag;
    if (!d) return;
    const start = d.top ? d.piece.position[1] + (sizeOf(d.piece.form)?.[1] ?? 0) : d.piece.position[1];
    setBy(snap(start + heightAt(event) - d.y, event.altKey) - start);
  };
  const end = () => {
    const d = drag;
    setDrag(null);
    if (d && Math.abs(by) > 1e-6)
      edits.change(d.piece, result(d, by), d.top ? `make ${d.piece.name} higher` : `lift ${d.piece.name}`);
    setBy(0);
  };
  const one = picked.length === 1 ? shapes.get(picked[0]!) : undefined;
  const chosen = pieces.find((p) => p.id === picked[0]);
  const moving = drag;
  const thick = across / 500;

  return (
    <section className="paper" aria-label="Elevation" style={{ height: "100%" }}>
      <svg
        ref={(element) => {
          svg.current = element;
          hand.attach(element);
        }}
        data-testid="elevation"
        viewBox={box}
        style={{
          width: "100%",
          height: "100%",
          display: "block",
          touchAction: "none",
          willChange: "transform",
        }}
        onPointerDown={begin}
        onPointerMove={go}
        onPointerUp={end}
      >
        <path d={`M-500 0H500`} stroke={ink.ink} strokeWidth={2 * thick} />
        <path
          d={`M-500 ${-stage.height_m}H500`}
          stroke={ink.blueprint}
          strokeWidth={1.5 * thick}
          strokeDasharray="0.4 0.25"
        />
        {pieces.map((p) => {
          const shape = shapes.get(p.id);
          if (!shape) return null;
          const on = picked.includes(p.id);
          const wall = walls.has(p.id);
          return (
            <path
              key={p.id}
              data-piece={p.id}
              d={shape.d}
              fill={ink.paperFill}
              fillOpacity={wall ? 0.25 : 0.8}
              stroke={on ? ink.blueprint : ink.paperShade}
              strokeWidth={(on ? 2.5 : 1) * thick}
              pointerEvents={p.locked || wall ? "none" : undefined}
              style={{ cursor: "ns-resize" }}
            />
          );
        })}
        <PeopleInElevation figures={figures} flat={flat} />
        {one && chosen && (
          <Chosen box={one.box} piece={chosen} by={by} moving={moving} thick={thick} feet={feet} />
        )}
      </svg>
      <MachineHandles view={hand} shows={liesUpright} />
      <button
        className="plain"
        title="From the front, or from the side"
        onClick={() => setFrom(from === "front" ? "side" : "front")}
        style={{
          position: "absolute",
          right: 10,
          top: 6,
          color: ink.ink,
          background: ink.paper,
          padding: "0 4px",
          borderBottom: `1px dotted ${ink.ink}`,
        }}
      >
        <span className="label" style={{ color: ink.ink }}>
          elevation from the {from}
        </span>
      </button>
    </section>
  );
}

function Chosen(props: {
  box: Box;
  piece: Piece;
  by: number;
  moving: { top: boolean } | null;
  thick: number;
  feet: boolean;
}) {
  const { box, piece, by, moving, thick, feet } = props;
  const size = sizeOf(piece.form);
  const [foot, top] = [box.bottom - (moving && !moving.top ? by : 0), box.top - (moving ? by : 0)];
  const x = box.right + 8 * thick;
  const text = (v: number) => `${lengthText(v, feet)}${feet ? "" : " m"}`;
  const label = { fontSize: 13 * thick, fontFamily: font.number, fill: ink.blueprint } as const;
  return (
    <g pointerEvents={moving ? "none" : undefined}>
      <rect
        x={box.left}
        y={top}
        width={box.right - box.left}
        height={Math.max(0.01, foot - top)}
        fill={ink.blueprint}
        fillOpacity={moving ? 0.15 : 0}
        stroke={ink.blueprint}
        strokeWidth={1.5 * thick}
        pointerEvents="none"
      />
      {size?.[1] != null && !piece.locked && (
        <rect
          data-piece={piece.id}
          data-top
          x={(box.left + box.right) / 2 - 9 * thick}
          y={top - 4 * thick}
          width={18 * thick}
          height={8 * thick}
          fill={ink.paper}
          stroke={ink.blueprint}
          strokeWidth={1.5 * thick}
          style={{ cursor: "ns-resize" }}
        />
      )}
      <path d={`M${x} 0V${foot}M${x} ${foot}V${top}`} stroke={ink.blueprint} strokeWidth={thick} />
      <text {...label} x={x + 5 * thick} y={(foot + top) / 2}>
        {text(foot - top)}
      </text>
      {Math.abs(foot) > 0.02 && (
        <text {...label} x={x + 5 * thick} y={foot / 2}>
          {text(-foot)}
        </text>
      )}
    </g>
  );
}
