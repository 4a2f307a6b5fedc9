import { change, edit } from "../document/edit";
import { diff, newId, plain, same, token } from "../document/patch";
import type { Camera, Rigging, Setup, Tracking } from "../generated/types";

/** Actions on a scene's setups. */

/** A new one at the end; its number once it is there. */
export async function addSetup(setup: {
  name: string;
  camera: Camera;
  rig: Rigging;
}): Promise<number | undefined> {
  const name = token(newId());
  const made = await edit(`add setup ${setup.name}`, [
    { op: "add", path: `/setups/${name}`, value: plain(setup) },
  ]);
  return made.get(name);
}

export const nameSetup = ({ id, letter, name }: Setup, typed: string) =>
  void change(`name setup ${letter}`, `/setups/${id}/name`, name, typed);

export const removeSetup = ({ id, letter }: Setup) =>
  void edit(`remove setup ${letter}`, [{ op: "remove", path: `/setups/${id}` }]);

/** Puts a setup before another one, or at the end. */
export const moveSetup = ({ id, letter }: Setup, before: Setup | undefined) =>
  void edit(`reorder setup ${letter}`, [
    { op: "move", path: `/setups/${id}`, ...(before ? { before: token(before.id) } : {}) },
  ]);

/** Label for undo of a change of a machine. */
const rigWords = (letter: string, before: Rigging, next: Rigging) =>
  same(before.carried, next.carried) ? `move setup ${letter}` : `change what carries setup ${letter}`;

/** Name of a setup with another machine: a name that is the machine's word follows it, a typed name stays. */
export function nameWith(name: string, was: string, becomes: string): string {
  const own = new RegExp(`^${was}( again)*$`);
  return own.test(name) ? name.replace(was, becomes) : name;
}

/** Another kind of machine; `was` and `becomes` are the words of both. */
export function changeMachine(setup: Setup, next: Rigging, was: string, becomes: string) {
  const { id, letter, name, rig } = setup;
  const named = nameWith(name, was, becomes);
  void edit(`change the machine of setup ${letter}`, [
    ...diff(`/setups/${id}/rig`, rig, next),
    ...diff(`/setups/${id}/name`, name, named),
  ]);
}

/** The machine as it was seen, and as it is to be. */
export const changeRig = ({ id, letter, rig }: Setup, next: Rigging, gesture?: string) =>
  change(rigWords(letter, rig, next), `/setups/${id}/rig`, rig, next, gesture);

export const changeCamera = ({ id, letter, camera }: Setup, part: Partial<Camera>, gesture?: string) =>
  void change(
    `change the camera of setup ${letter}`,
    `/setups/${id}/camera`,
    camera,
    { ...camera, ...part },
    gesture,
  );

export const changeTracking = ({ id, letter, tracking }: Setup, part: Partial<Tracking>, gesture?: string) =>
  void change(
    `set the device of setup ${letter}`,
    `/setups/${id}/tracking`,
    tracking,
    { ...tracking, ...part },
    gesture,
  );
