import { useLayoutEffect, useMemo, useRef } from "react";
import type { Body, Document, MoverView, MachineView } from "../generated/types";
import type { SetView } from "../render/setByPiece";
import { PERSON_M, SIGHT_M } from "../generated/constants";
import { closed, open, outline, turn, type Point } from "../geometry";
import { link, useFloor } from "../live/link";
import { setupOnFloor } from "../machine/dragging";
import type { Vec } from "../machine/handles";
import { planView } from "../machine/handView";
import { MachineHandles } from "../machine/MachineHandles";
import { inserted } from "../machine/rail";
import { changeRig } from "../camera/setups";
import { positionAt, placesOf, type Moment } from "../moves";
import { correcting } from "../state/correcting";
import { everyFrame, moment, momentBeside, placeNow, scene } from "../state/now";
import { ownBodies } from "../render/subject";
import { useView } from "../state/view";
import { ink } from "../theme";
import { pathOf, pen } from "./inks";
import { boxOf, within, type Box } from "./paper";
import { useRighting } from "./righting";
import { Grid, Marks, Scale, SetOutlines } from "./sheet";
import { toMark } from "./toMark";

interface Props {
  document: Document;
  set: SetView;
  figures: MoverView[];
  machine: MachineView;
  /** True to show as near as the move on show lets it be, instead of the whole stage. */
  near?: boolean;
}

/** From above, to scale, on paper: the set, who walks where, the machine, and what the lens sees. */
export function Plan({ document, set, figures, machine, near }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const moving = useRef<SVGGElement>(null);
  const sheet = useRef<SVGSVGElement>(null);
  const live = useView((s) => s.live);
  const { width_m: width, depth_m: depth } = document.scene.stage;

  const where = (event: React.MouseEvent): Point => {
    const at = new DOMPoint(event.clientX, event.clientY);
    const p = at.matrixTransform(svg.current!.getScreenCTM()!.inverse());
    return [p.x, p.y];
  };
  const hand = useMemo(() => planView(), []);
  const { holds, hands } = useRighting(where, HOLDS_M);
  const onFloor = useFloor((s) => s.status?.setup_id ?? 0);
  const setup = live ? onFloor : scene.setupId;

  useLayoutEffect(() => {
    let drawn = "";
    let looked: typeof scene.now = null;
    let righted: typeof correcting.current = null;
    let lies: Box | null = null;
    return everyFrame(() => {
      const at = moment();
      const g = moving.current;
      if (!g || !at) return;
      if (near && !holds()) lies = nearTo(lies, [sheet.current!, svg.current!]);
      const moves = link.frame?.others.map((o) => o.position.join()).join() ?? "";
      const signature = `${moves}${scene.document?.setups.length}${at.position.join()}${at.rotation.join()}${at.sceneTime}${at.focal}${scene.machine?.bodies.length}${scene.raw?.frames} ${scene.played.poses?.state} ${placesOf(at.movers)}`;
      const same = scene.now === looked && correcting.current === righted;
      if (signature === drawn && same) return;
      [drawn, looked, righted] = [signature, scene.now, correcting.current];
      drawMoving(g, figures);
      drawTrails(g.querySelector<SVGElement>('[data-part="trails"]')!, at.bodies, at.live);
      drawOthers(g.querySelector<SVGElement>('[data-part="others"]')!);
      drawMovers(g.querySelector<SVGElement>('[data-part="movers"]')!, figures, set, at);
    }, 16);
  }, [figures, set, near, holds]);

  const box = `${-width / 2 - 1.4} ${-depth / 2 - 1.2} ${width + 2.8} ${depth + 3.6}`;
  /** A point where the rail is clicked twice. */
  const addPoint = (event: React.MouseEvent) => {
    const setup = setupOnFloor();
    if (!live || setup?.rig.kind !== "rail" || !machine.line) return;
    const [x, z] = where(event);
    const away = (q: Vec) => Math.hypot(q[0] - x, q[2] - z);
    const on = machine.line.points.reduce((best, q) => (away(q) < away(best) ? q : best));
    if (away(on) > 0.5) return;
    void changeRig(setup, { ...setup.rig, points: inserted(setup.rig.points, machine.line, on) });
  };
  return (
    <section className="paper" aria-label="Plan" style={{ height: "100%" }}>
      <svg ref={sheet} viewBox={box} style={layer}>
        <Grid width={width} depth={depth} />
        <SetOutlines set={set} document={document} setup={setup} />
        <Marks marks={machine.plan} />
        {figures.map((f) => (
          <path key={f.name} d={open(f.path.map((p) => [p[0], p[2]] as Point))} {...pen("walk")} />
        ))}
        <Scale x={-width / 2} y={depth / 2 + 1.2} />
      </svg>
      <svg
        ref={(element) => {
          svg.current = element;
          hand.attach(element);
        }}
        data-testid="plan"
        viewBox={box}
        style={{ ...layer, touchAction: "none" }}
        onDoubleClick={addPoint}
        {...(live ? {} : hands)}
      >
        <g ref={moving}>
          <path data-part="movers" {...pen("thing")} />
          <path data-part="wedge" {...pen("sight")} />
          <path data-part="sharp" fill={ink.blueprint} fillOpacity={0.16} />
          <path
            data-part="raw"
            fill="none"
            stroke={ink.blueprint}
            strokeWidth={0.09}
            strokeDasharray="0.05 0.22"
            strokeLinecap="round"
          />
          <path
            data-part="other"
            fill="none"
            stroke={ink.paperBeyond}
            strokeWidth={0.07}
            strokeDasharray="0.25 0.18"
          />
          <circle data-part="ghost" r={0.16} fill="none" stroke={ink.paperBeyond} strokeWidth={0.08} />
          <path data-part="now" {...pen("path")} />
          <path data-part="righted" fill={ink.paper} stroke={ink.ink} strokeWidth={0.06} />
          <path
            data-part="trails"
            fill="none"
            stroke={ink.blueprint}
            strokeWidth={0.05}
            strokeDasharray="0.12 0.1"
          />
          <path data-part="standing" {...pen("machine")} opacity={0.4} />
          <path data-part="machine" {...pen("machine")} />
          <g data-part="others" fill={ink.blueprint} />
          <g data-part="people" {...pen("person")} />
          <circle
            data-part="camera"
            r={0.34}
            fill={ink.paper}
            stroke={ink.ink}
            strokeWidth={0.14}
            style={{ cursor: near ? "grab" : "default" }}
          />
        </g>
      </svg>
      <MachineHandles view={hand} snap={toMark} />
      <span
        className="label"
        style={{ position: "absolute", right: 6, bottom: 4, padding: "2px 4px", ...onPaper }}
      >
        plan
      </span>
    </section>
  );
}

/** Words on paper, whatever is drawn under them. */
const onPaper = { color: ink.ink, background: ink.paper };

/** Layer for what moves, so that the set is not painted again with it. */
const layer = {
  position: "absolute",
  inset: 0,
  width: "100%",
  height: "100%",
  willChange: "transform",
} as const;

function drawMoving(g: SVGGElement, figures: MoverView[]) {
  const at = moment();
  if (!at) return;
  const part = (name: string) => g.querySelector<SVGElement>(`[data-part="${name}"]`)!;
  const bodies = scene.machine?.bodies ?? [];
  part("machine").setAttribute("d", fromAbove(bodies, at.bodies));
  part("standing").setAttribute("d", othersOutline(at.live));
  const [x, , z] = at.position;
  part("camera").setAttribute("cx", String(x));
  part("camera").setAttribute("cy", String(z));
  const half = Math.atan(at.halfFrame[0]);
  const edge = (angle: number): Point => {
    const [dx, , dz] = turn(at.rotation, 0, [Math.sin(angle), 0, -Math.cos(angle)]);
    const length = Math.hypot(dx, dz) || 1;
    return [x + (dx / length) * reach, z + (dz / length) * reach];
  };
  // The wedge ends behind what is sharp, or after a while.
  let reach = Math.min(SIGHT_M[1], Math.max(SIGHT_M[0], Math.min(at.far, at.near * 3)));
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
  part("sharp").setAttribute("d", between(at.near, Math.min(at.far, SIGHT_M[1])));
  const review = !useView.getState().live;
  part("raw").setAttribute("d", review && scene.raw ? open(flat(scene.raw.path)) : "");
  const beside = review ? scene.other : scene.ghost;
  part("other").setAttribute("d", beside ? open(flat(beside.path)) : "");
  const there = momentBeside(review ? "other" : "ghost");
  part("ghost").setAttribute("cx", String(there?.position[0] ?? -999));
  part("ghost").setAttribute("cy", String(there?.position[2] ?? 0));
  part("now").setAttribute("d", review && scene.now ? open(flat(scene.now.path)) : "");
  part("righted").setAttribute("d", review ? righted() : "");
  drawPeople(part("people"), figures, at);
}

/** The outlines of bodies where they are. */
const fromAbove = (bodies: Body[], poses: ArrayLike<number>) =>
  bodies
    .map((body, i) =>
      i * 7 + 7 <= poses.length ? closed(outline(body, poses, i, ([x, , z]) => [x, z])) : "",
    )
    .join("");

/** The machines of the other setups where they are, and their tracks. */
function othersOutline(live: boolean): string {
  const there = new Map(live ? link.frame?.others.map((o) => [o.setup, o.bodies]) : []);
  return scene.played.views
    .filter((v) => v.id !== scene.setupId)
    .map((v) => {
      const built = v.plan.filter((mark) => mark.shape === "areas").map(pathOf);
      return built.join("") + fromAbove(v.bodies, there.get(v.id) ?? v.poses.flat());
    })
    .join("");
}

/** A square wherever the correction that is open has a key. */
function righted(): string {
  const now = scene.now;
  if (!now?.frames) return "";
  const square = ({ at_s }: { at_s: number }) => {
    const [x, , z] = positionAt(now, scene.rate, at_s);
    return `M${x - 0.1} ${z - 0.1}h0.2v0.2h-0.2Z`;
  };
  return correcting.current?.keys.map(square).join("") ?? "";
}

/** Box of the paper that a move takes up: laid anew where the move has left it. */
function nearTo(lies: Box | null, layers: SVGSVGElement[]): Box | null {
  const paths = [scene.now, scene.raw].flatMap((move) => (move?.frames ? flat(move.path) : []));
  const { clientWidth, clientHeight } = layers[0]!;
  if (paths.length === 0 || !clientWidth || !clientHeight) return lies;
  const aspect = clientWidth / clientHeight;
  const same = lies && Math.abs(lies[2] / lies[3] / aspect - 1) < 0.01 && within(lies, paths, ROOM_M);
  if (same) return lies;
  const box = boxOf(paths, ROOM_M, aspect);
  layers.forEach((layer) => layer.setAttribute("viewBox", box.join(" ")));
  return box;
}

/** A hand so near to the camera holds it, metres on paper. */
const HOLDS_M = 0.6;
/** Around a move, metres. */
const ROOM_M = 1.5;

/** Outlines of pieces that move, where they are. */
function drawMovers(path: SVGElement, figures: MoverView[], set: SetView, at: Moment) {
  let first = 0;
  let d = "";
  const p = scene.played.poses;
  for (const figure of figures) {
    const outline = figure.piece !== null && set.outlines.find((o) => o.piece === figure.piece)?.outline;
    if (outline && p && figure.bodies.length > 0) {
      const pose = ownBodies(figure, at.movers) ?? p.poseAt(first, at.sceneTime);
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

/** A dot for each performer; pieces that move are drawn by their outlines. */
function drawPeople(g: SVGElement, figures: MoverView[], { sceneTime, movers }: Moment) {
  const people = figures.filter((figure) => figure.piece === null);
  if (g.childElementCount !== people.length) {
    const circle = () => {
      const c = document.createElementNS("http://www.w3.org/2000/svg", "circle");
      c.setAttribute("r", String(PERSON_M));
      return c;
    };
    g.replaceChildren(...people.map(circle));
  }
  people.forEach((figure, i) => {
    const [x, , z] = placeNow(figure, sceneTime, movers) ?? [0, 0, 0];
    const c = g.children[i]!;
    c.setAttribute("cx", String(x));
    c.setAttribute("cy", String(z));
  });
}

/** Trails of the wheels, latest places. */
const trails = { machine: null as MachineView | null, places: [] as Point[][] };
const TRAIL = 900;

function drawTrails(path: SVGElement, bodies: Float32Array, live: boolean) {
  const wheels = scene.machine?.wheels ?? [];
  if (trails.machine !== scene.machine || !live) {
    trails.machine = scene.machine;
    trails.places = wheels.map(() => []);
  }
  wheels.forEach((w, k) => {
    // While machines change the floor may be a moment ahead of what is known of its parts.
    if (bodies.length < w * 7 + 7 || !trails.places[k]) return;
    const at: Point = [bodies[w * 7]!, bodies[w * 7 + 2]!];
    const list = trails.places[k]!;
    const last = list.at(-1);
    if (last && Math.hypot(at[0] - last[0], at[1] - last[1]) < 0.03) return;
    // Put somewhere else, a wheel leaves no line behind.
    if (last && Math.hypot(at[0] - last[0], at[1] - last[1]) > 1) list.length = 0;
    list.push(at);
    if (list.length > TRAIL) list.shift();
  });
  path.setAttribute("d", trails.places.map(open).join(""));
}

/** The cameras of the other setups, small, with their letters. */
function drawOthers(g: SVGElement) {
  const others = useView.getState().live ? (link.frame?.others ?? []) : [];
  const letters = new Map(scene.document?.setups.map((s) => [s.id, s.letter]));
  while (g.childElementCount > others.length) g.lastElementChild!.remove();
  while (g.childElementCount < others.length) {
    const one = document.createElementNS("http://www.w3.org/2000/svg", "g");
    one.innerHTML =
      '<path d="M0 0L-0.32 -0.75H0.32Z"/><text font-size="0.8" text-anchor="middle" y="0.85"></text>';
    g.append(one);
  }
  others.forEach((other, i) => {
    const [dx, , dz] = turn(other.rotation, 0, [0, 0, -1]);
    const [x, , z] = other.position;
    const one = g.children[i]!;
    one.firstElementChild!.setAttribute(
      "transform",
      `translate(${x} ${z}) rotate(${(Math.atan2(dx, -dz) * 180) / Math.PI})`,
    );
    const text = one.lastElementChild!;
    text.setAttribute("transform", `translate(${x} ${z})`);
    const letter = letters.get(other.setup) ?? "";
    if (text.textContent !== letter) text.textContent = letter;
  });
}
