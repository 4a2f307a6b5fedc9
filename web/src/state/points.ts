/** Closer than this two times are the same, seconds. */
const SAME_S = 1e-3;

/** The next of some times after one, or the last before it; none where there is no other. */
export function nextPoint(times: readonly number[], here: number, way: -1 | 1): number | null {
  const ahead = times.filter((t) => way * (t - here) > SAME_S);
  return ahead.length === 0 ? null : way > 0 ? Math.min(...ahead) : Math.max(...ahead);
}
