import { useEffect, useRef } from "react";
import type { Camera } from "../generated/types";
import { shownMm } from "../lens";
import { pixelsPerMm } from "../render/stage";
import type { Overlays } from "../state/view";
import { ink } from "../theme";

/**
 * The ends of the level line stand off from their marks as the camera rolls; the horizon lies
 * where level sight lines end.
 */
export function level(svg: SVGSVGElement | null, roll: number, tilt: number, focal: number) {
  const ends = svg?.querySelectorAll<SVGLineElement>("line[data-level]");
  ends?.forEach((end) => {
    end.style.transform = `rotate(${-roll}deg)`;
    end.style.stroke = Math.abs(roll) < 0.25 ? ink.within : ink.near;
  });
  const horizon = svg?.querySelector<SVGLineElement>("line[data-horizon]");
  if (!horizon || !svg) return;
  const perMm = Number(getComputedStyle(svg.parentElement!).getPropertyValue("--mm"));
  const down = Math.tan((tilt * Math.PI) / 180) * focal * perMm;
  horizon.style.transform = `rotate(${-roll}deg) translateY(${down}px)`;
}

/** The frame and what helps to compose in it, over a picture. */
export function FrameLines({
  ref,
  camera,
  overlays,
}: {
  ref?: React.Ref<SVGSVGElement>;
  camera: Camera;
  overlays: Overlays;
}) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const fit = () => {
      const { clientWidth: w, clientHeight: h } = element;
      const scale = pixelsPerMm(camera, w, h);
      const { sensor, frame } = shownMm(camera);
      for (const [name, value] of Object.entries({
        w: `${scale * frame[0]}px`,
        h: `${scale * frame[1]}px`,
        sw: `${scale * sensor[0]}px`,
        sh: `${scale * sensor[1]}px`,
        mm: String(scale),
      })) {
        element.style.setProperty(`--${name}`, value);
      }
    };
    fit();
    const watch = new ResizeObserver(fit);
    watch.observe(element);
    return () => watch.disconnect();
  }, [camera]);
  const frameBox = { ...centred, width: "var(--w)", height: "var(--h)" };
  return (
    <div ref={box} style={{ position: "absolute", inset: 0, pointerEvents: "none", overflow: "hidden" }}>
      {overlays.frame && (
        <div
          style={{
            ...frameBox,
            boxShadow: `0 0 0 2000px ${ink.slate0}99`,
            border: `1px solid ${ink.chalk}B0`,
          }}
        />
      )}
      <div
        style={{
          ...centred,
          width: "var(--sw)",
          height: "var(--sh)",
          boxShadow: `0 0 0 2000px ${ink.slate0}`,
        }}
      />
      {overlays.safe &&
        // Action and title areas of nine tenths and eight tenths (common practice, no source).
        [0.9, 0.8].map((share) => (
          <div
            key={share}
            style={{
              ...centred,
              width: `calc(var(--w) * ${share})`,
              height: `calc(var(--h) * ${share})`,
              border: `1px dashed ${ink.chalk}70`,
            }}
          />
        ))}
      <svg ref={ref} style={{ position: "absolute", inset: 0, width: "100%", height: "100%" }}>
        {overlays.centre && (
          <path
            d="M-9 0H-3M3 0H9M0 -9V-3M0 3V9"
            stroke={ink.chalk}
            opacity={0.6}
            style={{ transform: "translate(50%, 50%)" }}
          />
        )}
        {["0,0", "100%,0"].map((at, i) => (
          <line
            key={at}
            data-level
            x1={i ? "calc(100% - 14px)" : "2"}
            x2={i ? "calc(100% - 2px)" : "14"}
            y1="50%"
            y2="50%"
            strokeWidth={2}
            style={{ transformOrigin: "50% 50%" }}
          />
        ))}
        {overlays.horizon && (
          <line
            data-horizon
            x1="-100%"
            x2="200%"
            y1="50%"
            y2="50%"
            stroke={ink.near}
            strokeDasharray="10 6"
            style={{ transformOrigin: "50% 50%" }}
          />
        )}
      </svg>
      {overlays.thirds && (
        <div style={{ ...frameBox, display: "grid", gridTemplate: "1fr 1fr 1fr / 1fr 1fr 1fr" }}>
          {Array.from({ length: 9 }, (_, i) => (
            <div
              key={i}
              style={{ borderRight: i % 3 < 2 ? line : undefined, borderBottom: i < 6 ? line : undefined }}
            />
          ))}
        </div>
      )}
    </div>
  );
}
const line = `1px solid ${ink.chalk}40`;
const centred = {
  position: "absolute",
  left: "50%",
  top: "50%",
  transform: "translate(-50%, -50%)",
} as const;
