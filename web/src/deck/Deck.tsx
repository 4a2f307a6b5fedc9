import { MenuItem, Select, Slider, Tooltip } from "@mui/material";
import { useEffect, useRef, useState } from "react";
import type { AxisView, MachineView } from "../generated/types";
import { keysOf, presetOf, useInputs } from "../hands/inputs";
import { setDial } from "../keys";
import { headTo } from "../machine/positions";
import { readQuantity } from "../quantity";
import { holdsWheels, link, useFloor } from "../live/link";
import { axisFlag, type AxisState } from "../live/wire";
import { rollOrCut } from "../shell/transport";
import { everyFrame, moment } from "../state/now";
import { setView, useView } from "../state/view";
import { axisInk, ink } from "../theme";

const groups: [AxisView["group"], string][] = [
  ["machine", "Machine"],
  ["head", "Head"],
  ["lens", "Lens"],
];

/** One strip an axis, the feel of the machine, and the big control that rolls. */
export function Deck({
  machine,
  kind,
  level,
  name,
}: {
  machine: MachineView;
  kind: string;
  level: string | null;
  name: string;
}) {
  const inputs = useInputs();
  const keys = keysOf(presetOf(inputs, kind, machine.axes), machine);
  const driven = machine.axes.map((axis, i) => ({ axis, i })).filter(({ axis }) => axis.hand !== null);
  const many = driven.filter(({ axis }) => axis.group === "machine").length;
  // Many axes stand in columns, closer together.
  const slim = many > 3;
  return (
    <section aria-label="Deck" style={{ display: "flex", gap: 8, height: 132, minWidth: 0 }}>
      {groups.map(([group, word]) => {
        const strips = driven.filter(({ axis }) => axis.group === group);
        const own = group === "lens" ? strips.length + 1 : strips.length;
        const rows = own > 6 || own === 4 ? 4 : 3;
        const columns = Math.max(1, Math.ceil(own / rows));
        return (
          <div
            key={group}
            className="panel"
            style={{
              flex: slim ? `${columns} 1 ${group === "machine" ? 0 : 30}px` : 1,
              minWidth: 0,
              padding: slim ? "8px 8px 4px" : "8px 10px 4px",
              display: "flex",
              flexDirection: "column",
            }}
          >
            <div style={{ display: "flex", gap: 8, alignItems: "baseline", height: 20 }}>
              <span className="label">{group === "machine" ? name : word}</span>
              {group === "head" && level && (
                <span style={{ fontSize: 12, color: ink.chalkDim }}>{level}</span>
              )}
              {group === "head" && strips.length > 0 && <HeadActions />}
            </div>
            <div
              style={{
                display: "grid",
                gridAutoFlow: "column",
                gridTemplateRows: `repeat(${rows}, ${rows > 3 ? 24 : 29}px)`,
                gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`,
                columnGap: 12,
              }}
            >
              {strips.map(({ axis, i }) => (
                <Strip key={axis.name} axis={axis} index={i} keys={keys[i] ?? null} slim={slim} />
              ))}
              {group === "lens" && <Feel slim={slim} />}
            </div>
          </div>
        );
      })}
      <RollControl />
    </section>
  );
}

/** Level and centre: what is done to a head most often. */
function HeadActions() {
  const mine = useFloor(holdsWheels);
  const live = useView((s) => s.live);
  const action = (word: string, title: string, deed: () => void) => (
    <button
      className="plain"
      title={title}
      disabled={!mine || !live}
      onClick={deed}
      style={{
        fontSize: 12,
        color: ink.chalkDim,
        border: `1px solid ${ink.slate3}`,
        borderRadius: 3,
        padding: "0 6px",
      }}
    >
      {word}
    </button>
  );
  return (
    <span style={{ marginLeft: "auto", display: "flex", gap: 4 }}>
      {action("level", "Roll until the horizon is level (Alt H)", () => link.send({ do: "level" }))}
      {action("centre", "Pan, tilt and roll to where the head is mounted (Alt C)", () =>
        headTo(["pan", "tilt", "roll"]),
      )}
    </span>
  );
}

/** A ruler with hatched ends and one needle: where the axis is between its end stops. */
function Strip({
  axis,
  index,
  keys,
  slim,
}: {
  axis: AxisView;
  index: number;
  keys: readonly [string, string] | null;
  slim: boolean;
}) {
  const needle = useRef<SVGPathElement>(null);
  const value = useRef<HTMLSpanElement>(null);
  const speed = useRef<HTMLSpanElement>(null);
  const live = useView((s) => s.live);
  const armed = useFloor((s) => s.status?.armed[index] ?? true) && live;
  const mine = useFloor(holdsWheels);
  const standby = useFloor((s) => s.status?.roll === "standby");
  const digits = axis.unit === "m" ? 2 : axis.unit === "mm" ? 0 : 1;
  const [low, high] =
    axis.min !== null && axis.max !== null
      ? [axis.min, axis.max]
      : axis.unit === "°"
        ? [-180, 180]
        : [-20, 20];

  // A prime has no zoom.
  const fixed = axis.min !== null && axis.min === axis.max;

  useEffect(
    () =>
      everyFrame(() => {
        const state = stateOf(index);
        if (!state) return;
        const around =
          axis.min === null && axis.unit === "°"
            ? ((((state.value + 180) % 360) + 360) % 360) - 180
            : state.value;
        const share = fixed ? 0.5 : Math.min(1, Math.max(0, (around - low) / (high - low)));
        needle.current?.setAttribute("transform", `translate(${3 + share * 134} 0)`);
        const close = !fixed && state.flags & (axisFlag.nearEnd | axisFlag.atEnd);
        // Led against its end while the camera is wanted farther: past what it can do.
        const beyond =
          !!(state.flags & axisFlag.atEnd) &&
          !!(state.flags & axisFlag.led) &&
          (link.frame?.short ?? 0) > 1e-3;
        const color = beyond ? ink.beyond : close ? ink.near : ink.chalk;
        put(value.current, state.value.toFixed(digits).replace(/^-(0\.?0*)$/, "$1"), color);
        // At rest near an end, a word says so; moving, the speed in the same ink.
        const still = Math.abs(state.speed) < 0.5 * 10 ** -digits;
        const word = fixed
          ? "fixed"
          : beyond
            ? "past"
            : state.flags & axisFlag.atEnd
              ? "end"
              : close
                ? "near"
                : "";
        // Moving, the speed; soon at an end, how long until then.
        const moving =
          state.stopsIn < 3
            ? `${state.stopsIn.toFixed(1)} s`
            : `${state.speed > 0 ? "+" : "−"}${Math.abs(state.speed).toFixed(digits)}`;
        put(speed.current, still ? word : moving, color === ink.chalk ? ink.chalkDim : color);
      }),
    [axis, index, low, high, digits, fixed],
  );

  const color = axisInk(axis.ink);
  return (
    <div
      data-testid={`strip-${axis.name}`}
      style={{ display: "flex", alignItems: "center", gap: slim ? 4 : 6, minWidth: 0 }}
    >
      <Tooltip
        title={
          armed
            ? "Records; click to hold this axis still while rolling"
            : "Holds still while rolling; click to record"
        }
      >
        <button
          className="plain"
          aria-label={`Arm ${axis.name}`}
          aria-pressed={armed}
          disabled={!mine || !standby || !live}
          onClick={() => link.send({ do: "arm", axis: index, on: !armed })}
          style={{ width: 13, height: 18, display: "grid", placeItems: "center", flex: "none" }}
        >
          <span
            style={{
              width: 9,
              height: 9,
              borderRadius: 5,
              ...(armed ? { background: ink.rec } : { border: `1px solid ${ink.chalkDim}` }),
            }}
          />
        </button>
      </Tooltip>
      <button
        className="plain"
        aria-label={`Straighten ${axis.name}`}
        title={`${axis.name}${axis.hand !== axis.name ? `, driven ${axis.hand}` : ""}; click: back to ${axis.group === "head" ? "0" : "its start"}`}
        disabled={!mine || !live || fixed}
        onClick={() => headTo([axis.name], axis.group === "head" ? 0 : axis.start)}
        style={{
          minWidth: slim ? 30 : 38,
          color,
          flex: "none",
          textAlign: "left",
          whiteSpace: "nowrap",
          fontSize: slim ? 13 : undefined,
        }}
      >
        {axis.name}
      </button>
      <span style={{ position: "relative", flex: 1, minWidth: slim ? 14 : 40 }}>
        <svg
          viewBox="0 0 140 22"
          preserveAspectRatio="none"
          style={{ width: "100%", height: 22, display: "block" }}
          aria-hidden
        >
          <path d="M3 16H137" stroke={color} vectorEffect="non-scaling-stroke" />
          {axis.min !== null && (
            <path
              d={hatch(3) + hatch(125)}
              stroke={ink.chalkDim}
              vectorEffect="non-scaling-stroke"
              opacity={0.8}
            />
          )}
          <path d={ticks()} stroke={color} opacity={0.65} vectorEffect="non-scaling-stroke" />
          <path
            ref={needle}
            d="M0 2V20"
            stroke={ink.chalk}
            strokeWidth={2}
            vectorEffect="non-scaling-stroke"
          />
        </svg>
        {slim && (
          <span
            ref={speed}
            className="num"
            style={{ position: "absolute", left: 0, top: -6, fontSize: 9.5, whiteSpace: "nowrap" }}
          />
        )}
      </span>
      {!slim && (
        <span
          ref={speed}
          className="num"
          style={{ width: 38, flex: "none", fontSize: 11, textAlign: "right" }}
        />
      )}
      <span style={{ width: slim ? 62 : 78, flex: "none", textAlign: "right", whiteSpace: "nowrap" }}>
        <ValueField axis={axis} value={value} small={slim} />
        <span
          className="unit"
          style={{
            display: "inline-block",
            width: slim ? (axis.unit === "mm" ? 22 : 14) : 24,
            textAlign: "left",
            paddingLeft: slim ? 2 : 4,
          }}
        >
          {axis.unit}
        </span>
      </span>
      <span style={{ flex: "none", display: "flex", gap: slim ? 1 : 2, minWidth: slim ? 31 : 38 }}>
        {keys?.map((key) => (
          <span key={key} className="key" style={slim ? { fontSize: 10, padding: "0 3px" } : undefined}>
            {key}
          </span>
        ))}
      </span>
    </div>
  );
}

/** The value, which can be typed: Enter sends the axis there. */
function ValueField({
  axis,
  value,
  small,
}: {
  axis: AxisView;
  value: React.RefObject<HTMLSpanElement | null>;
  small: boolean;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const size = small ? 12.5 : 14;
  if (typed === null)
    return (
      <span
        ref={value}
        className="num"
        data-value={axis.name}
        role="button"
        tabIndex={0}
        aria-label={`Type ${axis.name}`}
        title="Click to type where it should go"
        onClick={() => setTyped(value.current?.textContent ?? "")}
        onKeyDown={(e) => e.key === "Enter" && setTyped(value.current?.textContent ?? "")}
        style={{ fontSize: size, cursor: "text" }}
      />
    );
  return (
    <input
      autoFocus
      className="inplace num"
      aria-label={axis.unit ? `${axis.name}, ${axis.unit}` : axis.name}
      value={typed}
      onFocus={(e) => e.target.select()}
      onChange={(e) => setTyped(e.target.value)}
      onBlur={() => setTyped(null)}
      onKeyDown={(e) => {
        if (!e.altKey) e.stopPropagation();
        if (e.key === "Escape") setTyped(null);
        if (e.key !== "Enter") return;
        const read = readQuantity(typed, axis.unit, 1);
        if (read === null) return;
        headTo([axis.name], read);
        setTyped(null);
      }}
      style={{ width: small ? 48 : 54, textAlign: "right", fontSize: size }}
    />
  );
}

/** The floor's axis, or that of the take being looked at. */
function stateOf(index: number): AxisState | undefined {
  if (useView.getState().live) return link.frame?.axes[index];
  const value = moment()?.axes[index];
  return value === undefined ? undefined : { value, speed: 0, flags: 0, stopsIn: Infinity };
}

function put(element: HTMLElement | null, text: string, color: string) {
  if (!element) return;
  if (element.textContent !== text) element.textContent = text;
  if (element.dataset.color !== color) {
    element.dataset.color = color;
    element.style.color = color;
  }
}

const ticks = () =>
  Array.from({ length: 19 }, (_, i) => `M${3 + (i * 134) / 18} 16V${i % 9 === 0 ? 6 : 12}`).join("");
const hatch = (x: number) => [0, 3, 6, 9].map((d) => `M${x + d} 15L${x + d + 4} 5`).join("");

/** Speed dial and drag. */
function Feel({ slim }: { slim: boolean }) {
  const dial = useFloor((s) => s.status?.dial ?? 0.6);
  const drag = useFloor((s) => s.status?.drag ?? 1);
  const mine = useFloor(holdsWheels);
  const slider = (
    name: string,
    value: number,
    min: number,
    max: number,
    send: (v: number) => void,
    keys: string,
  ) => (
    <label
      style={{ display: "flex", alignItems: "center", gap: slim ? 6 : 8, flex: 1, fontSize: 13, minWidth: 0 }}
    >
      <span style={{ color: ink.chalkDim }} title={keys}>
        {name}
      </span>
      <Slider
        aria-label={name}
        disabled={!mine}
        value={value}
        min={min}
        max={max}
        step={0.05}
        onChange={(_, v) => send(v as number)}
        sx={{ flex: 1, minWidth: slim ? 16 : 30, color: ink.chalk, py: "8px" }}
      />
      <span className="num" data-testid={name} style={{ fontSize: 12.5 }}>
        {value.toFixed(2)}
      </span>
    </label>
  );
  return (
    <div style={{ display: "flex", gap: slim ? 8 : 14, alignItems: "center", height: 32, minWidth: 0 }}>
      {slider("speed", dial, 0.05, 1, setDial, "Keys 1 to 9 and 0, or - and =")}
      {slider(
        "drag",
        drag,
        0,
        4,
        (v) => link.send({ do: "feel", dial, drag: v }),
        "How much the machine feels like moving through a fluid",
      )}
    </div>
  );
}

function RollControl() {
  const status = useFloor((s) => s.status);
  const mine = useFloor(holdsWheels);
  const countIn = useView((s) => s.countIn);
  const on = status && status.roll !== "standby";
  return (
    <div style={{ width: 108, flex: "none", display: "flex", flexDirection: "column", gap: 4 }}>
      <button
        className="plain"
        onClick={rollOrCut}
        disabled={!mine}
        aria-label={on ? "Cut" : "Roll"}
        style={{
          flex: 1,
          borderRadius: 4,
          display: "grid",
          placeContent: "center",
          justifyItems: "center",
          gap: 6,
          fontSize: 16,
          fontWeight: 500,
          border: `1px solid ${mine ? ink.rec : ink.slate3}`,
          background: on ? ink.rec : ink.slate1,
          color: mine ? ink.chalk : ink.chalkFaint,
        }}
      >
        <span
          style={{
            width: 20,
            height: 20,
            background: on ? ink.chalk : mine ? ink.rec : ink.slate3,
            borderRadius: on ? 2 : 10,
          }}
        />
        {on ? (status.roll === "counting" ? "Stop counting" : "Cut") : "Roll"}
        <span
          className="key"
          style={on ? { background: "#00000030", color: ink.chalk, borderColor: "#00000040" } : {}}
        >
          R
        </span>
      </button>
      <Select
        size="small"
        value={countIn}
        disabled={!!on}
        onChange={(e) => setView({ countIn: Number(e.target.value) })}
        slotProps={{ input: { "aria-label": "Count in" } }}
        sx={{
          fontSize: 12.5,
          "& .MuiSelect-select": { py: "3px", pl: "8px" },
          "& fieldset": { borderColor: ink.slate3 },
        }}
      >
        {[0, 1, 2, 3, 4, 5].map((s) => (
          <MenuItem key={s} value={s}>
            {s === 0 ? "no count in" : `count in ${s} s`}
          </MenuItem>
        ))}
      </Select>
    </div>
  );
}
