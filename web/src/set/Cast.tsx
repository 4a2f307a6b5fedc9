import { Button } from "@mui/material";
import { useClips } from "../api";
import { change, edit } from "../document/edit";
import { newId, token } from "../document/patch";
import type { Asset, Document, Part, PerformanceId, Performer } from "../generated/types";
import { NumberField, TextField } from "../form/fields";
import { ink } from "../theme";
import type { Edits } from "./edits";
import { RouteTable } from "./RouteTable";
import { carried, routeOf, withRoute } from "./routes";
import { CarrierRow } from "../form/CarrierRow";
import { Choice, Row } from "../form/rows";
import { ofMachines, ofPieces } from "../state/carriers";
import { lengthenPath, setSet, take, useSetState } from "../state/set";

/** Performers of the scene, and their parts in the performance that plays. */
export function Cast({ document, edits }: { document: Document; edits: Edits }) {
  const { performers, performance } = document.scene;
  const who = useSetState((s) => s.performer);
  const performer = performers.find((p) => p.id === who);
  return (
    <div style={{ fontSize: 13 }}>
      <div style={{ padding: "8px 12px", borderBottom: `1px solid ${ink.slate3}` }}>
        <Performances document={document} />
      </div>
      <div style={{ padding: "6px 12px", borderBottom: `1px solid ${ink.slate3}` }}>
        {performers.map((p) => (
          <button
            key={p.id}
            className="plain"
            aria-pressed={p.id === who}
            onClick={() => setSet({ performer: p.id, picked: [], waypoint: 0 })}
            style={{
              display: "flex",
              justifyContent: "space-between",
              width: "100%",
              padding: "2px 4px",
              borderRadius: 3,
              ...(p.id === who ? { background: ink.slate2, color: ink.pick } : {}),
            }}
          >
            <span>{p.name}</span>
            <span style={{ color: ink.chalkDim }}>{doing(p, performance)}</span>
          </button>
        ))}
        {performers.length === 0 && (
          <p style={{ margin: "2px 0", color: ink.chalkDim }}>Nobody is in this scene yet.</p>
        )}
        <Button title="P" onClick={() => take("path")} sx={{ mt: 1 }}>
          Somebody new
        </Button>
      </div>
      {performer && <One key={performer.id} performer={performer} document={document} edits={edits} />}
    </div>
  );
}

function doing(p: Performer, performance: PerformanceId) {
  const part = p.parts.find((q) => q.performance === performance);
  if (!part) return "not in it";
  if (part.motion === "captured") return "captured";
  if (part.rides) return "rides";
  return part.route.waypoints.length > 1 ? "walks" : "stands";
}

function Performances({ document }: { document: Document }) {
  const { id, performances, performance } = document.scene;
  const playing = performances.find((p) => p.id === performance);
  const another = () => {
    const name = `alternative ${performances.length}`;
    const path = `/performances/${token(newId())}`;
    void edit(`add performance ${name}`, [{ op: "add", path, value: { name, like: performance } }]);
  };
  return (
    <>
      <Row label="performance">
        <Choice
          label="Performance"
          value={performance}
          onChange={(p) =>
            void change("show another performance", `/scenes/${id}/performance`, performance, p)
          }
          options={performances.map((p) => [p.id, p.name] as const)}
        />
      </Row>
      <Row label="called">
        <TextField
          label="Name of the performance"
          value={playing?.name ?? ""}
          onKeep={(name) =>
            void change("name a performance", `/performances/${performance}/name`, playing?.name, name)
          }
        />
      </Row>
      <div style={{ display: "flex", gap: 6 }}>
        <Button onClick={another} title="Everybody does the same, until you change it">
          Another like this
        </Button>
        {performances.length > 1 && (
          <Button
            onClick={() =>
              void edit("remove a performance", [{ op: "remove", path: `/performances/${performance}` }])
            }
          >
            Remove
          </Button>
        )}
      </div>
    </>
  );
}

function One({ performer, document, edits }: { performer: Performer; document: Document; edits: Edits }) {
  const { performance, pieces } = document.scene;
  const put = (next: Partial<Performer>, gesture?: string) =>
    edits.changePerformer(performer, { ...performer, ...next }, `change ${performer.name}`, gesture);
  const part = performer.parts.find((p) => p.performance === performance);
  const route = routeOf(performer, performance);
  const putPart = (next: Part, gesture?: string) =>
    put({ parts: performer.parts.map((p) => (p.performance === performance ? next : p)) }, gesture);
  const h = performer.height_m;
  return (
    <div style={{ padding: "6px 12px" }}>
      <TextField
        label="Name of the performer"
        value={performer.name}
        onKeep={(name) => edits.changePerformer(performer, { ...performer, name }, `name ${name}`)}
        style={{ fontWeight: 500, fontSize: 14 }}
      />
      <Row label="height, build">
        <NumberField
          label="Height of the performer"
          unit="m"
          min={0.3}
          max={3}
          step={0.01}
          value={h}
          onChange={(height_m, gesture) => put({ height_m }, gesture)}
        />
        <NumberField
          label="Build"
          unit=""
          min={0.5}
          max={2}
          step={0.05}
          value={performer.build}
          onChange={(build, gesture) => put({ build }, gesture)}
        />
      </Row>
      <Row label="eye line, chest">
        <span className="num">
          {(0.936 * h).toFixed(2)} <span className="unit">m</span> {(0.7 * h).toFixed(2)}{" "}
          <span className="unit">m</span>
        </span>
      </Row>
      {part && (
        <CarrierRow
          value={part.rides}
          none="nothing"
          choices={[...ofPieces(pieces), ...ofMachines(document)]}
          onChange={(carrier) => putPart(carried(part, carrier, pieces))}
        />
      )}
      {route && (
        <RouteTable
          name={performer.name}
          route={route}
          figure
          onChange={(next, label, gesture) =>
            edits.changePerformer(performer, withRoute(performer, performance, next), label, gesture)
          }
        />
      )}
      {part?.motion === "captured" && <Captured part={part} assets={document.assets} onChange={putPart} />}
      {!part && (
        <p style={{ color: ink.chalkDim }}>
          Not in this performance. <Button onClick={lengthenPath}>Add places</Button>
        </p>
      )}
      <div style={{ marginTop: 6 }}>
        <Button
          onClick={() => {
            edits.removePerformer(performer);
            setSet({ performer: null });
          }}
        >
          Remove {performer.name}
        </Button>
      </div>
    </div>
  );
}

type CapturedPart = Extract<Part, { motion: "captured" }>;

function Captured(props: {
  part: CapturedPart;
  /** Assets of the production. */
  assets: Asset[];
  onChange: (p: Part, gesture?: string) => void;
}) {
  const { part, assets, onChange } = props;
  const clips = useClips(assets.length).data ?? [];
  const field = (label: string, unit: string, value: number, put: (v: number) => Partial<CapturedPart>) => (
    <NumberField
      label={label}
      unit={unit}
      step={unit === "°" ? 5 : 0.1}
      value={value}
      onChange={(v, gesture) => onChange({ ...part, ...put(v) }, gesture)}
    />
  );
  const [x, y, z] = part.position;
  const [from, to] = part.trim_s;
  return (
    <div>
      <Row label="motion">
        <Choice
          label="Motion"
          value={part.clip}
          options={assets.filter((a) => a.kind === "clip").map((a) => [a.id, a.name] as const)}
          onChange={(id) => {
            const length = clips.find((c) => c.id === id)?.length_s ?? 0;
            onChange({ ...part, clip: id, trim_s: [0, Math.max(length, 0.01)] });
          }}
        />
      </Row>
      <Row label="begins at">{field("Begins at", "s", part.start_s, (start_s) => ({ start_s }))}</Row>
      <Row label="plays from, to">
        {field("Plays from", "s", from, (v) => ({ trim_s: [v, to] }))}
        {field("Plays to", "s", to, (v) => ({ trim_s: [from, v] }))}
      </Row>
      <Row label="x, z">
        {field("Begins at x", "m", x, (v) => ({ position: [v, y, z] }))}
        {field("Begins at z", "m", z, (v) => ({ position: [x, y, v] }))}
      </Row>
      <Row label="turned">{field("Turned", "°", part.turn_deg, (turn_deg) => ({ turn_deg }))}</Row>
    </div>
  );
}
