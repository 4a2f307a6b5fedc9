/** The stations that work, in the order of the job: name, word. Each has its component in `stations/`. */
export const STATIONS = [
  ["set", "Set"],
  ["operate", "Operate"],
  ["shape", "Shape"],
] as const;

export type Station = (typeof STATIONS)[number][0];

export const wordOfStation = (station: Station) => STATIONS.find(([name]) => name === station)![1];
