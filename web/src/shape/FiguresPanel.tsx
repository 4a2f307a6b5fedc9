import { Button, ButtonGroup } from "@mui/material";
import { useExportKinds, useFigures } from "../api";
import type { Warning } from "../generated/types";
import { seek } from "../state/transport";
import type { Looked } from "../state/looked";
import { ink } from "../theme";

/** The figures that say whether it got better, raw beside now, and the files to take away. */
export function FiguresPanel({ looked }: { looked: Looked }) {
  const figures = useFigures(looked).data;
  const kinds = useExportKinds().data ?? [];
  const rows: [string, number | null, number | null, string, number][] = figures
    ? [
        ["shake above 1 Hz", figures.raw.shake_position_cm, figures.now.shake_position_cm, "cm", 2],
        ["", figures.raw.shake_rotation_deg, figures.now.shake_rotation_deg, "°", 3],
        ["departure", null, figures.departure.position_cm, "cm", 1],
        ["", null, figures.departure.rotation_deg, "°", 2],
        ["spectral arc, path", figures.raw.spectral_arc_position, figures.now.spectral_arc_position, "", 2],
        ["spectral arc, turn", figures.raw.spectral_arc_rotation, figures.now.spectral_arc_rotation, "", 2],
        ["top camera speed", figures.raw.top_speed_m_s, figures.now.top_speed_m_s, "m/s", 2],
        ...figures.axes
          .filter((a) => a.raw > 1e-6)
          .map((a): [string, number, number, string, number] => [
            `top ${a.name} speed`,
            a.raw,
            a.now,
            `${a.unit}/s`,
            a.unit === "m" ? 2 : 1,
          ]),
        ["longest dead stop", figures.raw.longest_dead_stop_s, figures.now.longest_dead_stop_s, "s", 2],
      ]
    : [];
  return (
    <section
      className="panel"
      aria-label="Figures"
      style={{
        padding: "8px 12px",
        height: "100%",
        minHeight: 0,
        display: "grid",
        gridTemplateRows: "minmax(0, 1fr) auto auto",
      }}
    >
      <div className="scroll">
        <Warnings warnings={figures?.warnings ?? []} />
        <table style={{ borderCollapse: "collapse", width: "100%", fontSize: 12.5 }}>
          <thead>
            <tr>
              <th className="label" style={{ textAlign: "left" }}>
                Figures
              </th>
              <th className="label" style={{ textAlign: "right" }}>
                raw
              </th>
              <th className="label" style={{ textAlign: "right" }}>
                now
              </th>
              <th />
            </tr>
          </thead>
          <tbody>
            {rows.map(([name, raw, now, unit, digits], i) => (
              <tr
                key={i}
                data-testid={`figure-${name || `${rows[i - 1]?.[0]} ${unit}`}`}
                style={{ borderTop: name ? `1px solid ${ink.slate3}` : undefined }}
              >
                <td style={{ padding: "1px 0", whiteSpace: "nowrap" }}>{name}</td>
                <Cell value={raw} digits={digits} dim />
                <Cell value={now} digits={digits} />
                <td className="unit" style={{ paddingLeft: 5, width: 32 }}>
                  {unit}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <div className="label" style={{ margin: "6px 0" }}>
        Export
      </div>
      <div style={{ display: "flex", flexWrap: "wrap", gap: 6 }}>
        {kinds.map(({ name, label, hint }) => (
          <ButtonGroup key={name} size="small" color="inherit">
            <Button
              component="a"
              href={`/api/moves/${looked.move.id}/export?as=${name}`}
              download
              title={hint}
            >
              {label}
            </Button>
            <Button
              component="a"
              href={`/api/moves/${looked.move.id}/export?as=${name}&stage=raw`}
              download
              title={`${hint} As it was rolled, without treatments.`}
              aria-label={`${label}, raw`}
              sx={{ color: ink.chalkDim, px: "6px" }}
            >
              raw
            </Button>
          </ButtonGroup>
        ))}
      </div>
    </section>
  );
}

function Cell({ value, digits, dim }: { value: number | null; digits: number; dim?: boolean }) {
  const text = value === null ? "–" : (Math.abs(value) < 0.5 * 10 ** -digits ? 0 : value).toFixed(digits);
  return (
    <td className="num" style={{ textAlign: "right", paddingLeft: 8, color: dim ? ink.chalkDim : ink.chalk }}>
      {text}
    </td>
  );
}

/** What is wrong with the move, and on which frames; a click goes there. */
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
