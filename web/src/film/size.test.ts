import { expect, test } from "vitest";
import type { Camera } from "../generated/types";
import { framesBetween, pixelsOf } from "./size";

const camera = (frame_aspect: number, squeeze = 1) =>
  ({ sensor_width_mm: 24.89, sensor_height_mm: 18.66, squeeze, frame_aspect }) as Camera;

test("a picture has the shape of the frame, across or upright, and even sides", () => {
  expect(pixelsOf(camera(2.39), 1920)).toEqual([1920, 804]);
  expect(pixelsOf(camera(9 / 16), 1920)).toEqual([1080, 1920]);
  expect(pixelsOf(camera(2.39, 2), 640)).toEqual([640, 268]);
  expect(pixelsOf(camera(1), 640)).toEqual([640, 640]);
});

test("between in and out both frames count; nothing is shorter than one", () => {
  const whole = { first: 0, frames: 289 };
  expect(framesBetween(null, null, whole, 24)).toEqual([0, 289]);
  expect(framesBetween(1, 3, whole, 24)).toEqual([24, 73]);
  expect(framesBetween(3, null, whole, 24)).toEqual([72, 289]);
  expect(framesBetween(3, 3, whole, 24)).toEqual([72, 73]);
  expect(framesBetween(90, 95, whole, 24)).toEqual([288, 289]);
  // What is off its start is not in it.
  expect(framesBetween(null, null, { first: 48, frames: 100 }, 24)).toEqual([48, 148]);
  expect(framesBetween(1, 3, { first: 48, frames: 100 }, 24)).toEqual([48, 73]);
});
