/** Protocols as they are written. */
export const protocolWord = { opentrackio: "OpenTrackIO", freed: "FreeD" } as const;
