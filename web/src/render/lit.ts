import * as THREE from "three";
import type { Body } from "../generated/types";
import type { SetView } from "./setByPiece";
import { geometryOf, lightAt, shadeOf } from "./bake";
import { empty, paintFocus, type Focus } from "./materials";

/** Light and colours of a set, for what moves in it. */
export class Lit {
  private readonly shade: ReturnType<typeof shadeOf>;
  private readonly colors: Map<string, THREE.Color>;
  private readonly glows: Set<string>;
  private readonly tint = new THREE.Color();

  constructor(
    private readonly view: SetView,
    private readonly focus: Focus,
  ) {
    this.shade = shadeOf(view);
    this.colors = new Map(view.colors.map(([name, rgb]) => [name, new THREE.Color(...rgb)]));
    this.glows = new Set(view.colors.filter(([, , glow]) => glow).map(([name]) => name));
  }

  /** Fills a group with a mesh for each body. */
  fill(group: THREE.Group, bodies: Body[]) {
    empty(group);
    for (const body of bodies) {
      const color = this.colors.get(body.material)?.clone() ?? new THREE.Color(1, 1, 1);
      const glow = this.glows.has(body.material);
      const material = glow
        ? new THREE.MeshBasicMaterial({ color })
        : new THREE.MeshLambertMaterial({ color });
      const mesh = new THREE.Mesh(geometryOf(body), paintFocus(material, this.focus));
      mesh.userData = { color: glow ? null : color.clone() };
      group.add(mesh);
    }
  }

  /** Puts the meshes of a group where poses say, lit by where they are. */
  place(group: THREE.Group, poses: Float32Array) {
    group.children.forEach((child, i) => {
      const k = i * 7;
      if (k + 7 > poses.length) return;
      child.position.fromArray(poses, k);
      child.quaternion.fromArray(poses, k + 3);
    });
    const middle = group.children[Math.min(2, group.children.length - 1)];
    if (!middle) return;
    const tint = this.at(middle.position);
    for (const child of group.children) {
      const color = child.userData.color as THREE.Color | null;
      const material = (child as THREE.Mesh).material as THREE.MeshLambertMaterial;
      if (color) material.color.copy(color).multiply(tint).multiplyScalar(1.5);
    }
  }

  /** Light that falls on a place. */
  at(place: THREE.Vector3): THREE.Color {
    lightAt(place, null, this.view.lights, this.shade, this.tint);
    return this.tint;
  }
}
