import { useEffect } from "react";
import { useShallow } from "zustand/react/shallow";
import { putOnFloor } from "../api";
import { holdsWheels, useFloor } from "../live/link";
import { addressOf, placeOf, type Place } from "../state/address";
import { showPanel, sides } from "../state/panels";
import { goLive, lookAt, setView, shapePanels, useView } from "../state/view";
import type { SetupId } from "../generated/types";

/** Shows what an address says; another setup only where this page may put it onto the floor. */
function show(place: Place) {
  const { station, moveId, panel, setup } = place;
  if (moveId === null) goLive();
  else lookAt(moveId);
  const side = sides.find((s) => s === panel);
  const beside = shapePanels.find(([name]) => name === panel)?.[0];
  setView({ station, ...(beside ? { shapePanel: beside } : {}) });
  if (side) showPanel(side);
  const floor = useFloor.getState();
  const idle = holdsWheels(floor) && floor.status?.roll === "standby";
  if (setup !== null && idle && floor.status?.setup_id !== setup)
    void putOnFloor(setup).catch(() => undefined);
}

/** Once, before anything is shown. */
export function openAddress() {
  const place = placeOf(location.hash);
  if (place) show(place);
}

/** Keeps the address true to what is shown, so that a reload shows it again and Back goes back. */
export function useAddress(setup: SetupId | undefined) {
  const { station, live, moveId, side, shapePanel } = useView(
    useShallow(({ station, live, moveId, side, shapePanel }) => ({
      station,
      live,
      moveId,
      side,
      shapePanel,
    })),
  );
  useEffect(() => {
    // Nothing to shape is no place to come back to.
    if (setup === undefined || (station === "shape" && live)) return;
    const panel = station === "set" ? "" : station === "shape" ? shapePanel : side;
    const now = addressOf({ station, setup, moveId: live ? null : moveId, panel });
    if (location.hash === now) return;
    if (placeOf(location.hash)) history.pushState(null, "", now);
    else history.replaceState(null, "", now);
  }, [station, live, moveId, side, shapePanel, setup]);
  useEffect(() => {
    const back = () => {
      const place = placeOf(location.hash);
      if (place) show(place);
    };
    window.addEventListener("popstate", back);
    return () => window.removeEventListener("popstate", back);
  }, []);
}
