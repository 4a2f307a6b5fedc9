import { useEffect, useLayoutEffect, useRef } from "react";
import type { Camera } from "../generated/types";
import { mount, otherView } from "../render/stage";
import { everyFrame, moment, scene } from "../state/now";
import type { Moment } from "../moves";
import { useView } from "../state/view";
import { ink } from "../theme";
import { FrameLines, level } from "./FrameLines";

/** Through a lens beside the finder: of another move, or of the same one before its treatments. */
export function BesideFinder(props: {
  label: string;
  camera: Camera;
  /** What is seen just now. */
  at: () => Moment | null;
  /** The machine that is drawn is that of the finder, whose bodies these are not. */
  foreign?: boolean;
  children: React.ReactNode;
}) {
  const { label, camera, at, foreign = false, children } = props;
  const host = useRef<HTMLDivElement>(null);
  const lines = useRef<SVGSVGElement>(null);
  const overlays = useView((s) => s.overlays);
  useEffect(() => mount(otherView, host.current!), []);
  useLayoutEffect(
    () =>
      everyFrame((elapsed) => {
        const seen = at();
        const here = moment();
        if (!seen || !here) return;
        level(lines.current, seen.angles[2], seen.angles[1], seen.focal);
        const picture = [seen.position, seen.rotation, seen.focal, seen.sceneTime].join();
        if (!otherView.wants(picture, elapsed)) return;
        const drawn = foreign ? { ...seen, bodies: here.bodies } : seen;
        otherView.draw({ through: seen, camera }, drawn, scene.performance);
      }),
    [at, camera, foreign],
  );
  return (
    <section
      className="panel"
      aria-label={label}
      style={{ display: "flex", flexDirection: "column", height: "100%" }}
    >
      <div style={{ height: 24, padding: "2px 10px", fontSize: 12.5 }}>{children}</div>
      <div
        style={{ position: "relative", flex: 1, minHeight: 0, margin: "0 8px 26px", background: ink.slate0 }}
      >
        <div ref={host} style={{ position: "absolute", inset: 0 }} />
        <FrameLines ref={lines} camera={camera} overlays={overlays} />
      </div>
    </section>
  );
}
