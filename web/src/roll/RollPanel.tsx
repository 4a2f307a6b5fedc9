import { useDevices, useSetBase } from "../api";
import { sourcesWith } from "../devices/words";
import { Passes } from "../takes/Passes";
import type { Document, HangStatus, MachineView, MoverId, Setup, TakeId } from "../generated/types";
import { holdsWheels, link, useFloor } from "../live/link";
import { Choice, Row, Toggle } from "../form/rows";
import { NumberField, TextField } from "../form/fields";
import { goLive, setSlate, setView, useView, type Ends } from "../state/view";
import { ink } from "../theme";

const clocks: [number, string][] = [
  [1, "1×"],
  [0.5, "0.5×"],
  [0.25, "0.25×"],
];

/** What is said before a roll, how it goes, and what it is laid over. */
export function RollPanel({
  document,
  setup,
  machine,
}: {
  document: Document;
  setup: Setup;
  machine: MachineView;
}) {
  const status = useFloor((s) => s.status);
  const mine = useFloor(holdsWheels);
  const slate = useView((s) => s.slate);
  const ghost = useView((s) => s.ghost);
  const [inS, outS] = [useView((s) => s.inS), useView((s) => s.outS)];
  const takes = document.takes.filter((t) => t.setup_id === setup.id && !t.binned && !t.rolling && !t.pass);
  const below = takes.find((t) => t.id === status?.below) ?? null;
  const setBase = useSetBase();
  const clock = status?.clock ?? 1;
  const standby = status?.roll === "standby";
  const acting = status?.acting ?? null;
  const act = (who: MoverId | null, alone: boolean) => {
    goLive();
    if (mine) link.send({ do: "act", who, alone });
  };
  // What moves in this performance can be driven in it.
  const moving = document.scene.pieces.filter(
    (p) => !p.hidden && p.routes?.some((r) => r.performance === document.scene.performance),
  );
  const layBelow = (take: TakeId | null) => {
    setBase.mutate(take);
    setSlate({ pass: "" });
  };
  return (
    <section className="panel scroll" aria-label="Slate" style={{ height: "100%", padding: "8px 12px" }}>
      <Row label={`Take ${below ? `${below.number}, a pass` : document.next_take}`}>
        <TextField
          label="Note on the slate"
          placeholder="note for the slate"
          width={190}
          value={slate.note}
          onKeep={(note) => setSlate({ note })}
        />
      </Row>
      {/* A pass records the camera over what plays. */}
      {!below && (
        <Row label="hands drive">
          <Choice
            label="Who is driven"
            value={acting ? `${acting.kind} ${acting.id}` : "camera"}
            options={[
              ["camera", "camera"],
              ...document.scene.performers.map((p) => [`performer ${p.id}`, p.name] as const),
              ...moving.map((p) => [`piece ${p.id}`, p.name] as const),
            ]}
            onChange={(word) => {
              const [kind, id] = word.split(" ");
              act(
                kind === "camera" ? null : ({ kind, id: Number(id) } as MoverId),
                acting ? !!status?.alone : true,
              );
            }}
          />
          {acting && (
            <Toggle
              on={!status?.alone}
              label="and the camera"
              title="Both are recorded in one roll"
              onClick={() => act(acting, !status?.alone)}
            />
          )}
        </Row>
      )}
      {acting && <Strings hangs={status?.hangs ?? null} mine={mine} />}
      {acting && !status?.hangs && (
        <p style={{ margin: "0 0 4px", fontSize: 12, color: ink.chalkDim }}>
          <span className="key">↑</span> walk <span className="key">← →</span> turn{" "}
          <span className="key">Shift</span> run <span className="key">↓</span> sit. The roll becomes their
          path in “{document.scene.performances.find((p) => p.id === document.scene.performance)?.name}”.
        </p>
      )}
      <Row label="clock">
        {clocks.map(([speed, word]) => (
          <Toggle
            key={speed}
            on={clock === speed}
            label={word}
            title="How fast the scene and the machine go while you drive; the take plays at true speed"
            onClick={() => mine && standby && link.send({ do: "clock", speed })}
          />
        ))}
        <NumberField
          label="Clock"
          unit="×"
          digits={2}
          step={0.05}
          min={0.05}
          max={1}
          value={clock}
          onChange={(speed) => mine && standby && link.send({ do: "clock", speed })}
        />
      </Row>
      {!below && (
        <Row label="ends">
          <Choice<Ends>
            label="The roll ends"
            value={slate.ends}
            options={[
              ["key", "when R is pressed"],
              ["performance", "with the performance"],
              [
                "out",
                outS === null ? "at the out point (none: O)" : `at the out point, ${outS.toFixed(1)} s`,
              ],
            ]}
            onChange={(ends) => setSlate({ ends })}
          />
        </Row>
      )}
      <Row label="count in">
        <Choice
          label="Count in, seconds"
          value={useView.getState().countIn}
          options={[0, 1, 2, 3, 4, 5].map((s) => [s, s === 0 ? "none" : `${s} s`] as const)}
          onChange={(countIn) => setView({ countIn })}
        />
        <Toggle on={slate.sound} label="spoken count" onClick={() => setSlate({ sound: !slate.sound })} />
        <Toggle
          on={ghost}
          label="ghost"
          title="The take before shows where it was while the next one is driven (Alt V)"
          onClick={() => setView({ ghost: !ghost })}
        />
      </Row>
      <div style={{ borderTop: `1px solid ${ink.slate3}`, margin: "6px 0 4px" }} />
      <Row label="record over">
        <Choice
          label="Take below"
          value={below?.id ?? 0}
          options={[
            [0, "nothing: a take of its own"],
            ...takes.map(
              (t) => [t.id, `take ${t.number}${t.name ? ` “${t.name.slice(0, 18)}”` : ""}`] as const,
            ),
          ]}
          onChange={(id) => layBelow(id || null)}
        />
      </Row>
      {below ? (
        <>
          <Row label="records">
            <TextField
              label="Name of the pass"
              placeholder={status?.pass_name || "no axis is armed"}
              width={150}
              value={slate.pass}
              onKeep={(pass) => setSlate({ pass })}
            />
          </Row>
          <div style={{ display: "flex", flexWrap: "wrap", gap: 4, padding: "2px 0 4px" }}>
            {machine.axes.map((axis, i) =>
              axis.hand === null ? null : (
                <Toggle
                  key={axis.name}
                  on={status?.armed[i] ?? true}
                  label={axis.name}
                  onClick={() => mine && link.send({ do: "arm", axis: i, on: !status?.armed[i] })}
                />
              ),
            )}
          </div>
          <Row label={inS === null ? "from the start · I" : `from ${inS.toFixed(2)} s`}>
            <span style={{ color: ink.chalkDim }}>
              {outS === null ? "to the end · O" : `to ${outS.toFixed(2)} s`}
            </span>
          </Row>
          <Row label="pre-roll, joints">
            <NumberField
              label="Pre-roll"
              unit="s"
              digits={1}
              min={0}
              max={60}
              step={0.5}
              value={slate.preRoll}
              onChange={(preRoll) => setSlate({ preRoll })}
            />
            <NumberField
              label="Joints"
              unit="s"
              digits={2}
              min={0}
              max={10}
              step={0.1}
              value={slate.blend}
              onChange={(blend) => setSlate({ blend })}
            />
          </Row>
          <Passes document={document} below={below} />
        </>
      ) : (
        <p style={{ margin: "4px 0", fontSize: 12.5, color: ink.chalkDim }}>
          Lay a take below to roll a pass over it: what is armed is recorded anew, the rest plays from the
          take.
        </p>
      )}
    </section>
  );
}

/** The device that who is driven hangs on, where hands do not drive them. */
function Strings({ hangs, mine }: { hangs: HangStatus | null; mine: boolean }) {
  const view = useDevices().data;
  const hang = (source: string, scale: number) => {
    goLive();
    if (mine) link.send({ do: "hang", source, scale });
  };
  return (
    <>
      <Row label="led by">
        <Choice
          label="What leads who is driven"
          value={hangs?.source || "hands"}
          options={[["hands", "keys and pads"], ...sourcesWith(hangs?.source ?? "", view)]}
          onChange={(source) => hang(source === "hands" ? "" : source, hangs?.scale ?? 1)}
        />
        {hangs && (
          <NumberField
            label="Metres on set for a real one, of who is driven"
            unit="×"
            digits={1}
            step={0.5}
            min={0.01}
            max={1000}
            value={hangs.scale}
            onChange={(scale) => hang(hangs.source, scale)}
          />
        )}
      </Row>
      {hangs && (
        <p style={{ margin: "0 0 4px", fontSize: 12, color: hangs.alive ? ink.chalkDim : ink.near }}>
          {hangs.alive
            ? "They go where the device is carried, from where both were. The roll becomes their path."
            : `▲ ${hangs.source} is not heard; they stand until it is.`}
        </p>
      )}
    </>
  );
}
