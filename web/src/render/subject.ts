import type { Body, Camera, MoverView, SetupId, SetupView, SolidView } from "../generated/types";
import type { SetView } from "./setByPiece";
import type { Acting } from "../live/wire";
import type { Performance } from "../performance";

/** A performance as it is drawn: its set, everybody and everything that moves in it, machines as they stand. */
export interface Played {
  set: SetView | null;
  figures: MoverView[];
  poses: Performance | null;
  views: SetupView[];
}

export const NOTHING: Played = { set: null, figures: [], poses: null, views: [] };

/** A place to look from, turned. */
export interface Standing {
  position: readonly [number, number, number];
  rotation: readonly [number, number, number, number];
}

/** A machine in a picture: its parts, and seven numbers for each body that moves. */
export interface MachineShown {
  setup: SetupId;
  bodies: Body[];
  /** Indices of the parts that its own lens does not see. */
  unseen: number[];
  fixed: SolidView[];
  poses: Float32Array;
}

/** What a picture shows, at one instant. Nothing else is drawn, and nothing else is asked for. */
export interface PictureSubject {
  played: Played;
  sceneTime: number;
  machines: MachineShown[];
  /** Movers that leave the performance: a driven performer, and loads of machines. */
  movers: Acting[];
  /** Cameras by setup, for cards that turn to one. */
  cameras: (setup: SetupId) => readonly [number, number, number] | undefined;
  /** Ways of a camera as x y z a point, for views from outside: as recorded, and as it is now. */
  paths?: { raw: Float32Array | null; now: Float32Array | null };
}

/** Eye of a view: through the lens, or from outside. */
export type Eye =
  | {
      through: Standing & { focal: number };
      camera: Camera;
      /** Setup whose eye it is. */
      setup: SetupId;
      /** Paints what is sharp from here to there, metres. */
      sharp?: readonly [number, number] | null;
    }
  | {
      around: {
        azimuth: number;
        height: number;
        distance: number;
        target: [number, number, number];
        bounds: [number, number];
      };
    };

/** Writes the poses of all movers at a time into one list. */
export function posesAt({ poses, figures }: Played, time: number, movers: Acting[], out: Float32Array) {
  poses?.posesAt(time, out);
  let first = 0;
  for (const figure of figures) {
    const count = figure.bodies.length * 7;
    const own = ownBodies(figure, movers);
    // Who plays may have changed since the list was made.
    if (own?.length === count && first + count <= out.length) out.set(own, first);
    first += count;
  }
}

/** Poses of a mover that leaves the performance; null for the others. */
export function ownBodies(figure: MoverView | undefined, movers: Acting[]): Float32Array | null {
  const own = movers.find(
    ({ kind, id }) => id === (kind === "performer" ? figure?.performer : figure?.piece),
  );
  return own?.bodies ?? null;
}
