import { enqueueSnackbar } from "notistack";
import type { Command } from "../generated/types";
import { link, useFloor } from "../live/link";
import { isWorking } from "../state/newest";
import { scene } from "../state/now";

/**
 * Axes that are brought to values: put there at once while the scene's time stands and nothing rolls, else
 * driven. What is keyed afterwards is what was asked for, so requests and keys come one after the other.
 */

/** True while nothing moves by itself: what is typed or dragged is put at once. */
export const timeStands = () => {
  const { status } = useFloor.getState();
  return status?.roll === "standby" && !status.running;
};

/** Longest wait for an answer of the floor, milliseconds. */
const ANSWER_MS = 1000;

let requests = 0;
let line: Promise<unknown> = Promise.resolve();
/** Number of things that are not done yet. */
let asked = 0;

/**
 * Does something after all that was asked before it. Where another setup is on the floor by then it is not done:
 * what was meant for one machine never moves or keys another one.
 */
export function inTurn<T>(work: () => Promise<T>): Promise<T | undefined> {
  asked += 1;
  const setup = link.frame?.setup;
  const meant = async () => (link.frame?.setup === setup ? work() : undefined);
  const done = line.then(meant).finally(() => (asked -= 1));
  line = done.catch(() => undefined);
  return done;
}

/** Waits until something holds of what the floor tells; false when it does not come. */
export function until(holds: () => boolean): Promise<boolean> {
  if (holds()) return Promise.resolve(true);
  return new Promise((resolve) => {
    const end = (came: boolean) => {
      clearTimeout(timer);
      clearInterval(look);
      stop();
      resolve(came);
    };
    const check = () => holds() && end(true);
    const stop = useFloor.subscribe(check);
    // State frames come sixty times a second and tell nobody.
    const look = setInterval(check, 8);
    const timer = setTimeout(() => end(false), ANSWER_MS);
  });
}

type Go = Omit<Extract<Command, { do: "go" }>, "request">;
type GoTo = Omit<Extract<Command, { do: "go_to" }>, "request">;

/** Sends a request; once state frames show it, the sentences about axes that do not stand where they were asked to. */
async function ask(command: Go | GoTo): Promise<string[]> {
  const request = (requests += 1);
  const mine = () => {
    const { status, page } = useFloor.getState();
    return status?.brought[page];
  };
  link.send({ ...command, request });
  await until(() => {
    const answer = mine();
    return answer?.request === request && (link.frame?.step ?? 0) > answer.step;
  });
  const answer = mine();
  return answer?.request === request ? answer.short : [];
}

/** Brings axes to values in shown units, by name; those that are not there are told. */
export const bring = (targets: Record<string, number>) => inTurn(async () => tell(await ask(go(targets))));

/** The same without a word: what is dragged tells it where the hand is. */
export const bringQuietly = async (targets: Record<string, number>) =>
  (await inTurn(() => ask(go(targets)))) ?? [];

/** Brings the machine to a stored position; `drive` drives there though time stands. */
export const bringTo = (number: number, drive: boolean) =>
  inTurn(async () => tell(await ask({ do: "go_to", number, drive, seconds: null })));

const go = (targets: Record<string, number>): Go => ({
  do: "go",
  targets: (scene.machine?.axes ?? []).map((axis) => targets[axis.name] ?? null),
});

function tell(short: string[]) {
  for (const sentence of short) enqueueSnackbar(`${sentence}.`, { variant: "warning" });
}

/** Axes of a machine by name, from values in its order. */
export const byName = (values: readonly (number | null)[]): Record<string, number> =>
  Object.fromEntries(
    (scene.machine?.axes ?? []).flatMap((axis, i) => {
      const value = values[i];
      return value === null || value === undefined || axis.hand === null ? [] : [[axis.name, value]];
    }),
  );

/** True while a finger or a button is down. */
let pressed = false;

/** Sees from now on whether a finger or a button is down. */
export function watchPointer() {
  for (const [event, down] of [
    ["pointerdown", true],
    ["pointerup", false],
    ["pointercancel", false],
    ["blur", false],
  ] as const)
    window.addEventListener(event, () => (pressed = down), { capture: true });
}

/** True while a hand drags something, or while what it asked for is not done: no key is written meanwhile. */
export const isHandling = () => pressed || asked > 0 || isWorking();
