import { useLayoutEffect, useMemo, useRef } from "react";
import type { Document, MoverView, MachineView } from "../generated/types";
import { closed, outline, turn, type Point } from "../geometry";
import { liesUpright } from "../machine/handles";
import { sheetView, type SheetView } from "../machine/handView";
import { MachineHandles } from "../machine/MachineHandles";
import { placesOf } from "../moves";
import { posesAt } from "../render/subject";
import { everyFrame, moment, scene } from "../state/now";
import { font, ink } from "../theme";

/**
 * From the side, along the arm: the machine in its true lengths, the floor, the roof; or from the
 * front, across it. Heights are dragged here.
 */
export function Profile({
  document,
  figures,
  machine,
  front = false,
}: {
  document: Document;
  figures: MoverView[];
  machine: MachineView;
  front?: boolean;
}) {
  const fixed = useRef<SVGPathElement>(null);
  const hand = useMemo(() => profileView(front), [front]);
  const moving = useRef<SVGGElement>(null);
  const height = useRef<SVGTextElement>(null);
  const roof = document.scene.stage.height_m;

  useLayoutEffect(() => {
    const all = figures.flatMap((f) => f.bodies.map((body) => ({ body, piece: f.piece !== null })));
    const poses = new Float32Array(all.length * 7);
    let drawn = "";
    return everyFrame(() => {
      const at = moment();
      const g = moving.current;
      if (!g || !at) return;
      const signature = `${machine.bodies.length}${at.position.join()}${at.rotation.join()}${at.sceneTime}${at.focal} ${scene.played.poses?.state} ${placesOf(at.movers)}`;
      if (signature === drawn) return;
      drawn = signature;
      const view = flatten(hand.plane());
      const line =
        machine.line?.points.map((p) =>
          view([...p])
            .map((v) => v.toFixed(2))
            .join(" "),
        ) ?? [];
      fixed.current?.setAttribute("d", line.length ? `M${line.join("L")}` : "");
      const bodies = scene.machine?.bodies ?? [];
      const part = (name: string) => g.querySelector(`[data-part="${name}"]`)!;
      const shape = (i: number) =>
        i * 7 + 7 <= at.bodies.length ? closed(outline(bodies[i]!, at.bodies, i, view)) : "";
      part("machine").setAttribute("d", bodies.map((_, i) => shape(i)).join(""));
      const [x, y] = view(at.position);
      const [dx, dy] = direction(view, at.rotation);
      part("sight").setAttribute("d", `M${x} ${y}l${dx * 8} ${dy * 8}`);
      if (scene.played.poses) {
        posesAt(scene.played, at.sceneTime, at.movers, poses);
        // Trams that move would hide the machine.
        const shapes = all.map(({ body, piece }, i) => (piece ? "" : closed(outline(body, poses, i, view))));
        part("people").setAttribute("d", shapes.join(""));
      }
      const text = `${at.position[1].toFixed(2)} m`;
      if (height.current && height.current.textContent !== text) height.current.textContent = text;
      height.current?.setAttribute("x", String(x + 0.5));
      height.current?.setAttribute("y", String(y + 1.0));
    }, 16);
  }, [figures, hand, machine]);

  const top = -roof - 1.2;
  return (
    <section className="paper" aria-label={front ? "Front" : "Profile"} style={{ height: "100%" }}>
      <svg
        ref={(element) => hand.attach(element)}
        data-testid={front ? "front" : "profile"}
        viewBox={`${front ? -9.5 : -7} ${top} 19 ${roof + 2.6}`}
        style={{ width: "100%", height: "100%", display: "block" }}
      >
        {Array.from({ length: Math.ceil(roof / 2) }, (_, i) => (
          <path key={i} d={`M-40 ${-2 * i}H40`} stroke={ink.paperLine} strokeWidth={0.04} />
        ))}
        <path d={`M-40 ${-roof}H40`} stroke={ink.beyond} strokeWidth={0.07} strokeDasharray="0.4 0.25" />
        <text x={-6.6} y={-roof - 0.3} fontSize={0.65} fill={ink.ink} fontFamily={font.number}>
          {roof} m
        </text>
        <path d="M-40 0H40" stroke={ink.ink} strokeWidth={0.1} />
        <g ref={moving}>
          <path data-part="people" fill={ink.paperPeople} />
          <path data-part="sight" stroke={ink.blueprint} strokeWidth={0.06} strokeDasharray="0.3 0.2" />
          <path data-part="machine" fill={ink.ink} />
        </g>
        <path ref={fixed} fill="none" stroke={ink.paperShade} strokeWidth={0.1} />
        <text
          ref={height}
          fontSize={0.62}
          fill={ink.blueprint}
          fontFamily={font.number}
          paintOrder="stroke"
          stroke={ink.paper}
          strokeWidth={0.2}
        />
      </svg>
      <span className="label" style={{ position: "absolute", right: 10, bottom: 8, color: ink.ink }}>
        {front ? "front" : "profile"}
      </span>
      <MachineHandles view={hand} shows={liesUpright} />
    </section>
  );
}

type Triple = readonly [number, number, number];

/** An upright plane through a point of the floor. */
interface Plane {
  base: Point;
  along: Point;
}

/** Through the machine's base and its camera, or the way the camera looks; the front lies across. */
function planeOf(at: { bodies: Float32Array; position: Triple; angles: Triple }, front: boolean): Plane {
  const [cx, , cz] = at.position;
  const [bx, bz] = at.bodies.length > 7 ? [at.bodies[0]!, at.bodies[2]!] : [cx, cz];
  const length = Math.hypot(cx - bx, cz - bz);
  const pan = (at.angles[0] * Math.PI) / 180;
  const along: Point =
    length > 0.3 ? [(cx - bx) / length, (cz - bz) / length] : [Math.sin(pan), -Math.cos(pan)];
  return { base: [bx, bz], along: front ? [-along[1], along[0]] : along };
}

const NOWHERE = { bodies: new Float32Array(0), position: [0, 0, 0], angles: [0, 0, 0] } as const;
const planeNow = (front: boolean) => planeOf(moment() ?? NOWHERE, front);

/** The profile as a hand holds it: while it drags the plane stays, which would turn with what is dragged. */
function profileView(front: boolean): SheetView & { plane: () => Plane } {
  let held: Plane | null = null;
  const plane = () => held ?? planeNow(front);
  const sheet = sheetView(
    (p) => flatten(plane())([...p]),
    (start, [u, v]) => {
      const { base, along } = plane();
      const du = u - ((start[0] - base[0]) * along[0] + (start[2] - base[1]) * along[1]);
      return [start[0] + du * along[0], -v, start[2] + du * along[1]];
    },
  );
  return {
    ...sheet,
    plane,
    hold: (start, level) => {
      held = planeNow(front);
      return sheet.hold(start, level);
    },
    release: () => {
      held = null;
    },
  };
}

/** Flattens the world onto a plane. */
function flatten({ base: [bx, bz], along: [ux, uz] }: Plane) {
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
