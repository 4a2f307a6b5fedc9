import { useCallback, useEffect, useMemo } from "react";
import { useFigures, useJobLanes, useKeysEvery, useLaneKinds, useLanes } from "../api";
import { Toggle } from "../form/rows";
import type { Document, JobView, MachineView, Mark, Move } from "../generated/types";
import { stripLength } from "../state/now";
import type { Looked } from "../state/looked";
import { curvesDrawn, showCurves } from "../state/preview";
import { setView, useView } from "../state/view";
import { shownOf } from "../state/window";
import { ink } from "../theme";
import { ofAxis, type Shown } from "./folding";
import { KeyBar } from "./KeyBar";
import { LaneCanvas } from "./LaneCanvas";
import { INSIDE } from "./time";

const none: never[] = [];
const noKeys: Move["curves"] = {};
const noMarks: Mark[] = [];

/** The curves of the move over one time axis: what they are of, what can be done to keys, the lanes. */
export function Lanes(props: {
  looked: Looked;
  machine: MachineView;
  job: JobView | undefined;
  document: Document;
}) {
  const { looked, machine, job, document } = props;
  useEffect(() => showCurves(), []);
  const of = useView((s) => s.curvesOf);
  const kinds = useLaneKinds().data ?? [];
  const window = useView((s) => s.window);
  const whole = stripLength(document, looked);
  const time = useMemo(() => shownOf(window, whole), [window, whole]);
  const { data: lanes, isPlaceholderData } = useLanes(looked, of, window);
  useEffect(() => {
    if (lanes && !isPlaceholderData) curvesDrawn();
  }, [lanes, isPlaceholderData]);
  // What a job has made lies over the move until it is kept or forgotten.
  const made = useJobLanes(job).data;
  const ofJob = job?.state === "done" && !!made && of === "axes";
  const curves = ofJob ? made : lanes;
  const every = looked.move.treatments.findLast((t) => t.on && t.kind === "keys");
  const taken = useKeysEvery(looked, every?.kind === "keys" ? every.every : undefined).data;
  const axes = of === "axes";
  // What a job has found is looked at, not edited, until it is kept.
  const own = axes && !ofJob ? looked.move.curves : noKeys;
  const found = useFigures(looked).data?.marks;
  const marks = axes && !ofJob && found ? found : noMarks;
  const { kind: source } = looked.move.source;
  const keyed = useCallback(
    (name: string) => {
      const axis = machine.axes.find((a) => a.name === name);
      return !!axis && (source === "curves" ? axis.hand !== null : source === "follow" && axis.base);
    },
    [machine, source],
  );
  const derived = kinds.find(([name]) => name === of)?.[1];
  const shown = useMemo(() => {
    // What carried or led the machine is no curve of its own.
    if (of === "axes")
      return machine.axes.flatMap((axis, i) => (axis.group === "carrier" ? [] : [ofAxis(axis, i)]));
    return derived?.map((lane, i): Shown => ({ ...lane, i, min: null, max: null })) ?? none;
  }, [of, machine, derived]);
  // Curves of something else that stand in until these come are not drawn under their names.
  const there = curves?.raw.length === (of === "axes" ? machine.axes.length : shown.length);
  const over = useView((s) => s.lanesOver);
  const toScale = useView((s) => s.lanesToScale);
  const rate = document.scene.rate.num / document.scene.rate.den;
  return (
    <section
      className="panel"
      aria-label="Lanes"
      style={{ height: "100%", display: "flex", flexDirection: "column", padding: `8px ${INSIDE}px 6px` }}
    >
      <div style={{ display: "flex", flexWrap: "wrap", gap: "2px 14px", marginBottom: 4 }}>
        <span
          style={{ display: "flex", gap: 4, alignItems: "baseline" }}
          role="group"
          aria-label="Kinds of curves"
        >
          <span className="label" style={{ marginRight: 6 }}>
            Curves
          </span>
          {kinds.map(([name]) => (
            <Toggle key={name} on={name === of} label={name} onClick={() => setView({ curvesOf: name })} />
          ))}
        </span>
        <span style={{ display: "flex", gap: 4, alignItems: "baseline" }}>
          <Toggle
            on={over}
            label="over each other"
            title="All curves in one lane"
            onClick={() => setView({ lanesOver: !over })}
          />
          <Toggle
            on={toScale}
            label="to scale"
            title="Curves of one unit have one scale"
            onClick={() => setView({ lanesToScale: !toScale })}
          />
        </span>
        <span style={{ fontSize: 12.5, color: ink.chalkDim, marginLeft: "auto" }}>
          raw thin · now bold · <span className="key">B</span> hold for raw
        </span>
      </div>
      {axes && !ofJob && <KeyBar looked={looked} machine={machine} rate={rate} marks={marks} />}
      {curves && there && (
        <LaneCanvas
          looked={looked}
          shown={shown}
          curves={curves}
          whole={whole}
          time={time}
          rate={rate}
          taken={axes && every && taken ? taken : none}
          own={own}
          keyed={keyed}
          marks={marks}
          ofJob={ofJob}
        />
      )}
    </section>
  );
}
