import { Button } from "@mui/material";
import { useState } from "react";
import { useFollow, useRehearsal, useTimecodes } from "../api";
import { edit } from "../document/edit";
import type { Document, Move, Setup } from "../generated/types";
import { holdsWheels, link, useFloor } from "../live/link";
import { Choice, Row, Toggle } from "../form/rows";
import { cutOff } from "../form/cutOff";
import { NumberField } from "../form/fields";
import { Icon } from "../form/icons";
import { removeMove, runMove } from "../move/edits";
import { FollowStrip } from "../move/FollowStrip";
import { freeNumber, keyTimes, removeOps } from "../move/keyed";
import { lookable, lookedOf, titleOf } from "../state/looked";
import { scene } from "../state/now";
import { lookAt, setView, useView } from "../state/view";
import { ink } from "../theme";
import { discardPending, followMove, goTo, keepPending, runningMove, storeHere } from "./positions";

/** Stored positions of the machine, the move that it runs, and its keys. */
export function PositionsPanel({ document, setup }: { document: Document; setup: Setup }) {
  return (
    <section
      className="panel scroll"
      aria-label="Positions"
      style={{ height: "100%", padding: "6px 12px", fontSize: 13 }}
    >
      <Runs document={document} setup={setup} />
      <Keys document={document} setup={setup} />
      <Positions setup={setup} />
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
  const shortest = useRehearsal(
    setup.id,
    positions.filter((p) => !left.includes(p.number)),
  ).data;
  const needs = shortest && shortest.shortest_s > seconds ? shortest : null;
  return (
    <div style={part}>
      <div style={{ display: "flex", gap: 6, alignItems: "baseline" }}>
        <span className="label">Positions</span>
        {(slowed ?? needs) && (
          <span
            style={{ color: ink.near, fontSize: 12, whiteSpace: "nowrap" }}
            title="The rehearsal takes that long"
          >
            {slowed ?? `${needs!.bound_by ?? "the machine"} needs ${needs!.shortest_s.toFixed(1)} s`}
          </span>
        )}
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
          <Button
            sx={small}
            disabled={!mine}
            aria-label={`Go to ${p.number}`}
            title="Puts the machine there; with Shift, and while time runs, it drives there"
            onClick={(event) => goTo(p.number, event.shiftKey)}
          >
            Go
          </Button>
          <span style={{ ...cutOff, flex: 1, color: ink.chalkDim, fontSize: 12 }}>{inShort(p.axes)}</span>
          <Toggle
            on={!left.includes(p.number)}
            label="use"
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
            title={`From the first to the last in at least ${shortest?.shortest_s.toFixed(1) ?? "–"} s`}
            onClick={() =>
              link.send({
                do: "rehearse",
                positions: through,
                seconds: Math.max(seconds, shortest?.shortest_s ?? 0),
              })
            }
          >
            Rehearse
          </Button>
        </Row>
      )}
    </div>
  );
}

/** The keys of the move that the machine runs, and hands on it. */
function Keys({ document, setup }: { document: Document; setup: Setup }) {
  const autoKey = useView((s) => s.autoKey);
  const taken = useFloor((s) => s.status?.pending);
  const pending = scene.machine?.axes.filter((_, i) => taken?.[i]).map((a) => a.name) ?? [];
  const mine = useFloor(holdsWheels);
  const move = runningMove(document, setup);
  const times = keyTimes(move?.curves ?? {});
  const timecodes = useTimecodes(times.map((t) => t.time_s)).data;
  return (
    <div style={part}>
      <div style={{ display: "flex", gap: 6, alignItems: "baseline" }}>
        <span className="label">{move?.source.kind === "follow" ? "Keys of the base" : "Keys"}</span>
        <Toggle
          on={autoKey}
          label="auto-key"
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
      {times.map((time, i) => (
        <div key={time.time_s} style={{ display: "flex", gap: 8, alignItems: "center", minHeight: 24 }}>
          <button
            className="plain num"
            aria-label={`Time to key ${i + 1}`}
            onClick={() => {
              link.send({ do: "run", on: false });
              link.send({ do: "seek", time_s: time.time_s });
            }}
          >
            {timecodes?.[i] ?? "–"}
          </button>
          <span style={{ ...cutOff, flex: 1, color: ink.chalkDim, fontSize: 12 }}>
            {inShort(Object.fromEntries(time.keys.map((k) => [k.axis, k.value])))}
          </span>
          <button
            className="plain"
            aria-label={`Remove key ${i + 1}`}
            onClick={() => void edit(`remove a key of setup ${setup.letter}`, removeOps(move!.id, time))}
          >
            <Icon name="bin" size={14} />
          </button>
        </div>
      ))}
    </div>
  );
}

/** Move that the machine runs: none, keys, or another move's camera that it follows. */
function Runs({ document, setup }: { document: Document; setup: Setup }) {
  const lead = useFloor((s) => s.status?.lead);
  const mine = useFloor(holdsWheels);
  const running = runningMove(document, setup);
  const own = document.moves.filter((m) => m.setup_id === setup.id && !m.binned && m.source.kind !== "take");
  const others = lookable(document).filter(
    (l) => l.move.id !== running?.id && l.move.source.kind !== "follow",
  );
  const looked = lookedOf(document, running?.id ?? null);
  const follow = useFollow(looked ?? undefined).data;
  const base = scene.machine?.axes.filter((a) => a.base).map((a) => a.name) ?? [];
  const run = (id: number) => void runMove(setup.letter, setup.id, id || null);
  return (
    <div>
      <span className="label">Move of the machine</span>
      <Row label="runs">
        <Choice
          label="Runs the move"
          value={running?.id ?? 0}
          options={[[0, "no move"], ...own.map((m) => [m.id, wordOf(document, m, m.rig !== null)] as const)]}
          onChange={run}
        />
        {running && (
          <>
            <Button sx={small} title="Curves, treatments, files" onClick={() => lookAt(running.id)}>
              Look
            </Button>
            <button
              className="plain"
              aria-label="Remove this move"
              onClick={() => void removeMove(wordOf(document, running, false), running)}
            >
              <Icon name="bin" size={14} />
            </button>
          </>
        )}
      </Row>
      <Row label="follow">
        <Choice
          label="Follows the move of"
          value={running?.source.kind === "follow" ? running.source.move : 0}
          options={[
            [0, "nothing"],
            ...others.map((l) => [l.move.id, `${l.title}${l.name ? `, ${l.name}` : ""}`] as const),
          ]}
          onChange={(id) => {
            const other = others.find((l) => l.move.id === id);
            if (!other) run(own.find((m) => m.source.kind === "curves" && !m.rig)?.id ?? 0);
            else void followMove(setup, other.move, other.title);
          }}
        />
      </Row>
      {follow && <FollowStrip view={follow} />}
      {(lead === "flown" || lead === "move") && base.length > 0 && (
        <p style={{ margin: "2px 0", color: ink.chalkDim, fontSize: 12 }}>
          {lead === "move" ? "Keys and hands" : "Hands"} move {base.join(", ")}; the rest is solved.
        </p>
      )}
      <Row label="hands move">
        <Toggle
          on={lead === "flown"}
          label="the camera"
          title="Hands move the camera; swing, boom and reach are solved"
          onClick={() => mine && link.send({ do: "fly", on: lead !== "flown" })}
        />
      </Row>
    </div>
  );
}

const wordOf = (document: Document, move: Move, old: boolean) =>
  `${move.name || titleOf(document, move)}${old ? " (another machine)" : ""}`;
