import type { Page } from "@playwright/test";
import { validateBytes } from "gltf-validator";
import { readFileSync } from "node:fs";
import {
  AnimationMixer,
  BoxGeometry,
  ConeGeometry,
  Group,
  Mesh,
  MeshStandardMaterial,
  PerspectiveCamera,
  Quaternion,
  Scene,
  Vector3,
} from "three";
import { GLTFExporter } from "three/examples/jsm/exporters/GLTFExporter.js";
import { GLTFLoader } from "three/examples/jsm/loaders/GLTFLoader.js";

/** Rows of a camera track, by column. */
export function readCsv(path: string): Record<string, number>[] {
  const [head, ...lines] = readFileSync(path, "utf8").trim().split(/\r?\n/);
  const names = head!.split(",");
  return lines.map((line) => Object.fromEntries(line.split(",").map((v, i) => [names[i]!, Number(v)])));
}

/** Report of the Khronos validator. */
export async function validate(path: string) {
  const report = await validateBytes(new Uint8Array(readFileSync(path)));
  return report.issues as { numErrors: number; numWarnings: number; messages: unknown[] };
}

/** The camera of a glTF file at times, as three.js reads it. */
export async function readCamera(path: string, times: number[]) {
  const bytes = readFileSync(path);
  const buffer = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength);
  const gltf = await new GLTFLoader().parseAsync(buffer as ArrayBuffer, "");
  const camera = gltf.scene.getObjectByProperty("isPerspectiveCamera", true) as PerspectiveCamera;
  const mixer = new AnimationMixer(gltf.scene);
  const action = mixer.clipAction(gltf.animations[0]!);
  // Without a loop the last frame is the last frame, not the first.
  action.clampWhenFinished = true;
  action.setLoop(2200, 1);
  action.play();
  return {
    names: gltf.scene.children.map((c) => c.name),
    at: times.map((time) => {
      mixer.setTime(time);
      gltf.scene.updateMatrixWorld(true);
      const position = camera.getWorldPosition(new Vector3());
      const forward = new Vector3(0, 0, -1).applyQuaternion(camera.getWorldQuaternion(new Quaternion()));
      const up = new Vector3(0, 1, 0).applyQuaternion(camera.getWorldQuaternion(new Quaternion()));
      return { position, forward, up };
    }),
  };
}

/** Lengths of a path on a plan, metres. */
interface Measured {
  along: number;
  across: number;
}

/** First path of each role on a plan, as the browser's reader of SVG measures it: metres along it and across. */
export async function measured(page: Page, path: string): Promise<Record<string, Measured>> {
  return page.evaluate(
    (text) => {
      const read = new DOMParser().parseFromString(text, "image/svg+xml");
      const svg = document.adoptNode(read.documentElement);
      document.body.append(svg);
      const scale = Number(/1 : ([0-9]+) on A3/.exec(svg.textContent!)![1]);
      const paths = [...svg.querySelectorAll<SVGPathElement>("g[class] path")].toReversed();
      const metres = (mm: number) => (mm * scale) / 1000;
      const told = paths.map((path) => [
        path.parentElement!.getAttribute("class")!,
        { along: metres(path.getTotalLength()), across: metres(path.getBBox().width) },
      ]);
      svg.remove();
      return Object.fromEntries(told) as Record<string, Measured>;
    },
    readFileSync(path, "utf8"),
  );
}

/** Forward and up of pan, tilt, roll in degrees: pan right, tilt up, roll clockwise. */
export function looks(row: Record<string, number>) {
  const rad = (name: string) => ((row[name] ?? NaN) * Math.PI) / 180;
  const turn = new Quaternion()
    .setFromAxisAngle(new Vector3(0, 1, 0), -rad("pan_deg"))
    .multiply(new Quaternion().setFromAxisAngle(new Vector3(1, 0, 0), rad("tilt_deg")))
    .multiply(new Quaternion().setFromAxisAngle(new Vector3(0, 0, 1), -rad("roll_deg")));
  return {
    forward: new Vector3(0, 0, -1).applyQuaternion(turn),
    up: new Vector3(0, 1, 0).applyQuaternion(turn),
  };
}

/** Reader of blobs for three.js's exporter, which Node has not. */
class BlobReader {
  result: ArrayBuffer | null = null;
  onloadend: (() => void) | null = null;
  readAsArrayBuffer(blob: Blob) {
    void blob.arrayBuffer().then((bytes) => {
      this.result = bytes;
      this.onloadend?.();
    });
  }
}

/** A hut as three.js's exporter writes it: 4 × 3.5 × 3 m, its foot's middle at (2, 0, −1). */
export async function exportedHut(): Promise<Uint8Array> {
  Object.assign(globalThis, { FileReader: BlobReader });
  const walls = new Mesh(new BoxGeometry(4, 2, 3), new MeshStandardMaterial({ color: 0x886644 }));
  walls.position.y = 1;
  const roof = new Mesh(new ConeGeometry(1, 1.5, 12), new MeshStandardMaterial({ color: 0x334455 }));
  roof.position.y = 2.75;
  const hut = new Group().add(walls, roof);
  hut.position.set(2, 0, -1);
  const binary = (await new GLTFExporter().parseAsync(new Scene().add(hut), { binary: true })) as ArrayBuffer;
  return new Uint8Array(binary);
}
