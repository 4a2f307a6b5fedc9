import { Button } from "@mui/material";
import { useEffect, useLayoutEffect, useRef } from "react";
import { machineThere, useKindWord, usePutOnFloor } from "../api";
import type { Camera, Document, Setup } from "../generated/types";
import { shownMm } from "../lens";
import { link, useFloor } from "../live/link";
import { until } from "../machine/bring";
import { stage } from "../render/stage";
import { stills } from "../render/still";
import { setSet, useSetState } from "../state/set";
import { TextField } from "../form/fields";
import { Icon } from "../form/icons";
import { hand } from "../state/hand";
import { everyFrame, moment, scene } from "../state/now";
import { machinesSeen, pictureOf } from "../state/picture";
import { goLive, setView, useView } from "../state/view";
import { ink } from "../theme";
import { addSetup, moveSetup, nameSetup, removeSetup } from "./setups";
import { standing } from "./standing";

/** A scene's setups with what each sees now. Looking never edits; the floor has one of them. */
export function SetupList({ document }: { document: Document }) {
  const word = useKindWord();
  const setups = document.setups.filter((s) => !s.binned);
  const onFloor = useFloor((s) => s.status?.setup_id);
  const rolling = useFloor((s) => s.status?.roll !== "standby");
  const inSet = useView((s) => s.station === "set");
  const through = useSetState((s) => s.through);
  const stills = useView((s) => s.stills);
  const put = usePutOnFloor();
  const pictures = useRef(new Map<number, HTMLCanvasElement>());
  useSmallPictures(setups, pictures);
  const here = setups.find((s) => s.id === onFloor) ?? setups[0]!;

  const look = (setup: { id: number }) => {
    if (inSet) return setSet({ through: through === setup.id ? null : setup.id });
    goLive();
    put.mutate(setup.id);
  };
  // A free camera that sees what is seen now, and is looked through from now on. The focus stays on whom it was on.
  const newFromHere = async () => {
    const at = moment();
    const performer = useFloor.getState().status?.focus_on ?? null;
    const rig = await machineThere("free_camera", at ?? { position: [0, 1.6, 5], angles: [0, 0, 0] });
    const lens = at && { focal_mm: at.focal, focus_m: at.focus, f_stop: at.stop };
    const made = rig && (await addSetup({ name: "free camera", camera: { ...here.camera, ...lens }, rig }));
    if (made === undefined || rolling) return;
    look({ id: made });
    const there = await until(() => link.frame?.setup === made);
    if (there && performer !== null) link.send({ do: "focus_on", performer });
  };
  return (
    <section
      className="panel scroll"
      aria-label="Setups"
      style={{ height: "100%", padding: "6px 10px", fontSize: 13 }}
    >
      {setups.map((s, i) => {
        const looked = inSet ? s.id === through : s.id === onFloor;
        return (
          <div
            key={s.id}
            data-testid={`setup-${s.letter}`}
            style={{
              display: "flex",
              gap: 8,
              padding: "5px 4px",
              borderBottom: `1px solid ${ink.slate3}`,
              alignItems: "center",
            }}
          >
            <button
              className="plain"
              aria-pressed={looked}
              aria-label={`Look through ${s.letter}`}
              disabled={rolling && !inSet}
              onClick={() => look(s)}
              style={{
                border: `2px solid ${looked ? ink.pick : ink.slate3}`,
                borderRadius: 4,
                lineHeight: 0,
                flex: "none",
              }}
            >
              <canvas
                ref={(c) => void (c ? pictures.current.set(s.id, c) : pictures.current.delete(s.id))}
                width={WIDE}
                height={Math.round(WIDE / 1.6)}
                style={{
                  width: WIDE,
                  height: Math.round(WIDE / 1.6),
                  background: ink.slate0,
                  borderRadius: 2,
                }}
              />
            </button>
            <div style={{ flex: 1, minWidth: 0 }}>
              <div style={{ display: "flex", gap: 5, alignItems: "baseline" }}>
                <b style={{ fontWeight: 500, fontSize: 15 }}>{s.letter}</b>
                <TextField
                  label={`Name of setup ${s.letter}`}
                  value={s.name}
                  width="100%"
                  onKeep={(name) => nameSetup(s, name)}
                />
                {s.id === onFloor && (
                  <span title="On the floor" style={{ color: ink.within, fontSize: 12, fontWeight: 500 }}>
                    live
                  </span>
                )}
              </div>
              <div style={{ color: ink.chalkDim, fontSize: 12 }}>
                {word(s.rig.kind)} · {s.camera.focal_mm.toFixed(0)} mm
              </div>
              <div style={{ display: "flex", gap: 2, color: ink.chalkDim }}>
                <Small
                  label={`Move setup ${s.letter} up`}
                  icon="up"
                  off={i === 0}
                  onClick={() => moveSetup(s, setups[i - 1])}
                />
                <Small
                  label={`Move setup ${s.letter} down`}
                  icon="down"
                  off={i === setups.length - 1}
                  onClick={() => moveSetup(s, setups[i + 2])}
                />
                <Small
                  label={`Duplicate setup ${s.letter}`}
                  icon="copy"
                  onClick={() => void addSetup({ name: `${s.name} again`, camera: s.camera, rig: s.rig })}
                />
                <Small
                  label={`Remove setup ${s.letter}`}
                  icon="bin"
                  off={setups.length < 2}
                  onClick={() => removeSetup(s)}
                />
                {s.rig.kind === "square_to_card" && (
                  <Small
                    label={`Stills of setup ${s.letter}`}
                    icon="stills"
                    onClick={() => void writeStills(document, s)}
                  />
                )}
              </div>
            </div>
          </div>
        );
      })}
      {stills && (
        <div role="status" style={{ display: "flex", gap: 8, alignItems: "center", padding: "6px 4px" }}>
          <span className="num">
            still {stills.done} of {stills.count}
          </span>
          <Button onClick={() => setView({ stills: null })}>Stop</Button>
        </div>
      )}
      <div style={{ display: "flex", gap: 6, padding: "6px 4px", flexWrap: "wrap" }}>
        <Button onClick={() => void newFromHere()}>New from here</Button>
        <SquareButton document={document} camera={here.camera} />
      </div>
    </section>
  );
}

/** A camera square to the card that is picked, or to the only one. */
function SquareButton({ document, camera }: { document: Document; camera: Camera }) {
  const picked = useSetState((s) => s.picked);
  const cards = document.scene.pieces.filter((p) => p.form.kind === "card");
  const card = cards.find((p) => picked.includes(p.id)) ?? (cards.length === 1 ? cards[0] : undefined);
  if (card?.form.kind !== "card") return null;
  const { width, height } = card.form;
  const rig = {
    kind: "square_to_card" as const,
    card: card.id,
    position: card.position,
    turn_deg: card.turn_deg,
    size: [width, height] as [number, number],
  };
  // A lens with which the camera stands near the card, not behind the next wall.
  const near = { ...camera, lens_set: "", squeeze: 1, focal_min_mm: 14, focal_max_mm: 150, focal_mm: 32 };
  return (
    <Button onClick={() => void addSetup({ name: `square to ${card.name}`, camera: near, rig })}>
      Square to {card.name}
    </Button>
  );
}

const WIDE = 112;

/** Draws one small picture after the other, a few a second: the large one comes first. */
function useSmallPictures(setups: Setup[], canvases: React.RefObject<Map<number, HTMLCanvasElement>>) {
  const list = useRef(setups);
  useEffect(() => {
    list.current = setups;
  });
  useLayoutEffect(() => {
    let turn = 0;
    const drawn = new WeakMap<HTMLCanvasElement, string>();
    return everyFrame(() => {
      if (hand.busy) return;
      const at = moment();
      const setup = list.current[turn++ % list.current.length];
      const canvas = setup && canvases.current.get(setup.id);
      const from = at && setup && standing(setup, at);
      if (!canvas || !from) return;
      const { frame } = shownMm(setup.camera);
      const aspect = frame[0] / frame[1];
      const [w, h] =
        aspect > 1.6
          ? [WIDE, Math.round(WIDE / aspect)]
          : [Math.round((WIDE / 1.6) * aspect), Math.round(WIDE / 1.6)];
      const { state } = scene.played.poses ?? {};
      const places = at.movers.map((m) => m.bodies[0]);
      const shown = [from.position, from.rotation, from.focal, w, h, at.sceneTime, at.position, places];
      const word = [...shown, state, stage.version, machinesSeen()].join();
      if (drawn.get(canvas) === word) return;
      drawn.set(canvas, word);
      const eye = { through: from, camera: setup.camera, setup: setup.id };
      const picture = stills.draw({ ...eye, subject: pictureOf(at), size: [w, h] });
      const context = canvas.getContext("2d")!;
      context.fillStyle = ink.slate0;
      context.fillRect(0, 0, canvas.width, canvas.height);
      context.drawImage(picture, (canvas.width - w) / 2, (canvas.height - h) / 2);
    }, 4);
  }, [canvases]);
}

function Small(props: {
  label: string;
  icon: "up" | "down" | "copy" | "bin" | "stills";
  off?: boolean;
  onClick: () => void;
}) {
  return (
    <button
      className="plain"
      aria-label={props.label}
      title={props.label}
      disabled={props.off}
      onClick={props.onClick}
      style={{ padding: 2, display: "grid" }}
    >
      <Icon name={props.icon} size={15} />
    </button>
  );
}

/** The picture of a camera square to a card, a PNG for every frame, in one archive. */
async function writeStills(document: Document, setup: Setup) {
  const { saveStills } = await import("./stills");
  await saveStills(document, setup);
}
