import type { Document } from "../generated/types";
import { useFloor } from "../live/link";
import { moveToShape, newestTake } from "./looked";
import { scene } from "./now";
import { lookAt, setView, useView } from "./view";
import type { Station } from "./stationList";

/** The take that was the newest when a move was looked at last, or when the page was opened. */
let seen: number | null = null;

/** What there is when the page opens is not news. */
export function opened(document: Document) {
  seen ??= newestTake(document)?.id ?? 0;
}

useView.subscribe(({ live }) => {
  if (!live && scene.document) seen = newestTake(scene.document)?.id ?? 0;
});

/** Looks at the move to shape, if nothing rolls and there is one. */
export function lookToShape(document: Document) {
  const { live, moveId } = useView.getState();
  if (!live || useFloor.getState().status?.roll !== "standby") return;
  const move = moveToShape(document, moveId, seen ?? 0);
  if (move === null) return;
  lookAt(move);
  setView({ fromFloor: true });
}

/** Goes to a station. Who came to Shape from the floor finds the floor again. */
export function goToStation(station: Station) {
  const { fromFloor } = useView.getState();
  if (station === "shape") {
    if (scene.document) lookToShape(scene.document);
    setView({ station });
  } else if (fromFloor) setView({ station, live: true, playing: 0, otherId: null, fromFloor: false });
  else setView({ station });
}
