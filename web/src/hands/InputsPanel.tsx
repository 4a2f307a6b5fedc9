import { Button } from "@mui/material";
import { useState } from "react";
import type { MachineView, Shaping } from "../generated/types";
import { NumberField, TextField } from "../form/fields";
import { Icon } from "../form/icons";
import { Choice, Row, Toggle } from "../form/rows";
import { axisInk, ink } from "../theme";
import { DIAL, sourceWord } from "./assign";
import { captureMouse } from "./inputDevices";
import { changeAxis, keepPreset, presetOf, removePreset, setInputs, useInputs, choosePreset } from "./inputs";
import { HandWheels } from "./HandWheels";

const shapings: [keyof Omit<Shaping, "inverted">, string, number, number, number][] = [
  ["dead_zone", "dead zone", 0, 0.9, 0.01],
  ["curve", "curve", 0.3, 4, 0.1],
  ["speed", "speed", 0.01, 1, 0.05],
  ["drag", "drag", 0, 4, 0.1],
];

/** What drives each axis: hand wheels, assignment, how an axis takes what hands say, presets. */
export function InputsPanel({ machine, kind }: { machine: MachineView; kind: string }) {
  const inputs = useInputs();
  const preset = presetOf(inputs, kind, machine.axes);
  const [open, setOpen] = useState<string | null>(null);
  const own = Object.keys(inputs.own[kind] ?? {});
  const used = inputs.used[kind] ?? "";
  const loose = !!inputs.loose[kind];
  return (
    <section
      className="panel scroll"
      aria-label="Inputs"
      style={{ height: "100%", padding: "6px 12px", fontSize: 13 }}
    >
      <HandWheels key={machine.axes.map((a) => a.name).join()} machine={machine} />
      <Row label="mouse">
        <Toggle
          on={inputs.captured}
          label={inputs.captured ? "captured, Esc lets go" : "capture"}
          title="Alt M; Escape lets go"
          onClick={captureMouse}
        />
      </Row>
      <Row label="gamepad">
        <span style={{ maxWidth: 190, overflow: "hidden", textOverflow: "ellipsis", whiteSpace: "nowrap" }}>
          {inputs.pad ?? <span style={{ color: ink.chalkDim }}>press a button on it</span>}
        </span>
      </Row>
      {[...machine.axes.filter((a) => a.hand !== null), { name: DIAL, ink: "" }].map((axis) => {
        const input = preset[axis.name]!;
        const waits = inputs.waits === axis.name;
        return (
          <div key={axis.name} style={{ borderTop: `1px solid ${ink.slate3}`, padding: "2px 0" }}>
            <div style={{ display: "flex", gap: 6, alignItems: "center", minHeight: 25 }}>
              <button
                className="plain"
                aria-expanded={open === axis.name}
                aria-label={`How ${axis.name} takes it`}
                onClick={() => setOpen(open === axis.name ? null : axis.name)}
                style={{
                  color: axis.ink ? axisInk(axis.ink) : ink.chalk,
                  width: 62,
                  textAlign: "left",
                  flex: "none",
                }}
              >
                {axis.name}
              </button>
              <span
                style={{
                  flex: 1,
                  minWidth: 0,
                  color: waits ? ink.pick : ink.chalkDim,
                  fontSize: 12,
                  lineHeight: "15px",
                }}
              >
                {waits
                  ? "move the control you want; keys: less, then more"
                  : input.sources.map(sourceWord).join(" · ") || "nothing"}
              </span>
              <Button
                aria-label={`Assign ${axis.name}`}
                onClick={(e) => {
                  e.currentTarget.blur();
                  setInputs({ waits: waits ? null : axis.name });
                }}
                sx={{ p: "0 6px", fontSize: 12 }}
              >
                {waits ? "Stop" : "Assign"}
              </Button>
            </div>
            {open === axis.name && (
              <div style={{ padding: "0 0 4px 12px" }}>
                {(axis.name === DIAL ? [] : shapings).map(([key, label, min, max, step]) => (
                  <Row key={key} label={label}>
                    <NumberField
                      label={`${axis.name} ${label}`}
                      unit=""
                      value={input.shaping[key]}
                      min={min}
                      max={max}
                      step={step}
                      onChange={(v) =>
                        changeAxis(kind, preset, axis.name, { shaping: { ...input.shaping, [key]: v } })
                      }
                    />
                  </Row>
                ))}
                <Row label="direction">
                  <Toggle
                    on={input.shaping.inverted}
                    label="inverted"
                    onClick={() =>
                      changeAxis(kind, preset, axis.name, {
                        shaping: { ...input.shaping, inverted: !input.shaping.inverted },
                      })
                    }
                  />
                  <Button
                    sx={{ p: "0 6px", fontSize: 12 }}
                    onClick={() => changeAxis(kind, preset, axis.name, { sources: [] })}
                  >
                    Take all controls off
                  </Button>
                </Row>
              </div>
            )}
          </div>
        );
      })}
      <div style={{ borderTop: `1px solid ${ink.slate3}`, paddingTop: 4 }}>
        <Row label="preset">
          <Choice
            label="Preset"
            value={loose ? "*" : used}
            options={[
              ["", "as shipped"],
              ...own.map((name) => [name, name] as const),
              ...(loose ? [["*", "changed"] as const] : []),
            ]}
            onChange={(name) => name !== "*" && choosePreset(kind, name)}
          />
          {used && !loose && (
            <button
              className="plain"
              aria-label={`Remove preset ${used}`}
              onClick={() => removePreset(kind, used)}
            >
              <Icon name="bin" size={15} />
            </button>
          )}
        </Row>
        <Row label="keep as">
          <TextField
            label="Name of the preset"
            value=""
            placeholder="a name, Enter"
            width={120}
            onKeep={(name) => name && keepPreset(kind, name, preset)}
          />
        </Row>
      </div>
    </section>
  );
}
