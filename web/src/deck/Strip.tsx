import { Tooltip } from "@mui/material";
import { useLayoutEffect, useRef, useState } from "react";
import type { AxisView } from "../generated/types";
import { hasWheel, holdsWheels, link, useFloor } from "../live/link";
import type { AxisState } from "../live/wire";
import { headTo } from "../machine/positions";
import { readQuantity } from "../quantity";
import { everyFrame, moment } from "../state/now";
import { useView } from "../state/view";
import { axisInk, ink } from "../theme";
import { isFixed, stripOf } from "./stripState";

const tones = { plain: ink.chalk, near: ink.near, past: ink.beyond } as const;

/** A ruler with hatched ends and one needle: where the axis is between its end stops. */
export function Strip({
  axis,
  index,
  keys,
  slim,
  tight,
}: {
  axis: AxisView;
  index: number;
  keys: readonly [string, string] | null;
  slim: boolean;
  /** No room for its speed. */
  tight: boolean;
}) {
  const needle = useRef<SVGPathElement>(null);
  const value = useRef<HTMLSpanElement>(null);
  const speed = useRef<HTMLSpanElement>(null);
  const live = useView((s) => s.live);
  const armed = useFloor((s) => s.status?.armed[index] ?? true) && live;
  const mine = useFloor(hasWheel(axis.wheel));
  const rolls = useFloor(holdsWheels);
  const standby = useFloor((s) => s.status?.roll === "standby");
  const fixed = isFixed(axis);

  useLayoutEffect(
    () =>
      everyFrame(() => {
        const state = stateOf(index);
        if (!state) return;
        const { share, value: text, beside, tone } = stripOf(axis, state);
        needle.current?.setAttribute("transform", `translate(${3 + share * 134} 0)`);
        put(value.current, text, tones[tone]);
        // How old the number is: whoever waits for the axis to stand must not read one number twice.
        value.current?.setAttribute("data-step", String(link.frame?.step ?? 0));
        put(speed.current, beside, tone === "plain" ? ink.chalkDim : tones[tone]);
      }),
    [axis, index],
  );

  const color = axisInk(axis.ink);
  return (
    <div
      data-testid={`strip-${axis.name}`}
      style={{ display: "flex", alignItems: "center", gap: tight ? 3 : slim ? 4 : 6, minWidth: 0 }}
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
          disabled={!rolls || !standby || !live}
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
      <span style={{ position: "relative", flex: 1, minWidth: tight ? 8 : slim ? 14 : 40 }}>
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
      </span>
      {/* Where there is no room for it, the ink of the value says as much. */}
      {!tight && (
        <span
          ref={speed}
          className="num"
          style={{ width: 38, flex: "none", fontSize: 11, textAlign: "right" }}
        />
      )}
      <span
        style={{ width: tight ? 58 : slim ? 62 : 78, flex: "none", textAlign: "right", whiteSpace: "nowrap" }}
      >
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
        role="button"
        tabIndex={0}
        title="Click to type where it should go"
        onClick={() => setTyped(value.current?.textContent ?? "")}
        onKeyDown={(e) => e.key === "Enter" && setTyped(value.current?.textContent ?? "")}
        style={{ display: "inline-block", position: "relative", fontSize: size, cursor: "text" }}
      >
        <span className="unseen">{axis.name} </span>
        <span ref={value} className="num" data-value={axis.name} />
      </span>
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
