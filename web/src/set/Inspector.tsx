import { Button } from "@mui/material";
import { useState } from "react";
import { CarrierRow } from "../form/CarrierRow";
import { ParamForm } from "../form/ParamForm";
import type { Fields } from "../form/params";
import type { Document, Form, Piece, Setup } from "../generated/types";
import { lengthText, readQuantity } from "../quantity";
import { newId } from "../document/patch";
import { NumberField, TextField } from "../form/fields";
import { ink } from "../theme";
import { CardRows } from "./CardRows";
import type { Edits } from "./edits";
import { settable, sizeOf, withSize, wordOf, type Size } from "./kinds";
import { roomOf, roomSized } from "./room";
import { RouteTable } from "./RouteTable";
import { pieceRoute, withPieceRoute } from "./routes";
import { Choice, Row, Toggle } from "../form/rows";
import { ofMachines } from "../state/carriers";
import { showFeet, useView } from "../state/view";
import { setSet, useSetState } from "../state/set";

/** Picked pieces in exact numbers; the stage when nothing is picked. */
export function Inspector({ document, edits }: { document: Document; edits: Edits }) {
  const picked = useSetState((s) => s.picked);
  const pieces = document.scene.pieces.filter((p) => picked.includes(p.id));
  return (
    <div style={{ padding: "8px 12px", fontSize: 13, borderBottom: `1px solid ${ink.slate3}` }}>
      {pieces.length === 0 ? (
        <Stage document={document} edits={edits} />
      ) : pieces.length === 1 ? (
        <One key={pieces[0]!.id} piece={pieces[0]!} document={document} edits={edits} />
      ) : (
        <Many pieces={pieces} document={document} edits={edits} />
      )}
      {pieces.length > 0 && (
        <Deeds
          ids={pieces.map((p) => p.id)}
          pieces={pieces}
          setups={document.setups.filter((s) => !s.binned)}
          edits={edits}
        />
      )}
    </div>
  );
}

/** Several at once: how many; of a room, how wide and deep it is inside. */
function Many({ pieces, document, edits }: { pieces: Piece[]; document: Document; edits: Edits }) {
  const room = roomOf(pieces);
  const field = (k: 0 | 1, label: string) => (
    <NumberField
      label={label}
      unit="m"
      step={0.1}
      min={0.2}
      max={500}
      value={room!.inside[k]}
      onChange={(value, gesture) => {
        const inside: [number, number] = k === 0 ? [value, room!.inside[1]] : [room!.inside[0], value];
        edits.put(roomSized(room!, inside, document.scene.pieces), "size a room", gesture);
      }}
    />
  );
  return (
    <>
      <span className="label">{room ? "Room" : `${pieces.length} pieces picked`}</span>
      {room && (
        <Row label="inside, width × depth">
          {field(0, "Room width")}
          <span style={{ color: ink.chalkDim }}>×</span>
          {field(1, "Room depth")}
        </Row>
      )}
    </>
  );
}

function Stage({ document, edits }: { document: Document; edits: Edits }) {
  const { stage, length_s } = document.scene;
  const { grid } = useSetState();
  const feet = useView((s) => s.feet);
  const field = (key: keyof typeof stage, label: string) => (
    <NumberField
      label={label}
      unit="m"
      min={1}
      max={500}
      value={stage[key]}
      onChange={(value, gesture) => edits.stage(stage, { ...stage, [key]: value }, gesture)}
    />
  );
  return (
    <>
      <span className="label">Stage</span>
      <Row label="wide, deep">
        {field("width_m", "Stage width")}
        {field("depth_m", "Stage depth")}
      </Row>
      <Row label="ceiling">{field("height_m", "Ceiling height")}</Row>
      <Row label="scene lasts">
        <NumberField
          label="Scene length"
          unit="s"
          min={0.1}
          max={3600}
          digits={1}
          value={length_s}
          onChange={(v, gesture) => edits.length(v, gesture)}
        />
      </Row>
      <Row label="grid">
        <Choice
          label="Grid"
          value={grid}
          onChange={(g) => setSet({ grid: g })}
          options={[0, 0.05, 0.1, 0.25, 0.5, 1].map(
            (g) => [g, g ? `${lengthText(g, feet)}${feet ? "" : " m"}` : "off"] as const,
          )}
        />
      </Row>
      <Row label="lengths in">
        <Choice
          label="Lengths in"
          value={feet ? "feet" : "metres"}
          onChange={(v) => showFeet(v === "feet")}
          options={[
            ["metres", "metres"],
            ["feet", "feet and inches"],
          ]}
        />
      </Row>
    </>
  );
}

function One({ piece, document, edits }: { piece: Piece; document: Document; edits: Edits }) {
  const { form } = piece;
  const size = sizeOf(form);
  const put = (part: Partial<Piece>, gesture: string) =>
    edits.change(piece, { ...piece, ...part }, `change ${piece.name}`, gesture);
  const place = (k: 0 | 1 | 2, label: string) => (
    <NumberField
      key={k}
      label={label}
      unit="m"
      step={0.05}
      value={piece.position[k]}
      onChange={(v, gesture) =>
        put({ position: piece.position.map((p, i) => (i === k ? v : p)) as Piece["position"] }, gesture)
      }
    />
  );
  const extent = (k: 0 | 1 | 2, label: string) =>
    size?.[k] == null ? null : (
      <NumberField
        key={k}
        label={label}
        unit="m"
        step={0.05}
        min={0.01}
        value={size[k]}
        onChange={(v, gesture) =>
          put({ form: withSize(form, size.map((s, i) => (i === k ? v : s)) as Size) }, gesture)
        }
      />
    );
  const route = pieceRoute(piece, document.scene.performance);
  return (
    <>
      <div style={{ display: "flex", justifyContent: "space-between", gap: 8 }}>
        <TextField
          label="Name of the piece"
          value={piece.name}
          onKeep={(name) => edits.change(piece, { ...piece, name }, `name ${name}`)}
          style={{ fontWeight: 500, fontSize: 14 }}
        />
        <span className="label" style={{ alignSelf: "center" }}>
          {wordOf(form.kind)}
        </span>
      </div>
      <Row label="x, z">
        {place(0, "Place x")}
        {place(2, "Place z")}
      </Row>
      <Row label="foot over floor">{place(1, "Foot over the floor")}</Row>
      <Row label="turned">
        <NumberField
          label="Turned"
          unit="°"
          digits={1}
          step={1}
          value={piece.turn_deg}
          onChange={(v, gesture) => put({ turn_deg: ((v % 360) + 360) % 360 }, gesture)}
        />
      </Row>
      {size && (
        <Row label="long, deep">
          {extent(0, "Length")}
          {extent(2, "Depth")}
        </Row>
      )}
      {size?.[1] != null && <Row label="high">{extent(1, "Height")}</Row>}
      <ParamForm
        params={settable(form)}
        value={form as unknown as Fields}
        onChange={(next, how) => {
          if (!how.tried) put({ form: next as unknown as Form }, how.gesture ?? crypto.randomUUID());
        }}
      />
      {form.kind === "card" && (
        <CardRows
          piece={piece}
          form={form}
          onChange={(next, gesture) => put({ form: next }, gesture ?? crypto.randomUUID())}
        />
      )}
      {form.kind === "card" && (
        <Row label="turns to">
          <Choice
            label="Turns to"
            value={form.toward ?? 0}
            onChange={(id) => put({ form: { ...form, toward: id || null } }, crypto.randomUUID())}
            options={[
              [0, "stays as it is"],
              ...document.setups.filter((s) => !s.binned).map((s) => [s.id, `camera ${s.letter}`] as const),
            ]}
          />
        </Row>
      )}
      <CarrierRow
        value={piece.rides}
        none="nothing"
        choices={ofMachines(document)}
        onChange={(carrier) => {
          const next = { ...piece };
          delete next.rides;
          edits.change(
            piece,
            carrier ? { ...next, rides: carrier } : next,
            `change what carries ${piece.name}`,
          );
        }}
      />
      {route ? (
        <RouteTable
          name={piece.name}
          route={route}
          figure={false}
          onChange={(next, label, gesture) =>
            edits.change(piece, withPieceRoute(piece, document.scene.performance, next), label, gesture)
          }
        />
      ) : (
        <Row label="stands still">
          <Button
            onClick={() => {
              const start = {
                id: newId(),
                time_s: 0,
                stop_s: 1,
                position: piece.position,
                posture: "stand" as const,
              };
              const next = { waypoints: [start] };
              edits.change(
                piece,
                withPieceRoute(piece, document.scene.performance, next),
                `let ${piece.name} move`,
              );
              setSet({ tool: "path", waypoint: 0 });
            }}
          >
            Let it move
          </Button>
        </Row>
      )}
    </>
  );
}

/** Actions on the picked pieces. */
function Deeds({
  ids,
  pieces,
  setups,
  edits,
}: {
  ids: number[];
  pieces: Piece[];
  setups: Setup[];
  edits: Edits;
}) {
  const [typed, setTyped] = useState("");
  const [axis, setAxis] = useState<"x" | "z">("x");
  const repeat = () => {
    // "5 × 6 m" is five in all, six metres apart; so is "5 x 20ft".
    const found = /^\s*(\d+)\s*[x×*]\s*(.+)$/i.exec(typed);
    const every = found && readQuantity(found[2]!, "m");
    if (!found || every === null) return;
    edits.repeat(ids, Math.min(50, Number(found[1]) - 1), axis === "x" ? [every, 0] : [0, every]);
    setTyped("");
  };
  const all = (key: "locked" | "hidden") => pieces.every((p) => p[key]);
  const together = pieces.length > 1 && pieces.every((p) => p.group > 0 && p.group === pieces[0]!.group);
  return (
    <>
      <div style={{ display: "flex", gap: 5, flexWrap: "wrap", marginTop: 6 }}>
        <Button title="Ctrl D" onClick={() => edits.repeat(ids, 1, [0.5, 0.5])}>
          Duplicate
        </Button>
        {pieces.length > 1 && (
          <Button title="Ctrl G" onClick={() => edits.group(ids)}>
            {together ? "Ungroup" : "Group"}
          </Button>
        )}
        <Button onClick={() => edits.flag(ids, "locked")}>{all("locked") ? "Unlock" : "Lock"}</Button>
        <Button onClick={() => edits.flag(ids, "hidden")}>{all("hidden") ? "Show" : "Hide"}</Button>
        <Button title="Delete" onClick={() => edits.remove(ids)}>
          Remove
        </Button>
      </div>
      {setups.length > 0 && (
        <Row label="wild for">
          {setups.map((s) => (
            <Toggle
              key={s.id}
              on={pieces.every((p) => p.wild?.includes(s.id))}
              label={s.letter}
              name={`Taken out for setup ${s.letter}`}
              title={`Is not there when setup ${s.letter} looks: a wild wall`}
              onClick={() => edits.takeOut(ids, s)}
            />
          ))}
        </Row>
      )}
      <Row label="repeat along">
        <Choice
          label="Repeat along"
          value={axis}
          onChange={setAxis}
          options={[
            ["x", "x"],
            ["z", "z"],
          ]}
        />
        <input
          className="inplace num"
          aria-label="Repeat, count × distance"
          placeholder="5 × 6 m"
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          onKeyDown={(e) => e.key === "Enter" && repeat()}
          style={{ width: 86, textAlign: "right" }}
        />
        <Button disabled={!typed} onClick={repeat}>
          Repeat
        </Button>
      </Row>
    </>
  );
}
