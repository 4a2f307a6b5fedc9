/** Work that is under way, of all that goes by {@link newest}. */
let underWay = 0;
export const isWorking = () => underWay > 0;

/** Work on the newest of the values that come: one at a time, a newer value replaces one that waits. */
export function newest<T>(work: (value: T) => Promise<unknown>): (value: T) => Promise<void> {
  let waiting: { value: T } | null = null;
  let running: Promise<void> | null = null;
  const run = async () => {
    underWay += 1;
    while (waiting) {
      const { value }: { value: T } = waiting;
      waiting = null;
      // A refusal is told by the work itself; what comes afterwards is still done.
      await work(value).catch(() => undefined);
    }
    underWay -= 1;
    running = null;
  };
  return (value) => {
    waiting = { value };
    return (running ??= run());
  };
}
