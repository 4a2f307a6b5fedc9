import { enqueueSnackbar } from "notistack";
import { editSetup } from "../api";
import type { Setup } from "../generated/types";
import { holdsWheels, link, useFloor } from "../live/link";
import { scene } from "../state/now";
import { setView, useView } from "../state/view";
import { keyed } from "./keyed";

/** Stored positions and keys of the setup on the floor, and sending the machine about. */

const onFloor = (): Setup | undefined => scene.document?.setups.find((s) => s.id === link.frame?.setup);
const mayOperate = () => useView.getState().live && holdsWheels(useFloor.getState());

/** Where the driven axes stand, by name. */
function standing(): Record<string, number> {
  const axes = scene.machine?.axes ?? [];
  const values = link.frame?.axes ?? [];
  return Object.fromEntries(
    axes.flatMap((axis, i) => (axis.hand === null || !values[i] ? [] : [[axis.name, values[i].value]])),
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
  await editSetup(setup.id, { positions: [...others, { number, axes: standing() }] });
}

/** Sends some axes to zero. */
export function headTo(names: string[], value = 0) {
  const axes = scene.machine?.axes ?? [];
  if (!mayOperate()) return;
  link.send({ do: "go", targets: axes.map((a) => (names.includes(a.name) ? value : null)) });
}

/** Writes a key where the playhead is: what hands made of the machine stays. */
export async function keepPending() {
  const setup = onFloor();
  const time_s = link.frame?.sceneTime;
  if (!setup || time_s === undefined || !mayOperate()) return;
  // Keys stand on frames: that is where the playhead can be put again.
  const at = Math.round(time_s * scene.rate) / scene.rate;
  await editSetup(setup.id, { keys: keyed(setup.keys, { time_s: at, axes: standing() }) });
}

export function discardPending() {
  if (useFloor.getState().status?.pending) link.send({ do: "discard" });
}

export function toggleAutoKey() {
  setView({ autoKey: !useView.getState().autoKey });
}
