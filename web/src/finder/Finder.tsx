import { useEffect, useLayoutEffect, useRef, useState } from "react";
import type { Camera, Document, MachineView } from "../generated/types";
import { useDocument, usePlays } from "../api";
import { DrawFrame } from "../camera/DrawFrame";
import { shapeName } from "../lens";
import { hasPending, link, holdsWheels, useFloor } from "../live/link";
import { flag } from "../live/wire";
import { finderView, mount } from "../render/view";
import { eyeOf, pictureOf } from "../state/picture";
import { keysOf, presetOf, useInputs } from "../hands/inputs";
import type { Handle } from "../machine/handles";
import { pictureView } from "../machine/handView";
import { MachineHandles } from "../machine/MachineHandles";
import { discardPending, keepPending } from "../machine/positions";
import { hand } from "../state/hand";
import { Room } from "./Room";
import { placesOf } from "../moves";
import { everyFrame, moment, momentBeside, scene } from "../state/now";
import { lookedOf, type Looked } from "../state/looked";
import { setView, useView } from "../state/view";
import { Toggle } from "../form/rows";
import { FrameLines, level } from "./FrameLines";
import { CameraNumbers } from "./CameraNumbers";
import { GhostFrame } from "./GhostFrame";
import { handMoves } from "./handMoves";
import { OverlayMenu } from "./OverlayMenu";
import { cutOff } from "../form/cutOff";
import { useNarrow } from "../form/useNarrow";
import { SlateBoard } from "./SlateBoard";
import { ink } from "../theme";

/** Through the lens: the whole sensor, what is outside the frame dimmed, numbers on the border. */
export function Finder({
  camera,
  document,
  machine,
  compare = false,
  small = false,
  against = null,
}: {
  camera: Camera;
  document: Document;
  machine: MachineView | null;
  compare?: boolean;
  /** One of several views: the border says less. */
  small?: boolean;
  /** Another move, right of the line. */
  against?: Looked | null;
}) {
  const host = useRef<HTMLDivElement>(null);
  const lines = useRef<SVGSVGElement>(null);
  const sharp = useRef<HTMLSpanElement>(null);
  const rolling = useRef<HTMLSpanElement>(null);
  const live = useView((s) => s.live);
  const overlays = useView((s) => s.overlays);
  const drawing = useView((s) => s.drawing) && !compare;
  const size = useRef<HTMLSpanElement>(null);
  const pending = useFloor(hasPending) && live;
  const wipe = useView((s) => s.wipe);
  const [wish, setWish] = useState("");
  const stageName = useView((s) => s.stage);
  const beside = useView((s) => s.beside);
  const split = ((compare && !beside) || against !== null) && !live && stageName === "now";

  const narrow = useNarrow();
  const tight = small || narrow || (compare && beside);
  useEffect(() => mount(finderView, host.current!), []);
  useLayoutEffect(() => {
    return everyFrame((elapsed) => {
      const at = moment();
      if (!at) return;
      write(sharp.current, compare || small ? `${at.focal.toFixed(0)} mm` : sharpness(camera, at));
      const frame = link.frame;
      const on = useView.getState().live && frame ? frame.flags & flag.rolling : 0;
      write(rolling.current, on ? `● rolling ${clockText(frame!.rollTime)}` : "");
      write(size.current, seenText(document, at));
      const { focus, blur, machines } = useView.getState().overlays;
      const bodies = at.bodies.length ? at.bodies[at.bodies.length - 7] : 0;
      const picture = [
        at.position,
        at.rotation,
        at.focal,
        at.sceneTime,
        placesOf(at.movers),
        at.focus,
        bodies,
        split,
        wipe,
        focus,
        blur,
        machines && link.frame?.others.map((o) => o.position),
      ].join();
      level(lines.current, at.angles[2], at.angles[1], at.focal);
      // Where pictures take long, the curves of a control that is dragged come first.
      if (hand.busy && finderView.slow) return;
      const shown = pictureOf(at);
      if (!finderView.wants(shown, picture, elapsed)) return;
      const range = focus ? ([at.near, at.far] as const) : null;
      const eye = { ...eyeOf(at, camera), sharp: range };
      if (split) {
        const beside = against ? momentBeside("other") : moment("raw");
        // The other take lies right of the line, the raw one left.
        const [left, right] = against ? [wipe, 1] : [0, wipe];
        if (beside) {
          const there = pictureOf(beside, undefined, against ? "other" : "shown");
          const other = eyeOf(beside, against?.camera ?? camera, against?.move.setup_id);
          finderView.draw(there, { ...other, sharp: range }, { left, right });
        }
        finderView.draw(shown, eye, { left: against ? 0 : wipe, right: against ? wipe : 1 });
      } else {
        const soft = blur ? { focal_mm: at.focal, stop: at.stop, focus_m: at.focus } : null;
        finderView.draw(shown, eye, { blur: soft });
      }
    });
  }, [against, camera, compare, document, small, split, tight, wipe]);

  return (
    <section
      className="panel"
      aria-label="Finder"
      style={{ display: "flex", flexDirection: "column", height: "100%" }}
    >
      <div className="grows" style={{ ...border, height: 24 }}>
        <Where />
        <span
          ref={size}
          data-testid="shot-size"
          style={{ ...cutOff, flex: "none", fontSize: 12.5, color: ink.chalkDim }}
        />
        {!compare && <Short />}
        {!compare && <Room />}
        {!compare && (pending ? <Pending /> : !small && <Hint machine={machine} document={document} />)}
        <span ref={rolling} className="num" role="status" style={{ color: ink.rec, marginLeft: "auto" }} />
        {compare && (
          <Toggle
            on={beside}
            label="side by side"
            title="Raw left, now right (X); else split by a line"
            onClick={() => setView({ beside: !beside })}
          />
        )}
      </div>
      <div style={{ position: "relative", flex: 1, minHeight: 0, margin: "0 8px", background: ink.slate0 }}>
        <div
          ref={host}
          data-testid="finder"
          role="img"
          aria-label="Through the lens"
          style={{ position: "absolute", inset: 0, touchAction: "none", cursor: live ? "grab" : "default" }}
          {...handMoves(setWish)}
        />
        <FrameLines ref={lines} camera={camera} overlays={overlays} />
        {overlays.handles && !drawing && !compare && (
          <MachineHandles view={grasp} on="picture" shows={besideTheLens} />
        )}
        {drawing && <DrawFrame setupId={scene.setupId} view={finderView} />}
        <GhostFrame />
        {!compare && <SlateBoard document={document} />}
        {wish && (
          <span
            className="num"
            data-testid="wish"
            style={{
              position: "absolute",
              left: "50%",
              bottom: 12,
              transform: "translateX(-50%)",
              padding: "1px 8px",
              background: `${ink.slate0}D0`,
              fontSize: 13,
              pointerEvents: "none",
            }}
          >
            {wish}
          </span>
        )}
        {split && (
          <Wipe at={wipe} words={against ? [scene.looked?.title ?? "", against.title] : ["raw", "now"]} />
        )}
      </div>
      <div className="grows" style={{ ...border, height: 26 }}>
        <CameraNumbers tight={tight} />
        <span ref={sharp} style={{ ...cutOff, marginLeft: "auto", color: ink.chalkDim, fontSize: 12.5 }} />
        {!compare && !small && <OverlayMenu />}
      </div>
    </section>
  );
}

const grasp = pictureView(finderView);
/** The camera itself is what is looked through, and what is in focus is always in its middle. */
const besideTheLens = ({ look }: Handle) => look !== "camera" && look !== "bar";

/** One line that says which keys drive; gone while a take rolls. */
function Hint({ machine, document }: { machine: MachineView | null; document: Document }) {
  const mine = useFloor((s) => holdsWheels(s) && s.status?.roll === "standby");
  const live = useView((s) => s.live);
  const inputs = useInputs();
  const kind = document.setups.find((s) => s.id === scene.setupId)?.rig.kind;
  if (!live || !mine || !machine || !kind) return null;
  const pairs = keysOf(presetOf(inputs, kind, machine.axes), machine);
  const keys = machine.axes.flatMap((a, i) => (pairs[i] ? [[pairs[i].join(" "), a.hand!]] : [])).slice(0, 5);
  return (
    <span
      style={{
        marginLeft: "auto",
        display: "flex",
        // A hint that does not fit goes onto a second line, which is not shown: none is cut.
        flexWrap: "wrap",
        justifyContent: "flex-end",
        height: 19,
        columnGap: 10,
        fontSize: 12,
        color: ink.chalkDim,
        whiteSpace: "nowrap",
        flex: "0 100 auto",
        minWidth: 0,
        overflow: "hidden",
      }}
    >
      {[["R", "record a take"], ...keys].map(([key, word]) => (
        <span key={word}>
          <span className="key">{key}</span> {word}
        </span>
      ))}
    </span>
  );
}

/** A change that has no key yet, until it is kept or discarded. */
function Pending() {
  return (
    <span
      role="status"
      style={{ marginLeft: "auto", display: "flex", gap: 8, alignItems: "baseline", fontSize: 12.5 }}
    >
      <span style={{ color: ink.near }}>changed, no key yet</span>
      <button className="plain" onClick={() => void keepPending()}>
        <span className="key">Enter</span> keep
      </button>
      <button className="plain" onClick={discardPending}>
        <span className="key">Delete</span> discard
      </button>
    </span>
  );
}

/** Distance of the machine from the wanted camera. */
function Short() {
  const text = useRef<HTMLSpanElement>(null);
  useLayoutEffect(
    () =>
      everyFrame(() => {
        const short = useView.getState().live ? (link.frame?.short ?? 0) : 0;
        write(text.current, short > 0.005 ? `▲ ${short.toFixed(2)} m short` : "");
      }, 10),
    [],
  );
  return (
    <span ref={text} className="num" data-testid="short" style={{ color: ink.beyond, fontSize: 12.5 }} />
  );
}

/** Says what is looked through; looking at a take must never be mistaken for the floor. */
function Where() {
  const live = useView((s) => s.live);
  const moveId = useView((s) => s.moveId);
  const stageName = useView((s) => s.stage);
  const status = useFloor((s) => s.status);
  const setups = scene.document?.setups ?? [];
  const setup = setups.find((s) => s.id === status?.setup_id);
  const document = useDocument();
  const at = lookedOf(document ?? undefined, moveId);
  const plays = usePlays(at);
  if (live) {
    return (
      <span style={{ ...cutOff, fontSize: 12.5, flex: "0 1 auto" }}>
        <b style={{ color: ink.within, fontWeight: 500 }}>live</b> ·{" "}
        {setup ? `${setup.letter} · ${setup.name}` : ""}
      </span>
    );
  }
  return (
    <span style={{ ...cutOff, fontSize: 12.5, flex: "0 1 auto" }}>
      <b style={{ color: ink.pick, fontWeight: 500 }}>{at?.title}</b> {at?.name && `“${at.name}” `}·{" "}
      {stageName === "now" && at?.move.treatments.some((t) => t.on)
        ? "treated"
        : at?.take
          ? "as rolled"
          : at?.move.source.kind === "follow"
            ? "as solved"
            : "as keyed"}
      {document && document.scene.performances.length > 1 && (
        <span style={{ color: ink.chalkDim }}>
          {" "}
          · against {document.scene.performances.find((p) => p.id === plays)?.name}
        </span>
      )}
    </span>
  );
}

const border = { display: "flex", alignItems: "center", gap: 12, padding: "0 10px", flex: "none" } as const;

function write(element: HTMLElement | null, text: string) {
  if (element && element.textContent !== text) element.textContent = text;
}

function sharpness(camera: Camera, at: { focal: number; near: number; far: number }) {
  const end = at.far === Infinity ? "∞" : at.far.toFixed(1);
  return `${shapeName(camera.frame_aspect)} · ${at.focal.toFixed(0)} mm · sharp ${at.near.toFixed(1)}–${end} m`;
}

/** Text about the largest person in the frame: name, shot size, covered or not. */
function seenText(document: Document, at: { subject: number; shot: string; covered: boolean }) {
  const who = document.scene.performers.find((p) => p.id === at.subject);
  return who ? `${who.name} · ${at.shot}${at.covered ? " · covered" : ""}` : "";
}

export function clockText(seconds: number) {
  const s = Math.max(0, seconds);
  return `${String(Math.floor(s / 60)).padStart(2, "0")}:${(s % 60).toFixed(1).padStart(4, "0")}`;
}

/** The line between raw and now, dragged or moved with the arrow keys. */
function Wipe({ at, words }: { at: number; words: [string, string] }) {
  const move = (event: React.PointerEvent<HTMLDivElement>) => {
    if (!(event.buttons & 1)) return;
    const box = event.currentTarget.parentElement!.getBoundingClientRect();
    setView({ wipe: Math.min(0.98, Math.max(0.02, (event.clientX - box.left) / box.width)) });
  };
  const step = (event: React.KeyboardEvent) => {
    const by = { ArrowLeft: -0.05, ArrowRight: 0.05 }[event.key];
    if (!by) return;
    event.stopPropagation();
    setView({ wipe: Math.min(0.98, Math.max(0.02, at + by)) });
  };
  const tag = { position: "absolute", bottom: 6, padding: "0 4px", background: `${ink.slate0}B0` } as const;
  return (
    <>
      <span className="label" style={{ ...tag, left: 6, color: ink.chalk }}>
        {words[0]}
      </span>
      <span className="label" style={{ ...tag, right: 6, color: ink.chalk }}>
        {words[1]}
      </span>
      <div
        role="slider"
        tabIndex={0}
        aria-label={`Line between ${words[0]} and ${words[1]}`}
        aria-valuenow={Math.round(at * 100)}
        onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
        onPointerMove={move}
        onKeyDown={step}
        style={{
          position: "absolute",
          top: 0,
          bottom: 0,
          left: `calc(${at * 100}% - 6px)`,
          width: 13,
          cursor: "ew-resize",
          touchAction: "none",
        }}
      >
        <div style={{ width: 1, height: "100%", margin: "0 auto", background: ink.chalk }} />
      </div>
    </>
  );
}
