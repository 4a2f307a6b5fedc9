import { Button } from "@mui/material";
import { enqueueSnackbar } from "notistack";
import { useState } from "react";
import { askFollow } from "../api";
import { edit } from "../document/edit";
import { token } from "../document/patch";
import type { Document, Gap, Setup } from "../generated/types";
import { holdsWheels, link, useFloor } from "../live/link";
import { Choice, Row, Toggle } from "../set/rows";
import { NumberField } from "../shell/fields";
import { Icon } from "../shell/icons";
import { scene } from "../state/now";
import { setView, useView } from "../state/view";
import { timecode } from "../timecode";
import { ink } from "../theme";
import { freeNumber } from "./keyed";
import { discardPending, goTo, keepPending, storeHere } from "./positions";

/** Where the machine can be sent, its keys, and whose camera it follows. */
export function PositionsPanel({ document, setup }: { document: Document; setup: Setup }) {
  return (
    <section
      className="panel scroll"
      aria-label="Positions"
      style={{ height: "100%", padding: "6px 12px", fontSize: 13 }}
    >
      <Positions setup={setup} />
      <Keys document={document} setup={setup} />
      <Following document={document} setup={setup} />
    </section>
  );
}

const small = { p: "0 6px", fontSize: 12 } as const;
const part = { borderTop: `1px solid ${ink.slate3}`, marginTop: 6, paddingTop: 4 } as const;

/** The first axes of the machine, in its own order. */
const inShort = (axes: Record<string, number | undefined>) =>
  (scene.machine?.axes ?? [])
    .flatMap((a) => (axes[a.name] === undefined ? [] : [`${a.name} ${axes[a.name]!.toFixed(1)}`]))
    .slice(0, 3)
    .join(" · ");

function Positions({ setup }: { setup: Setup }) {
  const mine = useFloor(holdsWheels);
  const sent = useFloor((s) => s.status?.sent);
  const slowed = useFloor((s) => s.status?.slowed);
  const [seconds, setSeconds] = useState(6);
  const [left, setLeft] = useState<number[]>([]);
  const { positions } = setup;
  const through = positions.map((p) => p.number).filter((n) => !left.includes(n));
  return (
    <div>
      <div style={{ display: "flex", gap: 6, alignItems: "baseline" }}>
        <span className="label">Positions</span>
        {slowed && <span style={{ color: ink.near, fontSize: 12 }}>{slowed}</span>}
        {sent && (
          <Button sx={small} onClick={() => link.send({ do: "stay" })}>
            Stop here
          </Button>
        )}
        <Button
          sx={{ ...small, ml: "auto" }}
          disabled={!mine}
          title="Ctrl Shift and its number"
          onClick={() => void storeHere(freeNumber(positions))}
        >
          Store as {freeNumber(positions)}
        </Button>
      </div>
      {positions.length === 0 && (
        <p style={{ margin: "4px 0", color: ink.chalkDim }}>
          Drive the machine somewhere and store it: it can be sent there again, and through several in a set
          time.
        </p>
      )}
      {positions.map((p) => (
        <div key={p.number} style={{ display: "flex", gap: 8, alignItems: "center", minHeight: 26 }}>
          <b style={{ width: 18, fontWeight: 500 }} className="num">
            {p.number}
          </b>
          <Button sx={small} disabled={!mine} aria-label={`Go to ${p.number}`} onClick={() => goTo(p.number)}>
            Go
          </Button>
          <span
            style={{ flex: 1, color: ink.chalkDim, fontSize: 12, overflow: "hidden", whiteSpace: "nowrap" }}
          >
            {inShort(p.axes)}
          </span>
          <Toggle
            on={!left.includes(p.number)}
            label="in"
            title="Part of the rehearsal"
            onClick={() =>
              setLeft(left.includes(p.number) ? left.filter((n) => n !== p.number) : [...left, p.number])
            }
          />
          <button
            className="plain"
            aria-label={`Remove position ${p.number}`}
            onClick={() =>
              void edit(`remove position ${p.number} of setup ${setup.letter}`, [
                { op: "remove", path: `/setups/${setup.id}/positions/${p.number}` },
              ])
            }
          >
            <Icon name="bin" size={14} />
          </button>
        </div>
      ))}
      {positions.length > 1 && (
        <Row label={`rehearse ${through.join(" → ")}`}>
          <span style={{ color: ink.chalkDim }}>in</span>
          <NumberField
            label="Rehearse in"
            unit="s"
            digits={1}
            step={0.5}
            min={0.5}
            value={seconds}
            onChange={setSeconds}
          />
          <Button
            sx={small}
            disabled={!mine || through.length < 2}
            onClick={() => link.send({ do: "rehearse", positions: through, seconds })}
          >
            Rehearse
          </Button>
        </Row>
      )}
    </div>
  );
}

function Keys({ document, setup }: { document: Document; setup: Setup }) {
  const autoKey = useView((s) => s.autoKey);
  const taken = useFloor((s) => s.status?.pending);
  const pending = scene.machine?.axes.filter((_, i) => taken?.[i]).map((a) => a.name) ?? [];
  const mine = useFloor(holdsWheels);
  const { rate, start_frame } = document.scene;
  return (
    <div style={part}>
      <div style={{ display: "flex", gap: 6, alignItems: "baseline" }}>
        <span className="label">Keys</span>
        <Toggle
          on={autoKey}
          label="write by themselves"
          title="A change becomes a key as soon as hands rest (Alt K)"
          onClick={() => setView({ autoKey: !autoKey })}
        />
        <Button sx={{ ...small, ml: "auto" }} disabled={!mine} onClick={() => void keepPending()}>
          Key here
        </Button>
      </div>
      {pending.length > 0 && (
        <div style={{ display: "flex", gap: 6, alignItems: "baseline", padding: "3px 0" }}>
          <span style={{ color: ink.near, flex: 1 }}>{pending.join(", ")} changed, no key yet</span>
          <Button sx={small} onClick={() => void keepPending()}>
            Keep
          </Button>
          <Button sx={small} onClick={discardPending}>
            Discard
          </Button>
        </div>
      )}
      {setup.keys.map((key, i) => (
        <div key={key.time_s} style={{ display: "flex", gap: 8, alignItems: "center", minHeight: 24 }}>
          <button
            className="plain num"
            aria-label={`Time to key ${i + 1}`}
            onClick={() => {
              link.send({ do: "run", on: false });
              link.send({ do: "seek", time_s: key.time_s });
            }}
          >
            {timecode(Math.round((key.time_s * rate.num) / rate.den) + start_frame, rate)}
          </button>
          <span
            style={{ flex: 1, color: ink.chalkDim, fontSize: 12, overflow: "hidden", whiteSpace: "nowrap" }}
          >
            {inShort(key.axes)}
          </span>
          <button
            className="plain"
            aria-label={`Remove key ${i + 1}`}
            onClick={() =>
              void edit(`remove a key of setup ${setup.letter}`, [
                { op: "remove", path: `/setups/${setup.id}/keys/${token(key.id)}` },
              ])
            }
          >
            <Icon name="bin" size={14} />
          </button>
        </div>
      ))}
    </div>
  );
}

/** A move that this page did not choose: another page did, or this one before it was opened anew. */
const UNKNOWN = -1;

function Following({ document, setup }: { document: Document; setup: Setup }) {
  const lead = useFloor((s) => s.status?.lead);
  const mine = useFloor(holdsWheels);
  const [take, setTake] = useState(0);
  const [gaps, setGaps] = useState<Gap[] | null>(null);
  const takes = document.takes.filter((t) => !t.binned && !t.rolling && !t.pass);
  const follow = async (id: number) => {
    const near = link.frame?.axes.map((a) => a.value) ?? [];
    try {
      const view = await askFollow(setup.id, { take: id || null, near });
      setTake(id);
      setGaps(id ? view.gaps : null);
      if (id) link.send({ do: "seek", time_s: 0 });
    } catch (error) {
      enqueueSnackbar((error as Error).message, { variant: "error" });
    }
  };
  const base = scene.machine?.axes.filter((a) => a.base).map((a) => a.name) ?? [];
  return (
    <div style={part}>
      <Row label="camera goes">
        <Toggle
          on={lead === "flown"}
          label="where hands fly it"
          title="Hands fly the camera; swing, boom and reach are solved"
          onClick={() => mine && link.send({ do: "fly", on: lead !== "flown" })}
        />
      </Row>
      <Row label="or follows">
        <Choice
          label="Follows the move of"
          value={lead !== "move" ? 0 : takes.some((t) => t.id === take) ? take : UNKNOWN}
          options={[
            [0, "no move"],
            ...takes.map((t) => [t.id, `take ${t.number}${t.name ? `, ${t.name}` : ""}`] as const),
            ...(lead === "move" && !takes.some((t) => t.id === take)
              ? [[UNKNOWN, "an earlier move"] as const]
              : []),
          ]}
          onChange={(id) => id !== UNKNOWN && void follow(id)}
        />
      </Row>
      {(lead === "flown" || lead === "move") && base.length > 0 && (
        <p style={{ margin: "2px 0", color: ink.chalkDim, fontSize: 12 }}>
          Hands keep {base.join(", ")}; the rest is solved.
        </p>
      )}
      {gaps && lead === "move" && (
        <p
          role="status"
          style={{ margin: "2px 0", fontSize: 12.5, color: gaps.length ? ink.beyond : ink.within }}
        >
          {gaps.length === 0
            ? "From here the whole move is within reach."
            : gaps
                .map((g) => `${g.from_s.toFixed(1)}–${g.to_s.toFixed(1)} s: ${g.short_m.toFixed(2)} m short`)
                .join("; ")}
        </p>
      )}
    </div>
  );
}
