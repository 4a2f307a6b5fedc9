import { useSetupMachine } from "../api";
import type { Document, MoverView, Setup } from "../generated/types";
import { CameraPanel } from "./CameraPanel";
import { FocusOn } from "./FocusOn";
import { changeCamera } from "./setups";

/** The camera of a setup; of the one that is driven, focus can be put onto somebody. */
export function SetupCamera(props: {
  document: Document;
  figures: MoverView[];
  setup: Setup;
  onFloor: boolean;
}) {
  const { document, figures, setup, onFloor } = props;
  return (
    <CameraPanel
      document={document}
      title={`Camera ${setup.letter} · ${setup.name}`}
      camera={setup.camera}
      machine={useSetupMachine(setup.id).data}
      onChange={(part, gesture) => changeCamera(setup, part, gesture)}
    >
      {onFloor && <FocusOn document={document} figures={figures} />}
    </CameraPanel>
  );
}
