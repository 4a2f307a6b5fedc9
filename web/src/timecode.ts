import type { Rate } from "./generated/types";

/** The timecode of a frame counted from midnight (core: `time`; SMPTE ST 12-1). */
export function timecode(frame: number, rate: Rate): string {
  const fps = Math.ceil(rate.num / rate.den);
  const drops = rate.den === 1001 && (rate.num === 30000 || rate.num === 60000);
  let count = Math.max(0, frame);
  if (drops) {
    const skip = fps / 15;
    const perMinute = fps * 60 - skip;
    const perTen = fps * 600 - 9 * skip;
    const rest = count % perTen;
    const minutes = rest < fps * 60 ? 0 : 1 + Math.floor((rest - fps * 60) / perMinute);
    count += skip * (9 * Math.floor(count / perTen) + minutes);
  }
  const two = (v: number) => String(Math.floor(v)).padStart(2, "0");
  const s = Math.floor(count / fps);
  return `${two((s / 3600) % 24)}:${two((s / 60) % 60)}:${two(s % 60)}${drops ? ";" : ":"}${two(count % fps)}`;
}
