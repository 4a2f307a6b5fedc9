import * as THREE from "three";
import { room } from "../theme";
import { imageAt, type Card, type CardImages } from "./cardImages";
import { paintFocus, type Focus } from "./materials";
import type { PictureSubject } from "./subject";
import type { PieceId } from "../generated/types";

/** Images that stand in the set, or go through it. */
export class Cards {
  readonly group = new THREE.Group();

  constructor(
    cards: Card[],
    focus: Focus,
    private readonly images: CardImages,
  ) {
    for (const card of cards) {
      const geometry = new THREE.PlaneGeometry(...card.size).translate(0, card.size[1] / 2, 0);
      const material = new THREE.MeshBasicMaterial({ side: THREE.DoubleSide, color: room.card });
      // What is clear in an image is clear in the set; only what is seen of it hides what is behind.
      Object.assign(material, card.image > 0 ? { transparent: true, alphaTest: 0.02 } : {});
      const mesh = new THREE.Mesh(geometry, paintFocus(material, focus));
      mesh.position.set(...card.position);
      mesh.userData = card;
      this.group.add(mesh);
    }
  }

  /** A card that moves is seen with its image in the place of the body that stands for it. */
  carry(piece: PieceId | null | undefined, group: THREE.Group) {
    const card = piece != null && this.of(piece);
    const body = group.children[0];
    if (!card || !body) return;
    card.quaternion.copy(body.quaternion);
    card.position.copy(body.position);
    card.position.y -= (card.userData as Card).size[1] / 2;
    group.visible = false;
  }

  /** Cards that turn to a camera do so. */
  turn(cameras: PictureSubject["cameras"]) {
    for (const mesh of this.group.children) {
      const { toward, turn_deg, moves } = mesh.userData as Card;
      const { x, z } = mesh.position;
      const eye = toward === null ? undefined : cameras(toward);
      if (eye) mesh.rotation.set(0, Math.atan2(eye[0] - x, eye[2] - z), 0);
      else if (!moves) mesh.rotation.set(0, -THREE.MathUtils.degToRad(turn_deg), 0);
    }
  }

  /** Cards show what they show at a scene time; until that has come, what they showed before. */
  show(time: number) {
    for (const mesh of this.group.children as THREE.Mesh<THREE.BufferGeometry, THREE.MeshBasicMaterial>[]) {
      const card = mesh.userData as Card;
      const texture = card.image > 0 && this.images.shown(card, time);
      const { material } = mesh;
      if (!texture || material.map === texture) continue;
      material.needsUpdate = !material.map;
      material.map = texture;
      material.color.set(room.plain);
    }
  }

  /** Where a camera stands that is square to a card, as the card is turned now. */
  before(piece: PieceId, seat: readonly [number, number, number]) {
    const card = this.of(piece);
    if (!card) return null;
    const at = new THREE.Vector3(...seat).applyQuaternion(card.quaternion).add(card.position);
    return { position: at.toArray(), rotation: card.quaternion.toArray() };
  }

  /** Waits until the images that are seen at a scene time have come. */
  async there(time: number) {
    await Promise.all(this.group.children.map((c) => this.images.there(imageAt(c.userData as Card, time))));
  }

  private of(piece: PieceId) {
    return this.group.children.find((c) => (c.userData as Card).piece === piece);
  }
}
