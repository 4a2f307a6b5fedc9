/** A window of time, seconds from and to. */
export type Window = [number, number];

/** The least that is shown, seconds. */
const LEAST_S = 0.25;

/** Window on show: the window as far as it lies within the whole, or all of it. */
export function shownOf(window: Window | null, whole: number): Window {
  if (!window) return [0, whole];
  const span = Math.min(whole, window[1] - window[0]);
  const from = Math.min(Math.max(0, window[0]), whole - span);
  return [from, from + span];
}

/** Window with a factor on its time, with one instant staying in its place; null for all of it. */
export function zoomed(window: Window | null, whole: number, at: number, times: number): Window | null {
  const [from, to] = shownOf(window, whole);
  const span = Math.max(Math.min(LEAST_S, whole), (to - from) * times);
  if (span >= whole) return null;
  const still = Math.min(Math.max(at, from), to);
  const first = still - ((still - from) / (to - from)) * span;
  return shownOf([first, first + span], whole);
}

/** The page of a window that has an instant at its beginning, or at its end where time goes back. */
export function turned(window: Window, whole: number, at: number, direction: -1 | 1): Window {
  const span = window[1] - window[0];
  return shownOf(direction < 0 ? [at - span, at] : [at, at + span], whole);
}

/** Later or earlier by a share of what is shown. */
export function panned(window: Window | null, whole: number, share: number): Window | null {
  if (!window) return null;
  const [from, to] = shownOf(window, whole);
  const by = share * (to - from);
  return shownOf([from + by, to + by], whole);
}
