import { useLayoutEffect, useRef } from "react";
import { turn } from "../geometry";
import { finderView } from "../render/view";
import { everyFrame, momentBeside } from "../state/now";
import { useView } from "../state/view";
import { ink } from "../theme";

/** Where the take before had its frame at this instant: its four corners, as they lie in this picture. */
export function GhostFrame() {
  const path = useRef<SVGPathElement>(null);
  const shown = useView((s) => s.ghost && s.live);
  useLayoutEffect(() => {
    if (!shown) return;
    return everyFrame(() => {
      const at = momentBeside("ghost");
      const svg = path.current?.ownerSVGElement;
      if (!path.current || !svg) return;
      path.current.setAttribute("d", at ? outline(at, svg.clientWidth, svg.clientHeight) : "");
    });
  }, [shown]);
  if (!shown) return null;
  return (
    <svg
      data-testid="ghost"
      aria-hidden
      style={{ position: "absolute", inset: 0, width: "100%", height: "100%", pointerEvents: "none" }}
    >
      <path ref={path} fill="none" stroke={ink.near} strokeDasharray="6 5" opacity={0.9} />
    </svg>
  );
}

function outline(at: NonNullable<ReturnType<typeof momentBeside>>, width: number, height: number): string {
  const far = Math.min(at.focus, 30);
  const eye = finderView.sight.eye();
  const corners: [number, number][] = [
    [-1, 1],
    [1, 1],
    [1, -1],
    [-1, -1],
  ];
  const places = corners.map(([x, y]) => {
    const ray = turn(at.rotation, 0, [x * at.halfFrame[0], y * at.halfFrame[1], -1]);
    // The corner of its frame at its focus distance, seen from this camera.
    const to = [0, 1, 2].map((k) => at.position[k]! + ray[k]! * far - eye[k]!) as [number, number, number];
    return finderView.sight.placeOf(to);
  });
  if (places.some((p) => p === null)) return "";
  return `M${places.map((p) => `${(p![0] * width).toFixed(1)} ${(p![1] * height).toFixed(1)}`).join("L")}Z`;
}
