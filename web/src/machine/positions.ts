import { enqueueSnackbar } from "notistack";
import { change, edit } from "../document/edit";
import { newId, token } from "../document/patch";
import type { Setup } from "../generated/types";
import { hasPending, holdsWheels, link, useFloor } from "../live/link";
import { scene } from "../state/now";
import { setView, useView } from "../state/view";
import { keyAt } from "./keyed";

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

export function goTo(number: number, seconds: number | null = null) {
  if (onFloor()?.positions.some((p) => p.number === number)) link.send({ do: "go_to", number, seconds });
  else enqueueSnackbar(`No position ${number} is stored; Ctrl Shift ${number} stores it here.`);
}

/** Stores where the machine stands under a number. */
export async function storeHere(number: number) {
  const setup = onFloor();
  if (!setup || !mayOperate()) return;
  const others = setup.positions.filter((p) => p.number !== number);
  await change(
    `store a position of setup ${setup.letter}`,
    `/setups/${setup.id}/positions`,
    setup.positions,
    [...others, { number, axes: standing() }],
  );
}

/** Sends some axes to zero. */
export function headTo(names: string[], value = 0) {
  const axes = scene.machine?.axes ?? [];
  if (!mayOperate()) return;
  link.send({ do: "go", targets: axes.map((a) => (names.includes(a.name) ? value : null)) });
}

/**
 * Writes a key where the playhead is: of the axes that hands took from their keys, or of all where
 * they took none. What another axis does is left as it was.
 */
export async function keepPending() {
  const setup = onFloor();
  const time_s = link.frame?.sceneTime;
  if (!setup || time_s === undefined || !mayOperate()) return;
  // Keys stand on frames: that is where the playhead can be put again.
  const at = Math.round(time_s * scene.rate) / scene.rate;
  const path = `/setups/${setup.id}/keys`;
  const there = keyAt(setup.keys, at);
  const taken = useFloor.getState().status?.pending ?? [];
  const touched = standing(taken.some(Boolean) ? (i) => taken[i] === true : undefined);
  const axes = there ? { ...there.axes, ...touched } : touched;
  await edit(`set a key of setup ${setup.letter}`, [
    there
      ? { op: "replace", path: `${path}/${token(there.id)}`, value: { time_s: at, axes } }
      : {
          op: "add",
          path: `${path}/${token(newId())}`,
          value: { time_s: at, axes },
          ...beforeOf(setup.keys.find((k) => k.time_s > at)),
        },
  ]);
}

const beforeOf = (key: { id: number } | undefined) => (key ? { before: token(key.id) } : {});

export function discardPending() {
  if (hasPending(useFloor.getState())) link.send({ do: "discard" });
}

export function toggleAutoKey() {
  setView({ autoKey: !useView.getState().autoKey });
}
