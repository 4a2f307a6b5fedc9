import { Dialog } from "@mui/material";
import { enqueueSnackbar } from "notistack";
import { Fragment, Suspense, lazy, useEffect, useMemo } from "react";
import { useShallow } from "zustand/react/shallow";
import { useDocument, useMoveMachine, usePlayed, usePlays, useSetupMachine } from "./api";
import { useDocuments } from "./document/edit";
import { useFocus } from "./hands/focus";
import { useDriver } from "./hands/inputDevices";
import { shortcuts, useKeys } from "./keys";
import { useAutoKey } from "./machine/autoKey";
import { useFloor } from "./live/link";
import { Pictures } from "./render/Pictures";
import { useCountAloud } from "./roll/countIn";
import { CarryDrawer } from "./shelf/CarryDrawer";
import { tellWhatOpened } from "./shelf/follow";
import { ScenesDrawer } from "./shelf/ScenesDrawer";
import { ShelfDrawer } from "./shelf/ShelfDrawer";
import { SlateBar } from "./shell/SlateBar";
import { useAddress } from "./shell/useAddress";
import { Stations } from "./shell/Stations";
import { TimeStrip } from "./shell/TimeStrip";
import { wordOfStation } from "./state/stationList";
import { asLong, lookedOf, useLengths } from "./state/looked";
import { lookToShape, opened } from "./state/stations";
import { goLive, setView, useView } from "./state/view";
import { Operate } from "./stations/Operate";
import { keepScenePicture, useTakePictures } from "./takes/pictures";
import { ink } from "./theme";

const SetStation = lazy(() => import("./stations/Set").then((m) => ({ default: m.SetStation })));
const Shape = lazy(() => import("./stations/Shape").then((m) => ({ default: m.Shape })));

export function App() {
  const doc = useDocument() ?? undefined;
  const trouble = useDocuments((s) => s.trouble);
  const open = useDocuments((s) => s.onShelf !== "");
  const drawer = useView((s) => s.drawer);
  const status = useFloor((s) => s.status);
  const refusal = useFloor((s) => s.refusal);
  const { station, live, moveId, otherId } = useView(
    useShallow((s) => ({ station: s.station, live: s.live, moveId: s.moveId, otherId: s.otherId })),
  );
  const onFloor = doc?.setups.find((s) => s.id === status?.setup_id);
  const setup = onFloor ?? doc?.setups.find((s) => !s.binned);
  const length = useLengths((s) => s[moveId ?? 0]);
  const looked = useMemo(() => {
    const { num, den } = doc?.scene.rate ?? { num: 24, den: 1 };
    return asLong(lookedOf(doc, moveId), length, num / den);
  }, [doc, moveId, length]);
  const seen = live ? undefined : (looked ?? undefined);
  // While the floor is ahead of the document, it has another scene: nothing is asked of this one.
  const floorMachine = useSetupMachine(status ? onFloor?.id : setup?.id).data;
  const moveMachine = useMoveMachine(seen).data;
  // Set is where the performance that plays in the scene is made.
  const played = usePlayed(usePlays(station === "set" ? null : seen));
  const other = useMemo(() => (live ? null : lookedOf(doc, otherId)), [doc, live, otherId]);
  const machine = live ? floorMachine : moveMachine;
  useKeys();
  useDriver(floorMachine, setup?.rig.kind);
  useAutoKey();
  useCountAloud();
  useFocus();
  useAddress(open ? setup?.id : undefined);
  useTakePictures(doc);

  useEffect(() => {
    // What is on the floor has a picture of now where one chooses what comes after it.
    if (drawer === "shelf" || drawer === "scenes") void keepScenePicture();
  }, [drawer]);

  useEffect(tellWhatOpened, []);
  useEffect(() => {
    if (refusal) enqueueSnackbar(refusal, { variant: "error" });
  }, [refusal]);
  useEffect(() => {
    // A move that went away cannot be looked at.
    if (doc && !live && moveId !== null && !looked) goLive();
  }, [doc, live, looked, moveId]);
  useEffect(() => {
    if (doc) opened(doc);
    // Shaping needs a move, also after a reload and when what was shaped went away.
    if (doc && station === "shape" && live) lookToShape(doc);
  }, [station, live, doc, status?.roll]);

  if (!doc && trouble) return <Waiting text={`Rovnek cannot be reached: ${trouble}. It is tried again.`} />;
  if (doc && !open) return <ShelfDrawer alone />;
  if (!doc || !played?.set || !setup || !floorMachine) return <Waiting text="Opening the production …" />;
  const { set, figures } = played;
  const camera = seen ? seen.camera : setup.camera;
  return (
    <div className="shell">
      <div className={`hatch${status?.roll === "rolling" ? " rolling" : ""}`} />
      <h1 className="unseen">Rovnek, {wordOfStation(station)}</h1>
      <SlateBar document={doc} />
      <Stations />
      {station === "set" ? (
        <Suspense fallback={<Waiting text="Opening Set …" />}>
          <SetStation document={doc} set={set} figures={figures} camera={camera} setup={setup} />
        </Suspense>
      ) : station === "operate" ? (
        <Operate
          document={doc}
          set={set}
          figures={figures}
          camera={camera}
          setup={setup}
          looked={seen ?? null}
          other={other}
          machine={machine ?? floorMachine}
        />
      ) : (
        <Suspense fallback={<Waiting text="Opening Shape …" />}>
          <Shape
            document={doc}
            set={set}
            figures={figures}
            looked={seen ?? null}
            camera={camera}
            machine={moveMachine ?? null}
          />
        </Suspense>
      )}
      <TimeStrip document={doc} looked={looked} setup={setup} figures={figures} />
      <Shortcuts />
      {drawer === "shelf" && <ShelfDrawer />}
      {drawer === "scenes" && <ScenesDrawer document={doc} />}
      {drawer === "carry" && <CarryDrawer document={doc} />}
      {/* Last: what is drawn on paper is asked for before what is seen through the lens. */}
      <Pictures
        document={doc}
        played={played}
        looked={looked}
        other={other}
        setup={setup}
        machine={machine ?? null}
      />
    </div>
  );
}

function Waiting({ text }: { text: string }) {
  return (
    <div
      role="status"
      style={{ display: "grid", placeContent: "center", height: "100%", color: ink.chalkDim }}
    >
      {text}
    </div>
  );
}

function Shortcuts() {
  const open = useView((s) => s.showKeys);
  const station = useView((s) => s.station);
  const lists = [
    [wordOfStation(station), shortcuts[station]] as const,
    ["Everywhere", shortcuts.everywhere] as const,
  ];
  return (
    <Dialog
      open={open}
      onClose={() => setView({ showKeys: false })}
      maxWidth="md"
      slotProps={{ paper: { sx: { p: 4, background: ink.slate1, border: `1px solid ${ink.slate3}` } } }}
    >
      <div style={{ display: "flex", gap: 40 }}>
        {lists.map(([name, list]) => (
          <div key={name}>
            <h2 className="label" style={{ margin: "0 0 8px" }}>
              {name}
            </h2>
            {/* Keys right-aligned, words left-aligned: one grid. */}
            <div style={{ display: "grid", gridTemplateColumns: "auto 1fr", gap: "5px 12px" }}>
              {list.map(({ keys, words }, i) => (
                <Fragment key={i}>
                  <span style={{ textAlign: "right" }}>
                    <span className="key">{keys}</span>
                  </span>
                  <span>{words}</span>
                </Fragment>
              ))}
            </div>
          </div>
        ))}
      </div>
      <p style={{ margin: "14px 0 0", color: ink.chalkDim }}>
        {station === "set"
          ? "Each piece shows its key in the palette."
          : "Each axis shows its two keys at the end of its strip."}
      </p>
    </Dialog>
  );
}
