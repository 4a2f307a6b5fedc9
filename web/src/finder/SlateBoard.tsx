import { useLayoutEffect, useRef } from "react";
import type { Document } from "../generated/types";
import { link, useFloor } from "../live/link";
import { flag } from "../live/wire";
import { everyFrame } from "../state/now";
import { useView } from "../state/view";
import { cutOff } from "../form/cutOff";
import { font, ink } from "../theme";

/** The slate, held before the lens while it counts: what is about to be rolled, and how long still. */
export function SlateBoard({ document }: { document: Document }) {
  const status = useFloor((s) => s.status);
  const slate = useView((s) => s.slate);
  const lamp = useRef<HTMLDivElement>(null);
  const count = useRef<HTMLDivElement>(null);
  const shown = status?.roll === "counting" || status?.roll === "pre-roll";
  useLayoutEffect(() => {
    if (!shown) return;
    return everyFrame(() => {
      const frame = link.frame;
      if (!frame || !count.current || !lamp.current) return;
      const left = frame.flags & (flag.counting | flag.preRoll) ? frame.rollTime : 0;
      const text = String(Math.ceil(left));
      if (count.current.textContent !== text) count.current.textContent = text;
      // A flash with every second.
      lamp.current.style.opacity = String(0.25 + 0.75 * (left - Math.floor(left)));
    });
  }, [shown]);
  if (!shown || !status) return null;
  const setup = document.setups.find((s) => s.id === status.setup_id);
  const below = document.takes.find((t) => t.id === status.below);
  const rate = document.scene.rate.num / document.scene.rate.den;
  const fields: [string, string][] = [
    ["Scene", `${document.scene.number} ${document.scene.name}`],
    ["Setup", setup ? `${setup.letter} ${setup.name}` : ""],
    ["Take", below ? `${below.number}, pass` : String(document.next_take)],
    ["Rate", `${Number(rate.toFixed(3))}${status.clock < 1 ? ` at ${status.clock}×` : ""}`],
    ["Lens", `${link.frame?.focal.toFixed(0) ?? ""} mm`],
    ["Note", slate.note || "–"],
  ];
  return (
    <div
      role="status"
      aria-label="Slate"
      style={{
        position: "absolute",
        left: "50%",
        top: "50%",
        width: "min(440px, 86%)",
        transform: "translate(-50%, -50%)",
        background: `${ink.slate1}F2`,
        border: `1px solid ${ink.chalk}`,
        borderRadius: 4,
        pointerEvents: "none",
      }}
    >
      <div className="hatch" style={{ height: 22 }} />
      <div style={{ display: "grid", gridTemplateColumns: "1fr 1fr 1fr" }}>
        {fields.map(([label, text], i) => (
          <div
            key={label}
            style={{
              padding: "6px 12px 8px",
              borderTop: `1px solid ${ink.slate3}`,
              borderRight: i % 3 < 2 ? `1px solid ${ink.slate3}` : undefined,
              minWidth: 0,
            }}
          >
            <div className="label">{label}</div>
            <div
              style={{
                fontSize: 17,
                fontWeight: 500,
                ...cutOff,
              }}
            >
              {text}
            </div>
          </div>
        ))}
      </div>
      <div
        style={{
          display: "flex",
          alignItems: "center",
          justifyContent: "center",
          gap: 18,
          borderTop: `1px solid ${ink.slate3}`,
          padding: "2px 0 6px",
        }}
      >
        <div ref={lamp} style={{ width: 22, height: 22, borderRadius: 11, background: ink.rec }} />
        <div
          ref={count}
          aria-live="assertive"
          data-testid="count"
          style={{ font: `600 84px/1 ${font.label}`, color: ink.chalk, minWidth: 60, textAlign: "center" }}
        />
        <span style={{ color: ink.chalkDim }}>{status.roll === "pre-roll" ? "pre-roll" : "count in"}</span>
      </div>
    </div>
  );
}
