import type { Every, Take } from "../generated/types";

/** The times of the keys of a take, seconds: every so often, and the last sample. */
export function keyTimes(every: Every, take: Pick<Take, "length_s">, rate: number): number[] {
  const step = "frames" in every ? every.frames / rate : every.seconds;
  const count = Math.floor(take.length_s / step + 1e-9);
  const times = Array.from({ length: count + 1 }, (_, k) => k * step);
  return take.length_s - times[count]! > 1e-6 ? [...times, take.length_s] : times;
}
