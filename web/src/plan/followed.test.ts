import { beforeEach, expect, it, vi } from "vitest";

/** A pose at a place, turned to the right by so many degrees. */
const pose = (x: number, z: number, right = 0) => {
  const half = (-right * Math.PI) / 360;
  return [x, 1, z, 0, Math.sin(half), 0, Math.cos(half)];
};

const floor = vi.hoisted(() => ({ frame: null as unknown }));
const stand = vi.hoisted(() => ({ played: { figures: [] as unknown[], poses: null as unknown } }));
vi.mock("../live/link", () => ({ link: floor }));
vi.mock("../state/now", () => ({
  scene: stand,
  hereS: () => 2,
  moversNow: () => [],
}));
vi.mock("../render/subject", () => ({
  ownBodies: (figure: { performer: number | null }) =>
    figure.performer === 7 ? Float32Array.from([...pose(0, 0), ...pose(5, 6, 90)]) : null,
}));
vi.mock("../state/view", () => ({ useView: { getState: () => ({ live: true }) } }));

const { followed } = await import("./followed");

beforeEach(() => {
  const part = (x: number) => Float32Array.from(pose(x, x));
  stand.played.figures = [
    { piece: 3, performer: null, bodies: [{}, {}] },
    { piece: null, performer: 7, bodies: [{}, {}] },
    { piece: null, performer: 8, bodies: [{}, {}] },
  ];
  stand.played.poses = { poseAt: (at: number) => part(at) };
  floor.frame = { acting: null };
});

it("follows nobody while nobody is driven, and whoever is, at their trunk, as they turn", () => {
  expect(followed("driven")).toBeNull();
  expect(followed("machine")).toBeNull();
  floor.frame = { acting: { kind: "performer", id: 7 } };
  const whom = followed("driven")!;
  expect(whom.at).toEqual([5, 1.2, 6]);
  expect(whom.turn).toBeCloseTo(-Math.PI / 2, 5);
});

it("follows a performer who plays, by their place in the performance", () => {
  // Two parts of the piece, two of the first performer, then the trunk of the second.
  expect(followed("performer 8")!.at).toEqual([5, 1.2, 5]);
  expect(followed("performer 99")).toBeNull();
});
