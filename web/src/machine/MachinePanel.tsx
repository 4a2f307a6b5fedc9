import { Button, MenuItem, Select } from "@mui/material";
import { useMachines } from "../api";
import { changeRig } from "../camera/setups";
import { newId } from "../document/patch";
import type { Carrier, Document, MachineView, Rigging, Setup } from "../generated/types";
import { Choice, Row, Toggle } from "../set/rows";
import { NumberField } from "../shell/fields";
import { lookable } from "../state/looked";
import { moment } from "../state/now";
import { ink } from "../theme";
import { arms, kindWord, numberAt, numbersOf, placed, withNumber, type Kind } from "./kinds";
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
  const lines = numbersOf[rig.kind].filter(
    ([, , fields]) => !(rig.kind === "telescopic_crane" && rig.track && fields[0]![0].startsWith("base_")),
  );
  return (
    <section
      className="panel scroll"
      aria-label="Machine"
      style={{ height: "100%", padding: "6px 12px", fontSize: 13 }}
    >
      <Chooser setup={setup} send={send} />
      <CarriedBy document={document} setup={setup} send={send} />
      {rig.kind === "square_to_card" && (
        <p style={{ color: ink.chalkDim }}>
          This camera stands before its card and sees all of it, wherever the card goes. Zooming brings it
          nearer or takes it farther away.
        </p>
      )}
      <Switches document={document} rig={rig} send={send} />
      {lines.map(([label, unit, fields]) => (
        <Row key={label} label={label}>
          {fields.map(([path, name]) => (
            <NumberField
              key={path}
              label={name}
              unit={unit}
              digits={unit === "°" ? 1 : 2}
              step={unit === "°" ? 1 : 0.05}
              value={numberAt(rig, path)}
              onChange={(value, gesture) => send(withNumber(rig, path, value), gesture)}
            />
          ))}
        </Row>
      ))}
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

/** The same crane with its base fixed, on track, or pushed over the floor. */
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

/** Which machine; another one is put where the camera is. */
function Chooser({ setup, send }: { setup: Setup; send: Send }) {
  const machines = useMachines().data ?? [];
  const { rig } = setup;
  const choose = (kind: Kind) => {
    const chosen = machines.find((m) => m.rig.kind === kind);
    const at = moment();
    if (!chosen) return;
    const spec =
      at && !rig.carried ? placed(chosen.rig, { position: at.position, pan: at.angles[0] }) : chosen.rig;
    send({ ...spec, ...(rig.carried ? { carried: rig.carried } : {}) });
  };
  return (
    <Select
      size="small"
      value={rig.kind}
      onChange={(e) => choose(e.target.value as Kind)}
      renderValue={(kind) => kindWord[kind as Kind]}
      slotProps={{ input: { "aria-label": "Kind of machine" } }}
      sx={{
        fontSize: 14,
        width: "100%",
        mb: 1,
        "& .MuiSelect-select": { py: "3px", px: "8px" },
        "& fieldset": { borderColor: ink.slate3 },
      }}
    >
      {rig.kind === "square_to_card" && <MenuItem value="square_to_card">square to a card</MenuItem>}
      {machines.map((m) => (
        <MenuItem key={m.rig.kind} value={m.rig.kind} sx={{ gap: 2, fontSize: 13 }}>
          <span style={{ flex: 1 }}>{kindWord[m.rig.kind]}</span>
          <span style={{ color: ink.chalkDim, fontSize: 12 }}>
            {m.hands.filter((h) => !["pan", "tilt", "roll", "zoom", "focus"].includes(h)).join(", ")}
          </span>
        </MenuItem>
      ))}
    </Select>
  );
}

const carrierText = (c: Carrier | undefined) =>
  !c ? "floor" : c.by === "setup" ? `setup ${c.id} ${c.move ?? ""}` : `${c.by} ${c.id}`;

/** What carries the machine: the floor, a tram, somebody, another machine's carriage. */
function CarriedBy({ document, setup, send }: { document: Document; setup: Setup; send: Send }) {
  const { pieces, performers, performance } = document.scene;
  const moving = pieces.filter((p) => (p.routes ?? []).some((r) => r.performance === performance));
  const others = document.setups.filter((s) => s.id !== setup.id && !s.binned);
  const moves = lookable(document).filter((l) => l.move.setup_id !== setup.id);
  const choices: [Carrier | undefined, string][] = [
    [undefined, "the floor"],
    ...moving.map((p): [Carrier, string] => [{ by: "piece", id: p.id }, p.name]),
    ...performers.map((p): [Carrier, string] => [{ by: "performer", id: p.id }, p.name]),
    ...others.map((s): [Carrier, string] => [{ by: "setup", id: s.id, move: null }, `machine ${s.letter}`]),
    ...moves.map((l): [Carrier, string] => {
      const letter = document.setups.find((s) => s.id === l.move.setup_id)?.letter ?? "";
      return [
        { by: "setup", id: l.move.setup_id, move: l.move.id },
        `machine ${letter}, ${l.take ? l.title : l.name || l.title}`,
      ];
    }),
  ];
  const choose = (text: string) => {
    const carried = choices.find(([c]) => carrierText(c) === text)?.[0];
    const rig = { ...setup.rig };
    delete rig.carried;
    send(carried ? { ...rig, carried } : rig);
  };
  const now = carrierText(setup.rig.carried);
  const known = choices.some(([c]) => carrierText(c) === now);
  return (
    <Row label="carried by">
      <Choice
        label="Carried by"
        value={now}
        options={[
          ...choices.map(([c, word]) => [carrierText(c), word] as const),
          ...(known ? [] : [[now, "something that is gone"] as const]),
        ]}
        onChange={choose}
      />
    </Row>
  );
}

/** Whom a machine may follow. */
export function Follows({
  document,
  value,
  none,
  onChange,
}: {
  document: Document;
  value: number | null;
  none: string;
  onChange: (id: number | null) => void;
}) {
  return (
    <Choice
      label="Follows"
      value={value ?? 0}
      options={[[0, none], ...document.scene.performers.map((p) => [p.id, p.name] as const)]}
      onChange={(id) => onChange(id || null)}
    />
  );
}

/** What a machine has that is no number. */
function Switches({ document, rig, send }: { document: Document; rig: Rigging; send: Send }) {
  const head = (rig.kind === "telescopic_crane" || rig.kind === "jib") && (
    <Row label="head">
      <Choice
        label="Head"
        value={rig.head}
        options={[
          ["level", "kept level"],
          ["lean", "leans with the arm"],
        ]}
        onChange={(value) => send({ ...rig, head: value })}
      />
    </Row>
  );
  switch (rig.kind) {
    case "telescopic_crane": {
      const arm = arms.find(([, min, max]) => min === rig.reach_min_m && max === rig.reach_max_m);
      const limited = rig.swing_limit_deg !== null;
      return (
        <>
          <Row label="arm">
            <Choice
              label="Arm"
              value={arm?.[0] ?? "own"}
              options={[
                ...arms.map(([name, min, max]) => [name, `${name}, ${min}–${max} m`] as const),
                ["own", "own"],
              ]}
              onChange={(name) => {
                const model = arms.find(([n]) => n === name);
                if (model) send({ ...rig, reach_min_m: model[1], reach_max_m: model[2] });
              }}
            />
          </Row>
          {head}
          <Row label="swing">
            {limited && (
              <NumberField
                label="Swing to each side"
                unit="°"
                digits={0}
                step={1}
                value={rig.swing_limit_deg ?? 0}
                onChange={(swing_limit_deg, gesture) => send({ ...rig, swing_limit_deg }, gesture)}
              />
            )}
            <Choice
              label="Swing"
              value={limited ? "limited" : "around"}
              options={[
                ["around", "all round"],
                ["limited", "to each side"],
              ]}
              onChange={(v) => send({ ...rig, swing_limit_deg: v === "limited" ? 120 : null })}
            />
          </Row>
        </>
      );
    }
    case "jib":
      return head || null;
    case "free_dolly":
      return (
        <Row label="steering">
          <Choice
            label="Steering"
            value={rig.steering}
            options={[
              ["rear", "rear axle"],
              ["crab", "crab, all wheels"],
              ["round", "round, both axles"],
            ]}
            onChange={(steering) => send({ ...rig, steering })}
          />
        </Row>
      );
    case "orbit_arm":
      return (
        <>
          <Row label="pivot goes with">
            <Follows
              document={document}
              value={rig.follows}
              none="nobody"
              onChange={(follows) => send({ ...rig, follows, pivot_m: follows ? [0, 0, 0] : rig.pivot_m })}
            />
          </Row>
          <PutPoint
            document={document}
            word="pivot"
            put={(pivot_m) => send({ ...rig, follows: null, pivot_m })}
          />
        </>
      );
    case "aim_rig":
      return (
        <>
          <Row label="aim goes with">
            <Follows
              document={document}
              value={rig.follows}
              none="the root"
              onChange={(follows) => send({ ...rig, follows, aim_m: follows ? [0, 0, 0] : [0, 1.5, -2] })}
            />
            <Toggle
              on={rig.focus_follows}
              label="focus too"
              onClick={() => send({ ...rig, focus_follows: !rig.focus_follows })}
            />
          </Row>
        </>
      );
    case "shoulder":
      return (
        <Row label="stabiliser">
          <Choice
            label="Stabiliser"
            value={rig.stabiliser}
            options={[
              [0, "none"],
              [0.3, "light"],
              [0.6, "strong"],
              [1, "full gimbal"],
              ...([0, 0.3, 0.6, 1].includes(rig.stabiliser)
                ? []
                : [[rig.stabiliser, `${Math.round(rig.stabiliser * 100)} %`] as [number, string]]),
            ]}
            onChange={(stabiliser) => send({ ...rig, stabiliser })}
          />
        </Row>
      );
    case "free_camera":
      return (
        <Row label="flies">
          <Toggle
            on={rig.along_view}
            label="where it looks"
            onClick={() => send({ ...rig, along_view: !rig.along_view })}
          />
          <Toggle on={rig.floor} label="over floor" onClick={() => send({ ...rig, floor: !rig.floor })} />
          <Toggle on={rig.walls} label="off walls" onClick={() => send({ ...rig, walls: !rig.walls })} />
        </Row>
      );
    default:
      return null;
  }
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
          value={0}
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
