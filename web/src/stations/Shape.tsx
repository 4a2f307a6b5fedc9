import { Button, MenuItem, Select } from "@mui/material";
import { memo, type ReactNode } from "react";
import { CameraPanel } from "../camera/CameraPanel";
import type { Camera, Document, MachineView, MoverView } from "../generated/types";
import type { SetView } from "../render/setByPiece";
import { BesideFinder } from "../finder/BesideFinder";
import { Finder } from "../finder/Finder";
import { useFloor } from "../live/link";
import { changeOwnCamera, dropOwnCamera } from "../move/edits";
import { jobOf } from "../move/jobs";
import { Plan } from "../plan/Plan";
import { Toggle } from "../form/rows";
import { Divided } from "../form/Divided";
import { FiguresPanel } from "../shape/FiguresPanel";
import { FilesPanel } from "../shape/FilesPanel";
import { Lanes } from "../shape/Lanes";
import { LIST_WIDE } from "../shape/time";
import { Treatments } from "../shape/Treatments";
import { lookable, ofOne, type Looked } from "../state/looked";
import { moment } from "../state/now";
import { goToStation } from "../state/stations";
import { lookAt, setView, shapePanels, useView, type ShapePanel } from "../state/view";
import { ink } from "../theme";

const rawMoment = () => moment("raw");

/** Share of the screen for the picture, where nobody divided it otherwise. */
const PICTURE = 0.52;
const WIDE = 0.62;

/** The curves of the move, what is done to it, before and after, and whether it got better. */
export const Shape = memo(function Shape({
  document,
  set,
  figures,
  looked,
  camera,
  machine,
}: {
  document: Document;
  set: SetView;
  figures: MoverView[];
  looked: Looked | null;
  camera: Camera;
  machine: MachineView | null;
}) {
  const there = lookable(document);
  const job = useFloor((s) => (looked ? jobOf(s.jobs, looked.move.id) : undefined));
  const shaped = useView((s) => s.shaped);
  const beside = useView((s) => s.beside);
  if (!looked || !machine) {
    return (
      <main
        style={{
          display: "grid",
          placeContent: "center",
          justifyItems: "center",
          gap: 12,
          color: ink.chalkDim,
        }}
      >
        {there.length === 0 ? "There is no move to shape yet. Roll a take first." : "Choose a move to shape."}
        {there.length === 0 ? (
          <Button color="primary" onClick={() => goToStation("operate")}>
            Go to Operate
          </Button>
        ) : (
          there.map((l) => (
            <Button key={l.move.id} onClick={() => lookAt(l.move.id)}>
              {wordOf(l)}
            </Button>
          ))
        )}
      </main>
    );
  }
  return (
    <main
      style={{
        display: "grid",
        gap: 8,
        padding: 8,
        gridTemplateColumns: `${LIST_WIDE}px minmax(0, 1fr)`,
        minHeight: 0,
        minWidth: 0,
      }}
    >
      <div
        style={{
          display: "grid",
          gap: 8,
          gridTemplate: "auto minmax(0, 1fr) / minmax(0, 1fr)",
          minHeight: 0,
          minWidth: 0,
        }}
      >
        <Select
          size="small"
          value={(there.find((l) => ofOne(l.move, looked.move)) ?? looked).move.id}
          onChange={(e) => lookAt(Number(e.target.value))}
          slotProps={{ input: { "aria-label": "Move to shape" } }}
          sx={{
            fontSize: 14,
            background: ink.slate1,
            "& .MuiSelect-select": { py: "5px" },
            "& fieldset": { borderColor: ink.slate3 },
          }}
        >
          {there.map((l) => (
            <MenuItem key={l.move.id} value={l.move.id}>
              {wordOf(l)} {l.take?.rating === "good" ? "· good" : ""}
            </MenuItem>
          ))}
        </Select>
        <Treatments document={document} looked={looked} machine={machine} job={job} />
      </div>
      <Divided
        name="shape"
        usual={PICTURE}
        label="Between picture and curves"
        parts={[
          shaped === "curves" ? null : (
            <Divided
              upright
              name="shape beside"
              usual={WIDE}
              label="Between picture and panel"
              least="25%"
              parts={[
                <div
                  style={{
                    display: "grid",
                    gap: 8,
                    gridTemplate: `minmax(0, 1fr) / repeat(${beside ? 2 : 1}, minmax(0, 1fr))`,
                    minHeight: 0,
                    minWidth: 0,
                  }}
                >
                  {beside && (
                    <BesideFinder label="Raw finder" camera={camera} at={rawMoment}>
                      <b style={{ color: ink.chalkDim, fontWeight: 500 }}>raw</b>
                    </BesideFinder>
                  )}
                  <Finder camera={camera} document={document} machine={machine} compare />
                </div>,
                shaped === "both" && !beside ? (
                  <Beside {...{ document, set, figures, looked, camera, machine }} />
                ) : null,
              ]}
            />
          ),
          shaped === "picture" ? null : (
            <Lanes looked={looked} machine={machine} job={job} document={document} />
          ),
        ]}
      />
    </main>
  );
});

/** Panel beside the picture: figures, path on the plan, camera of the move, or files. */
function Beside({
  document,
  set,
  figures,
  looked,
  camera,
  machine,
}: {
  document: Document;
  set: SetView;
  figures: MoverView[];
  looked: Looked;
  camera: Camera;
  machine: MachineView;
}) {
  const panel = useView((s) => s.shapePanel);
  // A panel is one line here, and its label in `shapePanels`.
  const panels: Record<ShapePanel, ReactNode> = {
    figures: <FiguresPanel looked={looked} />,
    path: (
      <div style={{ position: "relative" }}>
        <Plan document={document} set={set} figures={figures} machine={machine} near />
      </div>
    ),
    camera: (
      <CameraOfMove
        key={looked.move.id}
        document={document}
        looked={looked}
        camera={camera}
        machine={machine}
      />
    ),
    files: <FilesPanel document={document} looked={looked} />,
  };
  return (
    <div
      style={{ display: "grid", gap: 6, gridTemplate: "auto minmax(0, 1fr) / minmax(0, 1fr)", minHeight: 0 }}
    >
      <div style={{ display: "flex", flexWrap: "wrap", gap: 4 }}>
        {shapePanels.map(([name, label]) => (
          <Toggle
            key={name}
            on={panel === name}
            label={label}
            onClick={() => setView({ shapePanel: name })}
          />
        ))}
      </div>
      {panels[panel]}
    </div>
  );
}

/** Camera of the move, which becomes its own when it is changed. */
function CameraOfMove(props: { document: Document; looked: Looked; camera: Camera; machine: MachineView }) {
  const { document, looked, camera, machine } = props;
  const own = looked.move.camera;
  return (
    <CameraPanel
      document={document}
      title={`Camera of ${looked.title}${own ? ", its own" : ""}`}
      camera={camera}
      machine={machine}
      onChange={(part, gesture) => changeOwnCamera(looked, part, gesture)}
    >
      {own && (
        <Button title="What was changed here is taken away" onClick={() => dropOwnCamera(looked)}>
          {looked.take ? "As it was rolled" : "As in the setup"}
        </Button>
      )}
    </CameraPanel>
  );
}

const wordOf = (l: Looked) =>
  l.take ? `Take ${l.take.number}${l.name ? ` “${l.name}”` : ""}` : l.name || l.title;
