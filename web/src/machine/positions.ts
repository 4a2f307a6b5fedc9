import { enqueueSnackbar } from "notistack";
import { change, edit } from "../document/edit";
import { newId } from "../document/patch";
import type { Document, Move, Setup } from "../generated/types";
import { hasAnyWheel, hasPending, holdsWheels, link, useFloor } from "../live/link";
import { scene } from "../state/now";
import { setView, useView } from "../state/view";
import { addMove, runMove } from "../move/edits";
import { firstKeys, keyOps } from "../move/keyed";
import { bring, bringTo, inTurn, timeStands, until } from "./bring";

/** Stored positions and keys of the setup on the floor, and sending the machine about. */

const onFloor = (): Setup | undefined => scene.document?.setups.find((s) => s.id === link.frame?.setup);
const mayOperate = () => useView.getState().live && holdsWheels(useFloor.getState());

/** Where driven axes stand, by name: all of them, or those that are asked for. */
function standing(only: (axis: number) => boolean = () => true): Record<string, number> {
  const axes = scene.machine?.axes ?? [];
  const values = link.frame?.axes ?? [];
  return Object.fromEntries(
    axes.flatMap((axis, i) =>
      axis.hand === null || !values[i] || !only(i) ? [] : [[axis.name, values[i].value]],
    ),
  );
}

/** Brings the machine to a stored position; `drive` drives there though time stands. */
export function goTo(number: number, drive = false) {
  if (onFloor()?.positions.some((p) => p.number === number)) void bringTo(number, drive);
  else enqueueSnackbar(`No position ${number} is stored; Ctrl Shift ${number} stores it here.`);
}

/** Stores where the machine stands under a number. */
export const storeHere = (number: number) =>
  inTurn(async () => {
    const setup = onFloor();
    if (!setup || !mayOperate()) return;
    const others = setup.positions.filter((p) => p.number !== number);
    await change(
      `store a position of setup ${setup.letter}`,
      `/setups/${setup.id}/positions`,
      setup.positions,
      [...others, { number, axes: standing() }],
    );
  });

/** Brings some axes to a value. */
export function headTo(names: string[], value = 0) {
  // The floor brings those that hang on a wheel of this page.
  if (!useView.getState().live || !hasAnyWheel(useFloor.getState())) return;
  void bring(Object.fromEntries(names.map((name) => [name, value])));
}

/** The move that a setup's machine runs. */
export const runningMove = (document: Document | null, setup: Setup): Move | undefined =>
  document?.moves.find((m) => m.id === setup.runs && !m.binned);

/**
 * Writes keys where the playhead is: of the axes that hands touched since they were last keyed, or of all where
 * they touched none. What another axis does is left as it was. Of a move that follows another only the base is
 * keyed. A setup that runs no move gets one. What was typed before is keyed as it was typed.
 */
export const keepPending = () => inTurn(() => keyHere(null));

/** Writes keys of some axes, as far as hands have touched them. */
export const keepTouched = (names: string[]) => inTurn(() => keyHere(names));

async function keyHere(only: string[] | null) {
  const setup = onFloor();
  const time_s = link.frame?.sceneTime;
  const { status } = useFloor.getState();
  if (!setup || !status || time_s === undefined || !mayOperate()) return;
  if (status.sent) {
    enqueueSnackbar("The machine is still on its way: key it where it stands, or stop it.");
    return;
  }
  // Keys stand on frames: that is where the playhead can be put again.
  const at = Math.round(time_s * scene.rate) / scene.rate;
  const move = runningMove(scene.document, setup);
  const axes = scene.machine?.axes ?? [];
  const mine = (i: number) => move?.source.kind !== "follow" || axes[i]!.base;
  const touched = axes.map(
    (axis, i) => mine(i) && status.touched[i] === true && (only?.includes(axis.name) ?? true),
  );
  // What was to be keyed may have been kept or discarded while its turn came.
  if (only && !touched.some(Boolean)) return;
  const values = standing((i) => (touched.some(Boolean) ? touched[i]! : mine(i)));
  if (Object.keys(values).length === 0) {
    enqueueSnackbar("The base of this machine has no axis to key.");
    return;
  }
  const label = `set a key of setup ${setup.letter}`;
  if (move) {
    const ops = keyOps(move.id, move.curves, at, values, newId);
    if (ops.length > 0) await edit(label, ops);
  } else {
    const curves = firstKeys(values, at);
    await addMove(label, { setup_id: setup.id, source: { kind: "curves" }, curves, run: true });
  }
  if (timeStands() && Math.abs(at - time_s) > 1e-6) link.send({ do: "seek", time_s: at });
  // A key that has the value already changes nothing: its axis follows it again.
  const has = (axis: string) =>
    move && keyOps(move.id, move.curves, at, { [axis]: values[axis]! }, newId).length === 0;
  const placesOf = (names: string[]) => axes.flatMap((axis, i) => (names.includes(axis.name) ? [i] : []));
  const kept = placesOf(Object.keys(values).filter(has));
  if (kept.length > 0) link.send({ do: "discard", axes: kept });
  // The floor has the new keys before anything else is brought anywhere, so that nothing is led back to them.
  const keyed = placesOf(Object.keys(values));
  await until(() => keyed.every((i) => !useFloor.getState().status?.touched[i]));
}

/** The machine goes where another move's camera is; its base begins where it stands. */
export async function followMove(setup: Setup, other: Move, title: string) {
  const known = scene.document?.moves.find(
    (m) => m.setup_id === setup.id && !m.binned && m.source.kind === "follow" && m.source.move === other.id,
  );
  if (known && !known.rig) await runMove(setup.letter, setup.id, known.id);
  else {
    const axes = scene.machine?.axes ?? [];
    await addMove(`follow ${title} with setup ${setup.letter}`, {
      setup_id: setup.id,
      name: `follows ${title}`,
      source: { kind: "follow", move: other.id },
      curves: firstKeys(
        standing((i) => axes[i]!.base),
        0,
      ),
      run: true,
    });
  }
  link.send({ do: "seek", time_s: 0 });
}

export function discardPending() {
  if (hasPending(useFloor.getState())) link.send({ do: "discard", axes: [] });
}

export function toggleAutoKey() {
  setView({ autoKey: !useView.getState().autoKey });
}
