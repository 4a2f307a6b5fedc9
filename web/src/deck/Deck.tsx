import { MenuItem, Select, Slider } from "@mui/material";
import type { MachineView, Wheel } from "../generated/types";
import { keysOf, presetOf, useInputs } from "../hands/inputs";
import { setDial } from "../hands/dial";
import { hasWheel, holdsWheels, link, useFloor } from "../live/link";
import { headTo } from "../machine/positions";
import { rollOrCut } from "../state/transport";
import { setView, useView } from "../state/view";
import { ink } from "../theme";
import { cutOff } from "../form/cutOff";
import { Toggle } from "../form/rows";
import { useNarrow } from "../form/useNarrow";
import { WhoseWheel } from "./WhoseWheel";
import { Strip } from "./Strip";

const groups: [Exclude<Wheel, "performer">, string][] = [
  ["machine", "Machine"],
  ["head", "Head"],
  ["lens", "Lens"],
];

/** One strip an axis, the feel of the machine, and the big control that rolls. */
export function Deck({
  machine,
  kind,
  level,
  name,
}: {
  machine: MachineView;
  kind: string;
  level: string | null;
  name: string;
}) {
  const inputs = useInputs();
  const keys = keysOf(presetOf(inputs, kind, machine.axes), machine);
  const driven = machine.axes.map((axis, i) => ({ axis, i })).filter(({ axis }) => axis.hand !== null);
  const many = driven.filter(({ axis }) => axis.group === "machine").length;
  // Many axes stand in columns, closer together.
  const narrow = useNarrow();
  const slim = many > 3 || narrow;
  return (
    <section
      aria-label="Deck"
      className="grows"
      style={{ display: "flex", gap: 8, height: 132, minWidth: 0 }}
    >
      {groups.map(([group, word]) => {
        const strips = driven.filter(({ axis }) => axis.group === group);
        const own = group === "lens" ? strips.length + 1 : strips.length;
        const rows = own > 6 || own === 4 ? 4 : 3;
        const columns = Math.max(1, Math.ceil(own / rows));
        return (
          <div
            key={group}
            className="panel"
            style={{
              flex: slim ? `${columns} 1 ${group === "machine" ? 0 : 30}px` : 1,
              minWidth: 0,
              padding: slim ? "8px 8px 4px" : "8px 10px 4px",
              display: "flex",
              flexDirection: "column",
            }}
          >
            <div style={{ display: "flex", gap: 8, alignItems: "baseline", height: 20 }}>
              <span className="label" style={cutOff}>
                {group === "machine" ? name : word}
              </span>
              {group === "head" && level && !narrow && (
                <span style={{ fontSize: 12, color: ink.chalkDim, whiteSpace: "nowrap" }}>{level}</span>
              )}
              <WhoseWheel wheel={group} />
              {group === "head" && strips.length > 0 && <HeadActions />}
              {strips.length > 0 && strips.length < driven.length && (
                <OnlyThese word={group} own={strips.map(({ i }) => i)} all={driven.map(({ i }) => i)} />
              )}
            </div>
            <div
              style={{
                display: "grid",
                gridAutoFlow: "column",
                gridTemplateRows: `repeat(${rows}, ${rows > 3 ? 24 : 29}px)`,
                gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`,
                columnGap: columns > 2 ? 8 : 12,
              }}
            >
              {strips.map(({ axis, i }) => (
                <Strip
                  key={axis.name}
                  axis={axis}
                  index={i}
                  keys={keys[i] ?? null}
                  slim={slim}
                  tight={narrow || columns > 2}
                />
              ))}
              {group === "lens" && <Feel slim={slim} />}
            </div>
          </div>
        );
      })}
      <RollControl />
    </section>
  );
}

/** Arms the axes of a group and no others; again, all of them. */
function OnlyThese({ word, own, all }: { word: string; own: number[]; all: number[] }) {
  const armed = useFloor((s) => s.status?.armed);
  const mine = useFloor(holdsWheels);
  const standby = useFloor((s) => s.status?.roll === "standby");
  const live = useView((s) => s.live);
  const only = all.every((i) => (armed?.[i] ?? true) === own.includes(i));
  const turn = () =>
    all.forEach((axis) => {
      const on = only || own.includes(axis);
      if (on !== (armed?.[axis] ?? true)) link.send({ do: "arm", axis, on });
    });
  return (
    <span style={{ marginLeft: word === "head" ? 0 : "auto" }}>
      <Toggle
        on={only}
        label="only"
        name={`${word} only`}
        title={only ? "Arms all axes again" : `Arms the ${word} alone: the other axes hold still or play`}
        off={!mine || !standby || !live}
        onClick={turn}
      />
    </span>
  );
}

/** Level and centre: what is done to a head most often. */
function HeadActions() {
  const mine = useFloor(hasWheel("head"));
  const live = useView((s) => s.live);
  const action = (word: string, title: string, onClick: () => void) => (
    <button
      className="plain"
      title={title}
      disabled={!mine || !live}
      onClick={onClick}
      style={{
        fontSize: 12,
        color: ink.chalkDim,
        border: `1px solid ${ink.slate3}`,
        borderRadius: 3,
        padding: "0 6px",
      }}
    >
      {word}
    </button>
  );
  return (
    <span style={{ marginLeft: "auto", display: "flex", gap: 4 }}>
      {action("level", "Roll until the horizon is level (Alt H)", () => link.send({ do: "level" }))}
      {action("centre", "Pan, tilt and roll to where the head is mounted (Alt C)", () =>
        headTo(["pan", "tilt", "roll"]),
      )}
    </span>
  );
}

/** Speed dial and drag. */
function Feel({ slim }: { slim: boolean }) {
  const dial = useFloor((s) => s.status?.dial ?? 0.6);
  const drag = useFloor((s) => s.status?.drag ?? 1);
  const mine = useFloor(holdsWheels);
  const slider = (
    name: string,
    value: number,
    min: number,
    max: number,
    send: (v: number) => void,
    keys: string,
  ) => (
    <label
      style={{ display: "flex", alignItems: "center", gap: slim ? 6 : 8, flex: 1, fontSize: 13, minWidth: 0 }}
    >
      <span style={{ color: ink.chalkDim }} title={keys}>
        {name}
      </span>
      <Slider
        aria-label={name}
        disabled={!mine}
        value={value}
        min={min}
        max={max}
        step={0.05}
        onChange={(_, v) => send(v as number)}
        sx={{ flex: 1, minWidth: slim ? 16 : 30, color: ink.chalk, py: "8px" }}
      />
      <span className="num" data-testid={name} style={{ fontSize: 12.5 }}>
        {value.toFixed(2)}
      </span>
    </label>
  );
  return (
    <div style={{ display: "flex", gap: slim ? 8 : 14, alignItems: "center", height: 32, minWidth: 0 }}>
      {slider("speed", dial, 0.05, 1, setDial, "Keys 1 to 9 and 0, or - and =")}
      {slider(
        "drag",
        drag,
        0,
        4,
        (v) => link.send({ do: "feel", dial, drag: v }),
        "How much the machine feels like moving through a fluid",
      )}
    </div>
  );
}

function RollControl() {
  const status = useFloor((s) => s.status);
  const mine = useFloor(holdsWheels);
  const countIn = useView((s) => s.countIn);
  const on = status && status.roll !== "standby";
  return (
    <div style={{ width: 108, flex: "none", display: "flex", flexDirection: "column", gap: 4 }}>
      <button
        className="plain"
        onClick={rollOrCut}
        disabled={!mine}
        aria-label={on ? "Cut" : "Roll"}
        style={{
          flex: 1,
          borderRadius: 4,
          display: "grid",
          placeContent: "center",
          justifyItems: "center",
          gap: 6,
          fontSize: 16,
          fontWeight: 500,
          border: `1px solid ${mine ? ink.rec : ink.slate3}`,
          background: on ? ink.rec : ink.slate1,
          color: mine ? ink.chalk : ink.chalkFaint,
        }}
      >
        <span
          style={{
            width: 20,
            height: 20,
            background: on ? ink.chalk : mine ? ink.rec : ink.slate3,
            borderRadius: on ? 2 : 10,
          }}
        />
        {on ? (status.roll === "counting" ? "Stop counting" : "Cut") : "Roll"}
        <span
          className="key"
          style={on ? { background: `${ink.shade}30`, color: ink.chalk, borderColor: `${ink.shade}40` } : {}}
        >
          R
        </span>
      </button>
      <Select
        size="small"
        value={countIn}
        disabled={!!on}
        onChange={(e) => setView({ countIn: Number(e.target.value) })}
        slotProps={{ input: { "aria-label": "Count in" } }}
        sx={{
          fontSize: 12.5,
          "& .MuiSelect-select": { py: "3px", pl: "8px" },
          "& fieldset": { borderColor: ink.slate3 },
        }}
      >
        {[0, 1, 2, 3, 4, 5].map((s) => (
          <MenuItem key={s} value={s}>
            {s === 0 ? "no count in" : `count in ${s} s`}
          </MenuItem>
        ))}
      </Select>
    </div>
  );
}
