import { Button, MenuItem, Select } from "@mui/material";
import { machineThere, useKindWord, useMachines } from "../api";
import { changeMachine, changeRig } from "../camera/setups";
import { newId } from "../document/patch";
import { CarrierRow } from "../form/CarrierRow";
import { ParamForm } from "../form/ParamForm";
import type { Fields } from "../form/params";
import type { Document, MachineKind, MachineView, Piece, PieceId, Rigging, Setup } from "../generated/types";
import { Choice, Row } from "../form/rows";
import { ofMachines, ofPieces, ridersOf, type Carriers } from "../state/carriers";
import { hereS, moment } from "../state/now";
import { ink } from "../theme";
import type { Kind } from "./kinds";
import { RailRows } from "./RailRows";
import { TrackRows } from "./TrackRows";

/** Changes the machine; changes of one gesture are undone together. */
export type Send = (rig: Rigging, gesture?: string) => void;

/** The machine of the setup on the floor: which one, and its exact numbers. */
export function MachinePanel({
  document,
  setup,
  machine,
}: {
  document: Document;
  setup: Setup;
  machine: MachineView;
}) {
  const send: Send = (rig, gesture) => void changeRig(setup, rig, gesture);
  const { rig } = setup;
  return (
    <section
      className="panel scroll"
      aria-label="Machine"
      style={{ height: "100%", padding: "6px 12px", fontSize: 13 }}
    >
      <Chooser setup={setup} />
      {/* A card carries its own camera. */}
      {rig.kind !== "square_to_card" && <CarriedBy document={document} setup={setup} send={send} />}
      <Carries document={document} setup={setup} />
      {rig.kind === "square_to_card" && (
        <p style={{ color: ink.chalkDim }}>
          This camera stands before its card and sees all of it, wherever the card goes. Zooming brings it
          nearer or takes it farther away.
        </p>
      )}
      <ParamForm
        params={machine.params}
        value={rig as unknown as Fields}
        onChange={(next, how) => {
          if (!how.tried) send(next as unknown as Rigging, how.gesture);
        }}
      />
      {rig.kind === "orbit_arm" && (
        <PutPoint
          document={document}
          word="pivot"
          put={(pivot_m) => send({ ...rig, follows: null, pivot_m })}
        />
      )}
      {rig.kind === "rail" && <RailRows document={document} rig={rig} line={machine.line} onChange={send} />}
      {rig.kind === "track_dolly" && (
        <TrackRows track={rig.track} onChange={(track, gesture) => send({ ...rig, track }, gesture)} />
      )}
      {rig.kind === "telescopic_crane" && (
        <>
          <Row label="base">
            <Choice
              label="Base of the crane"
              value={rig.track ? "track" : rig.free ? "free" : "fixed"}
              options={[
                ["fixed", "stands"],
                ["track", "on track"],
                ["free", "pushed over the floor"],
              ]}
              onChange={(base) => send(withBase(rig, base))}
            />
          </Row>
          {rig.track && (
            <TrackRows track={rig.track} onChange={(track, gesture) => send({ ...rig, track }, gesture)} />
          )}
        </>
      )}
    </section>
  );
}

type Crane = Extract<Rigging, { kind: "telescopic_crane" }>;

/** Crane with another base: fixed, on track, or pushed over the floor. */
function withBase(rig: Crane, base: "fixed" | "track" | "free"): Crane {
  const heading_deg = rig.track ? rig.track.heading_deg : rig.heading_deg;
  if (base !== "track") return { ...rig, track: null, free: base === "free", heading_deg };
  if (rig.track) return rig;
  const piece = () => ({ id: newId(), piece: "straight" as const, length_m: 2.44, rise_m: 0 });
  const pieces = Array.from({ length: 3 }, piece);
  const track = {
    x_m: rig.base_x_m,
    z_m: rig.base_z_m,
    height_m: 0.12,
    heading_deg: rig.heading_deg,
    pieces,
  };
  return { ...rig, free: false, track, heading_deg: 0 };
}

/** Choice of the machine; another one is put where the camera is, or as near as it stands free, or gets default
 * values on a carrier. */
function Chooser({ setup }: { setup: Setup }) {
  const machines = useMachines().data ?? [];
  const word = useKindWord();
  const { rig } = setup;
  const choose = async (kind: Kind) => {
    const at = moment();
    const chosen = machines.find((m) => m.rig.kind === kind)?.rig;
    const clear = { setup: setup.id, time_s: hereS() };
    const spec = at && !rig.carried ? await machineThere(kind, at, clear) : chosen;
    if (!spec) return;
    const next = { ...spec, ...(rig.carried ? { carried: rig.carried } : {}) };
    changeMachine(setup, next, word(rig.kind), word(kind));
  };
  // A camera becomes square to a card from the card's own panel.
  const choosable = ({ rig: { kind } }: MachineKind) => kind !== "square_to_card" || kind === rig.kind;
  return (
    <Select
      size="small"
      value={rig.kind}
      onChange={(e) => void choose(e.target.value as Kind)}
      renderValue={word}
      slotProps={{ input: { "aria-label": "Kind of machine" } }}
      sx={{
        fontSize: 14,
        width: "100%",
        mb: 1,
        "& .MuiSelect-select": { py: "3px", px: "8px" },
        "& fieldset": { borderColor: ink.slate3 },
      }}
    >
      {machines.filter(choosable).map((m) => (
        <MenuItem key={m.rig.kind} value={m.rig.kind} sx={{ gap: 2, fontSize: 13 }}>
          <span style={{ flex: 1 }}>{m.word}</span>
          <span style={{ color: ink.chalkDim, fontSize: 12 }}>{m.hands.join(", ")}</span>
        </MenuItem>
      ))}
    </Select>
  );
}

/** Choice of the carrier: the floor, a tram, somebody, another machine's carriage. */
function CarriedBy({ document, setup, send }: { document: Document; setup: Setup; send: Send }) {
  const { pieces, performers, performance } = document.scene;
  const moves = (p: Piece) => !!p.rides || (p.routes ?? []).some((r) => r.performance === performance);
  return (
    <CarrierRow
      value={setup.rig.carried}
      none="nothing: it stands on the floor"
      choices={[
        ...ofPieces(pieces.filter(moves)),
        ...performers.map((p): Carriers[number] => [{ by: "performer", id: p.id }, p.name]),
        ...ofMachines(document, setup.id),
      ]}
      onChange={(carried) => {
        const rig = { ...setup.rig };
        delete rig.carried;
        send(carried ? { ...rig, carried } : rig);
      }}
    />
  );
}

/** Performers and pieces on the machine's carriage. */
function Carries({ document, setup }: { document: Document; setup: Setup }) {
  const names = ridersOf(document, setup.id);
  if (names.length === 0) return null;
  return (
    <Row label="carries">
      <span style={{ textAlign: "right" }}>{names.join(", ")}</span>
    </Row>
  );
}

/** Puts a point onto somebody, a mark, or where the camera looks. */
function PutPoint({
  document,
  word,
  put,
}: {
  document: Document;
  word: string;
  put: (at: [number, number, number]) => void;
}) {
  const marks = document.scene.pieces.filter((p) => p.form.kind === "mark");
  const looks = () => {
    const at = moment();
    if (!at) return;
    const [pan, tilt] = at.angles.map((a) => (a * Math.PI) / 180) as [number, number, number];
    const far = Math.min(at.focus, 20);
    const level = Math.cos(tilt) * far;
    const [x, y, z] = at.position;
    put(
      [x + Math.sin(pan) * level, y + Math.sin(tilt) * far, z - Math.cos(pan) * level].map(
        (v) => Math.round(v * 100) / 100,
      ) as [number, number, number],
    );
  };
  return (
    <Row label={`${word} onto`}>
      {marks.length > 0 && (
        <Choice
          label={`Put the ${word} onto a mark`}
          value={0 as PieceId}
          options={[[0, "a mark"], ...marks.map((m) => [m.id, m.name] as const)]}
          onChange={(id) => {
            const mark = marks.find((m) => m.id === id);
            if (mark) put([mark.position[0], 1.5, mark.position[2]]);
          }}
        />
      )}
      <Button
        onClick={looks}
        title="At the focus distance, where the lens points"
        sx={{ p: "0 6px", fontSize: 12 }}
      >
        Where it looks
      </Button>
    </Row>
  );
}
