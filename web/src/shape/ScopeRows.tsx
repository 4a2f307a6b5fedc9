import { Slider } from "@mui/material";
import { useState } from "react";
import { CourseField } from "../form/CourseField";
import { Long, type Changed } from "../form/contexts";
import { keyAt } from "../form/course";
import type { MachineView, Move } from "../generated/types";
import { Toggle } from "../form/rows";
import { NumberField } from "../form/fields";
import { useView } from "../state/view";
import { axisInk, ink } from "../theme";
import { rangeOf, scopeWords, withAxis } from "./scope";

type Listed = Move["treatments"][number];
type Range = NonNullable<NonNullable<Listed["scope"]>["range"]>;

/** Scope and strength of a treatment: axes, time with soft edges, share. Folded to a line. */
export function ScopeRows(props: {
  treatment: Listed;
  machine: MachineView;
  /** Length of the move, seconds. */
  length_s: number;
  /** It works on axes, and may be kept to some of them; not what moves the camera itself. */
  ofAxes: boolean;
  onChange: (next: Listed, how: Changed) => void;
}) {
  const { treatment, machine, length_s, ofAxes, onChange } = props;
  const [open, setOpen] = useState(false);
  const { inS, outS } = useView();
  const { scope = {}, strength = 1 } = treatment;
  const axes = machine.axes.filter((a) => a.group !== "carrier").map((a) => a.name);
  const put = (next: NonNullable<Listed["scope"]>) =>
    onChange({ ...treatment, scope: next }, { tried: false });
  const numbers = (
    first: keyof Range,
    second: keyof Range,
    names: [string, string],
    step: number,
    min: number,
  ) =>
    ([first, second] as const).map((field, i) => (
      <NumberField
        key={field}
        label={names[i]!}
        unit="s"
        digits={2}
        step={step}
        min={min}
        value={scope.range![field]}
        onChange={(v) => put({ ...scope, range: { ...scope.range!, [field]: v } })}
      />
    ));
  const share = typeof strength === "number" ? strength : null;
  return (
    <div style={{ borderTop: `1px solid ${ink.slate3}`, marginTop: 6, paddingTop: 3 }}>
      <button
        className="plain"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        style={{ width: "100%", textAlign: "left", fontSize: 12, color: ink.chalkDim }}
      >
        {open ? "▾" : "▸"} {scopeWords(scope, share, ofAxes)}
      </button>
      {open && (
        <div style={{ paddingTop: 3 }}>
          {ofAxes && (
            <div
              style={{ display: "flex", flexWrap: "wrap", gap: 3 }}
              role="group"
              aria-label="Axes it works on"
            >
              {machine.axes
                .filter((a) => a.group !== "carrier")
                .map((a) => {
                  const on = !scope.axes || scope.axes.includes(a.name);
                  return (
                    <button
                      key={a.name}
                      className="plain"
                      aria-pressed={on}
                      onClick={() => put(withAxis(scope, axes, a.name))}
                      style={{
                        fontSize: 12,
                        padding: "0 5px",
                        borderRadius: 3,
                        border: `1px solid ${on ? axisInk(a.ink) : ink.slate3}`,
                        color: on ? axisInk(a.ink) : ink.chalkFaint,
                      }}
                    >
                      {a.name}
                    </button>
                  );
                })}
            </div>
          )}
          <div
            style={{
              display: "flex",
              alignItems: "baseline",
              gap: 6,
              marginTop: 4,
              justifyContent: "space-between",
            }}
          >
            <Toggle
              on={!!scope.range}
              label={scope.range ? "from, to" : "always"}
              title="From in to out of the time strip, where they are set"
              onClick={() =>
                put(scope.range ? { ...scope, range: undefined } : { ...scope, range: rangeOf(inS, outS) })
              }
            />
            {scope.range && numbers("from_s", "to_s", ["Works from", "Works to"], 0.1, 0)}
          </div>
          {scope.range && (
            <div style={{ display: "flex", alignItems: "baseline", gap: 6 }}>
              <span style={{ color: ink.chalkDim, fontSize: 12 }}>edges</span>
              {numbers("ease_in_s", "ease_out_s", ["Comes in over", "Goes out over"], 0.05, 0.05)}
            </div>
          )}
          {share !== null && (
            <div style={{ display: "flex", alignItems: "center", gap: 8 }}>
              <span style={{ color: ink.chalkDim, fontSize: 12 }}>strength</span>
              <Slider
                aria-label="Strength"
                value={share}
                min={0}
                max={1}
                step={0.01}
                onChange={(_, v) => onChange({ ...treatment, strength: v as number }, { tried: true })}
                onChangeCommitted={(_, v) =>
                  onChange({ ...treatment, strength: v as number }, { tried: false })
                }
                sx={{ color: ink.chalk, py: "6px", flex: 1 }}
              />
              <NumberField
                label="Strength"
                unit="%"
                digits={0}
                step={1}
                min={0}
                max={100}
                value={100 * share}
                onChange={(v, gesture) =>
                  onChange({ ...treatment, strength: v / 100 }, { tried: false, gesture })
                }
              />
            </div>
          )}
          <Toggle
            on={share === null}
            label="strength over time"
            title="Draws how strong it is at each time; off, it is as strong always"
            onClick={() =>
              onChange(
                { ...treatment, strength: share === null ? 1 : [keyAt(0, share), keyAt(length_s, share)] },
                { tried: false },
              )
            }
          />
          {typeof strength !== "number" && (
            <Long value={length_s}>
              <CourseField
                name="Strength over time"
                unit=""
                over={null}
                min={0}
                max={1}
                keys={strength}
                onChange={(keys, how) => onChange({ ...treatment, strength: keys }, how)}
              />
            </Long>
          )}
        </div>
      )}
    </div>
  );
}
