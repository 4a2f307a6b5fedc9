import { expect, test } from "vitest";
import type { SetView } from "./setByPiece";
import type { Baked } from "./bake";
import { Painter } from "./painter";

test("one set is painted at a time, the newest first, and none that was given up", () => {
  const asked: string[] = [];
  const worker = {
    postMessage: (set: string) => asked.push(set),
    onmessage: null as unknown,
    onerror: null as unknown,
  };
  const painter = new Painter(worker as unknown as Worker);
  const done: string[] = [];
  const paint = (name: string) => painter.paint(name as unknown as SetView, () => done.push(name));
  const answer = () => (worker.onmessage as (e: { data: Baked[] }) => void)({ data: [] });
  const first = paint("first");
  const second = paint("second");
  paint("third");
  expect(asked).toEqual(["first"]);
  second();
  first();
  answer();
  expect([asked, done]).toEqual([["first", "third"], []]);
  answer();
  expect([asked, done]).toEqual([["first", "third"], ["third"]]);
  paint("fourth");
  answer();
  expect(done).toEqual(["third", "fourth"]);
  // One that cannot be painted holds nobody up.
  paint("fifth");
  paint("sixth");
  (worker.onerror as () => void)();
  answer();
  expect(done).toEqual(["third", "fourth", "sixth"]);
});
