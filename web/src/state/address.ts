import { STATIONS, type Station } from "./stationList";
import type { MoveId, SetupId } from "../generated/types";

/** Place that an address names: station, subject, panel. */
export interface Place {
  station: Station;
  /** The setup on the floor. */
  setup: SetupId | null;
  /** The move that is looked at; none for the floor. */
  moveId: MoveId | null;
  /** The panel beside the picture. */
  panel: string;
}

/** `#/operate/setup-1/floor/profile`, `#/shape/setup-1/move-4/figures`. */
export const addressOf = ({ station, setup, moveId, panel }: Place): string =>
  `#/${station}/setup-${setup ?? 0}/${moveId === null ? "floor" : `move-${moveId}`}/${panel}`;

/** Place that an address names; null for an address that is not one of ours. */
export function placeOf(address: string): Place | null {
  const found = /^#\/([a-z]+)\/setup-(\d+)\/(?:floor|move-(\d+))\/([a-z]*)$/.exec(address);
  const station = STATIONS.find(([name]) => name === found?.[1])?.[0];
  if (!found || !station) return null;
  return {
    station,
    setup: Number(found[2]) || null,
    moveId: found[3] === undefined ? null : Number(found[3]),
    panel: found[4]!,
  };
}
