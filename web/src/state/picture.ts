import type { Camera, MachineView, SetupId, SetupView } from "../generated/types";
import { link } from "../live/link";
import type { Moment } from "../moves";
import type { MachineShown, PictureSubject, Played } from "../render/subject";
import { scene } from "./now";
import { useView } from "./view";

/** What pictures show: of the floor, of the move that is looked at, or of the one beside it. */

/** Poses of machines as they stand, as one list. */
const stands = new WeakMap<SetupView, Float32Array>();
const standsOf = (view: SetupView) => {
  const known = stands.get(view) ?? Float32Array.from(view.poses.flat());
  stands.set(view, known);
  return known;
};

const machineOf = (setup: SetupId, machine: MachineView | null, poses: Float32Array): MachineShown[] =>
  machine ? [{ setup, bodies: machine.bodies, unseen: machine.unseen, fixed: machine.fixed, poses }] : [];

/** The other setups' machines, where they run or stand. */
function others(at: Moment, setup: SetupId, views: SetupView[]): MachineShown[] {
  const live = new Map(at.live ? link.frame?.others.map((o) => [o.setup, o.bodies]) : []);
  return views
    .filter((view) => view.id !== setup)
    .map((view) => ({
      setup: view.id,
      bodies: view.bodies,
      unseen: view.unseen,
      fixed: view.fixed,
      poses: live.get(view.id) ?? standsOf(view),
    }));
}

/** Through a lens other machines are seen where the overlay says so; from outside always. */
export const machinesSeen = () => useView.getState().overlays.machines;

/** A moment of the floor or of the move that is looked at; or of the one that is compared with it. */
export function pictureOf(at: Moment, all = machinesSeen(), of: "shown" | "other" = "shown"): PictureSubject {
  if (of === "other") return pictureAmong(scene.beside.played, scene.beside, at, all);
  const shown = pictureAmong(scene.played, { setup: scene.setupId, machine: scene.machine }, at, all);
  return { ...shown, paths: scene.paths };
}

/** A moment of a machine in a performance, with the other machines or without. */
export function pictureAmong(
  played: Played,
  { setup, machine }: { setup: SetupId; machine: MachineView | null },
  at: Moment,
  all: boolean,
): PictureSubject {
  const { views } = played;
  const floor = at.live ? link.frame?.others : undefined;
  return {
    played,
    sceneTime: at.sceneTime,
    movers: at.movers,
    machines: [...machineOf(setup, machine, at.bodies), ...(all ? others(at, setup, views) : [])],
    cameras: (id) =>
      id === setup
        ? at.position
        : (floor?.find((o) => o.setup === id) ?? views.find((v) => v.id === id))?.position,
  };
}

/** Eye of a moment's own camera. */
export const eyeOf = (at: Moment, camera: Camera, setup = scene.setupId) => ({ through: at, camera, setup });
