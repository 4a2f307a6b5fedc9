import { Button } from "@mui/material";
import { useDevices, useListen, useStandIn } from "../api";
import { changeTracking } from "../camera/setups";
import type { Mapping, Setup, Socket, Steady, Tracking } from "../generated/types";
import { holdsWheels, useFloor } from "../live/link";
import { Choice, Row, Toggle } from "../form/rows";
import { SteadyRows } from "./SteadyRows";
import { NumberField, TextField } from "../form/fields";
import { ink } from "../theme";
import { attachOrLetGo } from "./attach";
import { LiveOutRows } from "./LiveOutRows";
import { PhoneRows } from "./PhoneRows";
import { protocolWord, sourcesWith } from "./words";

const axes = ["x", "y", "z", "pan", "tilt", "roll"];

/** Tracked devices: who is heard, how well, and how their motion becomes the camera's. */
export function DevicesPanel({ setup }: { setup: Setup }) {
  const view = useDevices().data;
  const [listen, standIn] = [useListen(), useStandIn()];
  const status = useFloor((s) => s.status?.tracking);
  const mine = useFloor(holdsWheels);
  const { tracking } = setup;
  const { mapping, steady, second } = tracking;
  const keep = (part: Partial<Tracking>, gesture?: string) => changeTracking(setup, part, gesture);
  const map = (part: Partial<Mapping>, gesture?: string) =>
    keep({ mapping: { ...mapping, ...part } }, gesture);
  const hold = (part: Partial<Steady>, gesture?: string) => keep({ steady: { ...steady, ...part } }, gesture);
  const sockets = view?.sockets ?? [];
  const named = (chosen: string) => sourcesWith(chosen, view);
  const change = (i: number, part: Partial<Socket>) =>
    listen.mutate(
      sockets.map(({ protocol, address, port, on }, k) => ({
        protocol,
        address,
        port,
        on,
        ...(k === i ? part : {}),
      })),
    );
  return (
    <section className="panel scroll" aria-label="Devices" style={{ height: "100%", padding: "8px 12px" }}>
      {sockets.map((socket, i) => (
        <div key={socket.protocol}>
          <Row label={protocolWord[socket.protocol]}>
            <TextField
              label={`Address for ${protocolWord[socket.protocol]}`}
              width={82}
              value={socket.address}
              onKeep={(address) => change(i, { address })}
            />
            <NumberField
              label={`Port for ${protocolWord[socket.protocol]}`}
              unit=""
              digits={0}
              step={1}
              min={0}
              max={65535}
              value={socket.open ?? socket.port}
              onChange={(port) => change(i, { port })}
            />
            <Toggle
              on={socket.on}
              label={socket.on ? "listens" : "listen"}
              title="UDP; 127.0.0.1 takes devices of this machine only, 0.0.0.0 those of the network"
              onClick={() => change(i, { on: !socket.on })}
            />
          </Row>
          {socket.error && <p style={{ ...words, color: ink.beyond }}>▲ {socket.error}</p>}
        </div>
      ))}
      <Row label="simulated device">
        {view?.stand_in ? (
          <Button sx={{ py: 0 }} onClick={() => standIn.mutate(null)}>
            Stop it
          </Button>
        ) : (
          (["opentrackio", "freed"] as const).map((protocol) => (
            <Button
              key={protocol}
              sx={{ py: 0 }}
              title="A simulated device in an operator's hands, sent to the socket above"
              onClick={() => standIn.mutate({ protocol, motion: "shoulder", tremor: 1, lost: 0 })}
            >
              {protocolWord[protocol]}
            </Button>
          ))
        )}
      </Row>
      {view?.stand_in && (
        <Row label="movement">
          <Choice
            label="Movement of the simulated device"
            value={view.stand_in.motion}
            options={[
              ["shoulder", "shoulder"],
              ["sweep", "sweep"],
              ["still", "still"],
            ]}
            onChange={(motion) => standIn.mutate({ ...view.stand_in!, motion })}
          />
          <Choice
            label="Loss of the simulated device"
            value={view.stand_in.lost}
            options={[0, 0.05, 0.2].map((l) => [l, `${l * 100} % lost`] as const)}
            onChange={(lost) => standIn.mutate({ ...view.stand_in!, lost })}
          />
        </Row>
      )}
      <PhoneRows />
      <Rule />
      {view?.sources.map((s) => (
        <div key={s.source} data-testid={`source-${s.source}`} style={{ padding: "1px 0 3px" }}>
          <div style={{ display: "flex", gap: 8, alignItems: "baseline" }}>
            <span
              style={{
                width: 8,
                height: 8,
                borderRadius: 4,
                background: s.age_s < 0.5 ? ink.within : ink.beyond,
              }}
            />
            <b style={{ fontWeight: 500 }}>{s.source}</b>
            <span style={{ color: s.age_s < 0.5 ? ink.chalkDim : ink.beyond, fontSize: 12.5 }}>
              {s.age_s < 0.5 ? "heard" : `silent for ${s.age_s.toFixed(0)} s`}
            </span>
            <span className="num" style={{ marginLeft: "auto", fontSize: 12.5 }}>
              {s.rate_hz.toFixed(0)} Hz
            </span>
          </div>
          <div className="num" style={{ fontSize: 11.5, color: ink.chalkDim }}>
            {s.lost} lost · {s.late} late · {s.gaps} {s.gaps === 1 ? "gap" : "gaps"}
            {s.gaps ? `, ${(s.longest_gap_s * 1000).toFixed(0)} ms` : ""}
          </div>
          {s.lens && <div style={{ fontSize: 12, color: ink.chalkDim }}>lens: {s.lens}</div>}
          {s.last_error && <div style={{ fontSize: 12, color: ink.near }}>▲ {s.last_error}</div>}
        </div>
      ))}
      {view?.strangers.map(([from, error]) => (
        <p key={from} style={{ ...words, color: ink.near }}>
          ▲ {from}: {error}
        </p>
      ))}
      {view && view.sources.length === 0 && (
        <p style={words}>
          No device is heard. Listen above and point a device at the port, or start a simulated one to try it
          out.
        </p>
      )}
      <Rule />
      <Row label={`setup ${setup.letter} takes`}>
        <Choice
          label="Device of this setup"
          value={tracking.source || any}
          options={[[any, "whichever is heard"], ...named(tracking.source)]}
          onChange={(source) => keep({ source: source === any ? "" : source })}
        />
      </Row>
      <Row
        label={
          status?.attached ? `${status.alive ? "follows" : "waits for"} ${status.source}` : "not attached"
        }
      >
        <span className="num" data-testid="delay" style={{ fontSize: 12.5, color: ink.chalkDim }}>
          {status?.alive
            ? status.attached
              ? `${status.delay_ms.toFixed(0)} ms late`
              : `would add ${status.delay_ms.toFixed(0)} ms`
            : ""}
        </span>
        <Button
          sx={{ py: 0 }}
          color={status?.attached ? "inherit" : "primary"}
          disabled={!mine || (!status?.attached && !status?.alive)}
          title="Alt A"
          onClick={attachOrLetGo}
        >
          {status?.attached ? "Let go" : "Attach"}
        </Button>
      </Row>
      <SteadyRows steady={steady} onChange={hold} />
      <Rule />
      <Row label="origin x, y, z">
        {[0, 1, 2].map((k) => (
          <NumberField
            key={k}
            label={`Origin ${axes[k]!}`}
            unit={k === 2 ? "m" : ""}
            digits={2}
            value={mapping.origin_m[k]!}
            onChange={(v, gesture) =>
              map(
                { origin_m: mapping.origin_m.map((o, i) => (i === k ? v : o)) as Mapping["origin_m"] },
                gesture,
              )
            }
          />
        ))}
      </Row>
      <Row label="heading, scale">
        <NumberField
          label="Heading of the device's space"
          unit="°"
          digits={0}
          step={1}
          value={mapping.heading_deg}
          onChange={(heading_deg, gesture) => map({ heading_deg }, gesture)}
        />
        <NumberField
          label="Metres on set for a real one"
          unit="×"
          digits={1}
          step={0.1}
          min={0.01}
          max={1000}
          value={mapping.scale}
          onChange={(scale, gesture) => map({ scale }, gesture)}
        />
      </Row>
      <div style={{ display: "flex", flexWrap: "wrap", gap: 4, padding: "3px 0" }}>
        <span style={{ color: ink.chalkDim, fontSize: 13 }}>holds</span>
        {axes.map((axis, i) => (
          <Toggle
            key={axis}
            on={mapping.hold[i]!}
            label={axis}
            title={`Keeps ${axis} as it was when the camera was attached`}
            onClick={() => map({ hold: mapping.hold.map((h, k) => (k === i ? !h : h)) as Mapping["hold"] })}
          />
        ))}
      </div>
      <div style={{ display: "flex", flexWrap: "wrap", gap: 4, padding: "3px 0 6px" }}>
        <Toggle
          on={mapping.keep_offset}
          label="from where it stands"
          title="Keeps the difference to where the camera stood when it was attached"
          onClick={() => map({ keep_offset: !mapping.keep_offset })}
        />
        <Toggle
          on={mapping.level}
          label="level"
          title="Keeps the horizon"
          onClick={() => map({ level: !mapping.level })}
        />
        <Toggle
          on={mapping.lens}
          label="its lens"
          title="Takes zoom, focus and iris where the device sends them"
          onClick={() => map({ lens: !mapping.lens })}
        />
      </div>
      <Row label="a second device">
        <Choice
          label="Second device of this setup"
          value={second.source || none}
          options={[[none, "none"], ...named(second.source)]}
          onChange={(source) => keep({ second: { ...second, source: source === none ? "" : source } })}
        />
      </Row>
      {second.source && (
        <Row label="moves">
          <Choice
            label="What the second device moves"
            value={second.moves}
            options={secondMoves}
            onChange={(moves) => keep({ second: { ...second, moves } })}
          />
        </Row>
      )}
      <Rule />
      <LiveOutRows />
    </section>
  );
}

const any = "any";
const none = "none";
const secondMoves = [
  ["focus_ring", "focus, by its ring"],
  ["focus", "focus, on where it is"],
  ["aim", "aim, at where it is"],
  ["aim_and_focus", "aim and focus"],
] as const;
const words = { margin: "2px 0 4px", fontSize: 12.5, color: ink.chalkDim } as const;
const Rule = () => <div style={{ borderTop: `1px solid ${ink.slate3}`, margin: "5px 0 4px" }} />;
