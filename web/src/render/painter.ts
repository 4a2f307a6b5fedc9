import type { SetView } from "./setByPiece";
import type { Baked } from "./bake";

/** A set that waits for its light. */
interface Waiting {
  set: SetView;
  done: (parts: Baked[]) => void;
}

/**
 * Has sets painted beside the page, one at a time, the newest first: while a piece is dragged, sets come faster
 * than they are painted, and those that were given up meanwhile are never begun.
 */
export class Painter {
  private readonly waiting: Waiting[] = [];
  private painting: Waiting | null = null;

  constructor(private readonly worker: Worker) {
    worker.onmessage = ({ data }: MessageEvent<Baked[]>) => this.ended(data);
    // A set that cannot be painted stays dark; those behind it are painted.
    worker.onerror = () => this.ended(null);
  }

  private ended(parts: Baked[] | null) {
    const painted = this.painting;
    this.painting = null;
    this.next();
    if (parts) painted?.done(parts);
  }

  /** Has a set painted. The function that is returned gives it up. */
  paint(set: SetView, done: (parts: Baked[]) => void): () => void {
    const wanted = { set, done };
    this.waiting.push(wanted);
    this.next();
    return () => {
      const place = this.waiting.indexOf(wanted);
      if (place >= 0) this.waiting.splice(place, 1);
      wanted.done = () => undefined;
    };
  }

  private next() {
    if (this.painting) return;
    const newest = this.waiting.pop();
    if (!newest) return;
    this.painting = newest;
    this.worker.postMessage(newest.set);
  }
}
