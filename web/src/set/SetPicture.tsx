import { useEffect, useLayoutEffect, useRef } from "react";
import { DrawFrame } from "../camera/DrawFrame";
import { standing } from "../camera/standing";
import type { Camera, Document, Setup } from "../generated/types";
import { pictureView } from "../machine/handView";
import { MachineHandles } from "../machine/MachineHandles";
import { aroundView, mount } from "../render/view";
import { hand } from "../state/hand";
import { everyFrame, moment } from "../state/now";
import { pictureOf } from "../state/picture";
import { setView, useView } from "../state/view";
import { ink } from "../theme";
import { setSet, useSetState } from "../state/set";

interface Props {
  document: Document;
  /** Whose eye is looked through; none from outside. */
  setup: Setup | null;
  camera: Camera;
  /** The setup on the floor, whose frame shape a drawn frame has. */
  floor: Setup;
}

/** The room beside the plan: from outside, or through a setup, which is only looked through. */
export function SetPicture({ document, setup, camera, floor }: Props) {
  const host = useRef<HTMLDivElement>(null);
  const eye = useRef({ azimuth: 0.5, height: 15, distance: 15 });
  const drawing = useView((s) => s.drawing);
  const picked = useSetState((s) => s.picked);
  const { width_m, depth_m } = document.scene.stage;

  useEffect(() => mount(aroundView, host.current!), []);
  useLayoutEffect(() => {
    const piece = document.scene.pieces.find((p) => p.id === picked[0]);
    const target: [number, number, number] = piece ? [piece.position[0], 1.2, piece.position[2]] : [0, 1, 0];
    return everyFrame((elapsed) => {
      const at = moment();
      if (!at || hand.busy) return;
      const from = setup && standing(setup, at);
      const picture = [
        at.position,
        at.sceneTime,
        setup ? `${from?.position} ${from?.rotation} ${camera.frame_aspect}` : Object.values(eye.current),
        target,
      ].join();
      const shown = pictureOf(at, setup ? undefined : true);
      if (!aroundView.wants(shown, picture, elapsed)) return;
      const outside = { around: { ...eye.current, target, bounds: [width_m, depth_m] as [number, number] } };
      aroundView.draw(shown, setup && from ? { through: from, camera, setup: setup.id } : outside);
    });
  }, [setup, camera, width_m, depth_m, picked, document.scene.pieces]);

  const walk = (azimuth: number, height: number, distance: number) => {
    if (setup) return;
    const e = eye.current;
    e.azimuth += azimuth;
    e.height = Math.min(20, Math.max(0.5, e.height + height));
    e.distance = Math.min(60, Math.max(3, e.distance * distance));
  };
  return (
    <section
      className="panel"
      aria-label="The room"
      style={{ height: "100%", position: "relative", overflow: "hidden" }}
    >
      <div
        ref={host}
        role="img"
        tabIndex={0}
        data-testid="room"
        aria-label={setup ? `Through setup ${setup.letter}` : "The room from outside; drag walks around"}
        style={{ position: "absolute", inset: 0, touchAction: "none", cursor: setup ? "default" : "grab" }}
        onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
        onPointerMove={(e) => e.buttons & 1 && walk(-e.movementX * 0.01, e.movementY * 0.06, 1)}
        onWheel={(e) => walk(0, 0, e.deltaY > 0 ? 1.08 : 0.93)}
      />
      {!drawing && <MachineHandles view={grasp} on="picture" />}
      {drawing && <DrawFrame setupId={(setup ?? floor).id} view={aroundView} />}
      <div
        style={{
          position: "absolute",
          left: 6,
          right: 6,
          top: 5,
          display: "flex",
          justifyContent: "space-between",
          fontSize: 12,
          pointerEvents: "none",
        }}
      >
        <span
          data-testid="room-eye"
          style={{ background: `${ink.slate0}C0`, padding: "0 5px", borderRadius: 3 }}
        >
          {setup ? (
            <>
              <b style={{ color: ink.pick, fontWeight: 500 }}>through {setup.letter}</b> · {setup.name}
            </>
          ) : (
            "from outside"
          )}
        </span>
        <span style={{ display: "flex", gap: 5, pointerEvents: "auto" }}>
          {setup && (
            <button className="plain" style={chip} onClick={() => setSet({ through: null })}>
              outside
            </button>
          )}
          <button
            className="plain"
            style={{ ...chip, ...(drawing ? { background: ink.pick, color: ink.slate0 } : {}) }}
            aria-pressed={drawing}
            title="Draw a frame (Alt D)"
            onClick={() => setView({ drawing: !drawing })}
          >
            draw frame
          </button>
        </span>
      </div>
    </section>
  );
}

const grasp = pictureView(aroundView);

const chip = {
  background: `${ink.slate0}C0`,
  border: `1px solid ${ink.slate3}`,
  borderRadius: 3,
  padding: "0 6px",
} as const;
