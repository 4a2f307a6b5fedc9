import { MenuItem, Select } from "@mui/material";
import { usePatchSetup } from "../api";
import type { Setup, TelescopicCrane } from "../generated/types";
import { NumberField, useThrottled } from "../shell/fields";
import { ink } from "../theme";

/** The machine of the setup on the floor, in exact numbers. */
export function MachinePanel({ setup }: { setup: Setup }) {
  return (
    <section
      className="panel scroll"
      aria-label="Machine"
      style={{ height: "100%", padding: "8px 12px", fontSize: 13 }}
    >
      {setup.rig.kind === "telescopic_crane" ? (
        <Crane setup={setup} crane={setup.rig} />
      ) : setup.rig.kind === "square_to_card" ? (
        <>
          <span className="label">Square to a card</span>
          <p style={{ color: ink.chalkDim }}>
            This camera stands before its card and sees all of it, wherever the card goes. Zooming brings it
            nearer or takes it farther away.
          </p>
        </>
      ) : (
        <>
          <span className="label">Free camera</span>
          <p style={{ color: ink.chalkDim }}>
            Nothing carries this camera: its axes are its place and its angles, without end stops.
          </p>
        </>
      )}
    </section>
  );
}

type NumberKey = {
  [K in keyof TelescopicCrane]: TelescopicCrane[K] extends number ? K : never;
}[keyof TelescopicCrane];

/** Rows of the panel; each number with its own name for a screen reader. */
const rows: [string, string, [NumberKey, string][]][] = [
  [
    "base x, z",
    "m",
    [
      ["base_x_m", "Base x"],
      ["base_z_m", "Base z"],
    ],
  ],
  ["heading", "°", [["heading_deg", "Heading"]]],
  ["column height", "m", [["column_height_m", "Column height"]]],
  [
    "boom from, to",
    "°",
    [
      ["boom_min_deg", "Lowest boom"],
      ["boom_max_deg", "Highest boom"],
    ],
  ],
  [
    "reach from, to",
    "m",
    [
      ["reach_min_m", "Shortest reach"],
      ["reach_max_m", "Longest reach"],
    ],
  ],
  ["head hangs under arm", "m", [["head_drop_m", "Head drop"]]],
];

function Crane({ setup, crane }: { setup: Setup; crane: TelescopicCrane & { kind: "telescopic_crane" } }) {
  const patch = usePatchSetup();
  const send = useThrottled(60, ({ rig, gesture }: { rig: Setup["rig"]; gesture?: string }) =>
    patch.mutate({ id: setup.id, rig, ...(gesture ? { gesture } : {}) }),
  );
  const row = {
    display: "flex",
    justifyContent: "space-between",
    alignItems: "baseline",
    minHeight: 25,
  } as const;
  const field = (key: NumberKey, label: string, unit: string) => (
    <NumberField
      key={key}
      label={label}
      unit={unit}
      digits={unit === "m" ? 2 : 1}
      step={unit === "m" ? 0.05 : 1}
      value={crane[key]}
      onChange={(value, gesture) => send({ rig: { ...crane, [key]: value }, gesture })}
    />
  );
  const select = { fontSize: 13, "&::before": { borderColor: ink.slate3 } } as const;
  const limited = crane.swing_limit_deg !== null;
  return (
    <>
      <span className="label">Telescopic crane</span>
      {rows.map(([label, unit, fields]) => (
        <div key={label} style={row}>
          <span style={{ color: ink.chalkDim }}>{label}</span>
          <span style={{ display: "flex", gap: 10 }}>
            {fields.map(([key, name]) => field(key, name, unit))}
          </span>
        </div>
      ))}
      <div style={row}>
        <span style={{ color: ink.chalkDim }}>swing</span>
        <span style={{ display: "flex", gap: 10, alignItems: "baseline" }}>
          {limited && (
            <NumberField
              label="Swing to each side"
              unit="°"
              digits={0}
              step={1}
              value={crane.swing_limit_deg ?? 0}
              onChange={(swing_limit_deg, gesture) => send({ rig: { ...crane, swing_limit_deg }, gesture })}
            />
          )}
          <Select
            variant="standard"
            value={limited ? "limited" : "around"}
            onChange={(e) =>
              send({ rig: { ...crane, swing_limit_deg: e.target.value === "limited" ? 120 : null } })
            }
            slotProps={{ input: { "aria-label": "Swing" } }}
            sx={select}
          >
            <MenuItem value="around">all round</MenuItem>
            <MenuItem value="limited">to each side</MenuItem>
          </Select>
        </span>
      </div>
      <div style={row}>
        <span style={{ color: ink.chalkDim }}>head</span>
        <Select
          variant="standard"
          value={crane.head}
          onChange={(e) => send({ rig: { ...crane, head: e.target.value as TelescopicCrane["head"] } })}
          slotProps={{ input: { "aria-label": "Head" } }}
          sx={select}
        >
          <MenuItem value="level">stays level</MenuItem>
          <MenuItem value="lean">leans with the arm</MenuItem>
        </Select>
      </div>
    </>
  );
}
