import { link, useFloor } from "../live/link";

/** Until the floor has told what became of it, this is where the dial was put last. */
let put: { at: number; dial: number } | null = null;
const TELLS_MS = 250;
const [LEAST, MOST] = [0.05, 1];

const now = () => {
  const told = useFloor.getState().status?.dial ?? 0.6;
  return put && performance.now() - put.at < TELLS_MS ? put.dial : told;
};

/** Puts the speed dial somewhere. */
export function setDial(dial: number) {
  const drag = useFloor.getState().status?.drag ?? 1;
  const within = Math.min(MOST, Math.max(LEAST, dial));
  put = { at: performance.now(), dial: within };
  link.send({ do: "feel", dial: within, drag });
}

/** Turns the speed dial up or down. */
export const turnDial = (by: number) => setDial(now() + by);
