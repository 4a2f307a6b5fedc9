import { Button, Popover } from "@mui/material";
import { useState } from "react";
import type { Status, Wheel } from "../generated/types";
import { TextField } from "../form/fields";
import { useNarrow } from "../form/useNarrow";
import { hasAnyWheel, holdsWheels, link, pageName, signPage, useFloor, wheels } from "../live/link";
import { ink } from "../theme";
import { nameOfPage } from "../live/names";

/** Who may operate what, and the way to it. */
export function Wheels() {
  const connected = useFloor((s) => s.connected);
  const mine = useFloor(holdsWheels);
  const some = useFloor(hasAnyWheel);
  const status = useFloor((s) => s.status);
  const page = useFloor((s) => s.page);
  const narrow = useNarrow();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  if (!connected || !status) return <Chip color={ink.beyond} text="Not connected; trying again" />;
  const { asking, holder } = status;
  if (mine && asking) {
    return (
      <span style={{ display: "flex", gap: 6, alignItems: "center" }} role="alert">
        {status.names[asking.page] ?? "Another page"} asks for the {asking.wheel ?? "wheels"}
        <Button color="primary" variant="contained" onClick={() => link.send({ do: "give" })}>
          Give
        </Button>
        <Button onClick={() => link.send({ do: "keep" })}>Keep</Button>
      </span>
    );
  }
  const asked = asking?.page === page;
  const own = wheels.filter((_, i) => status.hands[i] === page);
  const [color, text] = mine
    ? [ink.within, narrow ? "wheels" : own.length < 4 ? `You have ${listed(own)}` : "You have the wheels"]
    : asked
      ? [ink.near, "Asked; waiting"]
      : some
        ? [ink.within, `You have ${listed(own)}`]
        : [ink.near, holder === null ? "Nobody has the wheels" : `${theirs(status)} the wheels`];
  return (
    <span style={{ display: "flex", gap: 6, alignItems: "center" }}>
      <button
        className="plain"
        aria-haspopup="dialog"
        aria-label="Who has which wheel"
        title="Who has which wheel, and what you are called"
        onClick={(e) => setAnchor(e.currentTarget)}
      >
        <Chip color={color} text={text} />
      </button>
      {!mine && !asked && !some && (
        <Button color="primary" onClick={() => link.send({ do: "ask", wheel: null })}>
          {holder === null ? "Take the wheels" : "Ask for the wheels"}
        </Button>
      )}
      <Popover
        anchorEl={anchor}
        open={!!anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: "bottom", horizontal: "right" }}
        transformOrigin={{ vertical: "top", horizontal: "right" }}
        slotProps={{ paper: { sx: { background: ink.slate2, border: `1px solid ${ink.slate3}`, p: 1.5 } } }}
      >
        <EachWheel status={status} page={page} />
      </Popover>
    </span>
  );
}

const listed = (own: Wheel[]) => (own.length === 0 ? "no wheel" : `the ${own.join(", ")}`);
const theirs = (status: Status) =>
  status.holder !== null && status.names[status.holder]
    ? `${status.names[status.holder]} has`
    : "Another page has";

/** Each wheel with whoever has it, and what can be done about that. */
function EachWheel({ status, page }: { status: Status; page: number }) {
  const mine = status.holder === page;
  const some = status.hands.includes(page);
  return (
    <div role="dialog" aria-label="Wheels" style={{ width: 320, fontSize: 13 }}>
      <div
        style={{ display: "flex", justifyContent: "space-between", alignItems: "baseline", minHeight: 28 }}
      >
        <span style={{ color: ink.chalkDim }}>you are called</span>
        <TextField
          label="What you are called"
          value={status.names[page] ?? pageName()}
          placeholder={`page ${page}`}
          width={140}
          style={{ textAlign: "right" }}
          onKeep={signPage}
        />
      </div>
      {wheels.map((wheel, i) => {
        const by = status.hands[i] ?? null;
        const lent = by !== null && by !== status.holder;
        return (
          <div
            key={wheel}
            data-testid={`wheel-${wheel}`}
            style={{
              display: "flex",
              alignItems: "center",
              gap: 8,
              minHeight: 34,
              borderTop: `1px solid ${ink.slate3}`,
            }}
          >
            <span style={{ width: 80 }}>{wheel}</span>
            <span style={{ flex: 1, color: by === page ? ink.within : ink.chalk }}>
              {by === null ? "nobody" : by === page ? "you" : nameOfPage(status, by)}
            </span>
            {mine && lent && (
              <Button
                onClick={() => link.send({ do: "take_back", wheel })}
                aria-label={`Take the ${wheel} back`}
              >
                Take back
              </Button>
            )}
            {!mine && by !== page && status.holder !== null && status.asking === null && (
              <Button onClick={() => link.send({ do: "ask", wheel })} aria-label={`Ask for the ${wheel}`}>
                Ask
              </Button>
            )}
          </div>
        );
      })}
      {(some || mine) && (
        <div style={{ display: "flex", gap: 6, paddingTop: 8, borderTop: `1px solid ${ink.slate3}` }}>
          <Button onClick={() => link.send({ do: "give" })}>
            {mine ? "Let go of the wheels" : "Give back"}
          </Button>
          {!mine && <Button onClick={() => link.send({ do: "ask", wheel: null })}>Ask for all</Button>}
        </div>
      )}
    </div>
  );
}

function Chip({ color, text }: { color: string; text: string }) {
  return (
    <span
      data-testid="wheels"
      style={{
        display: "flex",
        alignItems: "center",
        gap: 8,
        border: `1px solid ${ink.slate3}`,
        borderRadius: 4,
        padding: "3px 10px",
        whiteSpace: "nowrap",
      }}
    >
      <span style={{ width: 8, height: 8, borderRadius: 4, background: color }} />
      {text}
    </span>
  );
}
