import type { DevicesView } from "../generated/types";

/** Protocols as they are written. */
export const protocolWord = { opentrackio: "OpenTrackIO", freed: "FreeD" } as const;

/** The devices that are heard, and the one that is chosen, as choices. */
export const sourcesWith = (chosen: string, view: DevicesView | undefined) =>
  [...new Set([chosen, ...(view?.sources.map((s) => s.source) ?? [])])]
    .filter(Boolean)
    .map((s) => [s, s] as const);
