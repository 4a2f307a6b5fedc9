import { Button } from "@mui/material";
import { useEffect, useLayoutEffect, useRef, useState } from "react";
import { useFigures, useLanes } from "../api";
import { spanOf, trace } from "../moves";
import type { Camera, Document, MachineView } from "../generated/types";
import { BesideFinder } from "../finder/BesideFinder";
import { Finder } from "../finder/Finder";
import { Choice, Toggle } from "../form/rows";
import { everyFrame, momentBeside } from "../state/now";
import type { Looked } from "../state/looked";
import { clock, setView, useView } from "../state/view";
import { axisInk, font, ink } from "../theme";
import { MarkedMoment } from "./MarkedMoment";

const otherMoment = () => momentBeside("other");

/** Two moves: side by side or split by a line, their curves over each other, their figures. */
export function Compare(props: {
  document: Document;
  looked: Looked;
  other: Looked;
  camera: Camera;
  machine: MachineView;
}) {
  const { document, looked, other } = props;
  const beside = useView((s) => s.beside);
  const figures = [useFigures(looked).data, useFigures(other).data];
  return (
    <div style={{ height: "100%", display: "grid", gap: 8, gridTemplateRows: "auto minmax(0, 1fr) 168px" }}>
      <div style={{ display: "flex", alignItems: "center", gap: 10, height: 26 }}>
        <span className="label">compare</span>
        <Toggle on={!beside} label="split" onClick={() => setView({ beside: false })} />
        <Toggle on={beside} label="side by side" onClick={() => setView({ beside: true })} />
        <span style={{ flex: 1 }} />
        {[looked, other].map((l, i) => (
          <span key={l.move.id} className="num" style={{ fontSize: 12.5, color: i ? ink.chalk : ink.pick }}>
            {i ? "┄ " : "━ "}
            {l.title} · {l.length_s.toFixed(1)} s · shake{" "}
            {figures[i]?.now.shake_position_cm?.worst_second.toFixed(2) ?? "–"} cm{" "}
            {figures[i]?.now.shake_rotation_deg?.worst_second.toFixed(2) ?? "–"}°
          </span>
        ))}
        <Button onClick={() => setView({ otherId: null })}>Close</Button>
      </div>
      <div style={{ display: "grid", gap: 8, gridTemplateColumns: beside ? "1fr 1fr" : "1fr", minHeight: 0 }}>
        <Finder
          camera={props.camera}
          document={document}
          machine={props.machine}
          small
          against={beside ? null : other}
        />
        {beside && (
          <BesideFinder
            label="Other finder"
            camera={other.camera}
            at={otherMoment}
            other={{ setup: other.move.setup_id }}
          >
            <b style={{ color: ink.near, fontWeight: 500 }}>{other.title}</b>{" "}
            {other.name && `“${other.name}”`}
          </BesideFinder>
        )}
      </div>
      <Over looked={looked} other={other} machine={props.machine} />
    </div>
  );
}

/** The curves of one axis in both moves, over each other. */
function Over({ looked, other, machine }: { looked: Looked; other: Looked; machine: MachineView }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const head = useRef<HTMLDivElement>(null);
  const axes = machine.axes.filter((a) => a.hand !== null);
  const [name, setName] = useState("");
  const axis = axes.find((a) => a.name === name) ?? axes[0]!;
  const index = machine.axes.indexOf(axis);
  const [a, b] = [useLanes(looked, "axes").data, useLanes(other, "axes").data];
  const length = Math.max(looked.length_s, other.length_s, 0.1);
  useEffect(() => {
    const element = canvas.current!;
    const draw = () => {
      const density = window.devicePixelRatio;
      const [width, height] = [element.clientWidth, element.clientHeight];
      element.width = width * density;
      element.height = height * density;
      const pen = element.getContext("2d", { willReadFrequently: true });
      if (!pen) return;
      pen.scale(density, density);
      const curves = [a, b].map((lanes) =>
        lanes?.now[index]
          ? { values: lanes.now[index], share: (lanes.samples - 1) / lanes.rate / length }
          : null,
      );
      const [low, high] = spanOf(curves.flatMap((curve) => (curve ? [curve.values] : [])));
      if (!(high >= low)) return;
      const air = Math.max((high - low) * 0.1, 0.05);
      const y = (v: number) => 6 + (1 - (v - low + air) / (high - low + 2 * air)) * (height - 12);
      curves.forEach((curve, k) => {
        if (!curve) return;
        pen.strokeStyle = k ? ink.chalk : axisInk(axis.ink);
        pen.lineWidth = k ? 1.2 : 2;
        pen.setLineDash(k ? [5, 4] : []);
        pen.beginPath();
        trace(curve.values, (share, v) => pen.lineTo(share * curve.share * width, y(v)));
        pen.stroke();
      });
      pen.fillStyle = ink.chalkDim;
      pen.font = `10px ${font.number}`;
      pen.fillText(`${high.toFixed(2)} ${axis.unit}`, 4, 14);
      pen.fillText(`${low.toFixed(2)} ${axis.unit}`, 4, height - 6);
    };
    draw();
    const watch = new ResizeObserver(draw);
    watch.observe(element);
    return () => watch.disconnect();
  }, [a, b, axis, index, length]);
  useLayoutEffect(
    () =>
      everyFrame(() => {
        const width = canvas.current!.clientWidth;
        head.current!.style.transform = `translateX(${(clock.time / length) * width}px)`;
      }),
    [length],
  );
  return (
    <section
      className="panel"
      aria-label="Curves of both takes"
      style={{ display: "flex", flexDirection: "column", padding: "4px 10px 8px" }}
    >
      <div style={{ display: "flex", gap: 8, alignItems: "baseline", height: 22 }}>
        <Choice
          label="Axis of the curves"
          value={axis.name}
          options={axes.map((x) => [x.name, x.name] as const)}
          onChange={setName}
        />
        <span style={{ fontSize: 12, color: ink.chalkDim }}>
          {looked.title} bold, {other.title} dashed
        </span>
      </div>
      <div style={{ display: "flex", gap: 10, flex: 1, minHeight: 0 }}>
        <div style={{ position: "relative", flex: 1, minWidth: 0 }}>
          <canvas
            ref={canvas}
            role="img"
            aria-label={`${axis.name} in both takes`}
            style={{ width: "100%", height: "100%" }}
          />
          <div
            ref={head}
            style={{
              position: "absolute",
              top: 0,
              bottom: 0,
              left: 0,
              width: 1,
              background: ink.chalk,
              opacity: 0.7,
            }}
          />
        </div>
        <MarkedMoment looked={looked} other={other} />
      </div>
    </section>
  );
}
