import { link } from "../live/link";
import { hereS, scene } from "../state/now";
import { nextPoint } from "../state/points";
import { mayMoveFloor, seek } from "../state/transport";
import { setView, useView } from "../state/view";
import { keyTimes } from "./keyed";

/** The next key, mark, in or out, or the one before; keys only, where that is asked. */
export function toPoint(way: -1 | 1, keysOnly: boolean) {
  const { document, looked, setupId, played } = scene;
  const { live, inS, outS } = useView.getState();
  if (!document) return;
  const runs = document.setups.find((s) => s.id === setupId)?.runs;
  const move = live ? document.moves.find((m) => m.id === runs) : looked?.move;
  const keys = move ? keyTimes(move.curves).map((k) => k.time_s) : [];
  const marks = played.figures.flatMap((f) => f.marks.map(([time]) => time));
  const ends = live ? [0, document.scene.length_s] : looked ? [looked.begins_s, looked.length_s] : [];
  const times = keysOnly ? keys : [...keys, ...marks, ...ends, ...[inS, outS].filter((t) => t !== null)];
  const next = nextPoint(times, hereS(), way);
  if (next === null) return;
  if (live && mayMoveFloor()) link.send({ do: "run", on: false });
  else if (!live) setView({ playing: 0 });
  seek(next);
}
