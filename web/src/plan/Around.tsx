import { useEffect, useLayoutEffect, useRef } from "react";
import type { Document } from "../generated/types";
import { pictureView } from "../machine/handView";
import { MachineHandles } from "../machine/MachineHandles";
import { aroundView, mount } from "../render/view";
import { pictureOf } from "../state/picture";
import { Choice } from "../form/rows";
import { placesOf } from "../moves";
import { everyFrame, moment } from "../state/now";
import { setView, useView } from "../state/view";
import { followed } from "./followed";

/** From outside, three-quarter: the machine, and the path it took. Drag to walk around it. */
export function Around({ document }: { document: Document }) {
  const host = useRef<HTMLDivElement>(null);
  const eye = useRef({ azimuth: 0.65, height: 5, distance: 13 });
  const { width_m, depth_m } = document.scene.stage;
  const about = useView((s) => s.about);
  /** How far the eye went round with whom it follows, radians. */
  const turned = useRef(0);
  const whom = [
    ["machine", "the machine"] as const,
    ["driven", "who is driven"] as const,
    ...document.scene.performers.map((p) => [`performer ${p.id}`, p.name] as const),
  ];

  useEffect(() => mount(aroundView, host.current!), []);
  useLayoutEffect(() => {
    return everyFrame((elapsed) => {
      const at = moment();
      if (!at) return;
      const whom = followed(about);
      const target = whom ? whom.at : middle(at.bodies, at.position);
      // Behind them, wherever they turn, and no quicker than the eye likes.
      const turn = whom ? ((whom.turn - turned.current + 3 * Math.PI) % (2 * Math.PI)) - Math.PI : 0;
      turned.current = whom ? turned.current + turn * Math.min(1, elapsed * 2.5) : 0;
      const azimuth = eye.current.azimuth + turned.current;
      const picture = [
        at.position,
        at.rotation,
        at.sceneTime,
        placesOf(at.movers),
        target,
        azimuth,
        ...Object.values(eye.current),
      ].join();
      const shown = pictureOf(at, true);
      if (!aroundView.wants(shown, picture, elapsed)) return;
      aroundView.draw(shown, { around: { ...eye.current, azimuth, target, bounds: [width_m, depth_m] } });
    });
  }, [width_m, depth_m, about]);

  const walk = (azimuth: number, height: number, distance: number) => {
    const e = eye.current;
    e.azimuth += azimuth;
    e.height = Math.min(14, Math.max(0.5, e.height + height));
    e.distance = Math.min(40, Math.max(4, e.distance * distance));
  };
  const onKeyDown = (event: React.KeyboardEvent) => {
    const step = {
      ArrowLeft: [-0.1, 0, 1],
      ArrowRight: [0.1, 0, 1],
      ArrowUp: [0, 0.5, 1],
      ArrowDown: [0, -0.5, 1],
      "+": [0, 0, 0.9],
      "-": [0, 0, 1.1],
    }[event.key];
    if (!step) return;
    event.stopPropagation();
    walk(step[0]!, step[1]!, step[2]!);
  };
  return (
    <section
      className="panel"
      aria-label="Three-quarter view"
      style={{ height: "100%", position: "relative", overflow: "hidden" }}
    >
      <div
        ref={host}
        role="img"
        tabIndex={0}
        aria-label="Three-quarter view; arrow keys walk around"
        style={{ position: "absolute", inset: 0, touchAction: "none", cursor: "grab" }}
        onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
        onPointerMove={(e) => e.buttons & 1 && walk(-e.movementX * 0.01, e.movementY * 0.04, 1)}
        onWheel={(e) => walk(0, 0, e.deltaY > 0 ? 1.08 : 0.93)}
        onKeyDown={onKeyDown}
      />
      <MachineHandles view={grasp} on="picture" />
      <span
        style={{ position: "absolute", left: 10, top: 6, display: "flex", gap: 6, alignItems: "baseline" }}
      >
        <span className="label">follows</span>
        <Choice
          label="The view follows"
          value={whom.some(([word]) => word === about) ? about : "machine"}
          options={whom}
          onChange={(to) => setView({ about: to })}
        />
      </span>
      <span className="label" style={{ position: "absolute", right: 10, bottom: 8 }}>
        three-quarter
      </span>
    </section>
  );
}

const grasp = pictureView(aroundView);

/** Between the machine's base and its camera. */
function middle(bodies: Float32Array, [x, y, z]: [number, number, number]): [number, number, number] {
  if (bodies.length <= 7) return [x, y - 0.5, z];
  return [(bodies[0]! + x) / 2, Math.max(1.2, y / 2), (bodies[2]! + z) / 2];
}
