import { Button, IconButton, Tooltip } from "@mui/material";
import { useState } from "react";
import type { Document, Take } from "../generated/types";
import { Icon } from "../form/icons";
import { TextField } from "../form/fields";
import { newestTake } from "../state/looked";
import { setView } from "../state/view";
import { ink } from "../theme";
import { BinButtons } from "./BinButtons";
import { binTake, nameTake, noteTake, rateTake } from "./edits";
import { ratingInk, tellsOf } from "./log";
import { lookAtTake, useLookedTake } from "./look";
import { TakePictures } from "./TakePictures";

/** Frames a second, as on the slate. */
const rateText = ({ rate }: Take) => `${Number((rate.num / rate.den).toFixed(3))} fps`;

/** The takes of the scene, newest first: play, name, rate, note, bin and restore. */
export function TakeList({ document }: { document: Document }) {
  const [bin, setBin] = useState(false);
  const all = document.takes.filter((t) => !t.pass).reverse();
  const shown = all.filter((t) => t.binned === bin);
  return (
    <section
      className="panel"
      aria-label="Takes"
      style={{ height: "100%", display: "flex", flexDirection: "column" }}
    >
      <div
        style={{
          display: "flex",
          alignItems: "center",
          gap: 6,
          padding: "6px 8px 6px 12px",
          borderBottom: `1px solid ${ink.slate3}`,
        }}
      >
        <span className="label">{bin ? "Bin" : "Takes"}</span>
        <span style={{ flex: 1 }} />
        <BinButtons document={document} open={bin} onTurn={setBin} />
        {!bin && (
          <>
            <Button onClick={() => setView({ log: true })} title="Alt J">
              Log
            </Button>
            <Button onClick={() => setView({ importing: true })}>Bring in a move</Button>
          </>
        )}
      </div>
      <ol className="scroll" style={{ listStyle: "none", margin: 0, padding: 0, flex: 1 }}>
        {shown.map((take) => (
          <Row key={take.id} take={take} document={document} />
        ))}
        {shown.length === 0 && (
          <li style={{ padding: 14, color: ink.chalkDim }}>
            {bin ? (
              "The bin is empty."
            ) : (
              <>
                No take yet. Drive the machine and press <span className="key">R</span> to roll.
              </>
            )}
          </li>
        )}
      </ol>
    </section>
  );
}

function Row({ take, document }: { take: Take; document: Document }) {
  const here = useLookedTake(document, take);
  const setup = document.setups.find((s) => s.id === take.setup_id);
  const good = take.rating === "good";
  const newest = newestTake(document)?.id === take.id;
  const warnings = tellsOf(take);
  return (
    <li
      data-testid={`take-${take.number}`}
      aria-current={here || undefined}
      style={{
        padding: "4px 6px 5px 10px",
        borderBottom: `1px solid ${ink.slate3}`,
        background: here ? ink.slate2 : undefined,
        borderLeft: `2px solid ${here ? ink.pick : "transparent"}`,
      }}
    >
      <div style={{ display: "flex", alignItems: "center", gap: 6 }}>
        <button
          className="plain num"
          title="Look at this take"
          disabled={take.rolling}
          onClick={() => lookAtTake(document, take)}
          style={{ fontSize: 17, width: 26, fontWeight: 500 }}
        >
          {take.number}
        </button>
        <span style={{ flex: 1, minWidth: 0 }}>
          <TextField
            label={`Name of take ${take.number}`}
            placeholder="name"
            width="100%"
            value={take.name}
            onKeep={(name) => nameTake(take, name)}
          />
        </span>
        {newest && (
          <span className="key" title={here ? "Back to live" : "Look at it, from its start"}>
            Alt R{here ? " live" : ""}
          </span>
        )}
        {take.rating !== "none" && (
          <span style={{ color: ratingInk[take.rating], fontSize: 12.5 }}>{take.rating}</span>
        )}
        {!take.binned && !take.rolling && (
          <>
            <Tooltip title="Play">
              <IconButton
                aria-label={`Play take ${take.number}`}
                onClick={() => lookAtTake(document, take, true)}
              >
                <Icon name="play" size={16} />
              </IconButton>
            </Tooltip>
            <Tooltip title={good ? "No longer good" : "Mark as good"}>
              <IconButton
                aria-label={`Mark take ${take.number} as good`}
                aria-pressed={good}
                onClick={() => void rateTake(take, good ? "none" : "good")}
                sx={{ color: good ? ink.within : undefined }}
              >
                <svg
                  width="16"
                  height="16"
                  viewBox="0 0 20 20"
                  fill="none"
                  stroke="currentColor"
                  strokeWidth={1.6}
                  aria-hidden
                >
                  <path d="M4 10.5L8.5 15L16 5.5" />
                </svg>
              </IconButton>
            </Tooltip>
          </>
        )}
        {!take.rolling && (
          <Tooltip title={take.binned ? "Restore" : "Into the bin"}>
            <IconButton
              aria-label={`${take.binned ? "Restore" : "Bin"} take ${take.number}`}
              onClick={() => binTake(take, !take.binned)}
            >
              <Icon name={take.binned ? "restore" : "bin"} size={16} />
            </IconButton>
          </Tooltip>
        )}
      </div>
      <div
        style={{
          display: "flex",
          gap: 8,
          fontSize: 12,
          color: ink.chalkDim,
          paddingLeft: 32,
          alignItems: "baseline",
        }}
      >
        <span className="num" style={{ flex: "none" }}>
          {take.rolling ? "rolling" : `${take.length_s.toFixed(1)} s`}
        </span>
        <span title={`rolled ${take.rolled_at} (UTC)`} style={{ flex: "none" }}>
          {setup?.letter} · {take.rolled_at.slice(5, 16).replace("T", " ")} · {rateText(take)}
        </span>
        <span style={{ flex: 1, minWidth: 0 }}>
          <TextField
            label={`Note on take ${take.number}`}
            placeholder="note"
            width="100%"
            value={take.note}
            onKeep={(note) => noteTake(take, note)}
            style={{ fontSize: 12 }}
          />
        </span>
      </div>
      {!take.rolling && (
        <button
          className="plain"
          tabIndex={-1}
          onClick={() => lookAtTake(document, take)}
          style={{ paddingLeft: 32, display: "block" }}
        >
          <TakePictures take={take} />
        </button>
      )}
      {warnings.length > 0 && (
        <div style={{ paddingLeft: 32, fontSize: 12, color: ink.near }}>▲ {warnings.join(" · ")}</div>
      )}
    </li>
  );
}
