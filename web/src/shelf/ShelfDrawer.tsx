import { Button } from "@mui/material";
import { useRef, useState } from "react";
import type { OnShelf } from "../generated/types";
import { TextField } from "../form/fields";
import { ink } from "../theme";
import { Card, Cards, Drawer } from "./Drawer";
import {
  beginProduction,
  copyOf,
  duplicate,
  openCopy,
  openProduction,
  pictureOf,
  rename,
  setAside,
  useShelf,
} from "./shelf";
import { lastUse } from "./words";

/** The shelf: every production as a card; `alone` where none is open and there is nothing below it. */
export function ShelfDrawer({ alone = false }: { alone?: boolean }) {
  const shelf = useShelf().data;
  const [busy, setBusy] = useState<string | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const during = async (what: string, work: Promise<unknown>) => {
    setBusy(what);
    await work;
    setBusy(null);
  };
  const there = shelf?.productions ?? [];
  const aside = there.filter((p) => p.aside);
  return (
    <Drawer
      title={alone ? "Rovnek: the shelf of productions" : "Productions"}
      stays={alone}
      actions={
        <>
          {busy && (
            <span role="status" style={{ color: ink.chalkDim }}>
              {busy} …
            </span>
          )}
          <input
            ref={file}
            type="file"
            hidden
            aria-label="Copy to open"
            onChange={(e) => {
              const chosen = e.target.files?.[0];
              if (chosen) void during("Opening the copy", openCopy(chosen));
              e.target.value = "";
            }}
          />
          <Button
            disabled={!!busy}
            onClick={() => file.current?.click()}
            title="Puts a file that another Rovnek kept onto the shelf"
          >
            Open a copy …
          </Button>
        </>
      }
    >
      {alone && there.length === 0 && (
        <p style={{ margin: "0 0 12px", maxWidth: 640 }}>
          Nothing is on the shelf yet. Give your first production a name and begin it, or look around in the
          demo: a tram depot at night, with two takes, in a copy of your own.
        </p>
      )}
      <Cards label="Productions">
        <Begin busy={!!busy} during={during} first={there.length === 0} />
        {there
          .filter((p) => !p.aside)
          .map((p) => (
            <Production key={p.id} one={p} open={shelf?.open === p.id} during={during} busy={!!busy} />
          ))}
      </Cards>
      {aside.length > 0 && (
        <>
          <h3 className="label" style={{ margin: "14px 0 8px" }}>
            Set aside
          </h3>
          <Cards label="Set aside">
            {aside.map((p) => (
              <Production key={p.id} one={p} open={false} during={during} busy={!!busy} />
            ))}
          </Cards>
        </>
      )}
    </Drawer>
  );
}

interface Busy {
  busy: boolean;
  during: (what: string, work: Promise<unknown>) => Promise<void>;
}

function Begin({ busy, during, first }: Busy & { first: boolean }) {
  const [name, setName] = useState("");
  const called = name.trim();
  return (
    <Card name="New production" picture={null} none="an empty stage">
      <form
        style={{ display: "contents" }}
        onSubmit={(e) => {
          e.preventDefault();
          if (called) void during("Beginning", beginProduction(called, false));
        }}
      >
        <input
          className="inplace"
          aria-label="Name of the new production"
          placeholder="name of a new production"
          value={name}
          autoFocus={first}
          maxLength={120}
          onChange={(e) => setName(e.target.value)}
          style={{ fontSize: 16, fontWeight: 500 }}
        />
        <span style={{ flex: 1 }} />
        <div style={{ display: "flex", gap: 6, flexWrap: "wrap" }}>
          <Button type="submit" disabled={busy || !called}>
            Begin
          </Button>
          <Button
            disabled={busy}
            onClick={() =>
              void during("Rolling the demo's takes", beginProduction(called || "Last Tram", true))
            }
            title="A copy of the demo production that is yours"
          >
            Begin with the demo
          </Button>
        </div>
      </form>
    </Card>
  );
}

function Production({ one, open, busy, during }: Busy & { one: OnShelf; open: boolean }) {
  const { id, name, scenes, takes, used_at, aside, picture, trouble } = one;
  return (
    <Card
      name={name}
      here={open}
      faint={aside}
      picture={picture === null ? null : `${pictureOf(id)}?${encodeURIComponent(picture)}`}
      none={trouble ? "cannot be opened" : "no picture yet"}
    >
      {trouble ? (
        <>
          <strong>{name}</strong>
          <span style={{ color: ink.paperBeyond }}>{trouble}</span>
          <span style={{ flex: 1 }} />
          <div>
            <Button
              disabled={busy}
              title="Once the file is mended, or another has its place"
              onClick={() => void during(`Opening ${name}`, openProduction(id))}
            >
              Try again
            </Button>
          </div>
        </>
      ) : (
        <>
          <TextField
            label={`Name of ${name}`}
            width="100%"
            value={name}
            onKeep={(to) => void rename(id, to)}
            style={{ fontSize: 16, fontWeight: 500 }}
          />
          <span style={{ fontSize: 13 }}>
            {scenes.length === 1 ? `scene ${scenes[0]}` : `${scenes.length} scenes: ${scenes.join(", ")}`}
            {" · "}
            {takes} take{takes === 1 ? "" : "s"}
          </span>
          <span style={{ fontSize: 13, color: ink.paperPeople }}>
            {open ? "open now" : lastUse(used_at, new Date())}
          </span>
          <span style={{ flex: 1 }} />
          <div style={{ display: "flex", gap: 6, flexWrap: "wrap" }}>
            {!open && !aside && (
              <Button disabled={busy} onClick={() => void during(`Opening ${name}`, openProduction(id))}>
                Open
              </Button>
            )}
            {!aside && (
              <>
                <Button
                  disabled={busy}
                  onClick={() => void during(`Copying ${name}`, duplicate(id, `${name}, copy`))}
                >
                  Duplicate
                </Button>
                <Button component="a" href={copyOf(id)} download title="All of it in one file">
                  Keep a copy
                </Button>
              </>
            )}
            {!open && (
              <Button disabled={busy} onClick={() => void setAside(id, !aside)}>
                {aside ? "Take back" : "Set aside"}
              </Button>
            )}
          </div>
        </>
      )}
    </Card>
  );
}
