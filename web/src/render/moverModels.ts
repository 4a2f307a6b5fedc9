import * as THREE from "three";
import type { MoverView } from "../generated/types";
import type { Lit } from "./lit";
import { empty } from "./materials";
import type { SetModel } from "./setModel";
import { posesAt, type PictureSubject } from "./subject";

/** Everybody and everything that moves in a performance, in three dimensions. */
export class MoverModels {
  readonly group = new THREE.Group();
  private readonly poses: Float32Array;

  constructor(
    readonly figures: MoverView[],
    lit: Lit,
  ) {
    for (const { bodies } of figures) {
      const group = new THREE.Group();
      lit.fill(group, bodies);
      this.group.add(group);
    }
    this.poses = new Float32Array(figures.reduce((sum, f) => sum + f.bodies.length, 0) * 7);
  }

  /** Puts everybody where they are; pieces that are taken out are not seen, and cards are in their place. */
  pose({ played, sceneTime, movers }: PictureSubject, set: SetModel, wild: Set<number>) {
    posesAt(played, sceneTime, movers, this.poses);
    let first = 0;
    (this.group.children as THREE.Group[]).forEach((group, i) => {
      const piece = this.figures[i]?.piece ?? null;
      group.visible = piece === null || !wild.has(piece);
      set.lit.place(group, this.poses.subarray(first));
      first += group.children.length * 7;
      set.cards.carry(piece, group);
    });
  }

  dispose() {
    this.group.children.forEach((group) => empty(group as THREE.Group));
    this.group.removeFromParent();
  }
}
