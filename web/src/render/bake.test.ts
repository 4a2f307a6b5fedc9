import * as THREE from "three";
import { expect, test } from "vitest";
import type { SetView } from "./setByPiece";
import { shadeOf } from "./bake";

/** Numbers from 0 to 1, the same in every run. */
function numbers(seed: number) {
  return () => (seed = (seed * 16807) % 2147483647) / 2147483647;
}

test("boxes shade as three's own rays meet them, however they are turned", () => {
  const next = numbers(7);
  const place = () => new THREE.Vector3(10 * next() - 5, 10 * next() - 5, 10 * next() - 5);
  const boxes = Array.from({ length: 12 }, () => ({
    at: place(),
    turn: new THREE.Quaternion(next() - 0.5, next() - 0.5, next() - 0.5, next() - 0.5).normalize(),
    size: [0.9 + next(), 0.9 + 2 * next(), 0.9 + next()] as [number, number, number],
  }));
  const solids = boxes.map(({ at, turn, size }, piece) => ({
    piece,
    shape: "box",
    position: at.toArray(),
    rotation: turn.toArray(),
    size,
    material: "timber",
  }));
  const shade = shadeOf({ solids } as unknown as SetView);
  let [shaded, ends] = [0, 0];
  for (let k = 0; k < 2000; k++) {
    const [from, light] = [place(), place()];
    const distance = from.distanceTo(light);
    const towards = light.clone().sub(from).divideScalar(distance);
    const wanted = boxes.some(({ at, turn, size }) => {
      const into = new THREE.Matrix4().compose(at, turn, new THREE.Vector3(1, 1, 1)).invert();
      const ray = new THREE.Ray(from.clone(), towards.clone()).applyMatrix4(into);
      const half = new THREE.Vector3(...size).divideScalar(2);
      const box = new THREE.Box3(half.clone().negate(), half);
      const met = ray.intersectBox(box, new THREE.Vector3());
      return box.containsPoint(ray.origin) || (met !== null && met.distanceTo(ray.origin) < distance);
    });
    // A breadth is left at both ends: a finger's at the surface, a hand's at the lamp.
    const mine = shade(from, towards, distance);
    if (mine !== wanted) ends++;
    else if (mine) shaded++;
  }
  expect(shaded).toBeGreaterThan(400);
  expect(ends).toBeLessThan(20);
});

test("a lamp is not shaded by glass that is lit, by the floor, nor by what is small", () => {
  const box = (material: string, size: number[]) => ({
    piece: 1,
    shape: "box",
    position: [0, 1, 0],
    rotation: [0, 0, 0, 1],
    size,
    material,
  });
  const shades = (material: string, size = [2, 1, 2]) =>
    shadeOf({ solids: [box(material, size)] } as unknown as SetView)(
      new THREE.Vector3(0, 0, 0),
      new THREE.Vector3(0, 1, 0),
      3,
    );
  expect(shades("timber")).toBe(true);
  expect([shades("lit_glass"), shades("concrete"), shades("timber", [0.1, 1, 2])]).toEqual([
    false,
    false,
    false,
  ]);
});
