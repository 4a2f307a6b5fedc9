import { Button } from "@mui/material";
import { Fragment, useState } from "react";
import { useShakes } from "../api";
import type { Document, Rating, Take } from "../generated/types";
import { Passes } from "./Passes";
import { Choice, Toggle } from "../form/rows";
import { TextField } from "../form/fields";
import { Icon } from "../form/icons";
import { chosenOf } from "../state/looked";
import { compare, setView } from "../state/view";
import { lookAtTake, useLookedTake } from "./look";
import { ink } from "../theme";
import { BinButtons } from "./BinButtons";
import { TakePictures } from "./TakePictures";
import { binTake, nameTake, noteTake, rateTake } from "./edits";
import {
  drivenBy,
  ratingInk,
  ratings,
  sorted,
  tellsOf,
  wanted,
  type Column,
  type Sorting,
  type Wanted,
} from "./log";

const columns: [Column | null, string, string?][] = [
  [null, "actions"],
  ["number", "take"],
  [null, "pictures"],
  ["setup", "setup"],
  ["name", "name"],
  ["rating", "rating"],
  ["length", "length", "s"],
  ["shake", "shake", "cm"],
  ["turn", "shake", "°"],
  ["device", "by"],
  ["rolled", "rolled"],
  [null, "note"],
  [null, "actions"],
];

/** Every take of the scene: found, sorted, rated, named, compared, binned. */
export function TakeLog({ document }: { document: Document }) {
  const [sorting, setSorting] = useState<Sorting>({ by: "number", down: true });
  const [want, setWant] = useState<Wanted>({ text: "", rating: "any", setup: 0, binned: false });
  const [picked, setPicked] = useState<number[]>([]);
  const shakes = useShakes(document.takes).data ?? [];
  const shown = sorted(
    document.takes.filter((t) => wanted(t, document, want)),
    document,
    shakes,
    sorting,
  );
  const pick = (id: number) =>
    setPicked((p) => (p.includes(id) ? p.filter((x) => x !== id) : [...p.slice(-1), id]));
  const both = picked.filter((id) => shown.some((t) => t.id === id));
  return (
    <section
      className="panel"
      aria-label="Take log"
      style={{ height: "100%", display: "flex", flexDirection: "column" }}
    >
      <div
        style={{
          display: "flex",
          alignItems: "center",
          gap: 10,
          padding: "6px 10px 6px 12px",
          borderBottom: `1px solid ${ink.slate3}`,
        }}
      >
        <span className="label">{want.binned ? "Bin" : "Take log"}</span>
        <input
          className="inplace"
          aria-label="Search takes"
          placeholder="search name, note, device"
          value={want.text}
          onChange={(e) => setWant({ ...want, text: e.target.value })}
          onKeyDown={(e) => e.key !== "Escape" && !e.altKey && e.stopPropagation()}
          style={{ width: 210 }}
        />
        {(["any", "good", "hold", "no"] as const).map((rating) => (
          <Toggle
            key={rating}
            on={want.rating === rating}
            label={rating}
            onClick={() => setWant({ ...want, rating })}
          />
        ))}
        <Choice
          label="Setup of the takes"
          value={want.setup}
          options={[
            [0, "every setup"],
            ...document.setups.map((s) => [s.id, `${s.letter} ${s.name}`] as const),
          ]}
          onChange={(setup) => setWant({ ...want, setup })}
        />
        <span style={{ flex: 1 }} />
        <BinButtons
          document={document}
          open={want.binned}
          onTurn={(binned) => setWant({ ...want, binned })}
        />
        <Button
          color="primary"
          disabled={both.length !== 2}
          title="Tick two takes, then compare them"
          onClick={() => {
            const [a, b] = both.map((id) => chosenOf(document, id));
            if (a && b) compare(a.id, b.id);
          }}
        >
          Compare
        </Button>
        <Button onClick={() => setView({ log: false })} title="Alt J">
          Close
        </Button>
      </div>
      <div className="scroll" style={{ flex: 1 }}>
        <table style={{ width: "100%", borderCollapse: "collapse", fontSize: 13 }}>
          <thead>
            <tr>
              {columns.map(([column, word, unit], i) => (
                <th
                  key={i}
                  aria-sort={
                    column && sorting.by === column ? (sorting.down ? "descending" : "ascending") : undefined
                  }
                  style={{ ...cell, position: "sticky", top: 0, background: ink.slate1, zIndex: 1 }}
                >
                  {column ? (
                    <button
                      className="plain"
                      onClick={() =>
                        setSorting({
                          by: column,
                          down: sorting.by === column ? !sorting.down : column === "number",
                        })
                      }
                      style={{ whiteSpace: "nowrap" }}
                    >
                      <span
                        className="label"
                        style={{ color: sorting.by === column ? ink.chalk : ink.chalkDim }}
                      >
                        {word}
                      </span>
                      {unit && <span className="unit"> {unit}</span>}
                      {sorting.by === column ? (sorting.down ? " ▾" : " ▴") : ""}
                    </button>
                  ) : (
                    <span className={word === "actions" ? "unseen" : "label"}>{word}</span>
                  )}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {shown.map((take) => (
              <Fragment key={take.id}>
                <LogRow
                  take={take}
                  document={document}
                  shake={shakes.find((s) => s.id === take.id)}
                  ticked={picked.includes(take.id)}
                  onTick={() => pick(take.id)}
                />
              </Fragment>
            ))}
          </tbody>
        </table>
        {shown.length === 0 && (
          <p style={{ padding: "10px 14px", color: ink.chalkDim }}>
            {document.takes.length === 0
              ? "No take yet. Close this, drive the machine and press R to roll."
              : want.binned
                ? "The bin is empty."
                : "No take fits what is searched for."}
          </p>
        )}
      </div>
    </section>
  );
}

const cell = { textAlign: "left", padding: "3px 8px", borderBottom: `1px solid ${ink.slate3}` } as const;
const number = { ...cell, textAlign: "right" } as const;

function LogRow(props: {
  take: Take;
  document: Document;
  shake: { position_cm: number | null; rotation_deg: number | null } | undefined;
  ticked: boolean;
  onTick: () => void;
}) {
  const { take, document, shake } = props;
  const here = useLookedTake(document, take);
  const setup = document.setups.find((s) => s.id === take.setup_id);
  const tells = tellsOf(take);
  const passes = document.takes.some((t) => t.pass?.take === take.id && !t.binned);
  const rate = (rating: Rating) => void rateTake(take, take.rating === rating ? "none" : rating);
  const keys: Record<string, () => void> = {
    Enter: () => lookFrom(document, take),
    g: () => rate("good"),
    h: () => rate("hold"),
    n: () => rate("no"),
    Delete: () => binTake(take, true),
  };
  return (
    <>
      <tr
        data-testid={`log-${take.number}`}
        tabIndex={0}
        aria-label={`Take ${take.number}`}
        aria-current={here || undefined}
        onDoubleClick={() => lookFrom(document, take)}
        onKeyDown={(e) => {
          if (e.target !== e.currentTarget || e.altKey || e.ctrlKey) return;
          const row = e.currentTarget;
          const next = { ArrowDown: row.nextElementSibling, ArrowUp: row.previousElementSibling }[e.key];
          if (next instanceof HTMLElement) next.focus();
          else if (keys[e.key]) keys[e.key]!();
          else if (e.key === " ") props.onTick();
          else return;
          e.preventDefault();
          e.stopPropagation();
        }}
        style={{ background: here ? ink.slate2 : undefined }}
      >
        <td style={cell}>
          <input
            type="checkbox"
            aria-label={`Compare take ${take.number}`}
            checked={props.ticked}
            onChange={props.onTick}
          />
        </td>
        <td style={cell}>
          <button
            className="plain num"
            title="Look at this take"
            disabled={take.rolling}
            onClick={() => lookFrom(document, take)}
            style={{ fontSize: 16, fontWeight: 500 }}
          >
            {take.number}
          </button>
        </td>
        <td style={{ ...cell, padding: "2px 8px" }}>
          <TakePictures take={take} height={19} />
        </td>
        <td style={cell} title={setup?.name}>
          {setup?.letter}
        </td>
        <td style={{ ...cell, width: "20%" }}>
          <TextField
            label={`Name of take ${take.number}`}
            placeholder="name"
            width="100%"
            value={take.name}
            onKeep={(name) => nameTake(take, name)}
          />
        </td>
        <td style={{ ...cell, whiteSpace: "nowrap" }}>
          {ratings.map((rating) => (
            <button
              key={rating}
              className="plain"
              aria-label={`Take ${take.number}: ${rating}`}
              aria-pressed={take.rating === rating}
              onClick={() => rate(rating)}
              style={{
                padding: "0 5px",
                borderRadius: 3,
                color: take.rating === rating ? ink.slate0 : ink.chalkDim,
                background: take.rating === rating ? ratingInk[rating] : undefined,
              }}
            >
              {rating}
            </button>
          ))}
        </td>
        <td className="num" style={number}>
          {take.rolling ? "rolling" : take.length_s.toFixed(1)}
        </td>
        <td className="num" style={number}>
          {shake?.position_cm?.toFixed(2) ?? "–"}
        </td>
        <td className="num" style={number}>
          {shake?.rotation_deg?.toFixed(2) ?? "–"}
        </td>
        <td style={{ ...cell, maxWidth: 160 }}>{drivenBy(take)}</td>
        <td style={{ ...cell, whiteSpace: "nowrap", color: ink.chalkDim }} title={`${take.rolled_at} (UTC)`}>
          {take.rolled_at.slice(5, 16).replace("T", " ")}
        </td>
        <td style={{ ...cell, width: "24%" }}>
          <TextField
            label={`Note on take ${take.number}`}
            placeholder="note"
            width="100%"
            value={take.note}
            onKeep={(note) => noteTake(take, note)}
          />
        </td>
        <td style={{ ...cell, whiteSpace: "nowrap" }}>
          {take.packets > 0 && (
            <a
              href={`/api/takes/${take.id}/packets.pcap`}
              download
              title={`${take.packets} packets of ${take.rolled.device ?? "the device"}, as a packet capture`}
              style={{ color: ink.chalkDim, marginRight: 8 }}
            >
              pcap
            </a>
          )}
          {!take.rolling && (
            <button
              className="plain"
              aria-label={`${take.binned ? "Restore" : "Bin"} take ${take.number}`}
              onClick={() => binTake(take, !take.binned)}
            >
              <Icon name={take.binned ? "restore" : "bin"} size={16} />
            </button>
          )}
        </td>
      </tr>
      {(tells.length > 0 || passes) && (
        <tr>
          <td />
          <td colSpan={11} style={{ ...cell, paddingTop: 0 }}>
            {tells.length > 0 && <div style={{ color: ink.near, fontSize: 12.5 }}>▲ {tells.join(" · ")}</div>}
            {passes && <Passes document={document} below={take} />}
          </td>
        </tr>
      )}
    </>
  );
}

function lookFrom(document: Document, take: Take) {
  lookAtTake(document, take);
  setView({ log: false });
}
