import { expect, test } from "vitest";
import { Performance, decodeStretch, type Stretch } from "./performance";

/** 45 seconds at 30 a second of one body that goes a metre a second; ten of them from a time on. */
function stretch(from_s: number): Stretch {
  const first = from_s * 30;
  const frames = Math.min(301, 1351 - first);
  const buffer = new ArrayBuffer(16 + frames * 28);
  new Uint32Array(buffer, 0, 4).set([30, 1351, 1, first]);
  const data = new Float32Array(buffer, 16);
  for (let i = 0; i < frames; i++) data.set([(first + i) / 30, 0, 0, 0, 0, 0, 1], i * 7);
  return decodeStretch(buffer);
}

/** A performance whose stretches come when they are let. */
function begun() {
  const asked: number[] = [];
  const waiting: [from_s: number, come: (s: Stretch) => void, fail: (e: Error) => void][] = [];
  const performance = new Performance(stretch(0), (from_s) => {
    asked.push(from_s);
    return new Promise((come, fail) => waiting.push([from_s, come, fail]));
  });
  const come = async () => {
    for (const [from_s, give] of waiting.splice(0)) give(stretch(from_s));
    await Promise.resolve();
    await Promise.resolve();
  };
  return { performance, asked, come, waiting };
}
const x = (p: Performance, time: number) => p.poseAt(0, time)[0]!;

test("what is behind the stretch that is looked at is asked for once, and plays on without a seam", async () => {
  const { performance, asked, come } = begun();
  expect(x(performance, 4.517)).toBeCloseTo(4.517, 4);
  expect(x(performance, 9.9)).toBeCloseTo(9.9, 4);
  expect(asked).toEqual([10]);
  const before = performance.state;
  await come();
  expect(performance.state).toBeGreaterThan(before);
  for (const time of [9.99, 10, 10.01, 19.999]) expect(x(performance, time)).toBeCloseTo(time, 4);
  expect(asked).toEqual([10, 20]);
});

test("until a far time has come the nearest known is shown", async () => {
  const { performance, asked, come } = begun();
  expect(x(performance, 44.5)).toBeCloseTo(10, 4);
  // Behind the last stretch is the beginning, which is there.
  expect(asked).toEqual([40]);
  await come();
  expect(x(performance, 44.5)).toBeCloseTo(44.5, 4);
  expect(x(performance, 99)).toBeCloseTo(45, 4);
  expect(asked).toEqual([40]);
});

test("what did not come does not end anything, and is not asked for at every picture", async () => {
  const { performance, asked, waiting } = begun();
  const there = performance.there(25);
  waiting.pop()![2](new Error("no network"));
  await there;
  expect(x(performance, 25)).toBeCloseTo(10, 4);
  expect(asked.filter((a) => a === 20)).toEqual([20]);
});

test("where nobody moves nothing more is asked for", async () => {
  const asked: number[] = [];
  const nobody = { rate: 30, count: 1351, bodies: 0, first: 0, data: new Float32Array() };
  const performance = new Performance(nobody, async (from_s) => (asked.push(from_s), nobody));
  performance.posesAt(30, new Float32Array());
  await performance.there(30);
  expect(asked).toEqual([]);
});

test("a stretch of other people is not taken", async () => {
  const performance = new Performance(stretch(0), async () => ({ ...stretch(10), bodies: 2 }));
  await performance.there(15);
  expect(x(performance, 15)).toBeCloseTo(10, 4);
});
