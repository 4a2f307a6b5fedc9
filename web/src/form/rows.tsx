import { MenuItem, Select } from "@mui/material";
import { ink } from "../theme";

/** A line of a panel: what, and its value at the right. */
export function Row({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <div
      style={{
        display: "flex",
        justifyContent: "space-between",
        alignItems: "baseline",
        gap: 10,
        minHeight: 25,
      }}
    >
      <span style={{ color: ink.chalkDim, whiteSpace: "nowrap" }}>{label}</span>
      <span style={{ display: "flex", gap: 10, alignItems: "baseline" }}>{children}</span>
    </div>
  );
}

/** A field with its name before it, where several stand in a row. */
export const Named = ({ word, children }: { word: string; children: React.ReactNode }) => (
  <span style={{ display: "inline-flex", alignItems: "baseline", gap: 4, whiteSpace: "nowrap" }}>
    <span style={{ fontSize: 12, color: ink.chalkDim }}>{word}</span>
    {children}
  </span>
);

/** One of several words. */
export function Choice<T extends string | number>(props: {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  /** Hints for some of them, a sentence each. */
  hints?: Partial<Record<T, string>>;
  onChange: (value: T) => void;
}) {
  return (
    <Select
      variant="standard"
      value={props.value}
      onChange={(e) => props.onChange(e.target.value as T)}
      slotProps={{ input: { "aria-label": props.label } }}
      sx={{ fontSize: 13, "&::before": { borderColor: ink.slate3 }, "& .MuiSelect-select": { py: 0 } }}
    >
      {props.options.map(([value, word]) => (
        <MenuItem key={value} value={value} title={props.hints?.[value]}>
          {word}
        </MenuItem>
      ))}
    </Select>
  );
}

/** On or off, as a word that is lit. */
export function Toggle(props: {
  on: boolean;
  label: string;
  /** Accessible name, where the word alone does not say it. */
  name?: string;
  title?: string;
  /** Cannot be turned now. */
  off?: boolean;
  onClick: () => void;
}) {
  return (
    <button
      className="plain"
      disabled={props.off}
      aria-pressed={props.on}
      aria-label={props.name}
      title={props.title}
      onClick={props.onClick}
      style={{
        padding: "0 7px",
        borderRadius: 3,
        border: `1px solid ${props.on ? ink.chalk : ink.slate3}`,
        color: props.on ? ink.slate0 : ink.chalkDim,
        background: props.on ? ink.chalk : undefined,
        fontSize: 12.5,
        lineHeight: "18px",
        whiteSpace: "nowrap",
      }}
    >
      {props.label}
    </button>
  );
}
