import * as THREE from "three";
import { meshBytes } from "../api";
import type { PieceId, SetupId } from "../generated/types";
import type { SetView } from "./setByPiece";
import { ink } from "../theme";
import type { Baked } from "./bake";
import type { CardImages } from "./cardImages";
import { Cards } from "./cards";
import { Lit } from "./lit";
import { decodeMesh, empty, paintFocus, type Focus } from "./materials";
import { Painter } from "./painter";

const painter = new Painter(new Worker(new URL("./bake.worker.ts", import.meta.url), { type: "module" }));

/** A set in three dimensions, as one performance has it: what stands still, painted with its light. */
export class SetModel {
  readonly group = new THREE.Group();
  readonly lit: Lit;
  readonly cards: Cards;
  /** The painted set: all that is never taken out, and each wild piece. */
  private readonly painted = new THREE.Group();
  private readonly meshes = new THREE.Group();
  private readonly giveUp: () => void;
  private gone = false;
  /** True once its light has been worked out. */
  complete = false;
  private settled: () => void = () => undefined;
  /** Comes when its light has been worked out, or when it has given way to a later one. */
  readonly ready = new Promise<void>((done) => (this.settled = done));

  /** `changed` is called whenever it looks otherwise. */
  constructor(
    readonly view: SetView,
    private readonly focus: Focus,
    images: CardImages,
    private readonly changed: () => void,
  ) {
    this.lit = new Lit(view, focus);
    this.cards = new Cards(view.cards, focus, images);
    this.group.add(this.painted, this.meshes, this.cards.group);
    this.giveUp = painter.paint(view, (parts) => this.paint(parts));
    this.setEdges();
    this.setMeshes();
  }

  private paint(parts: Baked[]) {
    for (const { piece, places, paint, faces } of parts) {
      const geometry = new THREE.BufferGeometry();
      geometry.setAttribute("position", new THREE.BufferAttribute(places, 3));
      geometry.setAttribute("color", new THREE.BufferAttribute(paint, 3));
      geometry.setIndex(new THREE.BufferAttribute(faces, 1));
      const material = paintFocus(new THREE.MeshBasicMaterial({ vertexColors: true }), this.focus);
      const mesh = new THREE.Mesh(geometry, material);
      mesh.userData = { piece };
      this.painted.add(mesh);
    }
    this.complete = true;
    this.settled();
    this.changed();
  }

  /** An empty stage shows its edges, so that there is something to see and to drive by. */
  private setEdges() {
    const [floor, ...others] = this.view.solids;
    if (floor?.shape !== "box" || others.length > 0) return;
    const [w, , d] = floor.size;
    const h = this.view.lights[0]?.position[1] ?? 4;
    const box = new THREE.BoxGeometry(w, h, d).translate(0, h / 2, 0);
    const lines = new THREE.LineBasicMaterial({ color: ink.chalkFaint });
    this.group.add(new THREE.LineSegments(new THREE.EdgesGeometry(box), lines));
    box.dispose();
  }

  /** Meshes that were brought in, lit by where they stand. */
  private setMeshes() {
    for (const piece of this.view.meshes) {
      void meshBytes(piece.mesh).then((bytes) => {
        if (this.gone) return;
        const material = paintFocus(new THREE.MeshLambertMaterial({ vertexColors: true }), this.focus);
        const mesh = new THREE.Mesh(decodeMesh(bytes), material);
        mesh.position.set(...piece.position);
        mesh.quaternion.set(...piece.rotation);
        mesh.scale.setScalar(piece.scale);
        mesh.userData = { piece: piece.piece };
        material.color.copy(this.lit.at(mesh.position)).multiplyScalar(1.5);
        this.meshes.add(mesh);
        this.changed();
      });
    }
  }

  /** Pieces that are taken out for a setup. */
  wildFor(setup: SetupId): Set<number> {
    return new Set(this.view.wild.flatMap(([piece, of]) => (of.includes(setup) ? [piece] : [])));
  }

  /** Hides some pieces, and shows the others. */
  takeOut(wild: Set<number>) {
    for (const group of [this.painted, this.cards.group, this.meshes])
      for (const mesh of group.children)
        mesh.visible = !wild.has((mesh.userData as { piece: PieceId }).piece);
  }

  dispose() {
    this.gone = true;
    this.giveUp();
    this.settled();
    empty(this.painted);
    empty(this.meshes);
    empty(this.cards.group);
    this.group.removeFromParent();
  }
}
