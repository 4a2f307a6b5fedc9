import { useState } from "react";
import { useFigures } from "../api";
import type { Figure, Verdict, Warning } from "../generated/types";
import { Toggle } from "../form/rows";
import { decimals } from "../quantity";
import { seek } from "../state/transport";
import type { Looked } from "../state/looked";
import { ink } from "../theme";

const inks: Record<Verdict, string> = {
  good: ink.within,
  even: ink.chalkDim,
  near: ink.near,
  bad: ink.beyond,
};

/** Warnings, and each figure raw → now with a word; those that matter most first. */
export function FiguresPanel({ looked }: { looked: Looked }) {
  const figures = useFigures(looked).data;
  const [more, setMore] = useState(false);
  const rows = (figures?.rows ?? []).filter((row) => more || !row.more);
  return (
    <section
      className="panel scroll"
      aria-label="Figures"
      style={{ padding: "8px 12px", height: "100%", minHeight: 0 }}
    >
      <Warnings warnings={figures?.warnings ?? []} />
      <div style={{ display: "flex", justifyContent: "space-between", marginBottom: 2 }}>
        <span className="label">raw → now</span>
        <Toggle on={more} label="more" name="More figures" onClick={() => setMore(!more)} />
      </div>
      <table style={{ borderCollapse: "collapse", width: "100%", fontSize: 13, tableLayout: "fixed" }}>
        <colgroup>
          {["auto", 48, 16, 46, 28, 60].map((width, i) => (
            <col key={i} style={{ width }} />
          ))}
        </colgroup>
        <tbody>
          {rows.map((row) => (
            <FigureRow key={row.name} row={row} />
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** One figure, and under it how much of its bound, or of what it was, is left. */
function FigureRow({ row }: { row: Figure }) {
  const { now, raw, bound, at_s: at } = row;
  const whole = bound ?? raw;
  // Of nothing there is no share.
  const share = now === null || !whole || Math.abs(whole) < 1e-6 ? null : Math.min(1, Math.abs(now / whole));
  const name = at === null ? row.name : `${row.name} ▸`;
  return (
    <>
      <tr data-testid={`figure-${row.name}`} title={row.hint || undefined}>
        <td
          style={{
            padding: "3px 0 1px",
            whiteSpace: "nowrap",
            overflow: "hidden",
            textOverflow: "ellipsis",
          }}
        >
          {at === null ? (
            name
          ) : (
            <button className="plain" title={`${row.hint} Go there.`} onClick={() => seek(at)}>
              {name}
            </button>
          )}
        </td>
        <td className="num" style={{ textAlign: "right", color: ink.chalkDim }}>
          {words(raw, row.digits)}
        </td>
        <td style={{ color: ink.chalkDim, textAlign: "center", padding: 0 }} aria-hidden>
          →
        </td>
        <td className="num" style={{ textAlign: "right", fontWeight: 500 }}>
          {words(now, row.digits)}
        </td>
        <td className="unit" style={{ paddingLeft: 4 }}>
          {row.unit}
        </td>
        <td style={{ textAlign: "right", color: inks[row.verdict], fontSize: 12, whiteSpace: "nowrap" }}>
          {row.word}
        </td>
      </tr>
      <tr aria-hidden>
        <td colSpan={6} style={{ padding: "0 0 2px" }}>
          <div style={{ height: 2, background: ink.slate3 }}>
            {share !== null && (
              <div style={{ height: 2, width: `${100 * share}%`, background: inks[row.verdict] }} />
            )}
          </div>
        </td>
      </tr>
    </>
  );
}

const words = (value: number | null, digits: number) => (value === null ? "–" : decimals(value, digits));

/** Warnings about the move, with their frames; a click goes there. */
function Warnings({ warnings }: { warnings: Warning[] }) {
  if (warnings.length === 0) return null;
  return (
    <ul aria-label="Warnings" style={{ listStyle: "none", margin: "0 0 6px", padding: 0, fontSize: 12.5 }}>
      {warnings.map(({ what, when }) => (
        <li key={`${when.from_frame} ${what}`}>
          <button
            className="plain"
            style={{ color: ink.beyond, textAlign: "left" }}
            onClick={() => seek(when.from_s)}
          >
            ▲ frames {when.from_frame}–{when.to_frame}: {what}
          </button>
        </li>
      ))}
    </ul>
  );
}
