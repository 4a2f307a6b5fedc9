import { useRef, useState } from "react";
import { decimals, lengthText, readQuantity } from "../quantity";
import { useView } from "../state/view";
import { ink } from "../theme";

/** Text that is edited where it stands: Enter keeps, Escape gives back. */
export function TextField(props: {
  value: string;
  label: string;
  onKeep: (text: string) => void;
  width?: number | string;
  placeholder?: string;
  style?: React.CSSProperties;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const shown = typed ?? props.value;
  const keep = () => {
    if (typed !== null && typed.trim() !== props.value) props.onKeep(typed.trim());
    setTyped(null);
  };
  return (
    <input
      className="inplace"
      aria-label={props.label}
      value={shown}
      placeholder={props.placeholder}
      style={{ width: props.width ?? `${Math.max(shown.length, 1) + 0.6}ch`, ...props.style }}
      onChange={(e) => setTyped(e.target.value)}
      onBlur={keep}
      onKeyDown={(e) => {
        if (e.key === "Enter") e.currentTarget.blur();
        if (e.key === "Escape") {
          setTyped(null);
          if (!e.altKey) e.stopPropagation();
        }
      }}
    />
  );
}

interface NumberProps {
  value: number;
  unit: string;
  label: string;
  digits?: number;
  step?: number;
  min?: number;
  max?: number;
  /** `gesture` is the same for all changes of one drag. */
  onChange: (value: number, gesture: string) => void;
}

/** A number with its unit: type arithmetic and units, drag sideways, or step with the arrows. */
export function NumberField({
  value,
  unit,
  label,
  digits = 2,
  step = 0.1,
  min = -Infinity,
  max = Infinity,
  onChange,
}: NumberProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const [wrong, setWrong] = useState(false);
  const feet = useView((s) => s.feet) && unit === "m";
  const text = unit === "m" ? lengthText(value, feet, digits) : decimals(value, digits);
  const drag = useRef<{ x: number; value: number; gesture: string; moved: boolean } | null>(null);
  const field = useRef<HTMLInputElement>(null);
  const hold = (v: number) => Math.min(max, Math.max(min, v));
  const change = (v: number, gesture: string) => onChange(hold(Number(v.toFixed(6))), gesture);

  const keep = () => {
    if (typed === null) return;
    const read = readQuantity(typed, unit, feet ? 0.3048 : 1);
    if (read === null) return setWrong(true);
    setTyped(null);
    if (hold(read) !== value) change(read, crypto.randomUUID());
  };
  return (
    <span style={{ display: "inline-flex", alignItems: "baseline", gap: 3 }}>
      <input
        ref={field}
        className="inplace num"
        aria-label={`${label}${unit ? `, ${unit}` : ""}`}
        aria-invalid={wrong}
        title={
          wrong
            ? "This cannot be read; give a number, such as 12ft+3"
            : "Type, drag sideways, or step with the arrows"
        }
        value={typed ?? text}
        style={{
          width: `${Math.max(4, (typed ?? text).length + 0.5)}ch`,
          textAlign: "right",
          cursor: typed === null ? "ew-resize" : "text",
          color: wrong ? ink.beyond : undefined,
        }}
        onChange={(e) => {
          setWrong(false);
          setTyped(e.target.value);
        }}
        onBlur={() => {
          keep();
          if (wrong) {
            setWrong(false);
            setTyped(null);
          }
        }}
        onKeyDown={(e) => {
          if (e.key === "Enter") keep();
          else if (e.key === "Escape") {
            setTyped(null);
            setWrong(false);
            e.currentTarget.blur();
          } else if (e.key === "ArrowUp" || e.key === "ArrowDown") {
            e.preventDefault();
            change(value + (e.key === "ArrowUp" ? step : -step) * (e.shiftKey ? 10 : 1), `${label} arrows`);
          }
          if (!e.altKey) e.stopPropagation();
        }}
        onPointerDown={(e) => {
          if (typed !== null) return;
          drag.current = { x: e.clientX, value, gesture: crypto.randomUUID(), moved: false };
          e.currentTarget.setPointerCapture(e.pointerId);
        }}
        onPointerMove={(e) => {
          const d = drag.current;
          if (!d || !(e.buttons & 1)) return;
          const by = e.clientX - d.x;
          if (!d.moved && Math.abs(by) < 3) return;
          d.moved = true;
          e.preventDefault();
          change(d.value + Math.round(by / 2) * step, d.gesture);
        }}
        onPointerUp={() => {
          if (drag.current && !drag.current.moved) field.current?.select();
          drag.current = null;
        }}
      />
      {unit && !feet && <span className="unit">{unit}</span>}
    </span>
  );
}
