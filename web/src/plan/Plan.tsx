import { useEffect, useMemo, useRef, useState } from "react";
import { askReach, usePatchSetup } from "../api";
import type { Camera, Document, FigureView, SetView } from "../generated/types";
import { closed, outline, turn, type Point } from "../geometry";
import { shownMm } from "../lens";
import { holdsWheels, link, useFloor } from "../live/link";
import { pathOf, poseAt } from "../moves";
import { everyFrame, moment, scene } from "../state/now";
import { useView } from "../state/view";
import { drawPieces } from "../set/drawing";
import { pieceRoute } from "../set/routes";
import { ink } from "../theme";

interface Props {
  document: Document;
  set: SetView;
  figures: FigureView[];
  camera: Camera;
}

/** From above, to scale, on paper: the set, who walks where, the machine, and what the lens sees. */
export function Plan({ document, set, figures, camera }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const moving = useRef<SVGGElement>(null);
  const live = useView((s) => s.live);
  const { width_m: width, depth_m: depth } = document.scene.stage;
  const [told, setTold] = useState<Told | null>(null);

  useEffect(() => {
    let drawn = "";
    return everyFrame(() => {
      const at = moment();
      const g = moving.current;
      if (!g || !at) return;
      const signature = `${at.position.join()}${at.rotation.join()}${at.sceneTime}${at.focal}${scene.machine?.bodies.length}${scene.raw?.frames}`;
      if (signature === drawn) return;
      drawn = signature;
      drawMoving(g, figures, camera);
      drawMovers(g.querySelector<SVGElement>('[data-part="movers"]')!, figures, set, at.sceneTime);
    }, 16);
  }, [figures, camera, set]);

  const box = `${-width / 2 - 1.4} ${-depth / 2 - 1.2} ${width + 2.8} ${depth + 3.6}`;
  const drag = useDrag(svg, setTold);
  return (
    <section className="paper" aria-label="Plan" style={{ height: "100%" }}>
      <svg viewBox={box} style={layer}>
        <Grid width={width} depth={depth} />
        <SetOutlines set={set} document={document} />
        {figures.map((f) => (
          <path
            key={f.name}
            d={open(f.path.map((p) => [p[0], p[2]] as Point))}
            fill="none"
            stroke={ink.ink}
            strokeWidth={0.07}
            strokeDasharray="0.35 0.25"
          />
        ))}
        <Scale x={-width / 2} y={depth / 2 + 1.2} />
      </svg>
      <svg ref={svg} data-testid="plan" viewBox={box} style={{ ...layer, touchAction: "none" }} {...drag}>
        <g ref={moving}>
          <path data-part="movers" fill={ink.paperFill} stroke={ink.ink} strokeWidth={0.06} />
          <path
            data-part="wedge"
            fill={ink.blueprint}
            fillOpacity={0.13}
            stroke={ink.blueprint}
            strokeWidth={0.06}
          />
          <path data-part="sharp" fill={ink.blueprint} fillOpacity={0.16} />
          <path
            data-part="raw"
            fill="none"
            stroke={ink.blueprint}
            strokeWidth={0.09}
            strokeDasharray="0.05 0.22"
            strokeLinecap="round"
          />
          <path data-part="now" fill="none" stroke={ink.blueprint} strokeWidth={0.1} />
          <path data-part="machine" fill={ink.ink} />
          <g data-part="people" />
          <circle
            data-part="camera"
            r={0.34}
            fill={ink.paper}
            stroke={ink.ink}
            strokeWidth={0.14}
            style={{ cursor: live ? "grab" : "default" }}
          />
        </g>
        {told && <Wanted told={told} />}
      </svg>
      <span className="label" style={{ position: "absolute", right: 10, bottom: 8, color: ink.ink }}>
        plan
      </span>
    </section>
  );
}

/** What moves is a layer of its own, so that the set is not painted again with it. */
const layer = {
  position: "absolute",
  inset: 0,
  width: "100%",
  height: "100%",
  willChange: "transform",
} as const;

const open = (points: Point[]) =>
  points.length ? `M${points.map((p) => `${p[0].toFixed(2)} ${p[1].toFixed(2)}`).join("L")}` : "";

function drawMoving(g: SVGGElement, figures: FigureView[], camera: Camera) {
  const at = moment();
  if (!at) return;
  const part = (name: string) => g.querySelector<SVGElement>(`[data-part="${name}"]`)!;
  const bodies = scene.machine?.bodies ?? [];
  const shapes = bodies
    .map((body, i) =>
      i * 7 + 7 <= at.bodies.length ? closed(outline(body, at.bodies, i, ([x, , z]) => [x, z])) : "",
    )
    .join("");
  part("machine").setAttribute("d", shapes);
  const [x, , z] = at.position;
  part("camera").setAttribute("cx", String(x));
  part("camera").setAttribute("cy", String(z));
  const half = Math.atan(shownMm(camera).frame[0] / 2 / at.focal);
  const edge = (angle: number): Point => {
    const [dx, , dz] = turn(at.rotation, 0, [Math.sin(angle), 0, -Math.cos(angle)]);
    const length = Math.hypot(dx, dz) || 1;
    return [x + (dx / length) * reach, z + (dz / length) * reach];
  };
  // The wedge ends behind what is sharp, or after a while.
  let reach = Math.min(30, Math.max(7, Math.min(at.far, at.near * 3)));
  part("wedge").setAttribute("d", closed([[x, z], edge(-half), edge(half)]));
  const between = (from: number, to: number) => {
    const sides: Point[] = [];
    for (const [distance, angle] of [
      [from, -half],
      [from, half],
      [to, half],
      [to, -half],
    ] as const) {
      // Sharpness is measured along the view.
      reach = distance / Math.cos(angle);
      sides.push(edge(angle));
    }
    return closed(sides);
  };
  part("sharp").setAttribute("d", between(at.near, Math.min(at.far, 30)));
  const review = !useView.getState().live;
  part("raw").setAttribute("d", review && scene.raw ? open(flat(pathOf(scene.raw))) : "");
  part("now").setAttribute("d", review && scene.now ? open(flat(pathOf(scene.now))) : "");
  drawPeople(part("people"), figures, at.sceneTime);
}

/** Outlines of pieces that move, where they are. */
function drawMovers(path: SVGElement, figures: FigureView[], set: SetView, time: number) {
  let first = 0;
  let d = "";
  const p = scene.performance;
  for (const figure of figures) {
    const outline = figure.piece !== null && set.outlines.find((o) => o.piece === figure.piece)?.outline;
    if (outline && p) {
      const pose = poseAt(p, first, time);
      const place = ([x, z]: Point): Point => {
        const [dx, , dz] = turn(pose, 3, [x, 0, z]);
        return [pose[0]! + dx, pose[2]! + dz];
      };
      d += closed((outline as Point[]).map(place));
    }
    first += figure.bodies.length;
  }
  path.setAttribute("d", d);
}

function flat(path: Float32Array): Point[] {
  return Array.from({ length: path.length / 3 }, (_, i) => [path[i * 3]!, path[i * 3 + 2]!]);
}

function drawPeople(g: SVGElement, figures: FigureView[], time: number) {
  if (g.childElementCount !== figures.length) {
    const circle = () => {
      const c = document.createElementNS("http://www.w3.org/2000/svg", "circle");
      c.setAttribute("r", "0.38");
      c.setAttribute("fill", ink.ink);
      return c;
    };
    g.replaceChildren(...figures.map(circle));
  }
  figures.forEach((figure, i) => {
    if (figure.piece !== null) return;
    const place = Math.min(time * 4, figure.path.length - 1);
    const k = Math.floor(place);
    const a = figure.path[k]!;
    const b = figure.path[Math.min(k + 1, figure.path.length - 1)]!;
    const c = g.children[i]!;
    c.setAttribute("cx", String(a[0] + (b[0] - a[0]) * (place - k)));
    c.setAttribute("cy", String(a[2] + (b[2] - a[2]) * (place - k)));
  });
}

function Grid({ width, depth }: { width: number; depth: number }) {
  const lines = [];
  for (let x = Math.ceil(-width / 2 / 2) * 2; x <= width / 2; x += 2)
    lines.push(`M${x} ${-depth / 2}V${depth / 2}`);
  for (let z = Math.ceil(-depth / 2 / 2) * 2; z <= depth / 2; z += 2)
    lines.push(`M${-width / 2} ${z}H${width / 2}`);
  return (
    <>
      <path d={lines.join("")} stroke={ink.paperLine} strokeWidth={0.04} />
      <rect
        x={-width / 2}
        y={-depth / 2}
        width={width}
        height={depth}
        fill="none"
        stroke={ink.ink}
        strokeWidth={0.22}
      />
    </>
  );
}

/** The set's pieces, and a name for what is large enough to bear it. Lamps hang out of the way. */
function SetOutlines({ set, document }: { set: SetView; document: Document }) {
  const { pieces, performance } = document.scene;
  const drawn = useMemo(() => {
    const still = pieces.filter(
      (p) => !p.hidden && p.form.kind !== "lamp" && pieceRoute(p, performance) === null,
    );
    return drawPieces(still, set).filter((d) => !d.above);
  }, [set, pieces, performance]);
  const named = pieces.filter((p) => p.form.kind === "tram" || p.form.kind === "gallery");
  return (
    <g>
      {drawn.map(({ id, paths }) =>
        paths.map((p, i) => (
          <path key={`${id} ${i}`} d={p.d} fill={p.fill} stroke={p.stroke} strokeWidth={0.06} />
        )),
      )}
      {named
        .filter((p) => drawn.some((d) => d.id === p.id))
        .map((p) => {
          const [x, , z] = p.position;
          const upright = Math.abs(Math.sin((p.turn_deg * Math.PI) / 180)) > 0.7;
          return (
            <text
              key={p.id}
              x={x}
              y={z}
              fontSize={0.95}
              fill={ink.ink}
              textAnchor="middle"
              dominantBaseline="central"
              transform={upright ? `rotate(-90 ${x} ${z})` : undefined}
            >
              {p.name}
            </text>
          );
        })}
    </g>
  );
}

function Scale({ x, y }: { x: number; y: number }) {
  return (
    <g stroke={ink.ink} strokeWidth={0.1} fill={ink.ink}>
      <path d={`M${x} ${y - 0.3}v0.6M${x} ${y}h10M${x + 10} ${y - 0.3}v0.6`} fill="none" />
      <text
        x={x + 10.6}
        y={y}
        fontSize={1}
        stroke="none"
        dominantBaseline="central"
        fontFamily="Spline Sans Mono"
      >
        10 m
      </text>
    </g>
  );
}

/** What the machine answers to a camera dragged on the plan. */
interface Told {
  x: number;
  z: number;
  short: number;
  limits: string[];
}

function Wanted({ told }: { told: Told }) {
  const short = told.short > 0.005;
  const color = short ? ink.beyond : ink.blueprint;
  return (
    <g>
      <circle
        cx={told.x}
        cy={told.z}
        r={0.5}
        fill="none"
        stroke={color}
        strokeWidth={0.12}
        strokeDasharray="0.2 0.14"
      />
      <text
        x={told.x}
        y={told.z - 0.9}
        fontSize={1}
        fontWeight={600}
        fill={short ? "#A8401F" : ink.ink}
        textAnchor="middle"
        paintOrder="stroke"
        stroke={ink.paper}
        strokeWidth={0.25}
      >
        {short ? `${told.short.toFixed(2)} m short: ${told.limits.join(", ")}` : "within reach"}
      </text>
    </g>
  );
}

/** A drag on the plan; the newest place is asked for as soon as the last answer is there. */
interface Drag {
  what: "camera" | "base";
  gesture: string;
  want: Point | null;
  busy: boolean;
  released: boolean;
  axes: number[] | null;
}

/** Drag the camera to send the machine there; drag the base to move the machine. */
function useDrag(svg: React.RefObject<SVGSVGElement | null>, tell: (told: Told | null) => void) {
  const patch = usePatchSetup();
  const drag = useRef<Drag | null>(null);

  const where = (event: React.PointerEvent): Point => {
    const p = new DOMPoint(event.clientX, event.clientY).matrixTransform(
      svg.current!.getScreenCTM()!.inverse(),
    );
    return [p.x, p.y];
  };
  const setup = () => scene.document?.setups.find((s) => s.id === link.frame?.setup);
  const may = () =>
    useView.getState().live &&
    holdsWheels(useFloor.getState()) &&
    useFloor.getState().status?.roll === "standby";

  /** A mark is where a base wants to stand. */
  const toMark = ([x, z]: Point): Point => {
    const marks = scene.document?.scene.pieces.filter((p) => p.form.kind === "mark" && !p.hidden) ?? [];
    const near = marks.find((m) => Math.hypot(m.position[0] - x, m.position[2] - z) < 0.4);
    return near ? [near.position[0], near.position[2]] : [x, z];
  };
  const ask = async (d: Drag, [x, z]: Point) => {
    const frame = link.frame;
    const on = setup();
    if (!frame || !on) return;
    if (d.what === "base" && on.rig.kind === "telescopic_crane") {
      const [bx, bz] = toMark([x, z]);
      const rig = { ...on.rig, base_x_m: round(bx), base_z_m: round(bz) };
      await patch.mutateAsync({ id: on.id, rig, gesture: d.gesture });
    } else {
      const near = frame.axes.map((a) => a.value);
      const reach = await askReach(on.id, [x, frame.position[1], z], near);
      d.axes = reach.axes;
      if (!d.released) tell({ x, z, short: reach.shortfall_m, limits: reach.limits });
    }
  };
  const pump = async (d: Drag) => {
    d.busy = true;
    while (d.want) {
      const want = d.want;
      d.want = null;
      // A refusal is told by the edit itself; the drag goes on.
      await ask(d, want).catch(() => undefined);
    }
    d.busy = false;
    if (d.released) finish(d);
  };
  const finish = (d: Drag) => {
    if (d.axes) link.send({ do: "go", targets: d.axes });
    tell(null);
  };

  return {
    onPointerDown: (event: React.PointerEvent) => {
      const frame = link.frame;
      const rig = setup()?.rig;
      if (event.button !== 0 || !frame || !may()) return;
      const [x, z] = where(event);
      const near = (px: number, pz: number) => Math.hypot(px - x, pz - z) < 0.9;
      const base = rig?.kind === "telescopic_crane" && near(rig.base_x_m, rig.base_z_m);
      const what = near(frame.position[0], frame.position[2]) ? "camera" : base ? "base" : null;
      if (!what) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      drag.current = {
        what,
        gesture: crypto.randomUUID(),
        want: null,
        busy: false,
        released: false,
        axes: null,
      };
    },
    onPointerMove: (event: React.PointerEvent) => {
      const d = drag.current;
      if (!d) return;
      d.want = where(event);
      if (!d.busy) void pump(d);
    },
    onPointerUp: () => {
      const d = drag.current;
      drag.current = null;
      if (!d) return;
      d.released = true;
      if (!d.busy) finish(d);
    },
  };
}

const round = (v: number) => Math.round(v * 100) / 100;
