import { useEffect, useLayoutEffect, useRef } from "react";
import type { Camera, SetupId } from "../generated/types";
import { mount, otherView } from "../render/view";
import { eyeOf, pictureOf } from "../state/picture";
import { everyFrame } from "../state/now";
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
  /** It is the move that is compared, with its own machine and performance. */
  other?: { setup: SetupId };
  children: React.ReactNode;
}) {
  const { label, camera, at, other, children } = props;
  const host = useRef<HTMLDivElement>(null);
  const lines = useRef<SVGSVGElement>(null);
  const overlays = useView((s) => s.overlays);
  useEffect(() => mount(otherView, host.current!), []);
  useLayoutEffect(
    () =>
      everyFrame((elapsed) => {
        const seen = at();
        if (!seen) return;
        level(lines.current, seen.angles[2], seen.angles[1], seen.focal);
        const picture = [seen.position, seen.rotation, seen.focal, seen.sceneTime].join();
        const shown = pictureOf(seen, undefined, other ? "other" : "shown");
        if (!otherView.wants(shown, picture, elapsed)) return;
        otherView.draw(shown, eyeOf(seen, camera, other?.setup));
      }),
    [at, camera, other],
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
