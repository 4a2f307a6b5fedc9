import { Button, Checkbox, MenuItem, Select, Slider } from "@mui/material";
import { useRef } from "react";
import { change, edit } from "../document/edit";
import { newId, token } from "../document/patch";
import type { Smooth, SmoothBy, Take, Treatment } from "../generated/types";
import { KeysRows } from "./KeysRows";
import { SteadyRows } from "./SteadyRows";
import { ink } from "../theme";

const parts: [keyof Smooth, string][] = [
  ["machine", "machine"],
  ["head", "head"],
  ["lens", "lens"],
];

/** A start that takes hand shake out and leaves the move. */
const smoothing: Treatment = {
  on: true,
  kind: "smooth",
  machine: { by: "binomial", passes: 60 },
  head: { by: "binomial", passes: 100 },
  lens: null,
};
/** What is usual for a flown move: a key every half second. */
const keys: Treatment = { on: true, kind: "keys", every: { seconds: 0.5 } };
const steadying: Treatment = { on: true, kind: "steady", by: "fixed_lag", position: 0.4, rotation: 0.6 };

const words: Record<Treatment["kind"], [string, string]> = {
  smooth: ["Smooth", "smoothing"],
  steady: ["Steady", "steadying"],
  keys: ["Keys", "keys"],
};

/** What is done to the take, in order. */
export function Treatments({ take }: { take: Take }) {
  const gesture = useRef<string>(undefined);
  const place = `/takes/${take.id}/treatments`;
  const label = (list: Treatment[]) =>
    list.length === 0
      ? `remove the treatments of take ${take.number}`
      : `${list.every((t) => t.kind === "smooth") ? "smooth" : "treat"} take ${take.number}`;
  const put = (i: number, next: Listed | null) => {
    const list = next ? take.treatments.with(i, next) : take.treatments.toSpliced(i, 1);
    void change(label(list), place, take.treatments, list, gesture.current);
  };
  const add = (treatment: Treatment) =>
    void edit(label([...take.treatments, treatment]), [
      { op: "add", path: `${place}/${token(newId())}`, value: treatment },
    ]);
  return (
    <section className="panel scroll" aria-label="Treatments" style={{ padding: "8px 10px", height: "100%" }}>
      <div style={{ display: "flex", gap: 8, alignItems: "baseline", marginBottom: 6 }}>
        <span className="label">Treatments of take {take.number}</span>
        {take.rating === "good" && (
          <span className="label" style={{ color: ink.within }}>
            good
          </span>
        )}
      </div>
      {take.treatments.map((treatment, i) => (
        <Card key={treatment.id} treatment={treatment} onChange={(next) => put(i, next)}>
          {treatment.kind === "smooth" ? (
            parts.map(([part, word]) => (
              <PartRow
                key={part}
                word={word}
                by={treatment[part]}
                onBegin={() => (gesture.current = crypto.randomUUID())}
                onEnd={() => (gesture.current = undefined)}
                onChange={(by) => put(i, { ...treatment, [part]: by })}
              />
            ))
          ) : treatment.kind === "steady" ? (
            <SteadyRows
              steady={treatment}
              when=" afterwards"
              onChange={(part) => put(i, { ...treatment, ...part })}
            />
          ) : (
            <KeysRows
              take={take}
              every={treatment.every}
              onChange={(every) => put(i, { ...treatment, every })}
            />
          )}
        </Card>
      ))}
      {take.treatments.length === 0 && (
        <p style={{ color: ink.chalkDim, margin: "4px 0 10px" }}>
          The take is as it was rolled. Smoothing takes the shake out of the hands; the start and the end stay
          where they are.
        </p>
      )}
      <div style={{ display: "flex", flexWrap: "wrap", gap: 6 }}>
        <Button onClick={() => add(smoothing)}>Add smoothing</Button>
        <Button
          title="One key every so often: to look at the take by, or as a start for curves"
          onClick={() => add(keys)}
        >
          Add keys
        </Button>
        {take.rolled.device && take.rig.kind === "tracked_camera" && (
          <Button
            title="Steadies the take anew, from where the device itself was"
            onClick={() => add(steadying)}
          >
            Add steadying
          </Button>
        )}
      </div>
    </section>
  );
}

type Listed = Take["treatments"][number];

interface CardProps {
  treatment: Listed;
  onChange: (next: Listed | null) => void;
  children: React.ReactNode;
}

/** A treatment: on or off, what it is, and away with it. */
function Card({ treatment, onChange, children }: CardProps) {
  const [word, noun] = words[treatment.kind];
  return (
    <div
      style={{
        border: `1px solid ${ink.slate3}`,
        borderRadius: 4,
        background: ink.slate2,
        padding: "4px 8px 8px",
        marginBottom: 8,
      }}
    >
      <div style={{ display: "flex", alignItems: "center", gap: 4 }}>
        <Checkbox
          size="small"
          checked={treatment.on}
          onChange={(e) => onChange({ ...treatment, on: e.target.checked })}
          slotProps={{ input: { "aria-label": `${word} on` } }}
          sx={{ p: "4px", ml: "-4px", color: ink.chalkDim, "&.Mui-checked": { color: ink.chalk } }}
        />
        <span style={{ fontWeight: 500, flex: 1 }}>{word}</span>
        <Button onClick={() => onChange(null)} aria-label={`Remove ${noun}`}>
          Remove
        </Button>
      </div>
      {children}
    </div>
  );
}

type Way = "none" | SmoothBy["by"];

interface RowProps {
  word: string;
  by: SmoothBy | null;
  onBegin: () => void;
  onEnd: () => void;
  onChange: (by: SmoothBy | null) => void;
}

/** How strongly one part of the rig is smoothed. */
function PartRow({ word, by, onBegin, onEnd, onChange }: RowProps) {
  const ways: Record<Way, SmoothBy | null> = {
    none: null,
    binomial: { by: "binomial", passes: 100 },
    gaussian: { by: "gaussian", sigma_s: 0.2 },
  };
  // Both ways span orders of magnitude: the slider moves through their logarithm.
  const [low, high, value] = !by
    ? [0, 1, 0]
    : by.by === "binomial"
      ? [0, Math.log(400), Math.log(by.passes)]
      : [Math.log(0.01), Math.log(2), Math.log(by.sigma_s)];
  const move = (v: number) =>
    by &&
    onChange(
      by.by === "binomial"
        ? { by: "binomial", passes: Math.round(Math.exp(v)) }
        : { by: "gaussian", sigma_s: Number(Math.exp(v).toPrecision(2)) },
    );
  return (
    <div
      style={{
        display: "grid",
        gridTemplateColumns: "58px 1fr 62px",
        alignItems: "center",
        columnGap: 8,
        height: 46,
      }}
    >
      <span style={{ color: ink.chalkDim }}>{word}</span>
      <Select
        variant="standard"
        value={by?.by ?? "none"}
        onChange={(e) => onChange(ways[e.target.value as Way])}
        slotProps={{ input: { "aria-label": `Way of smoothing, ${word}` } }}
        sx={{ fontSize: 13, gridColumn: "2 / 4", height: 20, "&::before": { borderColor: ink.slate3 } }}
      >
        <MenuItem value="none">as rolled</MenuItem>
        <MenuItem value="binomial">light passes</MenuItem>
        <MenuItem value="gaussian">bell curve</MenuItem>
      </Select>
      {by && (
        <>
          <Slider
            aria-label={`Smoothing, ${word}`}
            value={value}
            min={low}
            max={high}
            step={(high - low) / 200}
            onPointerDown={onBegin}
            onChange={(_, v) => move(v as number)}
            onChangeCommitted={onEnd}
            sx={{ gridColumn: "1 / 3", color: ink.chalk, py: "6px", mx: "6px", width: "calc(100% - 12px)" }}
          />
          <span className="num" style={{ textAlign: "right", fontSize: 12.5 }}>
            {by.by === "binomial" ? by.passes : by.sigma_s.toFixed(2)}
            <span className="unit"> {by.by === "binomial" ? "passes" : "s"}</span>
          </span>
        </>
      )}
    </div>
  );
}
