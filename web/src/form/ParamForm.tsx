import { Slider } from "@mui/material";
import { createContext, memo, useCallback, useContext, useLayoutEffect, useRef } from "react";
import { useDocument } from "../api";
import type { CurveKey, Param, Piece as ScenePiece, Take } from "../generated/types";
import { CourseField } from "./CourseField";
import { Now, type Changed } from "./contexts";
import { Choice, Toggle } from "./rows";
import { NumberField } from "./fields";
import { Icon } from "./icons";
import { ink } from "../theme";
import {
  caseOf,
  nameOf,
  presetOf,
  shareOf,
  startOfCase,
  stepped,
  valueAt,
  valueOf,
  withAnother,
  withValue,
  type Fields,
} from "./params";

/** Words before the names of fields, so that each field has a name of its own. */
const Within = createContext("");

interface FormProps {
  params: Param[];
  value: Fields;
  onChange: (next: Fields, how: Changed) => void;
}

/** Any described parameters: a row each. What a thing can have set is known only to its description. */
export function ParamForm({ params, value, onChange }: FormProps) {
  // One function for as long as the form stands, so that a row whose value stays is not rendered anew.
  const within = useContext(Within);
  const latest = useRef({ value, onChange });
  useLayoutEffect(() => {
    latest.current = { value, onChange };
  });
  const change = useCallback((next: (fields: Fields) => Fields, how: Changed) => {
    const { value, onChange } = latest.current;
    onChange(next(value), how);
  }, []);
  return params.map((param) => (
    <Field
      key={param.path || param.label}
      param={param}
      value={valueOf(value, param.path)}
      fields={param.holds.kind === "row" ? value : none}
      alone={params.length === 1 && within !== ""}
      change={change}
    />
  ));
}

interface FieldProps {
  param: Param;
  /** Value at the field's path. */
  value: unknown;
  /** Fields of the whole form, for a row without a path of its own. */
  fields: Fields;
  /** It is all there is to set: what it is of says what it is. */
  alone: boolean;
  change: (next: (fields: Fields) => Fields, how: Changed) => void;
}

/** Three numbers in one line. */
const tight = { display: "flex", gap: 4, fontSize: 12 };

const none: Fields = {};
const done: Changed = { tried: false };

const Field = memo(function Field({ param, value, fields, alone, change }: FieldProps) {
  const within = useContext(Within);
  const called = (part: Param) => (within ? `${within}: ${nameOf(part)}` : nameOf(part));
  const name = called(param);
  const { holds, absent } = param;
  const set = (next: unknown, how: Changed = done) =>
    change((fields) => withValue(fields, param.path, next), how);
  switch (holds.kind) {
    case "number":
      if (absent === null)
        return (
          <NumberRow
            param={param}
            name={name}
            value={Number(value ?? holds.start)}
            labelled={!alone}
            onChange={set}
          />
        );
      return (
        <Line label={param.label} hint={param.hint}>
          <span style={{ display: "flex", gap: 10 }}>
            {typeof value === "number" && <Exact param={param} name={name} value={value} onChange={set} />}
            <Toggle
              on={typeof value !== "number"}
              label={absent}
              onClick={() => set(typeof value === "number" ? null : holds.start)}
            />
          </span>
        </Line>
      );
    case "row":
      return (
        <>
          {param.presets.length > 0 && <Usual param={param} fields={fields} change={change} />}
          <Line label={param.label} hint={param.hint}>
            <span style={holds.params.length > 2 ? tight : { display: "flex", gap: 10 }}>
              {holds.params.map((part) => (
                <Exact
                  key={part.path}
                  param={part}
                  name={called(part)}
                  value={Number(valueOf(fields, part.path))}
                  onChange={(next, how) => change((fields) => withValue(fields, part.path, next), how)}
                />
              ))}
            </span>
          </Line>
        </>
      );
    case "who":
      return (
        <Line label={param.label} hint={param.hint}>
          <Who
            name={name}
            nobody={holds.nobody}
            value={value as number | null}
            onChange={(id) =>
              change(
                (fields) =>
                  withValue(
                    holds.point === null
                      ? fields
                      : withValue(fields, holds.point, id ? [0, 0, 0] : holds.alone),
                    param.path,
                    id,
                  ),
                done,
              )
            }
          />
        </Line>
      );
    case "piece":
      return (
        <Line label={param.label} hint={param.hint}>
          <Piece name={name} none={holds.none} value={value as number | null} onChange={set} />
        </Line>
      );
    case "recorded":
      return (
        <Line label={param.label} hint={param.hint}>
          <Recorded name={name} none={holds.none} value={value as number | null} onChange={set} />
        </Line>
      );
    case "choice":
      return (
        <Line label={param.label} hint={param.hint}>
          <Choice label={name} value={String(value)} options={holds.options} onChange={(next) => set(next)} />
        </Line>
      );
    case "switch":
      return (
        <Line label={param.label} hint={param.hint}>
          <Toggle on={value === true} name={name} label={value ? "on" : "off"} onClick={() => set(!value)} />
        </Line>
      );
    case "curve":
      return (
        <CourseField
          name={name}
          unit={param.unit}
          over={holds.over}
          min={holds.min}
          max={holds.max}
          keys={value as CurveKey[]}
          onChange={set}
        />
      );
    case "list":
      return <Several name={name} label={param.label} holds={holds} value={value as Fields[]} set={set} />;
    case "variant": {
      const { tag, cases } = holds;
      const chosen = caseOf(tag, cases, value);
      const missing = "-";
      return (
        <div>
          <Line label={param.label} hint={param.hint}>
            <Choice
              label={name}
              value={chosen?.name ?? missing}
              options={[
                ...(absent !== null || !chosen ? [[missing, absent ?? "none"] as const] : []),
                ...cases.map((c) => [c.name, c.label] as const),
              ]}
              onChange={(next) => {
                const way = cases.find((c) => c.name === next);
                set(way ? startOfCase(tag, way) : null);
              }}
            />
          </Line>
          {chosen && (
            <Within value={name}>
              <ParamForm params={chosen.params} value={value as Fields} onChange={set} />
            </Within>
          )}
        </div>
      );
    }
  }
});

type List = Extract<Param["holds"], { kind: "list" }>;

/** Several of one kind, each with its form; one stays. */
function Several(props: {
  name: string;
  label: string;
  holds: List;
  value: Fields[];
  set: (next: unknown, how?: Changed) => void;
}) {
  const { name, label, holds, value, set } = props;
  const now = useContext(Now);
  // One that must stay needs no number.
  const alone = value.length === 1 && holds.none === null;
  return (
    <div>
      {value.length === 0 && <Line label={holds.none ?? ""}>{null}</Line>}
      {value.map((one, i) => (
        <Within key={i} value={alone ? name : `${name} ${i + 1}`}>
          {!alone && (
            <div style={{ display: "flex", gap: 8, borderTop: `1px solid ${ink.slate3}`, paddingTop: 3 }}>
              <span style={{ flex: 1, color: ink.chalkDim }}>
                {label} {i + 1}
              </span>
              <button
                className="plain"
                aria-label={`Remove ${name} ${i + 1}`}
                onClick={() => set(value.filter((_, k) => k !== i))}
              >
                <Icon name="bin" size={13} />
              </button>
            </div>
          )}
          <ParamForm
            params={holds.params}
            value={one}
            onChange={(next, how) =>
              set(
                value.map((v, k) => (k === i ? next : v)),
                how,
              )
            }
          />
        </Within>
      ))}
      {value.length < holds.most && (
        <button
          className="plain"
          aria-label={`Another ${label}`}
          style={{ color: ink.pick }}
          onClick={() => set(withAnother(value, holds.params, now()))}
        >
          + {value.length > 0 && holds.none === null ? "another" : label}
        </button>
      )}
    </div>
  );
}

/** Values that are usual, by name. */
function Usual({ param, fields, change }: Pick<FieldProps, "param" | "fields" | "change">) {
  const own = "own";
  const now = presetOf(param.presets, fields);
  return (
    <Line label="preset">
      <Choice
        label={`${param.label}: preset`}
        value={now ?? own}
        options={[
          ...param.presets.map((p) => [p.word, p.word] as const),
          ...(now === undefined ? [[own, own] as const] : []),
        ]}
        onChange={(word) => {
          const sets = param.presets.find((p) => p.word === word)?.sets ?? [];
          change((fields) => sets.reduce((all, [path, v]) => withValue(all, path, v), fields), done);
        }}
      />
    </Line>
  );
}

/** A performer, or nobody. */
export function Who(props: {
  name: string;
  nobody: string;
  value: number | null;
  onChange: (id: number | null) => void;
}) {
  const people = useDocument()?.scene.performers ?? [];
  return <OneOf {...props} none={props.nobody} all={people.map((p) => [p.id, p.name])} />;
}

interface Chosen {
  name: string;
  none: string;
  value: number | null;
  onChange: (id: number | null) => void;
}

/** One of several by their numbers, or none of them. */
function OneOf({ name, none, value, all, onChange }: Chosen & { all: [number, string][] }) {
  return (
    <Choice
      label={name}
      value={value ?? 0}
      options={[[0, none], ...all]}
      onChange={(id) => onChange(id || null)}
    />
  );
}

/** Something that was recorded or imported, or nothing. */
function Recorded(props: Chosen) {
  const takes = useDocument()?.takes.filter((t) => !t.pass && !t.rolling && !t.binned) ?? [];
  const called = (t: Take) => `take ${t.number}${t.name && `, ${t.name}`}`;
  return <OneOf {...props} all={takes.map((t) => [t.id, called(t)])} />;
}

/** A piece of the set, or none: marks first, then what moves, then what stands. */
function Piece(props: Chosen) {
  const scene = useDocument()?.scene;
  const moves = (p: ScenePiece) => p.routes?.some((r) => r.performance === scene?.performance);
  const rank = (p: ScenePiece) => (p.form.kind === "mark" ? 0 : moves(p) ? 1 : 2);
  const pieces = (scene?.pieces ?? []).filter((p) => !p.hidden);
  const listed = pieces.toSorted((a, b) => rank(a) - rank(b) || a.name.localeCompare(b.name));
  // Of several with one name it is said where each stands.
  const twice = (p: ScenePiece) => pieces.filter((q) => q.name === p.name).length > 1;
  const place = ([x, , z]: ScenePiece["position"]) => `${x.toFixed(1)}, ${z.toFixed(1)}`;
  const called = (p: ScenePiece) => (twice(p) ? `${p.name} at ${place(p.position)}` : p.name);
  return <OneOf {...props} all={listed.map((p) => [p.id, called(p)])} />;
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

interface NumberProps {
  param: Param;
  name: string;
  value: number;
  onChange: (next: number, how: Changed) => void;
}

const digitsOf = (step: number, whole: boolean, log: boolean) => (whole ? 0 : step < 0.1 || log ? 2 : 1);

/** A number by its field. */
function Exact({ param, name, value, onChange }: NumberProps) {
  if (param.holds.kind !== "number") return null;
  const { min, max, step, whole, log } = param.holds;
  return (
    <NumberField
      label={name}
      unit={param.unit}
      digits={digitsOf(step, whole, log)}
      step={step}
      min={min}
      max={max}
      value={value}
      onChange={(v, gesture) => onChange(whole ? Math.round(v) : v, { tried: false, gesture })}
    />
  );
}

/** Step of a key: −1 or 1; 0 for another key. */
function wayOf(key: string): -1 | 0 | 1 {
  if (key === "ArrowRight" || key === "ArrowUp") return 1;
  return key === "ArrowLeft" || key === "ArrowDown" ? -1 : 0;
}

/** A number by slider and by field. */
function NumberRow(props: NumberProps & { labelled: boolean }) {
  const { param, name, value, labelled, onChange } = props;
  /** Presses of keys, as long as the slider has them, are one step of undo. */
  const focus = useRef("");
  if (param.holds.kind !== "number") return null;
  const { min, max, step, whole, log } = param.holds;
  const at = (share: number) => valueAt(share, min, max, log, whole);
  // Keys step by what the number steps by: a share of the slider's length may be less than that, or more.
  const press = (event: React.KeyboardEvent) => {
    const way = wayOf(event.key);
    if (!way) return;
    event.preventDefault();
    event.stopPropagation();
    const next = stepped(value, way * (event.shiftKey ? 10 : 1), param.holds);
    if (next !== value) onChange(next, { tried: false, gesture: `${name} keys ${focus.current}` });
  };
  return (
    <div
      title={param.hint}
      style={{
        display: "grid",
        gridTemplateColumns: labelled ? "fit-content(45%) minmax(0, 1fr) auto" : "minmax(0, 1fr) auto",
        columnGap: 10,
        alignItems: "center",
      }}
    >
      {labelled && (
        <span
          style={{
            color: ink.chalkDim,
            whiteSpace: "nowrap",
            overflow: "hidden",
            textOverflow: "ellipsis",
          }}
        >
          {param.label}
        </span>
      )}
      <Slider
        aria-label={name}
        onFocus={() => void (focus.current = crypto.randomUUID())}
        onKeyDownCapture={press}
        value={shareOf(value, min, max, log)}
        min={0}
        max={1}
        step={0.005}
        getAriaValueText={() => `${value.toFixed(digitsOf(step, whole, log))} ${param.unit}`}
        onChange={(_, share) => onChange(at(share as number), { tried: true })}
        onChangeCommitted={(_, share) => onChange(at(share as number), done)}
        sx={{ color: ink.chalk, py: "6px", mx: "6px", width: "calc(100% - 12px)" }}
      />
      <span style={{ whiteSpace: "nowrap", fontSize: 12.5 }}>
        <Exact {...props} />
      </span>
    </div>
  );
}
