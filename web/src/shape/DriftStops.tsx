import { useStops } from "../api";
import type { Drift, DriftStop } from "../generated/types";
import type { Looked } from "../state/looked";
import { seek } from "../state/transport";
import { ink } from "../theme";

type IntendedStops = NonNullable<Drift["leave"]>;

const words = { goes_on: "goes on", turns: "turns", left: "left", stays: "stays" };

const has = (stop: DriftStop) => (m: IntendedStops[number]) =>
  m.axis === stop.axis && m.at_s >= stop.from_s && m.at_s <= stop.to_s;

/** The stops that a drift finds: gone to by a click, and left where they are meant. */
export function DriftStops(props: {
  looked: Looked;
  treatment: number;
  leave: IntendedStops;
  onLeave: (leave: IntendedStops) => void;
}) {
  const { looked, treatment, leave, onLeave } = props;
  const stops = useStops(looked, treatment).data;
  if (!stops) return null;
  if (stops.length === 0)
    return (
      <p style={{ margin: "2px 0", color: ink.chalkDim }}>Nothing stands still in the middle of the move.</p>
    );
  const turn = (stop: DriftStop) =>
    onLeave(
      stop.becomes === "left"
        ? leave.filter((m) => !has(stop)(m))
        : [...leave, { axis: stop.axis, at_s: (stop.from_s + stop.to_s) / 2 }],
    );
  return (
    <ul aria-label="Stops" style={{ listStyle: "none", margin: "2px 0 6px", padding: 0 }}>
      {stops.map((stop) => {
        const name = `${stop.axis} at ${stop.from_s.toFixed(1)} s`;
        return (
          <li key={name} style={{ display: "flex", gap: 8, fontSize: 12.5 }}>
            <button
              className="plain"
              style={{ flex: 1, textAlign: "left" }}
              title="Go there"
              onClick={() => seek(stop.from_s)}
            >
              {stop.axis}{" "}
              <span className="num">
                {stop.from_s.toFixed(1)}–{stop.to_s.toFixed(1)} s
              </span>
            </button>
            {stop.becomes === "stays" ? (
              <span
                style={{ color: ink.chalkDim }}
                title="It comes or leaves too slowly: let it take more time"
              >
                stays
              </span>
            ) : (
              <button
                className="plain"
                aria-pressed={stop.becomes === "left"}
                aria-label={`Leave ${name}`}
                style={{ color: stop.becomes === "left" ? ink.chalkDim : ink.within }}
                onClick={() => turn(stop)}
              >
                {words[stop.becomes]}
              </button>
            )}
          </li>
        );
      })}
    </ul>
  );
}
