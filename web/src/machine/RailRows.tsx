import { Button } from "@mui/material";
import { useState } from "react";
import { Who } from "../form/ParamForm";
import type { BentRail, Document, LineView, Rigging } from "../generated/types";
import { NumberField } from "../form/fields";
import { Icon } from "../form/icons";
import { Choice, Named, Row, Toggle } from "../form/rows";
import { hereS, scene } from "../state/now";
import { performerAt } from "../state/people";
import { ink } from "../theme";
import { circle, straightened } from "./kinds";
import { midpoint, setRail, useRail } from "./rail";

type Rail = Extract<Rigging, { kind: "rail" }>;

/** A rail's points, what its head faces, and how it rides. */
export function RailRows({
  document,
  rig,
  line,
  onChange,
}: {
  document: Document;
  rig: Rail;
  line: LineView | null;
  onChange: (rig: Rigging, gesture?: string) => void;
}) {
  const [radius, setRadius] = useState(2.5);
  const [height, setHeight] = useState(1.2);
  const picked = useRail((s) => s.picked);
  const { points } = rig;
  const put = (next: BentRail["points"], gesture?: string) => onChange({ ...rig, points: next }, gesture);
  const round = (id: number) => {
    const who = performerAt(document, id, hereS());
    const mark = document.scene.pieces.find((p) => p.id === -id);
    const at = who ?? mark?.position;
    if (!at) return;
    const middle: [number, number, number] = [at[0], height, at[2]];
    onChange({
      ...rig,
      points: circle(middle, radius),
      closed: true,
      facing: "aims",
      aim_m: [at[0], 1.5, at[2]],
      follows: who ? id : null,
    });
  };
  const people = document.scene.performers.map((p) => [p.id, p.name] as const);
  const marks = document.scene.pieces
    .filter((p) => p.form.kind === "mark")
    .map((m) => [-m.id, m.name] as const);
  return (
    <div style={{ borderTop: `1px solid ${ink.slate3}`, marginTop: 4, paddingTop: 2 }}>
      <Row label="head">
        <Choice
          label="Head faces"
          value={rig.facing}
          options={[
            ["along", "along the rail"],
            ["holds", "holds its heading"],
            ["aims", "aims"],
          ]}
          onChange={(facing: BentRail["facing"]) => onChange({ ...rig, facing })}
        />
        {rig.facing === "aims" && (
          <Who
            name="Follows"
            nobody="at a point"
            value={rig.follows}
            onChange={(follows) => onChange({ ...rig, follows })}
          />
        )}
      </Row>
      {rig.facing === "aims" && rig.follows !== null && (
        <Row label="beside their eyes">
          {(["x", "y", "z"] as const).map((axis, k) => (
            <NumberField
              key={axis}
              label={`Aim beside their eyes, ${axis}`}
              unit="m"
              step={0.05}
              value={rig.offset_m[k]!}
              onChange={(v, gesture) =>
                onChange(
                  { ...rig, offset_m: rig.offset_m.map((o, i) => (i === k ? v : o)) as BentRail["offset_m"] },
                  gesture,
                )
              }
            />
          ))}
        </Row>
      )}
      {rig.facing === "holds" && (
        <Row label="heading">
          <NumberField
            label="Heading"
            unit="°"
            digits={1}
            step={1}
            value={rig.heading_deg}
            onChange={(heading_deg, gesture) => onChange({ ...rig, heading_deg }, gesture)}
          />
        </Row>
      )}
      <Row label="circle round">
        <Named word="radius">
          <NumberField label="Radius" unit="m" step={0.1} value={radius} min={0.4} onChange={setRadius} />
        </Named>
        <Named word="height">
          <NumberField label="Height" unit="m" step={0.1} value={height} onChange={setHeight} />
        </Named>
        <Choice
          label="Circle round"
          value={0}
          options={[[0, "choose"], ...people, ...marks]}
          onChange={round}
        />
      </Row>
      <div style={{ display: "flex", gap: 4, padding: "2px 0" }}>
        <Button
          sx={{ p: "0 6px", fontSize: 12 }}
          onClick={() => put(midpoint(points, rig.closed, scene.machine?.line ?? null, picked))}
        >
          Add point
        </Button>
        <Button
          sx={{ p: "0 6px", fontSize: 12 }}
          onClick={() => onChange({ ...rig, closed: false, points: straightened(points) })}
        >
          Straighten
        </Button>
        <Toggle
          on={rig.closed}
          label="closed"
          onClick={() => onChange({ ...rig, closed: !rig.closed && points.length > 2 })}
        />
      </div>
      {line && <Ride line={line} />}
      {points.map((point, i) => (
        <div
          key={point.id}
          style={{
            display: "flex",
            gap: 8,
            alignItems: "baseline",
            minHeight: 25,
            background: picked === i ? ink.slate2 : undefined,
          }}
          onFocus={() => setRail({ picked: i })}
        >
          <span style={{ color: ink.chalkDim, width: 14 }}>{i + 1}</span>
          {(["x", "y", "z"] as const).map((axis, k) => (
            <NumberField
              key={axis}
              label={`Point ${i + 1} ${axis}`}
              unit="m"
              step={0.05}
              value={point.position[k]!}
              onChange={(v, gesture) =>
                put(
                  points.map((p, n) =>
                    n === i
                      ? {
                          ...p,
                          position: p.position.map((w, m) => (m === k ? v : w)) as [number, number, number],
                        }
                      : p,
                  ),
                  gesture,
                )
              }
            />
          ))}
          <button
            className="plain"
            aria-pressed={!!point.tangent}
            aria-label={`Own tangent of point ${i + 1}`}
            title="Its own tangent, pulled on the plan; again: found by itself"
            onClick={() => {
              const [a, b] = [
                points[Math.max(i - 1, 0)]!.position,
                points[Math.min(i + 1, points.length - 1)]!.position,
              ];
              const d = b.map((v, k) => v - a[k]!);
              const length = Math.hypot(...d) || 1;
              const tangent = d.map((v) => v / length) as [number, number, number];
              put(points.map((p, n) => (n === i ? { ...p, tangent: p.tangent ? null : tangent } : p)));
            }}
            style={{ color: point.tangent ? ink.pick : ink.chalkDim, fontSize: 12 }}
          >
            tangent
          </button>
          <button
            className="plain"
            aria-label={`Remove point ${i + 1}`}
            disabled={points.length <= (rig.closed ? 3 : 2)}
            onClick={() => put(points.filter((_, n) => n !== i))}
          >
            <Icon name="bin" size={14} />
          </button>
        </div>
      ))}
    </div>
  );
}

/** How a rail rides at a walking pace. */
function Ride({ line }: { line: LineView }) {
  const { rough } = line;
  return (
    <p data-testid="ride" style={{ margin: "2px 0 4px", fontSize: 12.5 }}>
      <span className="num">{line.length_m.toFixed(2)}</span> m · at 1 m/s{" "}
      <span className="num">{line.push.toFixed(2)}</span> m/s² sideways,{" "}
      <span className="num">{line.jerk.toFixed(1)}</span> m/s³ ·{" "}
      <span style={{ color: rough ? ink.near : ink.within }}>
        {rough === 0 ? "rides smoothly" : rough === 1 ? "jerks at one place" : `jerks at ${rough} places`}
      </span>
    </p>
  );
}
