import { expect, test } from "vitest";
import { newest } from "./newest";

/** Work that ends when it is told to. */
function workshop() {
  const begun: number[] = [];
  const ends: ((fault?: Error) => void)[] = [];
  const work = (value: number) => {
    begun.push(value);
    return new Promise<void>((resolve, reject) => ends.push((fault) => (fault ? reject(fault) : resolve())));
  };
  return { begun, ends, work };
}

const turn = () => new Promise((resolve) => setTimeout(resolve, 0));

test("of what comes while something is done only the newest is done next", async () => {
  const { begun, ends, work } = workshop();
  const put = newest(work);
  const all = [put(1), put(2), put(3)];
  await turn();
  expect(begun).toEqual([1]);
  ends[0]!();
  await turn();
  expect(begun).toEqual([1, 3]);
  ends[1]!();
  await Promise.all(all);
  void put(4);
  await turn();
  expect(begun).toEqual([1, 3, 4]);
});

test("work that fails does not hold up what comes after it", async () => {
  const { begun, ends, work } = workshop();
  const put = newest(work);
  const all = [put(1), put(2)];
  await turn();
  ends[0]!(new Error("no answer"));
  await turn();
  expect(begun).toEqual([1, 2]);
  ends[1]!();
  await Promise.all(all);
});
