import type { Document, MoverView } from "../generated/types";
import { holdsWheels, link, useFloor } from "../live/link";
import { Choice, Row } from "../form/rows";
import { moment, scene } from "../state/now";
import { useView } from "../state/view";

type Vec = [number, number, number];

/** Sends the focus to a mark or to somebody's eyes, where they are now. */
export function FocusOn({ document, figures }: { document: Document; figures: MoverView[] }) {
  const live = useView((s) => s.live);
  const mine = useFloor(holdsWheels);
  const marks = document.scene.pieces.filter((p) => p.form.kind === "mark" && !p.hidden);
  const people = figures.filter((f) => f.performer !== null);
  if (!live || !mine || marks.length + people.length === 0) return null;
  const go = (choice: string) => {
    const [kind, id] = choice.split(" ");
    const mark = kind === "mark" && marks.find((m) => m.id === Number(id));
    const at = mark ? mark.position : head(figures, Number(id));
    const frame = link.frame;
    if (!at || !frame) return;
    // Focus is measured along the view.
    const [x, y, z] = at.map((v, i) => v - frame.position[i]!) as Vec;
    const [qx, qy, qz, qw] = frame.rotation;
    const forward: Vec = [-2 * (qx * qz + qw * qy), -2 * (qy * qz - qw * qx), -(1 - 2 * (qx * qx + qy * qy))];
    const distance = x * forward[0] + y * forward[1] + z * forward[2];
    const focus = scene.machine?.axes.findIndex((a) => a.name === "focus") ?? -1;
    if (focus < 0) return;
    link.send({
      do: "go",
      targets: frame.axes.map((_, i) => (i === focus ? Math.max(0.1, distance) : null)),
    });
  };
  return (
    <Row label="focus on">
      <Choice
        label="Focus on"
        value="-"
        onChange={go}
        options={[
          ["-", "choose"],
          ...people.map((p) => [`who ${p.performer}`, `${p.name}, eyes`] as const),
          ...marks.map((m) => [`mark ${m.id}`, m.name] as const),
        ]}
      />
    </Row>
  );
}

/** Where somebody's head is now. */
function head(figures: MoverView[], performer: number): Vec | null {
  const at = moment();
  if (!at || !scene.performance) return null;
  const poses = new Float32Array(scene.performance.bodies * 7);
  scene.performance.posesAt(at.sceneTime, poses);
  let first = 0;
  for (const figure of figures) {
    if (figure.performer === performer) {
      const i = figure.bodies.findIndex((b) => b.name === "head");
      if (i < 0) return null;
      const k = (first + i) * 7;
      return [poses[k]!, poses[k + 1]!, poses[k + 2]!];
    }
    first += figure.bodies.length;
  }
  return null;
}
