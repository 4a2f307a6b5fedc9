import { useLayoutEffect, useRef } from "react";
import { pixelsOf } from "../film/size";
import { momentOf } from "../moves";
import { stage } from "../render/stage";
import { stills } from "../render/still";
import { pictureOf } from "../state/picture";
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
      const { poses } = (frames === "other" ? scene.beside : scene).played;
      if (!shown || shown.frames === 0 || !poses || !momentOf(shown, scene.rate, at)) return;
      const picture = [at, move.id, shown.frames, shown.first, stage.version, poses.state].join();
      if (picture === drawn) return;
      drawn = picture;
      const to = canvas.current!;
      void stills.picture(
        () => {
          const seen = scene[frames]?.frames ? momentOf(scene[frames], scene.rate, at) : null;
          if (!seen) return null;
          const subject = pictureOf(seen, false, frames === "other" ? "other" : "shown");
          return { subject, through: seen, camera, setup: move.setup_id, size: [to.width, to.height] };
        },
        (drawn) => void to.getContext("2d")?.drawImage(drawn, 0, 0),
        "idle",
      );
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
