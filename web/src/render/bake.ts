import * as THREE from "three";
import type { SetView, SolidView } from "../generated/types";

/**
 * The set as one mesh with the light painted into its corners. Lamps at night make a place, but a
 * dozen real lights cost more than a machine without a graphics card can give; the set does not
 * move, so its light is worked out once.
 */

type Lights = SetView["lights"];

const WARM = new THREE.Color(1.0, 0.78, 0.5);
const COOL_UP = new THREE.Color(0.1, 0.145, 0.175);
const COOL_DOWN = new THREE.Color(0.035, 0.05, 0.062);
/** Longest edge of a painted face, metres. */
const GRAIN = 0.55;

/** Light that falls on a point facing `normal`; without one, from all around. */
export function lightAt(
  point: THREE.Vector3,
  normal: THREE.Vector3 | null,
  lights: Lights,
  shade: Shade,
  out: THREE.Color,
) {
  const up = normal ? normal.y * 0.5 + 0.5 : 0.7;
  out.copy(COOL_DOWN).lerp(COOL_UP, up);
  for (const light of lights) {
    toLight.set(...light.position).sub(point);
    const distance = toLight.length();
    if (distance > light.reach_m * 5) continue;
    toLight.divideScalar(distance || 1);
    const facing = normal ? Math.max(0, normal.dot(toLight)) : 0.6;
    // A lamp's shade keeps the light from the roof.
    const cone = light.strength >= 1 ? THREE.MathUtils.smoothstep(toLight.y, 0.05, 0.5) : 1;
    const falloff = 1 / (1 + 3 * (distance / light.reach_m) ** 2);
    const amount = light.strength * facing * cone * falloff * 1.9;
    if (amount > 0.004 && !shade(point, toLight, distance)) {
      out.r += WARM.r * amount;
      out.g += WARM.g * amount;
      out.b += WARM.b * amount;
    }
  }
  return out;
}
const toLight = new THREE.Vector3();

/** Whether something stands between a point and a light. */
export type Shade = (point: THREE.Vector3, towards: THREE.Vector3, distance: number) => boolean;

/** Shade of the set's larger boxes. */
export function shadeOf(set: SetView): Shade {
  const boxes = set.solids
    .filter((s) => s.shape === "box" && Math.min(...s.size) > 0.11 && s.size[0] * s.size[1] * s.size[2] > 0.4)
    .filter((s) => s.material !== "lit_glass" && s.material !== "concrete")
    .map((s) => ({
      centre: new THREE.Vector3(...s.position),
      turn: new THREE.Quaternion(...s.rotation).invert(),
      half: s.shape === "box" ? new THREE.Vector3(...s.size).multiplyScalar(0.5) : new THREE.Vector3(),
    }));
  const from = new THREE.Vector3();
  const along = new THREE.Vector3();
  return (point, towards, distance) =>
    boxes.some(({ centre, turn, half }) => {
      from.copy(point).sub(centre).applyQuaternion(turn);
      along.copy(towards).applyQuaternion(turn);
      // Slabs (Kay & Kajiya 1986), a finger's breadth off the surface itself.
      let near = 0.03;
      let far = distance - 0.05;
      for (const axis of ["x", "y", "z"] as const) {
        const inverse = 1 / along[axis];
        const a = (-half[axis] - from[axis]) * inverse;
        const b = (half[axis] - from[axis]) * inverse;
        near = Math.max(near, Math.min(a, b));
        far = Math.min(far, Math.max(a, b));
        if (near > far) return false;
      }
      return true;
    });
}

/** The geometry of a shape, fine enough to paint light into. */
export function geometryOf(
  solid: Pick<SolidView, "shape"> & SolidView,
  grain = Infinity,
): THREE.BufferGeometry {
  if (solid.shape === "cylinder") {
    return new THREE.CylinderGeometry(solid.radius, solid.radius, solid.height, solid.radius > 0.2 ? 20 : 10);
  }
  if (solid.shape === "ball") return new THREE.SphereGeometry(solid.radius, 16, 10);
  const [x, y, z] = solid.size;
  const cuts = (length: number) => Math.max(1, Math.min(64, Math.ceil(length / grain)));
  return new THREE.BoxGeometry(x, y, z, cuts(x), cuts(y), cuts(z));
}

/** All solids of the set as one painted geometry. */
export function bakeSet(set: SetView): THREE.BufferGeometry {
  const colors = new Map(set.colors.map(([name, rgb, glows]) => [name, { rgb, glows }]));
  const shade = shadeOf(set);
  const places: number[] = [];
  const paint: number[] = [];
  const faces: number[] = [];
  const p = new THREE.Vector3();
  const n = new THREE.Vector3();
  const light = new THREE.Color();
  for (const solid of set.solids) {
    const small = solid.shape === "box" && Math.max(...solid.size) < 1.2;
    const geometry = geometryOf(solid, small ? Infinity : GRAIN);
    const turn = new THREE.Quaternion(...solid.rotation);
    const at = new THREE.Vector3(...solid.position);
    const { rgb, glows } = colors.get(solid.material) ?? { rgb: [1, 1, 1], glows: false };
    const first = places.length / 3;
    const position = geometry.getAttribute("position");
    const normal = geometry.getAttribute("normal");
    for (let i = 0; i < position.count; i++) {
      p.fromBufferAttribute(position, i).applyQuaternion(turn).add(at);
      n.fromBufferAttribute(normal, i).applyQuaternion(turn);
      places.push(p.x, p.y, p.z);
      if (glows) paint.push(...rgb);
      else {
        lightAt(p, n, set.lights, shade, light);
        paint.push(rgb[0]! * light.r * 2.2, rgb[1]! * light.g * 2.2, rgb[2]! * light.b * 2.2);
      }
    }
    for (const i of geometry.getIndex()!.array) faces.push(first + i);
    geometry.dispose();
  }
  const baked = new THREE.BufferGeometry();
  baked.setAttribute("position", new THREE.Float32BufferAttribute(places, 3));
  baked.setAttribute("color", new THREE.Float32BufferAttribute(paint, 3));
  baked.setIndex(faces);
  return baked;
}
