import type { Document } from "../generated/types";
import { timecodeText } from "../live/wire";
import type { Moment } from "../moves";
import type { Looked } from "../state/looked";
import { ink } from "../theme";

/** What is written into a picture: lower left and lower right. */
export function linesOf(document: Document, looked: Looked, frame: number, at: Moment): [string, string] {
  const { production, scene } = document;
  const words = [production, `scene ${scene.number}`, looked.title];
  const lens = `${Math.round(at.focal)} mm`;
  return [
    words.filter((word) => word !== "").join(" · "),
    `${timecodeText(at.timecode)} · ${String(frame).padStart(4, "0")} · ${lens}`,
  ];
}

/** Writes lines into the foot of a picture, readable on light and on dark. */
export function burnIn(
  paper: CanvasRenderingContext2D,
  [left, right]: readonly [string, string],
  [width, height]: readonly [number, number],
) {
  const size = Math.max(9, Math.round(Math.min(width, height * 2) / 52));
  const margin = size;
  paper.font = `500 ${size}px "Spline Sans Mono", monospace`;
  paper.textBaseline = "alphabetic";
  paper.fillStyle = ink.slate0;
  paper.globalAlpha = 0.6;
  paper.fillRect(0, height - 2.2 * size, width, 2.2 * size);
  paper.globalAlpha = 1;
  paper.fillStyle = ink.chalk;
  const room = width - 3 * margin;
  const y = height - 0.8 * size;
  // The numbers first: where both do not fit, the words give way.
  const numbers = Math.min(paper.measureText(right).width, room);
  paper.textAlign = "right";
  paper.fillText(right, width - margin, y, room);
  paper.textAlign = "left";
  if (room - numbers > 4 * size) paper.fillText(left, margin, y, room - numbers);
}
