import { Button, MenuItem, Select, Tooltip } from "@mui/material";
import { useLayoutEffect, useRef } from "react";
import { usePutOnFloor } from "../api";
import { JobsList } from "../move/JobsList";
import { lookedOf } from "../state/looked";
import { changeOwnCamera } from "../move/edits";
import { changeCamera } from "../camera/setups";
import { change, redo, undo } from "../document/edit";
import type { Document, Rate } from "../generated/types";
import { useFloor } from "../live/link";
import { timecodeText } from "../live/wire";
import { everyFrame, moment } from "../state/now";
import { goLive, turnDrawer, useView, type Drawer } from "../state/view";
import { font, ink } from "../theme";
import { cutOff } from "../form/cutOff";
import { NumberField, TextField } from "../form/fields";
import { Typed } from "../form/Typed";
import { Wheels } from "./Wheels";
import { typeTime } from "../state/transport";

const RATES: [string, Rate][] = [
  ["23.976", { num: 24000, den: 1001 }],
  ["24", { num: 24, den: 1 }],
  ["25", { num: 25, den: 1 }],
  ["29.97", { num: 30000, den: 1001 }],
  ["30", { num: 30, den: 1 }],
  ["48", { num: 48, den: 1 }],
  ["50", { num: 50, den: 1 }],
  ["60", { num: 60, den: 1 }],
];

/** The slate: what is being shot, and at the right who holds the wheels. */
export function SlateBar({ document }: { document: Document }) {
  const { scene: shot, setups, takes, history } = document;
  const floorSetup = useFloor((s) => s.status?.setup_id);
  const rolling = useFloor((s) => s.status?.roll === "rolling");
  const belowId = useFloor((s) => s.status?.below ?? null);
  const live = useView((s) => s.live);
  const moveId = useView((s) => s.moveId);
  const put = usePutOnFloor();
  const place = `/scenes/${shot.id}`;
  const looked = lookedOf(document, moveId);
  const setup = setups.find((s) => s.id === (live ? floorSetup : looked?.move.setup_id));
  // The lens of what is looked at: of the setup on the floor, or of a move.
  const seen = live ? null : looked;
  const camera = seen?.camera ?? setup?.camera;
  // Driving somebody alone rolls no take.
  const counts = useFloor((s) => s.status?.roll === "rolling" && !s.status.alone);
  const below = takes.find((t) => t.id === belowId);
  // A take that rolls has its number already; a pass has that of the take below.
  const next = below?.number ?? document.next_take - (counts ? 1 : 0);
  const rate = RATES.find(([, r]) => r.num === shot.rate.num && r.den === shot.rate.den)?.[0] ?? "";

  return (
    <header
      className="grows"
      style={{
        gridColumn: "1 / -1",
        display: "flex",
        height: 54,
        borderBottom: `1px solid ${ink.slate3}`,
        background: ink.slate1,
      }}
    >
      <div
        style={{
          width: 68,
          flex: "none",
          display: "grid",
          placeItems: "center",
          borderRight: `1px solid ${ink.slate3}`,
        }}
      >
        <svg
          width="32"
          height="28"
          viewBox="0 0 32 28"
          fill="none"
          stroke={ink.chalk}
          strokeWidth="2"
          aria-label="Rovnek"
          role="img"
        >
          <path d="M4 21C13 21 11 6 24 6M5 26H22" opacity="0.95" />
          <circle cx="26" cy="6" r="2" fill={ink.chalk} />
        </svg>
      </div>
      <Box label="Production" gives opens="shelf" hint="The shelf of productions (F2)">
        <TextField
          label="Production"
          value={document.production}
          onKeep={(name) => void change("name the production", "/production/name", document.production, name)}
        />
      </Box>
      <Box label="Scene" gives opens="scenes" hint="The scenes of this production (F4)">
        <span style={{ display: "flex", gap: 2 }}>
          <TextField
            label="Scene number"
            value={shot.number}
            onKeep={(number) => void change("number the scene", `${place}/number`, shot.number, number)}
          />
          <TextField
            label="Scene name"
            value={shot.name}
            onKeep={(name) => void change("name the scene", `${place}/name`, shot.name, name)}
          />
        </span>
      </Box>
      <Box label="Setup" gives>
        <Select
          variant="standard"
          disableUnderline
          value={setup?.id ?? ""}
          disabled={rolling}
          onChange={(e) => {
            goLive();
            put.mutate(Number(e.target.value));
          }}
          slotProps={{ input: { "aria-label": "Setup" } }}
          sx={{
            fontSize: 16,
            fontWeight: 500,
            maxWidth: "min(230px, 100%)",
            "& .MuiSelect-select": { py: 0, minHeight: 0, pr: "20px !important" },
          }}
        >
          {setups
            .filter((s) => !s.binned)
            .map((s) => (
              <MenuItem key={s.id} value={s.id}>
                {s.letter} · {s.name}
              </MenuItem>
            ))}
        </Select>
      </Box>
      <Box label={counts ? "Take" : live ? "Next take" : "Looking at"}>
        <span className="num" data-testid="slate-take">
          {live ? next : (looked?.take?.number ?? "–")}
          {live && below && <span style={{ fontSize: 12.5, color: ink.chalkDim }}> pass</span>}
        </span>
      </Box>
      <Box label="Rate">
        <Select
          variant="standard"
          disableUnderline
          value={rate}
          onChange={(e) => {
            const chosen = RATES.find(([name]) => name === e.target.value);
            if (chosen) void change("change the rate", `${place}/rate`, shot.rate, chosen[1]);
          }}
          slotProps={{ input: { "aria-label": "Frames a second" } }}
          sx={{
            fontSize: 15,
            fontFamily: font.number,
            "& .MuiSelect-select": { py: 0, minHeight: 0, pr: "18px !important" },
          }}
        >
          {RATES.map(([name]) => (
            <MenuItem key={name} value={name}>
              {name}
            </MenuItem>
          ))}
        </Select>
      </Box>
      {setup && camera && (
        <Box label="Lens">
          <NumberField
            label="Lens"
            unit="mm"
            digits={0}
            step={1}
            min={camera.focal_min_mm}
            max={camera.focal_max_mm}
            value={camera.focal_mm}
            onChange={(focal_mm, gesture) =>
              seen ? changeOwnCamera(seen, { focal_mm }, gesture) : changeCamera(setup, { focal_mm }, gesture)
            }
          />
          <LensNow set={camera.focal_mm} />
        </Box>
      )}
      <Box label="Timecode">
        <Clock rolling={rolling} />
      </Box>
      <div
        style={{
          marginLeft: "auto",
          display: "flex",
          alignItems: "center",
          gap: 6,
          padding: "0 10px",
          flex: "none",
        }}
      >
        <JobsList />
        <LiveOutLine />
        <Wheels />
        <Tooltip
          describeChild
          title={history.undo ? `Undo: ${history.undo.label} (Ctrl Z)` : "Nothing to undo"}
        >
          <span>
            <Button
              disabled={!history.undo}
              onClick={() => void undo()}
              sx={{ maxWidth: 190, whiteSpace: "pre" }}
            >
              {"Undo "}
              {history.undo && <span style={{ ...cutOff, color: ink.chalkDim }}>{history.undo.label}</span>}
            </Button>
          </span>
        </Tooltip>
        <Tooltip
          describeChild
          title={history.redo ? `Redo: ${history.redo.label} (Ctrl Shift Z)` : "Nothing to redo"}
        >
          <span>
            <Button
              disabled={!history.redo}
              onClick={() => void redo()}
              sx={{ maxWidth: 150, whiteSpace: "pre" }}
            >
              {"Redo "}
              {history.redo && <span style={{ ...cutOff, color: ink.chalkDim }}>{history.redo.label}</span>}
            </Button>
          </span>
        </Tooltip>
      </div>
    </header>
  );
}

/** Focal length in the picture, where a zoom, a key or a device has taken it away from the one that is set. */
function LensNow({ set }: { set: number }) {
  const text = useRef<HTMLSpanElement>(null);
  useLayoutEffect(
    () =>
      everyFrame(() => {
        const focal = moment()?.focal ?? set;
        const now = Math.abs(focal - set) >= 0.5 ? ` now ${focal.toFixed(0)}` : "";
        if (text.current && text.current.textContent !== now) text.current.textContent = now;
      }, 10),
    [set],
  );
  return (
    <span
      ref={text}
      className="num"
      data-testid="lens-now"
      title="Focal length in the picture just now, millimetres"
      style={{ fontSize: 13, color: ink.pick }}
    />
  );
}

function Box(props: {
  label: string;
  gives?: boolean;
  /** The drawer that drops down from it. */
  opens?: Drawer;
  hint?: string;
  children: React.ReactNode;
}) {
  const { label, gives = false, opens, hint, children } = props;
  const open = useView((s) => s.drawer !== null && s.drawer === opens);
  return (
    <div
      style={{
        padding: "8px 12px 0",
        borderRight: `1px solid ${ink.slate3}`,
        ...cutOff,
        // Names make room; numbers do not.
        flex: gives ? "0 1 auto" : "none",
        fontSize: 16,
        fontWeight: 500,
      }}
    >
      {opens ? (
        <button
          className="plain"
          aria-expanded={open}
          title={hint}
          onClick={() => turnDrawer(opens)}
          style={{
            display: "flex",
            alignItems: "center",
            gap: 5,
            marginBottom: 3,
          }}
        >
          <span className="label" style={{ ...cutOff, color: open ? ink.pick : undefined }}>
            {label}
          </span>
          <span aria-hidden style={{ fontSize: 10, lineHeight: "11px", color: ink.chalkDim }}>
            {open ? "▴" : "▾"}
          </span>
        </button>
      ) : (
        <div className="label" style={{ ...cutOff, marginBottom: 3 }}>
          {label}
        </div>
      )}
      {children}
    </div>
  );
}

function Clock({ rolling }: { rolling: boolean }) {
  const text = useRef<HTMLSpanElement>(null);
  useLayoutEffect(
    () =>
      everyFrame(() => {
        const at = moment();
        if (!at || !text.current) return;
        const shown = timecodeText(at.timecode);
        if (text.current.textContent !== shown) text.current.textContent = shown;
      }),
    [],
  );
  return (
    <Typed
      label="Timecode"
      hint="Type a timecode, a frame (120) or seconds (5.2 s)"
      read={() => text.current?.textContent ?? ""}
      onKeep={typeTime}
      off={rolling}
      wide={11}
    >
      <span ref={text} className="num" style={{ color: rolling ? ink.rec : undefined }} />
    </Typed>
  );
}

/** To whom the camera is told; whoever sits at any page sees it. */
function LiveOutLine() {
  const line = useFloor((s) => s.liveOut);
  if (!line) return null;
  return (
    <span
      role="status"
      title={`Live out: ${line}`}
      style={{ ...cutOff, maxWidth: 180, color: ink.near, fontSize: 12.5 }}
    >
      live out: {line}
    </span>
  );
}
