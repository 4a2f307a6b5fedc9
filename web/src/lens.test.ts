import { expect, test } from "vitest";
import type { Camera } from "./generated/types";
import { frameMm, shapeName, shownMm } from "./lens";

const camera = (frame_aspect: number, squeeze = 1) =>
  ({ sensor_width_mm: 24.89, sensor_height_mm: 18.66, frame_aspect, squeeze }) as Camera;

test("the frame is cut from the sensor as large as it fits, as in core", () => {
  const close = ([a, b]: readonly number[], [c, d]: readonly number[]) => {
    expect(a).toBeCloseTo(c!, 9);
    expect(b).toBeCloseTo(d!, 9);
  };
  close(frameMm(camera(2.39)), [24.89, 24.89 / 2.39]);
  close(frameMm(camera(9 / 16)), [(18.66 * 9) / 16, 18.66]);
  close(frameMm(camera(2.39, 2)), [18.66 * 1.195, 18.66]);
  const { sensor, frame } = shownMm(camera(2.39, 2));
  expect(sensor[0]).toBeCloseTo(49.78, 9);
  expect(frame[0] / frame[1]).toBeCloseTo(2.39, 9);
});

test("shapes of frames have names", () => {
  expect([16 / 9, 2.39, 2.2].map(shapeName)).toEqual(["16:9", "2.39", "2.20"]);
});
