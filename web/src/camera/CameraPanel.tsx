import { Button } from "@mui/material";
import { useLayoutEffect, useRef } from "react";
import { useLenses } from "../api";
import { change } from "../document/edit";
import type { Camera, Document, Lens, LensSet, MachineView } from "../generated/types";
import { sensors, shapes, shownMm } from "../lens";
import { Choice, Named, Row } from "../form/rows";
import { NumberField } from "../form/fields";
import { everyFrame, moment } from "../state/now";
import { font, ink } from "../theme";

/** Sensor, frame and lens of a setup or a move, and what they see. */
export function CameraPanel({
  document,
  title,
  camera,
  machine,
  onChange: put,
  children,
}: {
  document: Document;
  title: string;
  camera: Camera;
  /** Machine that carries the camera, once the server has told it. */
  machine: MachineView | undefined;
  onChange: (part: Partial<Camera>, gesture?: string) => void;
  children?: React.ReactNode;
}) {
  const sets: LensSet[] = [...(useLenses().data ?? []), ...document.lens_sets];
  const set = sets.find((s) => s.name === camera.lens_set);
  const number = (
    key: Exclude<keyof Camera, "lens_set">,
    label: string,
    unit: string,
    digits: number,
    step: number,
    more: Partial<Camera> = {},
  ) => (
    <NumberField
      label={label}
      unit={unit}
      digits={digits}
      step={step}
      min={0.01}
      value={camera[key]}
      onChange={(v, gesture) => put({ [key]: v, ...more }, gesture)}
    />
  );
  const sensor = sensors.findIndex(
    ([, w, h]) =>
      Math.abs(w - camera.sensor_width_mm) < 0.005 && Math.abs(h - camera.sensor_height_mm) < 0.005,
  );
  const shape = shapes.findIndex(([, a]) => Math.abs(a - camera.frame_aspect) < 1e-3);
  const lens = set?.lenses.findIndex(
    (l) => l.focal_min_mm === camera.focal_min_mm && l.focal_max_mm === camera.focal_max_mm,
  );
  const fit = (name: string, l: Lens) => {
    const focal = Math.min(l.focal_max_mm, Math.max(l.focal_min_mm, camera.focal_mm));
    put({
      lens_set: name,
      focal_min_mm: l.focal_min_mm,
      focal_max_mm: l.focal_max_mm,
      zoom_mm_s: l.zoom_mm_s,
      focal_mm: focal,
      closest_focus_m: l.closest_focus_m,
      focus_m: Math.max(l.closest_focus_m, camera.focus_m),
      widest_stop: l.widest_stop,
      f_stop: Math.max(l.widest_stop, camera.f_stop),
      squeeze: l.squeeze,
    });
  };
  const nearest = (s: LensSet) =>
    [...s.lenses].sort((a, b) => off(a, camera.focal_mm) - off(b, camera.focal_mm))[0]!;
  const keep = () => {
    const mine = document.lens_sets.find((s) => s.name === "own");
    const { focal_min_mm, focal_max_mm, zoom_mm_s, closest_focus_m, widest_stop, squeeze } = camera;
    const lenses = [
      ...(mine?.lenses ?? []),
      { focal_min_mm, focal_max_mm, zoom_mm_s, closest_focus_m, widest_stop, squeeze },
    ];
    lenses.sort((a, b) => a.focal_min_mm - b.focal_min_mm);
    const all = [...document.lens_sets.filter((s) => s.name !== "own"), { name: "own", lenses }];
    void change("change the lenses", "/production/lens_sets", document.lens_sets, all);
  };
  return (
    <section
      className="panel scroll"
      aria-label="Camera"
      style={{ height: "100%", padding: "8px 12px", fontSize: 13 }}
    >
      <div style={{ display: "flex", justifyContent: "space-between", gap: 10 }}>
        <span className="label">{title}</span>
      </div>
      <Row label="lenses">
        <Choice
          label="Lens set"
          value={set?.name ?? OWN}
          onChange={(name) => {
            const chosen = sets.find((s) => s.name === name);
            if (chosen) fit(name, nearest(chosen));
            else put({ lens_set: "" });
          }}
          options={[...sets.map((s) => [s.name, s.name] as const), [OWN, "custom lens"] as const]}
        />
      </Row>
      {set ? (
        <div
          role="listbox"
          aria-label="Lenses of the set"
          style={{ display: "flex", flexWrap: "wrap", gap: 3, margin: "2px 0 4px" }}
        >
          {set.lenses.map((l, i) => (
            <button
              key={i}
              role="option"
              aria-selected={i === lens}
              className="plain"
              title={`closest ${l.closest_focus_m} m, opens to ${l.widest_stop}`}
              onClick={() => fit(set.name, l)}
              style={{
                padding: "0 6px",
                borderRadius: 3,
                border: `1px solid ${i === lens ? ink.chalk : ink.slate3}`,
                background: i === lens ? ink.chalk : undefined,
                color: i === lens ? ink.slate0 : ink.chalk,
                font: `500 12px/19px ${font.number}`,
              }}
            >
              {lensName(l)}
            </button>
          ))}
        </div>
      ) : (
        <>
          <Row label="zoom">
            <Named word="from">
              {number("focal_min_mm", "Shortest focal length", "mm", 1, 1, {
                focal_mm: Math.max(camera.focal_mm, camera.focal_min_mm),
              })}
            </Named>
            <Named word="to">{number("focal_max_mm", "Longest focal length", "mm", 1, 1)}</Named>
          </Row>
          <Row label="zooms at most">{number("zoom_mm_s", "Top speed of the zoom", "mm/s", 0, 5)}</Row>
          <Row label="at its ends">
            <Named word="closest">{number("closest_focus_m", "Closest focus", "m", 2, 0.05)}</Named>
            <Named word="widest T">{number("widest_stop", "Widest stop", "", 1, 0.1)}</Named>
          </Row>
          <Row label="squeeze">
            {number("squeeze", "Anamorphic squeeze", "×", 2, 0.1)}
            <Button onClick={keep}>Keep as own lens</Button>
          </Row>
        </>
      )}
      <Row label="starts at">
        <Named word="focal">{number("focal_mm", "Focal length", "mm", 0, 1)}</Named>
        <Named word="focus">{number("focus_m", "Focus", "m", 1, 0.1)}</Named>
        <Named word="T">{number("f_stop", "Stop", "", 1, 0.1)}</Named>
      </Row>
      {children}
      <div style={{ display: "flex", gap: 10, margin: "6px 0 4px" }}>
        <OnSensor camera={camera} frame={machine?.frame_mm} />
        <Seen confusion={machine?.confusion_um} />
      </div>
      <Row label="sensor">
        <Choice
          label="Sensor"
          value={sensor}
          onChange={(i) =>
            i >= 0 && put({ sensor_width_mm: sensors[i]![1], sensor_height_mm: sensors[i]![2] })
          }
          options={[...sensors.map(([name], i) => [i, name] as const), [-1, "own size"] as const]}
        />
      </Row>
      <Row label="its size">
        <Named word="wide">{number("sensor_width_mm", "Sensor width", "mm", 2, 0.1)}</Named>
        <Named word="high">{number("sensor_height_mm", "Sensor height", "mm", 2, 0.1)}</Named>
      </Row>
      <Row label="frame">
        <Choice
          label="Frame shape"
          value={shape}
          onChange={(i) => i >= 0 && put({ frame_aspect: shapes[i]![1] })}
          options={[...shapes.map(([name], i) => [i, name] as const), [-1, "own shape"] as const]}
        />
        {number("frame_aspect", "Frame shape, width over height", "", 2, 0.01)}
      </Row>
    </section>
  );
}

/** Stands for a lens that is of no set. */
const OWN = "-";

const lensName = (l: Lens) =>
  l.focal_min_mm === l.focal_max_mm ? `${l.focal_min_mm}` : `${l.focal_min_mm}–${l.focal_max_mm}`;

const off = (l: Lens, focal: number) => Math.max(l.focal_min_mm - focal, focal - l.focal_max_mm, 0);

/** The frame as it is cut from the sensor, as it lies there: squeezed where the lens squeezes. */
function OnSensor({ camera, frame: said }: { camera: Camera; frame: [number, number] | undefined }) {
  const { sensor, frame } = shownMm(camera);
  const s = camera.squeeze;
  const scale = 112 / Math.max(sensor[0] / s, sensor[1]);
  const [w, h] = [(sensor[0] / s) * scale, sensor[1] * scale];
  const [fw, fh] = [(frame[0] / s) * scale, frame[1] * scale];
  return (
    <svg
      width={116}
      height={Math.max(h, 40) + 4}
      role="img"
      aria-label="The frame on the sensor"
      style={{ flex: "none" }}
    >
      <rect x={2} y={2} width={w} height={h} fill={ink.slate0} stroke={ink.chalkFaint} />
      <rect
        x={2 + (w - fw) / 2}
        y={2 + (h - fh) / 2}
        width={fw}
        height={fh}
        fill={ink.slate3}
        stroke={ink.chalk}
      />
      <text
        x={2 + w / 2}
        y={2 + h / 2}
        textAnchor="middle"
        dominantBaseline="central"
        fontSize={11}
        fill={ink.chalk}
        fontFamily={font.number}
      >
        {said?.map((mm) => mm.toFixed(1)).join("×")}
      </text>
    </svg>
  );
}

/** Numbers of the picture on show. */
function Seen({ confusion }: { confusion: number | undefined }) {
  const values = useRef<(HTMLSpanElement | null)[]>([]);
  useLayoutEffect(
    () =>
      everyFrame(() => {
        const at = moment();
        if (!at) return;
        const [across, up] = at.sees;
        const far = at.far === Infinity ? "∞" : at.far.toFixed(2);
        const shown = [
          `${across.toFixed(1)}° across, ${up.toFixed(1)}° up`,
          `${at.near.toFixed(2)} to ${far} m`,
          `${at.hyperfocal.toFixed(2)} m`,
          `${confusion?.toFixed(1) ?? "–"} µm`,
        ];
        shown.forEach((text, i) => {
          const span = values.current[i];
          if (span && span.textContent !== text) span.textContent = text;
        });
      }, 8),
    [confusion],
  );
  return (
    <div style={{ flex: 1, fontSize: 12, lineHeight: 1.5, fontVariantNumeric: "tabular-nums" }}>
      {["sees", "sharp", "hyperfocal", "circle of confusion"].map((word, i) => (
        <div key={word} style={{ display: "flex", justifyContent: "space-between", gap: 6 }}>
          <span style={{ color: ink.chalkDim }}>{word}</span>
          <span ref={(span) => void (values.current[i] = span)} />
        </div>
      ))}
    </div>
  );
}
