// Makes `values/figure.gltf`, two who dance beside a post, and `values/figure.json`: where three.js puts
// every joint of them at 20 times of each animation. What they do is invented; where that puts them is not.
//
//   node reference/make_figure.mjs        (with the page's packages installed)

import { writeFileSync } from "node:fs";

Object.assign(globalThis, { self: globalThis, ProgressEvent: Event });
const three = await import("../web/node_modules/three/build/three.module.js");
const { GLTFLoader } = await import("../web/node_modules/three/examples/jsm/loaders/GLTFLoader.js");

// A file of one buffer, whose lists are put in as they are asked for.
const bytes = [];
const gltf = {
  asset: { version: "2.0" },
  scene: 0,
  scenes: [{ nodes: [] }],
  nodes: [],
  meshes: [],
  skins: [],
  animations: [],
  accessors: [],
  bufferViews: [],
  buffers: [],
};
const SIZES = { SCALAR: 1, VEC3: 3, VEC4: 4, MAT4: 16 };
function list(type, numbers, { whole = false, bounds = false } = {}) {
  const data = Buffer.from((whole ? Uint16Array : Float32Array).from(numbers).buffer);
  const byteOffset = bytes.reduce((sum, b) => sum + b.length, 0);
  const padded = Buffer.concat([data, Buffer.alloc((4 - (data.length % 4)) % 4)]);
  bytes.push(padded);
  gltf.bufferViews.push({ buffer: 0, byteOffset, byteLength: data.length });
  const count = numbers.length / SIZES[type];
  const accessor = { bufferView: gltf.bufferViews.length - 1, componentType: whole ? 5123 : 5126, count, type };
  if (bounds) {
    const rows = Array.from({ length: count }, (_, i) =>
      Float32Array.from(numbers.slice(i * SIZES[type], (i + 1) * SIZES[type])),
    );
    const each = (pick) => Array.from({ length: SIZES[type] }, (_, k) => pick(...rows.map((r) => r[k])));
    Object.assign(accessor, { min: each(Math.min), max: each(Math.max) });
  }
  gltf.accessors.push(accessor);
  return gltf.accessors.length - 1;
}
function node(entry, parent) {
  gltf.nodes.push(entry);
  const index = gltf.nodes.length - 1;
  if (parent === undefined) gltf.scenes[0].nodes.push(index);
  else (gltf.nodes[parent].children ??= []).push(index);
  return index;
}
const turned = (x, y, z) =>
  new three.Quaternion().setFromEuler(new three.Euler(x, y, z, "YXZ")).toArray();

/** Somebody of thirteen joints in centimetres, their own z up, below a node that makes metres of it. */
function dancer(name, x) {
  const base = node(
    { name: `${name} base`, translation: [x, 0, -2], rotation: turned(-Math.PI / 2, 0, 0), scale: [0.01, 0.01, 0.01] },
    undefined,
  );
  const hips = node({ name: "hips", translation: [0, 0, 95], rotation: turned(0.05, 0, 0.1) }, base);
  // No joint of the skin lies between hips and spine, but a node does.
  const belt = node({ name: "belt", translation: [0, 2, 4], rotation: turned(0, 0, -0.1) }, hips);
  const spine = node({ name: "spine", translation: [0, 0, 14] }, belt);
  const chest = node({ name: "chest", translation: [0, -1, 22], rotation: turned(0.1, 0, 0) }, spine);
  const head = node({ name: "head", translation: [0, 0, 30] }, chest);
  const joints = [head, chest, spine, hips];
  for (const side of [-1, 1]) {
    const word = side < 0 ? "left" : "right";
    const arm = node({ name: `${word} arm`, translation: [side * 18, 0, 20], rotation: turned(0, side * 0.3, 0) }, chest);
    const hand = node({ name: `${word} hand`, translation: [side * 52, 0, -4] }, arm);
    const leg = node({ name: `${word} leg`, translation: [side * 10, 0, -2], scale: [1, 1, 1.05] }, hips);
    const foot = node({ name: `${word} foot`, translation: [0, 0, -88] }, leg);
    joints.push(hand, arm, leg, foot);
  }
  // Something to see: a small triangle at every joint.
  const corners = joints.flatMap(() => [-4, 0, 0, 4, 0, 0, 0, 0, 8]);
  const mesh = gltf.meshes.push({
    primitives: [
      {
        attributes: {
          POSITION: list("VEC3", corners, { bounds: true }),
          JOINTS_0: list("VEC4", joints.flatMap((_, k) => [k, 0, 0, 0, k, 0, 0, 0, k, 0, 0, 0]), { whole: true }),
          WEIGHTS_0: list("VEC4", joints.flatMap(() => [1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0])),
        },
      },
    ],
  });
  const still = joints.flatMap(() => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]);
  gltf.skins.push({ name, joints, inverseBindMatrices: list("MAT4", still) });
  node({ name, mesh: mesh - 1, skin: gltf.skins.length - 1 }, undefined);
  return { base, hips, belt, spine, chest, head, joints };
}

const [one, two] = [dancer("dancer", -1), dancer("partner", 1.2)];
const post = gltf.meshes.push({
  primitives: [{ attributes: { POSITION: list("VEC3", [0, 0, 0, 0.2, 0, 0, 0.1, 2, 0], { bounds: true }) } }],
});
node({ name: "post", mesh: post - 1, translation: [3, 0, -3] }, undefined);

function animation(name, channels) {
  const made = { name, channels: [], samplers: [] };
  for (const [target, path, how, times, values] of channels) {
    const input = list("SCALAR", times, { bounds: true });
    const output = list(path === "rotation" ? "VEC4" : "VEC3", values);
    made.samplers.push({ input, output, interpolation: how });
    made.channels.push({ sampler: made.samplers.length - 1, target: { node: target, path } });
  }
  gltf.animations.push(made);
}
const turns = (...all) => all.flatMap((angles) => turned(...angles));
const arm = (who, word) => gltf.nodes.findIndex((n, i) => n.name === word && i > who.base);
animation("sway", [
  [one.hips, "translation", "LINEAR", [0, 0.4, 1.1, 2], [0, 0, 95, 12, 3, 93, -20, 10, 96, 0, 0, 95]],
  [one.hips, "rotation", "LINEAR", [0, 0.9, 2], turns([0.05, 0, 0.1], [0.1, 0.2, 1.4], [0.05, 0, 0.1])],
  [one.belt, "rotation", "STEP", [0, 0.7, 1.3], turns([0, 0, -0.1], [0, 0.2, 0.3], [0.1, 0, 0])],
  // In tangent, value, out tangent, for each key.
  [one.chest, "rotation", "CUBICSPLINE", [0.2, 1, 1.8], [
    ...[0, 0, 0, 0], ...turned(0.1, 0, 0), ...[0.5, 0.2, 0, 0],
    ...[0, 0.3, -0.4, 0], ...turned(-0.2, 0.4, 0.3), ...[0, 0.3, -0.4, 0],
    ...[0.1, 0, 0, 0], ...turned(0.1, 0, 0), ...[0, 0, 0, 0],
  ]],
  [one.head, "translation", "CUBICSPLINE", [0, 2], [0, 0, 0, 0, 0, 30, 10, 0, 4, -6, 0, 0, 0, 2, 31, 0, 0, 0]],
  [arm(one, "left arm"), "rotation", "LINEAR", [0, 0.35, 0.8, 1.5], turns([0, -0.3, 0], [0.4, -1.2, 0], [0, 0.9, 0.5], [0, -0.3, 0])],
  [arm(one, "right leg"), "scale", "LINEAR", [0.5, 1.5], [1, 1, 1.05, 1.02, 1, 0.9]],
  [two.hips, "rotation", "LINEAR", [0, 1, 2, 3], turns([0, 0, 0], [0, 0, 2], [0, 0, 4], [0, 0, 6.2])],
]);
animation("bow", [
  [one.base, "translation", "LINEAR", [0, 1.5], [-1, 0, -2, -1, 0, -1]],
  [one.spine, "rotation", "LINEAR", [0.25, 0.75, 1.5], turns([0, 0, 0], [0.9, 0, 0], [0, 0, 0])],
]);

const buffer = Buffer.concat(bytes);
gltf.buffers.push({
  byteLength: buffer.length,
  uri: `data:application/octet-stream;base64,${buffer.toString("base64")}`,
});
const at = (name) => new URL(`values/${name}`, import.meta.url);
writeFileSync(at("figure.gltf"), `${JSON.stringify(gltf)}\n`);

const read = await new GLTFLoader().parseAsync(JSON.stringify(gltf), "");
const found = [];
for (const clip of read.animations) {
  const mixer = new three.AnimationMixer(read.scene);
  const action = mixer.clipAction(clip);
  action.setLoop(three.LoopOnce, 1);
  action.clampWhenFinished = true;
  action.play();
  const times = Array.from({ length: 20 }, (_, i) => (i * 2.05) / 19);
  const rows = times.map((time) => {
    // Once at its end, it would stay where it began.
    action.paused = false;
    mixer.setTime(time);
    read.scene.updateMatrixWorld(true);
    const skins = [];
    read.scene.traverse((n) => n.isSkinnedMesh && skins.push(n.skeleton.bones));
    return skins.map((bones, k) =>
      Object.fromEntries(
        bones.map((b, i) => {
          const place = b.getWorldPosition(new three.Vector3()).toArray();
          return [gltf.nodes[gltf.skins[k].joints[i]].name, place.map((v) => Math.round(v * 1e8))];
        }),
      ),
    );
  });
  found.push({ name: clip.name, times, joints_e8: rows });
  mixer.stopAllAction();
}
const values = { source: `three.js ${three.REVISION}, GLTFLoader and AnimationMixer`, animations: found };
writeFileSync(at("figure.json"), `${JSON.stringify(values)}\n`);
