import { expect, test } from "vitest";
import { imageAt } from "./cardImages";

test("a sequence shows one image a frame, its first before it begins and its last from its end on", () => {
  const card = { image: 3, sequence: { images: [3, 4, 5, 6], rate: 24, start_s: 1 } };
  expect([0, 1, 1 + 1 / 24, 1 + 2.5 / 24, 1 + 3 / 24, 9].map((t) => imageAt(card, t))).toEqual([
    3, 3, 4, 5, 6, 6,
  ]);
  // Frames at the scene's own rate, whatever their times are in binary.
  const scene = {
    image: 1,
    sequence: { images: [...Array(480).keys()].map((i) => i + 1), rate: 24, start_s: 0 },
  };
  for (let frame = 0; frame < 480; frame++) expect(imageAt(scene, frame / 24)).toBe(frame + 1);
  const ntsc = { image: 1, sequence: { ...scene.sequence, rate: 30000 / 1001 } };
  for (let frame = 0; frame < 480; frame++) expect(imageAt(ntsc, (frame * 1001) / 30000)).toBe(frame + 1);
  expect(imageAt({ image: 7, sequence: null }, 12)).toBe(7);
});
