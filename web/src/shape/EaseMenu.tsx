import { Button } from "@mui/material";
import { useState } from "react";
import { create } from "zustand";
import { useEases } from "../api";
import { Above } from "../form/Above";
import { NumberField } from "../form/fields";
import { Row, Toggle } from "../form/rows";
import type { Ease } from "../generated/types";
import { editKeys } from "../move/keyEdits";
import { keep, kept } from "../state/browser";
import type { Looked } from "../state/looked";
import { ink } from "../theme";

type Own = Extract<Ease, { by: "own" }>;

/** Eases of one's own, kept in this browser. */
const useOwn = create<Own[]>(() => kept("eases", []));

function keepOwn(list: Own[]) {
  useOwn.setState(list, true);
  keep("eases", list);
}

/** The curve of an ease of one's own, as a path on the unit square. */
const ownPath = ({ x1, y1, x2, y2 }: Own) => `M0 0C${x1} ${y1} ${x2} ${y2} 1 1`;
const drawnPath = (drawn: number[]) =>
  drawn.map((v, i) => `${i === 0 ? "M" : "L"}${i / (drawn.length - 1)} ${v}`).join("");

function Drawn({ path }: { path: string }) {
  return (
    <svg width="40" height="34" viewBox="-0.08 -0.3 1.16 1.6" aria-hidden preserveAspectRatio="none">
      <g transform="matrix(1 0 0 -1 0 1)">
        <path
          d="M-0.08 0H1.08M-0.08 1H1.08"
          stroke={ink.slate3}
          strokeWidth="1"
          vectorEffect="non-scaling-stroke"
        />
        <path d={path} fill="none" stroke={ink.pick} strokeWidth="1.8" vectorEffect="non-scaling-stroke" />
      </g>
    </svg>
  );
}

function EaseButton(props: { name: string; path: string; onClick: () => void }) {
  return (
    <button
      className="plain"
      aria-label={`Ease: ${props.name}`}
      onClick={props.onClick}
      style={{
        display: "grid",
        justifyItems: "center",
        padding: "3px 2px",
        fontSize: 12.5,
        color: ink.chalkDim,
      }}
    >
      <Drawn path={props.path} />
      {props.name}
    </button>
  );
}

/** How it gets from one picked key to the next: by name with its curve, or drawn by four numbers and kept. */
export function EaseMenu({ looked, off }: { looked: Looked; off: boolean }) {
  const eases = useEases().data ?? [];
  const own = useOwn();
  const [mine, setMine] = useState<Own>({ by: "own", x1: 0.4, y1: 0, x2: 0.2, y2: 1 });
  const part = (field: "x1" | "y1" | "x2" | "y2", label: string, min: number, max: number) => (
    <NumberField
      label={label}
      unit=""
      step={0.05}
      min={min}
      max={max}
      value={mine[field]}
      onChange={(value) => setMine({ ...mine, [field]: value })}
    />
  );
  return (
    <Above
      word="ease"
      off={off}
      title={off ? "Pick two keys that stand beside one another" : "How it gets from key to key"}
    >
      {(close) => {
        const lay = (ease: Ease) => {
          close();
          void editKeys(looked, "ease keys", { do: "ease", ease });
        };
        return (
          <>
            <div style={{ display: "grid", gridTemplateColumns: "repeat(5, 1fr)", gap: 2 }}>
              {eases.map(({ ease, drawn }) => (
                <EaseButton key={ease.by} name={ease.by} path={drawnPath(drawn)} onClick={() => lay(ease)} />
              ))}
              {own.map((ease, i) => (
                <EaseButton
                  key={`own ${i}`}
                  name={`own ${i + 1}`}
                  path={ownPath(ease)}
                  onClick={() => lay(ease)}
                />
              ))}
            </div>
            <div style={{ borderTop: `1px solid ${ink.slate3}`, marginTop: 6, paddingTop: 4 }}>
              <Row label="own">
                {part("x1", "Own ease: time of the first point", 0, 1)}
                {part("y1", "Own ease: rise of the first point", -5, 5)}
                {part("x2", "Own ease: time of the second point", 0, 1)}
                {part("y2", "Own ease: rise of the second point", -5, 5)}
              </Row>
              <div style={{ display: "flex", gap: 8, alignItems: "center" }}>
                <Drawn path={ownPath(mine)} />
                <Button onClick={() => lay(mine)}>Apply</Button>
                <Button onClick={() => keepOwn([...own, mine])}>Keep it</Button>
                {own.length > 0 && (
                  <Toggle on={false} label="forget the last" onClick={() => keepOwn(own.slice(0, -1))} />
                )}
              </div>
            </div>
          </>
        );
      }}
    </Above>
  );
}
