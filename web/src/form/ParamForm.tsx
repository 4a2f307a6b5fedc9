import { Slider } from "@mui/material";
import { createContext, useContext } from "react";
import type { Param } from "../generated/types";
import { Choice, Toggle } from "../set/rows";
import { NumberField } from "../shell/fields";
import { ink } from "../theme";
import { caseOf, shareOf, startOfCase, valueAt, type Fields } from "./params";

/** A change while a slider is dragged is shown; one that is done, or of a drag with its gesture, is kept. */
export type Changed = { tried: true } | { tried: false; gesture?: string };

/** What stands before the names of fields, so that each is called by one name only. */
const Within = createContext("");

interface FormProps {
  params: Param[];
  value: Fields;
  onChange: (next: Fields, how: Changed) => void;
}

/** Any described parameters: a row each. What a thing can have set is known only to its description. */
export function ParamForm({ params, value, onChange }: FormProps) {
  return params.map((param) => (
    <Field
      key={param.path}
      param={param}
      value={value[param.path]}
      onChange={(next, how) => onChange({ ...value, [param.path]: next }, how)}
    />
  ));
}

interface FieldProps {
  param: Param;
  value: unknown;
  onChange: (next: unknown, how: Changed) => void;
}

const done: Changed = { tried: false };

function Field({ param, value, onChange }: FieldProps) {
  const within = useContext(Within);
  const name = within ? `${within}: ${param.label}` : param.label;
  const { holds } = param;
  switch (holds.kind) {
    case "number":
      return <NumberRow param={param} name={name} value={Number(value ?? holds.start)} onChange={onChange} />;
    case "choice":
      return (
        <Line label={param.label} hint={param.hint}>
          <Choice
            label={name}
            value={String(value)}
            options={holds.options}
            onChange={(next) => onChange(next, done)}
          />
        </Line>
      );
    case "switch":
      return (
        <Line label={param.label} hint={param.hint}>
          <Toggle on={value === true} label={value ? "on" : "off"} onClick={() => onChange(!value, done)} />
        </Line>
      );
    case "variant": {
      const { tag, cases } = holds;
      const chosen = caseOf(tag, cases, value);
      const none = "-";
      return (
        <div>
          <Line label={param.label} hint={param.hint}>
            <Choice
              label={name}
              value={chosen?.name ?? none}
              options={[
                ...(param.optional || !chosen ? [[none, "as it is"] as const] : []),
                ...cases.map((c) => [c.name, c.label] as const),
              ]}
              onChange={(next) => {
                const way = cases.find((c) => c.name === next);
                onChange(way ? startOfCase(tag, way) : null, done);
              }}
            />
          </Line>
          {chosen && (
            <Within value={name}>
              <ParamForm params={chosen.params} value={value as Fields} onChange={onChange} />
            </Within>
          )}
        </div>
      );
    }
  }
}

function Line({ label, hint, children }: { label: string; hint?: string; children: React.ReactNode }) {
  return (
    <div
      title={hint}
      style={{
        display: "flex",
        justifyContent: "space-between",
        alignItems: "baseline",
        gap: 8,
        minHeight: 25,
      }}
    >
      <span style={{ color: ink.chalkDim }}>{label}</span>
      {children}
    </div>
  );
}

/** A number by slider and by field. */
function NumberRow(props: {
  param: Param;
  name: string;
  value: number;
  onChange: (next: number, how: Changed) => void;
}) {
  const { param, name, value, onChange } = props;
  if (param.holds.kind !== "number") return null;
  const { min, max, step, whole, log } = param.holds;
  const at = (share: number) => valueAt(share, min, max, log, whole);
  const digits = whole ? 0 : step < 0.05 || log ? 2 : 1;
  return (
    <div
      title={param.hint}
      style={{
        display: "grid",
        gridTemplateColumns: "minmax(0, 1fr) auto",
        columnGap: 10,
        alignItems: "center",
      }}
    >
      <Slider
        aria-label={name}
        value={shareOf(value, min, max, log)}
        min={0}
        max={1}
        step={0.005}
        getAriaValueText={() => `${value.toFixed(digits)} ${param.unit}`}
        onChange={(_, share) => onChange(at(share as number), { tried: true })}
        onChangeCommitted={(_, share) => onChange(at(share as number), done)}
        sx={{ color: ink.chalk, py: "6px", mx: "6px", width: "calc(100% - 12px)" }}
      />
      <span style={{ whiteSpace: "nowrap", fontSize: 12.5 }}>
        <NumberField
          label={name}
          unit={param.unit}
          digits={digits}
          step={step}
          min={min}
          max={max}
          value={value}
          onChange={(v, gesture) => onChange(whole ? Math.round(v) : v, { tried: false, gesture })}
        />
      </span>
    </div>
  );
}
