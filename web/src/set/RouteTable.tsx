import { Button } from "@mui/material";
import type { Route, Waypoint } from "../generated/types";
import { NumberField, TextField } from "../form/fields";
import { ink } from "../theme";
import { speed, withSpeed, withStop } from "./routes";
import { Choice, Row } from "../form/rows";
import { setSet, useSetState, lengthenPath } from "../state/set";

interface Props {
  name: string;
  route: Route;
  /** Of a figure, which looks about and sits. */
  figure: boolean;
  onChange: (route: Route, label: string, gesture?: string) => void;
}

/** The places of a path in time: when, how long, how fast, and what is done there. */
export function RouteTable({ name, route, figure, onChange }: Props) {
  const here = Math.min(
    useSetState((s) => s.waypoint),
    route.waypoints.length - 1,
  );
  const w = route.waypoints[here];
  const put = (part: Partial<Waypoint>, gesture?: string) =>
    onChange(
      { waypoints: route.waypoints.map((old, i) => (i === here ? { ...old, ...part } : old)) },
      `change the path of ${name}`,
      gesture,
    );
  const next = route.waypoints[here + 1];
  return (
    <div style={{ marginTop: 6 }}>
      <div style={{ display: "flex", justifyContent: "space-between", alignItems: "center" }}>
        <span className="label">path</span>
        <Button title="Click them onto the plan; Esc ends" onClick={lengthenPath}>
          Add places
        </Button>
      </div>
      <div
        role="listbox"
        aria-label={`Places of ${name}`}
        style={{ display: "flex", flexWrap: "wrap", gap: 3, margin: "4px 0" }}
      >
        {route.waypoints.map((place, i) => (
          <button
            key={i}
            role="option"
            aria-selected={i === here}
            className="plain num"
            title={place.mark ?? `place ${i + 1}`}
            onClick={() => setSet({ waypoint: i })}
            style={{
              padding: "0 5px",
              borderRadius: 3,
              fontSize: 12,
              lineHeight: "18px",
              border: `1px solid ${i === here ? ink.pick : ink.slate3}`,
              color: i === here ? ink.pick : ink.chalkDim,
            }}
          >
            {place.time_s.toFixed(1)}
          </button>
        ))}
      </div>
      {w && (
        <>
          <Row label="arrives at, stays">
            <NumberField
              label="Arrives at"
              unit="s"
              step={0.1}
              value={w.time_s}
              onChange={(time_s, gesture) => put({ time_s }, gesture)}
            />
            <NumberField
              label="Stays for"
              unit="s"
              step={0.1}
              min={0}
              value={w.stop_s}
              onChange={(v, gesture) => onChange(withStop(route, here, v), `let ${name} stay`, gesture)}
            />
          </Row>
          {next && (
            <Row label="goes on at">
              <NumberField
                label="Speed to the next place"
                unit="m/s"
                step={0.05}
                min={0.01}
                value={speed(w, next)}
                onChange={(v, gesture) => onChange(withSpeed(route, here, v), `pace ${name}`, gesture)}
              />
            </Row>
          )}
          <Row label="floor height">
            <NumberField
              label="Height of the place"
              unit="m"
              step={0.05}
              value={w.position[1]}
              onChange={(y, gesture) => put({ position: [w.position[0], y, w.position[2]] }, gesture)}
            />
          </Row>
          <Row label={figure ? "looks" : "turned"}>
            {w.facing_deg == null ? (
              <Button onClick={() => put({ facing_deg: 0 })}>{figure ? "ahead" : "as it stands"}</Button>
            ) : (
              <>
                <NumberField
                  label={figure ? "Looks towards" : "Turned to"}
                  unit="°"
                  digits={0}
                  step={5}
                  value={w.facing_deg}
                  onChange={(facing_deg, gesture) => put({ facing_deg }, gesture)}
                />
                <Button
                  onClick={() => {
                    const plain = { ...w };
                    delete plain.facing_deg;
                    const waypoints = route.waypoints.map((old, i) => (i === here ? plain : old));
                    onChange({ waypoints }, `change the path of ${name}`);
                  }}
                >
                  free
                </Button>
              </>
            )}
          </Row>
          {figure && (
            <Row label="on arrival">
              <Choice
                label="Posture"
                value={w.posture ?? "stand"}
                onChange={(posture) => put({ posture })}
                options={[
                  ["stand", "stands"],
                  ["sit", "sits"],
                ]}
              />
            </Row>
          )}
          <Row label="word on the time strip">
            <TextField
              label="Word on the time strip"
              value={w.mark ?? ""}
              placeholder="none"
              width={110}
              style={{ textAlign: "right" }}
              onKeep={(mark) => put({ mark })}
            />
          </Row>
          {route.waypoints.length > 1 && (
            <Button
              onClick={() =>
                onChange(
                  { waypoints: route.waypoints.filter((_, i) => i !== here) },
                  `remove a place of ${name}`,
                )
              }
            >
              Remove this place
            </Button>
          )}
        </>
      )}
    </div>
  );
}
