import { Button } from "@mui/material";
import { enqueueSnackbar } from "notistack";
import { useEffect, useLayoutEffect, useRef, useState } from "react";
import { askFrame, machineThere, usePutOnFloor } from "../api";
import type { FrameRequest, FrameView, SetupId } from "../generated/types";
import type { View } from "../render/view";
import { goLive, setView } from "../state/view";
import { ink } from "../theme";
import { setSet } from "../state/set";
import { addSetup } from "./setups";

interface DrawnFrame {
  corner: [number, number, number];
  x: number;
  y: number;
}

/**
 * Draw the wanted frame in a picture: the drag goes from one corner to the opposite one, in the
 * shape of the setup's frame; with Shift the frame may tilt. What is drawn is exactly what the
 * new camera sees; the lenses of the set next to it show what they would see.
 */
export function DrawFrame({ setupId, view }: { setupId: SetupId; view: View }) {
  const box = useRef<HTMLDivElement>(null);
  const held = useRef<DrawnFrame | null>(null);
  const asked = useRef<{ next: FrameRequest | null; running: boolean }>({ next: null, running: false });
  /** Taken before the server had answered: made of its answer. */
  const early = useRef(false);
  /** A setup is being made of it: once is enough. */
  const making = useRef(false);
  const [found, setFound] = useState<FrameView | null>(null);
  /** The frame found is the one drawn, not one passed on the way. */
  const [settled, setSettled] = useState(true);
  const [chosen, setChosen] = useState(0);
  const [drawing, setDrawing] = useState(false);
  const [size, setSize] = useState({ w: 1, h: 1 });
  const put = usePutOnFloor();

  useEffect(() => {
    const watch = new ResizeObserver(([e]) => setSize({ w: e!.contentRect.width, h: e!.contentRect.height }));
    watch.observe(box.current!);
    return () => watch.disconnect();
  }, []);
  const share = (event: React.PointerEvent): [number, number] => {
    const r = box.current!.getBoundingClientRect();
    return [(event.clientX - r.left) / r.width, (event.clientY - r.top) / r.height];
  };
  /** The newest wish is asked as soon as the last answer is there. */
  const ask = async (wanted: FrameRequest) => {
    asked.current.next = wanted;
    if (asked.current.running) return;
    asked.current.running = true;
    setSettled(false);
    while (asked.current.next) {
      const next = asked.current.next;
      asked.current.next = null;
      try {
        setFound(await askFrame(next));
        setChosen(0);
      } catch (e) {
        early.current = false;
        setFound(null);
        if (!held.current) enqueueSnackbar((e as Error).message, { variant: "error" });
      }
    }
    asked.current.running = false;
    setSettled(true);
  };
  const move = (event: React.PointerEvent) => {
    const h = held.current;
    if (!h) return;
    const [x, y] = share(event);
    if (Math.hypot((x - h.x) * size.w, (y - h.y) * size.h) < 6) return;
    const opposite = view.sight.direction(x, y);
    void ask({
      setup_id: setupId,
      corner: h.corner,
      opposite,
      right: x > h.x,
      up: y < h.y,
      tilted: event.shiftKey,
    });
  };
  const make = async (i = chosen) => {
    const offer = found?.offers[i];
    if (!found || !offer || making.current) return;
    making.current = true;
    const { pan_deg, tilt_deg, roll_deg } = found;
    const rig = await machineThere("free_camera", {
      position: view.sight.eye(),
      angles: [pan_deg, tilt_deg, roll_deg],
    });
    const name = `drawn, ${text(offer.camera.focal_mm)}`;
    const made = rig && (await addSetup({ name, camera: offer.camera, rig }));
    making.current = false;
    if (made === undefined) return;
    setView({ drawing: false });
    setSet({ through: made });
    goLive();
    put.mutate(made);
  };
  const ready = settled && !drawing ? found : null;
  useEffect(() => {
    if (!ready || !early.current) return;
    early.current = false;
    void make();
  });
  // With the picture that shows the offers, not after it: a key may come at once.
  useLayoutEffect(() => {
    const key = (event: KeyboardEvent) => {
      if (event.key === "Escape") setView({ drawing: false });
      else if (event.key === "Enter" && ready) void make();
      else if (event.key === "Enter" && !settled) early.current = true;
      else if (event.key === "Tab" && ready) setChosen((chosen + 1) % ready.offers.length);
      else return;
      event.preventDefault();
      event.stopPropagation();
    };
    window.addEventListener("keydown", key, true);
    return () => window.removeEventListener("keydown", key, true);
  });
  const polygon = (list: [number, number, number][]) => {
    const points = list.map((d) => view.sight.placeOf(d));
    return points.every((p) => p) ? points.map((p) => `${p![0] * size.w},${p![1] * size.h}`).join(" ") : "";
  };
  return (
    <>
      <div
        ref={box}
        data-testid="draw-frame"
        style={{ position: "absolute", inset: 0, cursor: "crosshair", touchAction: "none" }}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          const [x, y] = share(event);
          held.current = { corner: view.sight.direction(x, y), x, y };
          early.current = false;
          setFound(null);
          setDrawing(true);
        }}
        onPointerMove={move}
        onPointerUp={() => {
          held.current = null;
          setDrawing(false);
        }}
      >
        <svg width="100%" height="100%" style={{ position: "absolute", inset: 0 }}>
          {found?.offers.map((offer, i) => (
            <polygon
              key={i}
              points={polygon(offer.corners)}
              fill={i === 0 ? ink.pick : "none"}
              fillOpacity={0.1}
              stroke={i === chosen ? ink.pick : ink.chalk}
              strokeWidth={i === chosen ? 2.5 : 1.2}
              strokeDasharray={i === 0 ? undefined : "7 5"}
            />
          ))}
        </svg>
      </div>
      <div
        style={{
          position: "absolute",
          left: 8,
          bottom: 8,
          display: "flex",
          gap: 6,
          alignItems: "center",
          padding: "5px 8px",
          background: ink.slate1,
          border: `1px solid ${ink.slate3}`,
          borderRadius: 4,
          fontSize: 12.5,
        }}
      >
        {!ready ? (
          <span>Drag the frame you want. Shift tilts it. Esc ends.</span>
        ) : (
          ready.offers.map((offer, i) => (
            <Button
              key={i}
              color={i === chosen ? "primary" : "inherit"}
              variant={i === chosen ? "contained" : "outlined"}
              onMouseEnter={() => setChosen(i)}
              onFocus={() => setChosen(i)}
              onClick={() => make(i)}
            >
              {i === 0
                ? `Exactly, ${text(offer.camera.focal_mm)}`
                : `${offer.camera.lens_set} ${text(offer.camera.focal_mm)}`}
            </Button>
          ))
        )}
        {ready && <span style={{ color: ink.chalkDim }}>Enter takes it</span>}
      </div>
    </>
  );
}

const text = (mm: number) => `${mm >= 100 ? mm.toFixed(0) : mm.toFixed(1).replace(/\.0$/, "")} mm`;
