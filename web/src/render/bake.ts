import * as THREE from "three";
import type { Body, PieceId } from "../generated/types";
import type { SetView } from "./setByPiece";

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

/** Shade of the set's larger boxes. Each vertex of the set asks for each lamp, so boxes are plain numbers. */
export function shadeOf(set: SetView): Shade {
  const boxes = set.solids
    .filter((s) => s.shape === "box" && Math.min(...s.size) > 0.11 && s.size[0] * s.size[1] * s.size[2] > 0.4)
    .filter((s) => s.material !== "lit_glass" && s.material !== "concrete");
  // Of each box: middle (3), its three axes (9), half its size (3), square of the radius around it.
  const numbers = new Float64Array(boxes.length * BOX);
  const turn = new THREE.Matrix4();
  boxes.forEach((s, i) => {
    if (s.shape !== "box") return;
    const { elements: e } = turn.makeRotationFromQuaternion(new THREE.Quaternion(...s.rotation));
    const half = s.size.map((edge) => edge / 2);
    const radius2 = half.reduce((sum, h) => sum + h * h, 0);
    const axes = [e[0], e[1], e[2], e[4], e[5], e[6], e[8], e[9], e[10]];
    numbers.set([...s.position, ...axes, ...half, radius2], i * BOX);
  });
  return (point, towards, distance) => {
    for (let box = 0; box < numbers.length; box += BOX) {
      if (stands(numbers, box, point, towards, distance)) return true;
    }
    return false;
  };
}
const BOX = 16;

/** Whether a box stands between a point and a light. */
function stands(
  box: Float64Array,
  at: number,
  point: THREE.Vector3,
  towards: THREE.Vector3,
  distance: number,
): boolean {
  const x = box[at]! - point.x;
  const y = box[at + 1]! - point.y;
  const z = box[at + 2]! - point.z;
  // Most are far from the line.
  const along = x * towards.x + y * towards.y + z * towards.z;
  const nearest = Math.max(0, Math.min(distance, along));
  if (x * x + y * y + z * z - 2 * nearest * along + nearest * nearest > box[at + 15]!) return false;
  // Slabs (Kay & Kajiya 1986), a finger's breadth off the surface itself.
  let near = 0.03;
  let far = distance - 0.05;
  for (let k = 0; k < 3; k++) {
    const axis = at + 3 + 3 * k;
    const ax = box[axis]!;
    const ay = box[axis + 1]!;
    const az = box[axis + 2]!;
    const middle = x * ax + y * ay + z * az;
    const inverse = 1 / (towards.x * ax + towards.y * ay + towards.z * az);
    const half = box[at + 12 + k]!;
    const a = (middle - half) * inverse;
    const b = (middle + half) * inverse;
    near = Math.max(near, Math.min(a, b));
    far = Math.min(far, Math.max(a, b));
    if (near > far) return false;
  }
  return true;
}

/** The geometry of a shape, fine enough to paint light into. */
export function geometryOf(solid: Body, grain = Infinity): THREE.BufferGeometry {
  if (solid.shape === "cylinder") {
    return new THREE.CylinderGeometry(solid.radius, solid.radius, solid.height, solid.radius > 0.2 ? 20 : 10);
  }
  if (solid.shape === "ball") return new THREE.SphereGeometry(solid.radius, 16, 10);
  if (solid.shape === "wedge") return wedge(solid.size);
  const [x, y, z] = solid.size;
  const cuts = (length: number) => Math.max(1, Math.min(64, Math.ceil(length / grain)));
  return new THREE.BoxGeometry(x, y, z, cuts(x), cuts(y), cuts(z));
}

/** A slope that rises from +z to −z. */
function wedge([w, h, d]: [number, number, number]): THREE.BufferGeometry {
  const [x, y, z] = [w / 2, h / 2, d / 2];
  const length = Math.hypot(h, d);
  const up = [0, d / length, h / length];
  const faces: [number[][], number[]][] = [
    [
      [
        [-x, -y, -z],
        [x, -y, -z],
        [x, -y, z],
        [-x, -y, z],
      ],
      [0, -1, 0],
    ],
    [
      [
        [x, -y, -z],
        [-x, -y, -z],
        [-x, y, -z],
        [x, y, -z],
      ],
      [0, 0, -1],
    ],
    [
      [
        [-x, -y, z],
        [x, -y, z],
        [x, y, -z],
        [-x, y, -z],
      ],
      up,
    ],
    [
      [
        [-x, -y, -z],
        [-x, -y, z],
        [-x, y, -z],
      ],
      [-1, 0, 0],
    ],
    [
      [
        [x, -y, z],
        [x, -y, -z],
        [x, y, -z],
      ],
      [1, 0, 0],
    ],
  ];
  const places: number[] = [];
  const normals: number[] = [];
  const order: number[] = [];
  for (const [corners, normal] of faces) {
    const first = places.length / 3;
    for (const corner of corners) {
      places.push(...corner);
      normals.push(...normal);
    }
    for (let i = 2; i < corners.length; i++) order.push(first, first + i - 1, first + i);
  }
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute("position", new THREE.Float32BufferAttribute(places, 3));
  geometry.setAttribute("normal", new THREE.Float32BufferAttribute(normals, 3));
  geometry.setIndex(order);
  return geometry;
}

/** Places, colours and faces of a painted part of a set: of one piece, or (0) of all that is never taken out. */
export interface Baked {
  piece: PieceId;
  places: Float32Array<ArrayBuffer>;
  paint: Float32Array<ArrayBuffer>;
  faces: Uint32Array<ArrayBuffer>;
}

/** All solids of the set as one painted geometry, and what is taken out for some setups by itself. */
export function bakeSet(set: SetView): Baked[] {
  const wild = set.wild.map(([piece]) => piece);
  const never = (piece: PieceId) => !wild.includes(piece);
  return [bake(set, 0, never), ...wild.map((one) => bake(set, one, (piece) => piece === one))];
}

/** The solids of some pieces; cards are drawn by themselves. */
function bake(set: SetView, piece: PieceId, wanted: (piece: PieceId) => boolean): Baked {
  const colors = new Map(set.colors.map(([name, rgb, glows]) => [name, { rgb, glows }]));
  const shade = shadeOf(set);
  const places: number[] = [];
  const paint: number[] = [];
  const faces: number[] = [];
  const p = new THREE.Vector3();
  const n = new THREE.Vector3();
  const light = new THREE.Color();
  const cards = new Set(set.cards.map((c) => c.piece));
  for (const solid of set.solids) {
    if (cards.has(solid.piece) || !wanted(solid.piece)) continue;
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
  return {
    piece,
    places: new Float32Array(places),
    paint: new Float32Array(paint),
    faces: new Uint32Array(faces),
  };
}
