import type { Camera } from "../generated/types";
import { shownMm } from "../lens";

/** How long the longer side of a picture is, pixels. */
export const longSides = [640, 1280, 1920, 3840] as const;

const even = (pixels: number) => Math.max(2, 2 * Math.round(pixels / 2));

/** The pixels of a picture of a camera's frame, upright or across, by its longer side; even, as films want it. */
export function pixelsOf(camera: Camera, long: number): [number, number] {
  const [wide, high] = shownMm(camera).frame;
  return wide >= high ? [even(long), even((long * high) / wide)] : [even((long * wide) / high), even(long)];
}

/** The frames of a move between two times, all of them without: the first, and the one after the last. */
export function framesBetween(
  inS: number | null,
  outS: number | null,
  move: { first: number; frames: number },
  rate: number,
): [number, number] {
  const { first } = move;
  const end = first + move.frames;
  const at = (time: number) => Math.min(end, Math.max(first, Math.round(time * rate)));
  const from = Math.min(inS === null ? first : at(inS), end - 1);
  return [from, Math.max(from + 1, outS === null ? end : Math.min(end, at(outS) + 1))];
}
