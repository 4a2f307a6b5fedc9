import type { Document, MoverView } from "../generated/types";
import { hasWheel, link, useFloor } from "../live/link";
import { Choice, Row } from "../form/rows";
import { bring } from "../machine/bring";
import { useView } from "../state/view";

type Vec = [number, number, number];

/** Keeps the focus on somebody's eyes until a hand takes it, or sends it to a mark. */
export function FocusOn({ document, figures }: { document: Document; figures: MoverView[] }) {
  const live = useView((s) => s.live);
  const mine = useFloor(hasWheel("lens"));
  const stays = useFloor((s) => s.status?.focus_on ?? null);
  const marks = document.scene.pieces.filter((p) => p.form.kind === "mark" && !p.hidden);
  const people = figures.filter((f) => f.performer !== null);
  if (!live || !mine || marks.length + people.length === 0) return null;
  const go = (choice: string) => {
    const [kind, id] = choice.split(" ");
    link.send({ do: "focus_on", performer: kind === "who" ? Number(id) : null });
    const mark = kind === "mark" && marks.find((m) => m.id === Number(id));
    const frame = link.frame;
    if (!mark || !frame) return;
    // Focus is measured along the view.
    const [x, y, z] = mark.position.map((v, i) => v - frame.position[i]!) as Vec;
    const [qx, qy, qz, qw] = frame.rotation;
    const forward: Vec = [-2 * (qx * qz + qw * qy), -2 * (qy * qz - qw * qx), -(1 - 2 * (qx * qx + qy * qy))];
    const distance = x * forward[0] + y * forward[1] + z * forward[2];
    void bring({ focus: Math.max(0.1, distance) });
  };
  return (
    <Row label="focus">
      <Choice
        label="Focus on"
        // Somebody who is gone is followed by nobody.
        value={people.some((p) => p.performer === stays) ? `who ${stays}` : "-"}
        onChange={go}
        options={[
          ["-", "by hand"],
          ...people.map((p) => [`who ${p.performer}`, `stays on ${p.name}`] as const),
          ...marks.map((m) => [`mark ${m.id}`, `at ${m.name}, once`] as const),
        ]}
      />
    </Row>
  );
}
