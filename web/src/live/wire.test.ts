import { readFileSync } from "node:fs";
import { expect, test } from "vitest";
import { decodeState, shotWords, timecodeText } from "./wire";

interface Vectors {
  frames: { hex: string }[];
  last: Record<string, number | number[] | number[][]>;
}

// Written by the server's tests (crates/live/tests/all/floor.rs).
const vectors = JSON.parse(
  readFileSync(new URL("../../../reference/values/state_frame.json", import.meta.url), "utf8"),
) as Vectors;

test("the page reads what the server writes", () => {
  const bytes = Uint8Array.from(Buffer.from(vectors.frames.at(-1)!.hex, "hex"));
  const frame = decodeState(bytes.buffer);
  const want = vectors.last;
  expect(frame.setup).toBe(want.setup);
  expect(frame.step).toBe(want.step);
  expect(frame.sceneTime).toBe(want.scene_time_s);
  expect(frame.rollTime).toBeCloseTo(want.roll_time_s as number, 6);
  expect(frame.flags).toBe(want.flags);
  expect(frame.focal).toBe(want.focal_mm);
  expect(frame.near).toBeCloseTo(want.near_m as number, 5);
  expect(frame.angles[1]).toBeCloseTo(want.tilt_deg as number, 5);
  expect(frame.position).toEqual(want.camera);
  expect(frame.rotation).toEqual(want.rotation);
  expect(frame.axes.map((a) => a.value)).toEqual(want.axes);
  expect(frame.axes.map((a) => a.flags)).toEqual(want.axis_flags);
  const stops = want.stops_in_s as unknown as (number | null)[];
  frame.axes.forEach((a, i) => expect(a.stopsIn).toBeCloseTo(stops[i] ?? Infinity, 6));
  expect(frame.halfFrame).toEqual(want.half_frame);
  expect(shotWords.indexOf(frame.shot)).toBe(want.shot);
  expect(timecodeText(frame.timecode)).toBe(want.timecode);
  expect(frame.sees).toEqual(want.sees_deg);
  expect(frame.short).toBe(want.short_m);
  expect(frame.clearance).toEqual({
    metres: want.clearance_m,
    of: "lens",
    kind: "piece",
    id: want.clearance_to,
  });
  expect(frame.base).toBeNull();
  expect(frame.others[0]!.bodies.length).toBe((want.other_bodies as number) * 7);
  expect(frame.others.map((o) => o.setup)).toEqual(want.others);
  (want.other_at as number[]).forEach((v, i) => expect(frame.others[0]!.position[i]).toBeCloseTo(v, 5));
  expect(frame.acting?.kind).toBe("performer");
  expect(frame.acting?.id).toBe(want.acting);
  (want.acting_at as number[]).forEach((v, i) => expect(frame.acting!.bodies[i]).toBeCloseTo(v, 5));
  expect(frame.riding.map(({ kind, id }) => [kind, id])).toEqual([["piece", want.riding]]);
  (want.riding_at as number[]).forEach((v, i) => expect(frame.riding[0]!.bodies[i]).toBeCloseTo(v, 5));
  expect(frame.bodies.length).toBe((want.bodies as number) * 7);
  expect(frame.handles).toEqual(want.handles);
});

test("dropped numbers show by a semicolon", () => {
  expect(timecodeText(0x97_3b_3b_1d)).toBe("23:59:59;29");
});

test("another version is refused with a sentence", () => {
  expect(() => decodeState(new Uint8Array([0x52, 99]).buffer)).toThrow(/reload/);
});
