import { Button, ToggleButton, ToggleButtonGroup } from "@mui/material";
import type { Camera, Document, FigureView, MachineView, SetView, Setup, Take } from "../generated/types";
import { CameraPanel } from "../camera/CameraPanel";
import { SetupList } from "../camera/SetupList";
import { Deck } from "../deck/Deck";
import { Finder } from "../finder/Finder";
import { useFloor } from "../live/link";
import { Around } from "../plan/Around";
import { Plan } from "../plan/Plan";
import { Profile } from "../plan/Profile";
import { setView, useView, type SideView } from "../state/view";
import { MachinePanel } from "../deck/MachinePanel";
import { ImportPanel } from "../takes/ImportPanel";
import { TakeList } from "../takes/TakeList";
import { ink } from "../theme";

interface Props {
  document: Document;
  set: SetView;
  figures: FigureView[];
  camera: Camera;
  setup: Setup;
  /** The take being looked at; none while live. */
  take: Take | null;
  /** Of what is looked through. */
  machine: MachineView;
}

const sides: [SideView, string][] = [
  ["profile", "Profile"],
  ["around", "Around"],
  ["machine", "Machine"],
  ["camera", "Camera"],
  ["setups", "Setups"],
  ["takes", "Takes"],
];

/** The finder is the largest thing; beside it the plan and one more view; below it the deck. */
export function Operate({ document, set, figures, camera, setup, take, machine }: Props) {
  const side = useView((s) => s.side);
  const importing = useView((s) => s.importing);
  const trouble = useFloor((s) => s.status?.trouble);
  const rig = take?.rig ?? setup.rig;
  const crane = rig.kind === "telescopic_crane" ? rig : null;
  return (
    <main
      style={{
        display: "grid",
        gap: 8,
        padding: 8,
        gridTemplate: "minmax(0, 1fr) auto / minmax(0, 1fr) 340px",
        minHeight: 0,
        minWidth: 0,
      }}
    >
      <div style={{ position: "relative", minHeight: 0, minWidth: 0 }}>
        <Finder camera={camera} document={document} machine={machine} />
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
            <Button color="primary" title="Alt 1" onClick={() => setView({ station: "set" })}>
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
      </div>
      <div
        style={{
          display: "grid",
          gap: 8,
          gridTemplateRows: "minmax(0, 1.06fr) auto minmax(0, 1fr)",
          minHeight: 0,
        }}
      >
        <Plan document={document} set={set} figures={figures} camera={camera} />
        <ToggleButtonGroup
          exclusive
          size="small"
          value={side}
          onChange={(_, v: SideView | null) => v && setView({ side: v, importing: false })}
          aria-label="View below the plan"
          sx={{
            "& .MuiToggleButton-root": {
              flex: 1,
              py: "1px",
              px: "2px",
              textTransform: "none",
              borderColor: ink.slate3,
              color: ink.chalkDim,
            },
            "& .Mui-selected": { color: `${ink.slate0} !important`, background: `${ink.chalk} !important` },
          }}
        >
          {sides.map(([v, word]) => (
            <ToggleButton key={v} value={v}>
              {word}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        <div style={{ minHeight: 0 }}>
          {importing ? (
            <ImportPanel />
          ) : side === "profile" ? (
            <Profile document={document} figures={figures} />
          ) : side === "around" ? (
            <Around document={document} />
          ) : side === "machine" ? (
            <MachinePanel key={setup.id} setup={setup} />
          ) : side === "camera" ? (
            <CameraPanel key={setup.id} document={document} figures={figures} setup={setup} onFloor />
          ) : side === "setups" ? (
            <SetupList document={document} />
          ) : (
            <TakeList document={document} />
          )}
        </div>
      </div>
      <div style={{ gridColumn: "1 / -1", minWidth: 0 }}>
        <Deck
          machine={machine}
          level={crane ? (crane.head === "level" ? "level" : "leans with the arm") : null}
          name={`${crane ? "Arm" : "Position"}${take ? `, take ${take.number}` : ""}`}
        />
      </div>
    </main>
  );
}
