import { LRUCache } from "lru-cache";
import * as THREE from "three";
import type { MoverView, PieceId } from "../generated/types";
import type { SetView } from "./setByPiece";
import { shownMm } from "../lens";
import type { Camera } from "../generated/types";
import { ink, room } from "../theme";
import { CardImages } from "./cardImages";
import { MachineModels } from "./machineModels";
import type { Focus } from "./materials";
import { MoverModels } from "./moverModels";
import { SetModel } from "./setModel";
import type { Eye, PictureSubject, Played } from "./subject";

const NIGHT = new THREE.Color(room.night);

/** Performances whose models are kept, so that looking from one to the other builds nothing anew. */
const PERFORMANCES = 3;

/** Everything that pictures are drawn of. Each picture puts on the stage what it shows, and is drawn at once. */
class Stage {
  readonly scene = new THREE.Scene();
  readonly lens = new THREE.PerspectiveCamera(40, 1, 0.05, 200);
  private readonly focus: Focus = { on: { value: 0 }, near: { value: 0 }, far: { value: 1 } };
  /** Counts up with everything that changes pictures without moving. */
  version = 0;
  private readonly changed = () => void this.version++;
  private readonly images = new CardImages(this.changed);
  private readonly sets = new LRUCache<SetView, SetModel>({
    max: PERFORMANCES,
    dispose: (model) => model.dispose(),
    memoMethod: (view) => {
      const model = new SetModel(view, this.focus, this.images, this.changed);
      this.scene.add(model.group);
      return model;
    },
  });
  private readonly movers = new LRUCache<MoverView[], MoverModels>({
    max: PERFORMANCES,
    dispose: (models) => models.dispose(),
    memoMethod: (figures) => {
      const models = new MoverModels(figures, this.shown!.lit);
      this.scene.add(models.group);
      return models;
    },
  });
  private readonly machines = new MachineModels();
  private readonly raw = way(0.75, ink.pick);
  private readonly now = way(1, ink.chalk);
  /** The set that the last picture showed. */
  private shown: SetModel | null = null;

  constructor() {
    this.scene.background = NIGHT;
    this.scene.fog = new THREE.Fog(NIGHT, 18, 60);
    this.scene.add(new THREE.HemisphereLight(room.sky, room.floor, 1.5));
    const key = new THREE.DirectionalLight(room.lamp, 2.1);
    key.position.set(-3, 8, 4);
    this.scene.add(key, this.machines.group, this.raw, this.now);
  }

  /** True if the set of a performance has been lit. */
  complete({ set }: Played): boolean {
    return !!set && !!this.sets.peek(set)?.complete;
  }

  /** Waits until everything that a picture shows has come. */
  async there({ played, sceneTime }: PictureSubject) {
    if (!played.set) return;
    const set = this.modelOf(played.set);
    await Promise.all([set.ready, played.poses?.there(sceneTime), set.cards.there(sceneTime)]);
  }

  /** Where a camera stands that is square to a card, as the card was turned in the last picture. */
  beforeCard(piece: PieceId, seat: readonly [number, number, number]) {
    return this.shown?.cards.before(piece, seat) ?? null;
  }

  /** Puts onto the stage what a picture shows, and points the lens. False while there is no set. */
  show(subject: PictureSubject, eye: Eye, width: number, height: number): boolean {
    const { played, sceneTime } = subject;
    if (!played.set) return false;
    const through = "through" in eye ? eye : null;
    const set = this.setOf(played.set);
    for (const other of this.sets.values()) other.group.visible = other === set;
    const wild = set.wildFor(through?.setup ?? 0);
    set.takeOut(wild);
    const movers = this.movers.memo(played.figures);
    for (const other of this.movers.values()) other.group.visible = other === movers;
    if (played.poses) movers.pose(subject, set, wild);
    set.cards.turn(subject.cameras);
    set.cards.show(sceneTime);
    this.machines.show(subject.machines, through?.setup ?? null, set.lit);
    // A lens does not see the way that it went.
    lay(this.raw, through ? null : (subject.paths?.raw ?? null));
    lay(this.now, through ? null : (subject.paths?.now ?? null));
    const sharp = through?.sharp ?? null;
    this.focus.on.value = sharp ? 1 : 0;
    if (sharp) [this.focus.near.value, this.focus.far.value] = [sharp[0], Math.min(sharp[1], 1000)];
    this.aim(eye, width, height);
    return true;
  }

  /** A set as it is lit; until it is, the one before. */
  private setOf(view: SetView): SetModel {
    const wanted = this.modelOf(view);
    if (wanted.complete || !this.shown?.complete) this.shown = wanted;
    return this.shown;
  }

  /** Model of a set; the one that is shown does not make room for it. */
  private modelOf(view: SetView): SetModel {
    if (this.shown) this.sets.get(this.shown.view);
    return this.sets.memo(view);
  }

  private aim(eye: Eye, width: number, height: number) {
    if ("through" in eye) {
      const { through, camera } = eye;
      this.lens.position.set(...through.position);
      this.lens.quaternion.set(...through.rotation);
      const millimetres = height / pixelsPerMm(camera, width, height);
      this.lens.fov = THREE.MathUtils.radToDeg(2 * Math.atan(millimetres / (2 * through.focal)));
    } else {
      const { azimuth, height: up, distance, target, bounds } = eye.around;
      const [x, y, z] = target;
      // The eye stays within the walls.
      const within = (v: number, size: number) => THREE.MathUtils.clamp(v, 0.5 - size / 2, size / 2 - 0.5);
      this.lens.position.set(
        within(x + Math.sin(azimuth) * distance, bounds[0]),
        y + up,
        within(z + Math.cos(azimuth) * distance, bounds[1]),
      );
      this.lens.up.set(0, 1, 0);
      this.lens.lookAt(x, y, z);
      this.lens.fov = 42;
    }
    this.lens.aspect = width / height;
    this.lens.updateProjectionMatrix();
  }
}

/** Line along the way of a camera. */
function way(opacity: number, color: string): THREE.Line {
  const material = new THREE.LineBasicMaterial({ color, transparent: opacity < 1, opacity });
  const line = new THREE.Line(new THREE.BufferGeometry(), material);
  line.frustumCulled = false;
  return line;
}

function lay(line: THREE.Line, points: Float32Array | null) {
  line.visible = !!points;
  if (!points || line.userData.points === points) return;
  line.userData.points = points;
  line.geometry.dispose();
  line.geometry = new THREE.BufferGeometry();
  line.geometry.setAttribute("position", new THREE.BufferAttribute(points, 3));
}

/**
 * How large the sensor is drawn: its whole width where the frame then still fits the height,
 * with a tenth of the height left over for what is about to enter.
 */
export function pixelsPerMm(camera: Camera, width: number, height: number): number {
  const { sensor, frame } = shownMm(camera);
  return Math.min(width / sensor[0], (0.92 * height) / frame[1]);
}

export const stage = new Stage();
