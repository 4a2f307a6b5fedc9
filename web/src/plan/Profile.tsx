import { useEffect, useRef } from "react";
import type { Document, FigureView } from "../generated/types";
import { closed, outline, turn, type Point } from "../geometry";
import { performanceAt } from "../moves";
import { everyFrame, moment, scene } from "../state/now";
import { ink } from "../theme";

/** From the side, along the arm: the machine in its true lengths, the floor, the roof. */
export function Profile({ document, figures }: { document: Document; figures: FigureView[] }) {
  const moving = useRef<SVGGElement>(null);
  const height = useRef<SVGTextElement>(null);
  const roof = document.scene.stage.height_m;

  useEffect(() => {
    const all = figures.flatMap((f) => f.bodies.map((body) => ({ body, piece: f.piece !== null })));
    const poses = new Float32Array(all.length * 7);
    let drawn = "";
    return everyFrame(() => {
      const at = moment();
      const g = moving.current;
      if (!g || !at) return;
      const signature = `${at.position.join()}${at.rotation.join()}${at.sceneTime}${at.focal}`;
      if (signature === drawn) return;
      drawn = signature;
      const view = sideView(at);
      const bodies = scene.machine?.bodies ?? [];
      const part = (name: string) => g.querySelector(`[data-part="${name}"]`)!;
      const shape = (i: number) =>
        i * 7 + 7 <= at.bodies.length ? closed(outline(bodies[i]!, at.bodies, i, view)) : "";
      part("machine").setAttribute("d", bodies.map((_, i) => shape(i)).join(""));
      const [x, y] = view(at.position);
      const [dx, dy] = direction(view, at.rotation);
      part("sight").setAttribute("d", `M${x} ${y}l${dx * 8} ${dy * 8}`);
      if (scene.performance) {
        performanceAt(scene.performance, at.sceneTime, poses);
        // Trams that move would hide the machine.
        const shapes = all.map(({ body, piece }, i) => (piece ? "" : closed(outline(body, poses, i, view))));
        part("people").setAttribute("d", shapes.join(""));
      }
      const text = `${at.position[1].toFixed(2)} m`;
      if (height.current && height.current.textContent !== text) height.current.textContent = text;
      height.current?.setAttribute("x", String(x + 0.5));
      height.current?.setAttribute("y", String(y + 1.0));
    }, 16);
  }, [figures]);

  const top = -roof - 1.2;
  return (
    <section className="paper" aria-label="Profile" style={{ height: "100%" }}>
      <svg viewBox={`-7 ${top} 19 ${roof + 2.6}`} style={{ width: "100%", height: "100%", display: "block" }}>
        {Array.from({ length: Math.ceil(roof / 2) }, (_, i) => (
          <path key={i} d={`M-40 ${-2 * i}H40`} stroke={ink.paperLine} strokeWidth={0.04} />
        ))}
        <path d={`M-40 ${-roof}H40`} stroke={ink.beyond} strokeWidth={0.07} strokeDasharray="0.4 0.25" />
        <text x={-6.6} y={-roof - 0.3} fontSize={0.65} fill={ink.ink} fontFamily="Spline Sans Mono">
          {roof} m
        </text>
        <path d="M-40 0H40" stroke={ink.ink} strokeWidth={0.1} />
        <g ref={moving}>
          <path data-part="people" fill="#6B6B5E" />
          <path data-part="sight" stroke={ink.blueprint} strokeWidth={0.06} strokeDasharray="0.3 0.2" />
          <path data-part="machine" fill={ink.ink} />
        </g>
        <text ref={height} fontSize={0.62} fill={ink.blueprint} fontFamily="Spline Sans Mono" />
      </svg>
      <span className="label" style={{ position: "absolute", right: 10, bottom: 8, color: ink.ink }}>
        profile along the arm
      </span>
    </section>
  );
}

/** Flattens the world onto the plane through the machine's base and the camera. */
function sideView(at: { bodies: Float32Array; position: [number, number, number] }) {
  const [cx, , cz] = at.position;
  const [bx, bz] = at.bodies.length > 7 ? [at.bodies[0]!, at.bodies[2]!] : [cx, cz + 1];
  const length = Math.hypot(cx - bx, cz - bz) || 1;
  const [ux, uz] = [(cx - bx) / length, (cz - bz) / length];
  return ([x, y, z]: [number, number, number]): Point => [(x - bx) * ux + (z - bz) * uz, -y];
}

function direction(
  view: (p: [number, number, number]) => Point,
  rotation: [number, number, number, number],
): Point {
  const [x, y] = view(turn(rotation, 0, [0, 0, -1]));
  const [ox, oy] = view([0, 0, 0]);
  return [x - ox, y - oy];
}
