import { Button, MenuItem, Select } from "@mui/material";
import { useState } from "react";
import { useBringIn } from "../api";
import { NumberField } from "../form/fields";
import { setView } from "../state/view";
import { ink } from "../theme";

/** Brings a move in from a file, placed and turned on the set. */
export function ImportPanel() {
  const bring = useBringIn(true);
  const [file, setFile] = useState<File | null>(null);
  const [form, setForm] = useState({ x: 0, y: 1.6, z: 0, turn: 0, scale: 1, up: "z", camera: "optical" });
  const [axes, setAxes] = useState(false);
  const ending = file?.name.toLowerCase().split(".").at(-1) ?? "";
  const way =
    ending === "csv"
      ? axes
        ? "axes"
        : "csv"
      : ending.startsWith("json")
        ? "opentrackio"
        : ["glb", "gltf"].includes(ending)
          ? "camera"
          : "tum";
  const placed = way === "tum";
  const choose = async (chosen: File | null) => {
    setFile(chosen);
    // A camera track names its focal length; the axes of a machine name its zoom, if they name a lens.
    const csv = chosen?.name.toLowerCase().endsWith(".csv");
    setAxes(!!csv && !(await chosen!.slice(0, 2000).text()).split("\n")[0]!.includes("focal_mm"));
  };
  const set =
    <K extends keyof typeof form>(key: K) =>
    (value: (typeof form)[K]) =>
      setForm({ ...form, [key]: value });

  const go = () => {
    if (!file) return;
    const name = file.name.replace(/\.[^.]+$/, "");
    const query = new URLSearchParams(
      !placed
        ? { name }
        : { name, ...Object.fromEntries(Object.entries(form).map(([k, v]) => [k, String(v)])) },
    );
    bring.mutate({ path: `${way}?${query}`, file }, { onSuccess: () => setView({ importing: false }) });
  };
  const row = {
    display: "flex",
    justifyContent: "space-between",
    alignItems: "center",
    gap: 10,
    minHeight: 26,
  } as const;
  const pick = (label: string, value: string, change: (v: string) => void, options: [string, string][]) => (
    <label style={row}>
      <span style={{ color: ink.chalkDim }}>{label}</span>
      <Select
        variant="standard"
        value={value}
        onChange={(e) => change(e.target.value)}
        slotProps={{ input: { "aria-label": label } }}
        sx={{ fontSize: 13 }}
      >
        {options.map(([v, word]) => (
          <MenuItem key={v} value={v}>
            {word}
          </MenuItem>
        ))}
      </Select>
    </label>
  );
  const number = (label: string, key: "x" | "y" | "z" | "turn" | "scale", unit: string, step: number) => (
    <NumberField
      label={label}
      unit={unit}
      step={step}
      min={key === "scale" ? 0.001 : undefined}
      value={form[key]}
      onChange={set(key)}
    />
  );
  return (
    <section
      className="panel"
      aria-label="Bring in a move"
      style={{ height: "100%", padding: "8px 12px", fontSize: 13, display: "flex", flexDirection: "column" }}
    >
      <div style={{ ...row, marginBottom: 4 }}>
        <span className="label">Bring in a move</span>
        <Button onClick={() => setView({ importing: false })}>Close</Button>
      </div>
      <div className="scroll" style={{ flex: 1, minHeight: 0 }}>
        <input
          type="file"
          aria-label="File"
          accept=".txt,.tum,.csv,.jsonl,.json,.glb,.gltf"
          onChange={(e) => void choose(e.target.files?.[0] ?? null)}
          style={{ font: "inherit", color: ink.chalk, maxWidth: "100%" }}
        />
        {!file && (
          <p style={{ margin: "6px 0", color: ink.chalkDim }}>
            A camera track as CSV, TUM text, OpenTrackIO lines (.jsonl) or glTF becomes a take of a free
            camera; the axes of the machine on the floor as CSV become a take of its setup.
          </p>
        )}
        {way === "axes" && (
          <p style={{ margin: "6px 0", color: ink.chalkDim }}>
            Axes of a machine: they become a take of the setup on the floor.
          </p>
        )}
        {placed && (
          <>
            {pick("file's up axis", form.up, set("up"), [
              ["z", "Z up"],
              ["y", "Y up"],
              ["-y", "−Y up"],
            ])}
            {pick("file's camera", form.camera, set("camera"), [
              ["optical", "+Z forward, +Y down"],
              ["graphics", "−Z forward, +Y up"],
              ["body", "+X forward, +Z up"],
            ])}
            <div style={row}>
              <span style={{ color: ink.chalkDim }}>first point x, height, z</span>
              <span style={{ display: "flex", gap: 8 }}>
                {number("First point x", "x", "m", 0.1)}
                {number("First point height", "y", "m", 0.1)}
                {number("First point z", "z", "m", 0.1)}
              </span>
            </div>
            <div style={row}>
              <span style={{ color: ink.chalkDim }}>turned right, scale</span>
              <span style={{ display: "flex", gap: 8 }}>
                {number("Turn to the right", "turn", "°", 1)}
                {number("Scale", "scale", "", 0.05)}
              </span>
            </div>
          </>
        )}
      </div>
      {bring.isError && (
        <p role="alert" style={{ color: ink.beyond, margin: "6px 0" }}>
          {bring.error.message}
        </p>
      )}
      <Button
        color="primary"
        variant="contained"
        disabled={!file || bring.isPending}
        onClick={go}
        sx={{ mt: 1, alignSelf: "flex-start" }}
      >
        {bring.isPending ? "Bringing it in …" : "Bring it in"}
      </Button>
    </section>
  );
}
