import { useLayoutEffect, useRef } from "react";
import { pixelsOf } from "../film/size";
import type { Camera } from "../generated/types";
import { momentOf } from "../moves";
import { stage, still } from "../render/stage";
import { everyFrame, scene } from "../state/now";
import type { Looked } from "../state/looked";
import { clock, setView, useView } from "../state/view";
import { ink } from "../theme";

/** The longer side of one, pixels on the screen. */
const LONG = 132;

/** What both moves show at the moment that is marked: the in point; a click goes there. */
export function MarkedMoment({ looked, other }: { looked: Looked; other: Looked }) {
  const inS = useView((s) => s.inS);
  if (inS === null)
    return (
      <span style={{ width: LONG, flex: "none", alignSelf: "center", fontSize: 12, color: ink.chalkDim }}>
        <span className="key">I</span> marks a moment: both pictures of it stay here
      </span>
    );
  return (
    <div style={{ width: LONG, flex: "none", display: "flex", flexDirection: "column", gap: 2 }}>
      <Marked of={looked} frames="now" at={inS} />
      <Marked of={other} frames="other" at={inS} />
    </div>
  );
}

/** One move at a moment, drawn once and again when it or the set changes. */
function Marked({ of, frames, at }: { of: Looked; frames: "now" | "other"; at: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { camera, move } = of;
  const [width, height] = pixelsOf(camera, LONG);
  useLayoutEffect(() => {
    let drawn = "";
    return everyFrame(() => {
      const shown = scene[frames];
      if (!shown || shown.frames === 0 || !stage.complete || !scene.performance) return;
      const picture = [at, move.id, shown.frames, shown.first, stage.version, scene.performance.state].join();
      if (picture === drawn) return;
      drawn = picture;
      draw(canvas.current!, camera, at, frames);
    }, 4);
  }, [at, camera, frames, move]);
  return (
    <button
      className="plain"
      title={`${of.title} at the marked moment; click: go there`}
      aria-label={`${of.title} at the marked moment`}
      onClick={() => {
        setView({ playing: 0 });
        clock.time = at;
      }}
      style={{ display: "flex", flexDirection: "column", alignItems: "stretch" }}
    >
      <canvas
        ref={canvas}
        width={width * 2}
        height={height * 2}
        style={{ width, height, border: `1px solid ${frames === "now" ? ink.pick : ink.slate3}` }}
      />
    </button>
  );
}

function draw(to: HTMLCanvasElement, camera: Camera, at: number, frames: "now" | "other") {
  const seen = momentOf(scene[frames]!, scene.rate, at);
  const picture = still.draw(seen, seen.focal, camera, [to.width, to.height], seen, true);
  to.getContext("2d")?.drawImage(picture, 0, 0);
}
