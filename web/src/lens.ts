import type { Camera } from "./generated/types";

/** The frame on the sensor, millimetres wide and high: as large as it fits. As core's `frame_mm`. */
export function frameMm(camera: Camera): [number, number] {
  const onSensor = camera.frame_aspect / camera.squeeze;
  const { sensor_width_mm: w, sensor_height_mm: h } = camera;
  return w / h <= onSensor ? [w, w / onSensor] : [h * onSensor, h];
}

/** Sensor and frame as they are shown: unsqueezed. */
export function shownMm(camera: Camera) {
  const [width, height] = frameMm(camera);
  return {
    sensor: [camera.sensor_width_mm * camera.squeeze, camera.sensor_height_mm] as const,
    frame: [width * camera.squeeze, height] as const,
  };
}

/** Sensors there are to choose from; sizes of 36 × 24 after ISO 1007, the others from memory. */
export const sensors: [string, number, number][] = [
  ["full frame", 36, 24],
  ["35 mm full aperture", 24.89, 18.66],
  ["35 mm three perforations", 24.89, 13.9],
  ["16 mm", 12.52, 7.41],
  ["four thirds", 17.3, 13],
  ["one inch", 13.2, 8.8],
];

/** Shapes of frames. */
export const shapes: [string, number][] = [
  ["2.39", 2.39],
  ["1.85", 1.85],
  ["16:9", 16 / 9],
  ["4:3", 4 / 3],
  ["1:1", 1],
  ["4:5", 4 / 5],
  ["9:16", 9 / 16],
];

export const shapeName = (aspect: number) =>
  shapes.find(([, a]) => Math.abs(a - aspect) < 1e-3)?.[0] ?? aspect.toFixed(2);
