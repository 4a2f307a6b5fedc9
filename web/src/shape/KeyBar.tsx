import { Button } from "@mui/material";
import { useEffect, useState } from "react";
import { Above } from "../form/Above";
import { NumberField } from "../form/fields";
import { Choice, Row, Toggle } from "../form/rows";
import type { About, MachineView, Mark, SideBy } from "../generated/types";
import { editKeys, removeKeys } from "../move/keyEdits";
import { countOf, keysOf, picksWhere, pickKeys, present, usePicked } from "../move/picked";
import type { Looked } from "../state/looked";
import { clock } from "../state/view";
import { ink } from "../theme";
import { EaseMenu } from "./EaseMenu";
import { markInk } from "./drawLanes";
import { copyKeys, keysKey, pasteKeys, sides, stepKey, stepMark, type Keyboard } from "./keysKey";
import { keyHandler } from "../state/keyHandler";

/** Bar over the lanes with the actions on keys, and the marks in the curves. */
export function KeyBar(props: { looked: Looked; machine: MachineView; rate: number; marks: Mark[] }) {
  const { looked, machine, rate, marks } = props;
  const { curves } = looked.move;
  const all = usePicked((s) => (s.move === looked.move.id ? s.keys : null));
  const picks = all ? present(all, curves) : {};
  const count = Object.values(curves).reduce((n, keys) => n + keys.length, 0);
  const [mark, setMark] = useState(0);
  const keyboard: Keyboard = { looked, machine, rate, marks, mark, setMark };
  useEffect(() => {
    keyHandler.current = (event, key) => keysKey(keyboard, event, key);
    return () => {
      keyHandler.current = null;
    };
  });
  const shown = marks[Math.min(mark, marks.length - 1)];
  if (count === 0 && !shown) return null;
  return (
    <div
      role="group"
      aria-label="Keys"
      style={{
        display: "flex",
        flexWrap: "wrap",
        alignItems: "center",
        gap: "2px 12px",
        minHeight: 24,
        fontSize: 12.5,
        color: ink.chalkDim,
      }}
    >
      {count > 0 && <PickedKeys keyboard={keyboard} picks={picks} count={count} />}
      {shown && (
        <span style={{ marginLeft: "auto", display: "flex", gap: 6, alignItems: "center" }}>
          <button className="plain" aria-label="Mark before (Shift M)" onClick={() => stepMark(keyboard, -1)}>
            ‹
          </button>
          <span role="status" aria-label="Mark" style={{ color: markInk[shown.kind] }}>
            {shown.what}
          </span>
          <span className="num">
            {Math.min(mark, marks.length - 1) + 1}/{marks.length}
          </span>
          <button className="plain" aria-label="Next mark (M)" onClick={() => stepMark(keyboard, 1)}>
            ›
          </button>
        </span>
      )}
    </div>
  );
}

function PickedKeys({
  keyboard,
  picks,
  count,
}: {
  keyboard: Keyboard;
  picks: Record<string, number[]>;
  count: number;
}) {
  const { looked, machine, rate } = keyboard;
  const { curves } = looked.move;
  const some = countOf(picks);
  const picked = keysOf(picks, curves);
  const first = picked[0];
  const axes = Object.keys(picks);
  const axis = axes.length === 1 ? machine.axes.find((a) => a.name === axes[0]) : undefined;
  const side = (which: SideBy) =>
    picked.length > 0 && picked.every(({ key }) => key.before.side === which && key.after.side === which);
  return (
    <>
      <span style={{ display: "flex", gap: 4, alignItems: "center", whiteSpace: "nowrap" }}>
        <button className="plain" aria-label="Key before (,)" onClick={() => stepKey(keyboard, -1, false)}>
          ‹
        </button>
        <button
          className="plain"
          title="Pick all keys (Ctrl A)"
          onClick={() => pickKeys(looked.move.id, some === count ? {} : picksWhere(curves, () => true))}
          style={{ color: some ? ink.pick : undefined }}
        >
          {some ? `${some} of ${count} keys` : count === 1 ? "1 key" : `${count} keys`}
        </button>
        <button className="plain" aria-label="Next key (.)" onClick={() => stepKey(keyboard, 1, false)}>
          ›
        </button>
      </span>
      {!first && (
        <span style={{ color: ink.chalkFaint }}>
          click a key, <span className="key">Shift</span> drag a box · double click or{" "}
          <span className="key">N</span> adds one
        </span>
      )}
      {first && (
        <>
          <span style={{ display: "flex", gap: 5, alignItems: "baseline" }}>
            frame
            <NumberField
              label="Frame of the first picked key"
              unit=""
              digits={Number.isInteger(Number((first.key.time_s * rate).toFixed(3))) ? 0 : 2}
              step={1}
              min={0}
              value={first.key.time_s * rate}
              onChange={(frame) =>
                void editKeys(looked, "move keys", {
                  do: "shift",
                  by_s: frame / rate - first.key.time_s,
                  by: 0,
                })
              }
            />
          </span>
          {axis && (
            <NumberField
              label={`Value of the first picked key`}
              unit={axis.unit}
              digits={axis.unit === "mm" ? 1 : 2}
              step={axis.unit === "m" ? 0.01 : 0.1}
              value={first.key.value}
              onChange={(value) =>
                void editKeys(looked, "move keys", { do: "shift", by_s: 0, by: value - first.key.value })
              }
            />
          )}
          <span style={{ display: "flex", gap: 3 }} role="group" aria-label="Sides of the keys">
            {sides.map((which, i) => (
              <Toggle
                key={which}
                on={side(which)}
                label={which}
                title={`${sideWords[which]} (${i + 1})`}
                onClick={() =>
                  void editKeys(looked, "turn keys", { do: "sides", before: true, after: true, side: which })
                }
              />
            ))}
          </span>
          <EaseMenu looked={looked} off={some < 2} />
          <More keyboard={keyboard} />
          <button className="plain" title="Remove what is picked (Delete)" onClick={() => removeKeys(looked)}>
            remove
          </button>
        </>
      )}
    </>
  );
}

const sideWords: Record<SideBy, string> = {
  smooth: "By the neighbours, without overshoot",
  straight: "Towards the neighbours",
  flat: "Level through the key",
  hold: "Stays until the next key, and jumps there",
  free: "As it is, with ends to hold",
};

const abouts: [About["by"], string][] = [
  ["start", "their start"],
  ["middle", "their middle"],
  ["at", "the playhead"],
  ["value", "a value"],
];

/** Menu of rarer actions: scaling, repeating, evening out, closing, copying onto other axes. */
function More({ keyboard }: { keyboard: Keyboard }) {
  const { looked, machine } = keyboard;
  const [time, setTime] = useState(1);
  const [value, setValue] = useState(1);
  const [by, setBy] = useState<About["by"]>("start");
  const [about, setAbout] = useState(0);
  const [times, setTimes] = useState(1);
  const [onto, setOnto] = useState("");
  const copied = usePicked((s) => s.copied);
  const others = machine.axes.filter((a) => a.hand !== null).map((a) => [a.name, a.name] as const);
  const scale = (): About =>
    by === "at" ? { by, time_s: clock.time } : by === "value" ? { by, value: about } : { by };
  const one = copied && Object.keys(copied).length === 1 ? Object.values(copied)[0]! : null;
  return (
    <Above word="more" name="More for keys">
      {() => (
        <>
          <span className="label">Scale</span>
          <Row label="time, value">
            <NumberField
              label="Scale in time"
              unit="×"
              min={0.001}
              max={1000}
              value={time}
              onChange={setTime}
            />
            <NumberField
              label="Scale in value"
              unit="×"
              min={-1000}
              max={1000}
              value={value}
              onChange={setValue}
            />
          </Row>
          <Row label="about">
            <Choice label="Scale about" value={by} options={abouts} onChange={setBy} />
            {by === "value" && (
              <NumberField label="Value that stays" unit="" value={about} onChange={setAbout} />
            )}
            <Button
              onClick={() =>
                void editKeys(looked, "scale keys", { do: "scale", time, value, about: scale() })
              }
            >
              Scale
            </Button>
          </Row>
          <Row label="again, after the last">
            <NumberField
              label="How often"
              unit="×"
              digits={0}
              step={1}
              min={1}
              max={1000}
              value={times}
              onChange={setTimes}
            />
            <Button onClick={() => void editKeys(looked, "repeat keys", { do: "repeat", times })}>
              Repeat
            </Button>
          </Row>
          <Row label="inner times float">
            <Button
              title="Picked keys keep their values; the times of the inner ones are laid out by how far the camera goes from key to key"
              onClick={() => void editKeys(looked, "space keys by distance", { do: "even" })}
            >
              Space by distance
            </Button>
          </Row>
          <Row label="the end is the start">
            <Button onClick={() => void editKeys(looked, "close keys", { do: "close" })}>Close</Button>
          </Row>
          <Row label="copied, at the playhead">
            <Button onClick={() => copyKeys(looked)} title="Ctrl C">
              Copy
            </Button>
            <Button disabled={!copied} onClick={() => pasteKeys(looked)} title="Ctrl V">
              Paste
            </Button>
          </Row>
          {one && (
            <Row label="onto">
              <Choice
                label="Axis to paste onto"
                value={onto || others[0]![0]}
                options={others}
                onChange={setOnto}
              />
              <Button onClick={() => pasteKeys(looked, { [onto || others[0]![0]]: one })}>Paste</Button>
            </Row>
          )}
        </>
      )}
    </Above>
  );
}
