import { Button } from "@mui/material";
import type { ReactNode } from "react";
import type { Camera, Document, MoverView, MachineView, Setup } from "../generated/types";
import type { SetView } from "../render/setByPiece";
import { useKindWord } from "../api";
import { SetupCamera } from "../camera/SetupCamera";
import { SetupList } from "../camera/SetupList";
import { DevicesPanel } from "../devices/DevicesPanel";
import { Deck } from "../deck/Deck";
import { Divided } from "../form/Divided";
import { Finder } from "../finder/Finder";
import { SecondCamera } from "../finder/SecondCamera";
import { useFloor } from "../live/link";
import { Around } from "../plan/Around";
import { Plan } from "../plan/Plan";
import { Profile } from "../plan/Profile";
import { InputsPanel } from "../hands/InputsPanel";
import { MachinePanel } from "../machine/MachinePanel";
import { PositionsPanel } from "../machine/PositionsPanel";
import { RollPanel } from "../roll/RollPanel";
import type { Looked } from "../state/looked";
import { goToStation } from "../state/stations";
import type { SideView } from "../state/panels";
import { useView, type Shown } from "../state/view";
import { ImportPanel } from "../takes/ImportPanel";
import { Compare } from "../takes/Compare";
import { TakeLog } from "../takes/TakeLog";
import { TakeList } from "../takes/TakeList";
import { ink } from "../theme";
import { PanelGroups } from "./PanelGroups";

interface Props {
  document: Document;
  set: SetView;
  figures: MoverView[];
  camera: Camera;
  setup: Setup;
  /** The move being looked at; none while live. */
  looked: Looked | null;
  /** The move it is compared with. */
  other: Looked | null;
  /** Machine of the floor, or of the move on show. */
  machine: MachineView;
}

/** Share of the screen for the picture, and for the plan beside it. */
const PICTURE = 0.72;
const PLAN = 0.42;

/** The finder is the largest thing; beside it the plan and one more view; below it the deck. */
export function Operate({ document, set, figures, camera, setup, looked, other, machine }: Props) {
  const word = useKindWord();
  const side = useView((s) => s.side);
  const importing = useView((s) => s.importing);
  const trouble = useFloor((s) => s.status?.trouble);
  const shown = useView((s) => s.shown);
  const log = useView((s) => s.log);
  const rig = looked?.rig ?? setup.rig;
  const hung = rig.kind === "telescopic_crane" || rig.kind === "jib" ? rig : null;
  const views: Record<Shown, React.ReactNode> = {
    lens: <Finder camera={camera} document={document} machine={machine} small={shown.length > 1} />,
    plan: <Plan document={document} set={set} figures={figures} machine={machine} />,
    profile: <Profile document={document} figures={figures} machine={machine} />,
    front: <Profile document={document} figures={figures} machine={machine} front />,
    around: <Around document={document} />,
    second: <SecondCamera document={document} />,
  };
  // A panel is one line here, and one in `state/panels.ts`: its word, and the task that it belongs to.
  const panels: Record<SideView, ReactNode> = {
    profile: views.profile,
    around: views.around,
    machine: <MachinePanel key={setup.id} document={document} setup={setup} machine={machine} />,
    positions: <PositionsPanel key={setup.id} document={document} setup={setup} />,
    inputs: <InputsPanel machine={machine} kind={rig.kind} />,
    camera: <SetupCamera key={setup.id} document={document} figures={figures} setup={setup} onFloor />,
    setups: <SetupList document={document} />,
    roll: <RollPanel document={document} setup={setup} machine={machine} />,
    devices: <DevicesPanel setup={setup} />,
    takes: <TakeList document={document} />,
  };
  return (
    <main
      style={{
        display: "grid",
        rowGap: 8,
        padding: 8,
        gridTemplate: "minmax(0, 1fr) auto / minmax(0, 1fr)",
        minHeight: 0,
        minWidth: 0,
      }}
    >
      <Divided
        upright
        name="operate"
        usual={PICTURE}
        label="Between picture and plan"
        least={330}
        parts={[
          <div style={{ position: "relative", minHeight: 0, minWidth: 0 }}>
            {log ? (
              <TakeLog document={document} />
            ) : looked && other ? (
              <Compare document={document} looked={looked} other={other} camera={camera} machine={machine} />
            ) : (
              <div
                style={{
                  height: "100%",
                  display: "grid",
                  gap: 8,
                  gridTemplate:
                    shown.length > 2
                      ? "minmax(0, 1fr) minmax(0, 1fr) / minmax(0, 1fr) minmax(0, 1fr)"
                      : `minmax(0, 1fr) / repeat(${shown.length}, minmax(0, 1fr))`,
                }}
              >
                {shown.map((view) => (
                  <div key={view} data-testid={`view-${view}`} style={{ minWidth: 0, minHeight: 0 }}>
                    {views[view]}
                  </div>
                ))}
              </div>
            )}
            {document.scene.pieces.length === 0 && (
              <div
                style={{
                  position: "absolute",
                  left: 0,
                  right: 0,
                  top: "58%",
                  display: "flex",
                  justifyContent: "center",
                  alignItems: "baseline",
                  gap: 10,
                  color: ink.chalkDim,
                }}
              >
                Nothing stands on the stage yet.
                <Button color="primary" title="Alt 1" onClick={() => goToStation("set")}>
                  Build the set
                </Button>
              </div>
            )}
            {trouble && (
              <div
                role="alert"
                style={{
                  position: "absolute",
                  left: 20,
                  right: 20,
                  top: 36,
                  padding: "8px 12px",
                  background: ink.slate1,
                  border: `1px solid ${ink.rec}`,
                  borderRadius: 4,
                }}
              >
                {trouble}
              </div>
            )}
          </div>,
          <Divided
            name="plan"
            usual={PLAN}
            label="Between plan and panel"
            parts={[
              shown.includes("plan") ? null : views.plan,
              <div
                style={{
                  display: "grid",
                  // What is wider than the side scrolls within its panel and pushes nothing off the screen.
                  gridTemplate: "auto minmax(0, 1fr) / minmax(0, 1fr)",
                  minHeight: 0,
                }}
              >
                <PanelGroups />
                <div className="grows" style={{ minHeight: 0, marginTop: 6 }}>
                  {importing ? <ImportPanel /> : panels[side]}
                </div>
              </div>,
            ]}
          />,
        ]}
      />
      <div style={{ minWidth: 0 }}>
        <Deck
          machine={machine}
          kind={rig.kind}
          level={
            hung
              ? `${hung.head === "level" ? "kept level" : "leans with the arm"}${hung.head_heading === "held" ? ", heading held" : ""}`
              : null
          }
          name={`${word(rig.kind)}${looked ? `, ${looked.title}` : ""}`}
        />
      </div>
    </main>
  );
}
