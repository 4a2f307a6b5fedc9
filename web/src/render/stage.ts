import * as THREE from "three";
import { meshBytes } from "../api";
import type { Body, Camera, MoverView, MachineView, SetView, SetupView } from "../generated/types";
import { shownMm } from "../lens";
import type { Moment } from "../moves";
import type { Performance } from "../performance";
import { link } from "../live/link";
import { posesNow, scene as now } from "../state/now";
import { useView } from "../state/view";
import { ink, room } from "../theme";
import { geometryOf, lightAt, shadeOf, type Baked } from "./bake";
import { Blur } from "./blur";
import { Cards } from "./cards";
import { decodeMesh, empty, paintFocus, type Focus } from "./materials";

/** Eye of a view: through the lens, or from outside. */
export type Eye =
  | {
      through: Standing & { focal: number };
      camera: Camera;
      /** Setup whose eye it is; the setup of the moment by default. */
      setup?: number;
    }
  | {
      around: {
        azimuth: number;
        height: number;
        distance: number;
        target: [number, number, number];
        bounds: [number, number];
      };
    };

/** A place to look from, turned. */
interface Standing {
  position: readonly [number, number, number];
  rotation: readonly [number, number, number, number];
}

/** Parts of a machine that its own lens does not see. */
const unseen = new Set(["camera", "head", "aim point", "pivot", "orbit arm"]);

const NIGHT = new THREE.Color(room.night);

/** The stage in three dimensions: the set, who is in it, the machine, and the camera's paths. */
class Stage {
  readonly scene = new THREE.Scene();
  readonly machine = new THREE.Group();
  /** The machines of the other setups, with their tracks. */
  private readonly others = new Map<
    number,
    { machine: THREE.Group; fixed: THREE.Group; stands: Float32Array }
  >();
  /** Solids of the machine that stand still: track, rail. */
  private readonly fixed = new THREE.Group();
  /** Everybody and everything that moves, a group each. */
  private readonly movers = new THREE.Group();
  readonly cards = new Cards(() => this.version++);
  private readonly meshes = new THREE.Group();
  private readonly worker = new Worker(new URL("./bake.worker.ts", import.meta.url), { type: "module" });
  private asked = 0;
  private baked = 0;
  readonly focus: Focus = { on: { value: 0 }, near: { value: 0 }, far: { value: 1 } };
  private readonly ghost = new THREE.Line(
    new THREE.BufferGeometry(),
    new THREE.LineBasicMaterial({ color: ink.pick, transparent: true, opacity: 0.75 }),
  );
  private readonly path = new THREE.Line(
    new THREE.BufferGeometry(),
    new THREE.LineBasicMaterial({ color: ink.chalk }),
  );
  readonly lens = new THREE.PerspectiveCamera(40, 1, 0.05, 200);
  /** The painted set: all that is never taken out, and each wild piece. */
  private readonly set = new THREE.Group();
  private edges: THREE.LineSegments | null = null;
  private setView: SetView | null = null;
  private shade: ReturnType<typeof shadeOf> = () => false;
  private colors = new Map<string, THREE.Color>();
  private poses = new Float32Array(0);
  private readonly tint = new THREE.Color();
  /** Counts up with everything that changes the picture without moving. */
  version = 0;

  constructor() {
    this.scene.background = NIGHT;
    this.scene.fog = new THREE.Fog(NIGHT, 18, 60);
    this.scene.add(new THREE.HemisphereLight(room.sky, room.floor, 1.5));
    const key = new THREE.DirectionalLight(room.lamp, 2.1);
    key.position.set(-3, 8, 4);
    this.scene.add(
      key,
      this.machine,
      this.fixed,
      this.movers,
      this.cards.group,
      this.meshes,
      this.set,
      this.ghost,
      this.path,
    );
    this.ghost.frustumCulled = this.path.frustumCulled = false;
  }

  /** True if the set on show is the one that was asked for last. */
  get complete(): boolean {
    return this.asked > 0 && this.baked === this.asked;
  }

  setSet(view: SetView) {
    if (this.setView === view) return;
    this.setView = view;
    this.shade = shadeOf(view);
    this.colors = new Map(view.colors.map(([name, rgb]) => [name, new THREE.Color(...rgb)]));
    const number = ++this.asked;
    this.worker.onmessage = ({ data }: MessageEvent<{ number: number; baked: Baked[] }>) => {
      if (data.number !== this.asked) return;
      this.show(data.baked);
      this.baked = data.number;
    };
    this.worker.postMessage({ number, set: view });
    this.setEdges(view);
    this.cards.set(view.cards, this.focus);
    this.setMeshes(view);
    this.version++;
  }

  private show(parts: Baked[]) {
    empty(this.set);
    for (const { piece, places, paint, faces } of parts) {
      const geometry = new THREE.BufferGeometry();
      geometry.setAttribute("position", new THREE.BufferAttribute(places, 3));
      geometry.setAttribute("color", new THREE.BufferAttribute(paint, 3));
      geometry.setIndex(new THREE.BufferAttribute(faces, 1));
      const material = paintFocus(new THREE.MeshBasicMaterial({ vertexColors: true }), this.focus);
      const mesh = new THREE.Mesh(geometry, material);
      mesh.userData = { piece };
      this.set.add(mesh);
    }
    this.version++;
  }

  /** An empty stage shows its edges, so that there is something to see and to drive by. */
  private setEdges(view: SetView) {
    this.edges?.removeFromParent();
    this.edges = null;
    const [floor, ...others] = view.solids;
    if (floor?.shape !== "box" || others.length > 0) return;
    const [w, , d] = floor.size;
    const h = view.lights[0]?.position[1] ?? 4;
    const box = new THREE.BoxGeometry(w, h, d).translate(0, h / 2, 0);
    this.edges = new THREE.LineSegments(
      new THREE.EdgesGeometry(box),
      new THREE.LineBasicMaterial({ color: ink.chalkFaint }),
    );
    box.dispose();
    this.scene.add(this.edges);
  }

  /** Meshes that were brought in, lit by where they stand. */
  private setMeshes(view: SetView) {
    empty(this.meshes);
    for (const piece of view.meshes) {
      void meshBytes(piece.mesh).then((bytes) => {
        if (this.setView !== view) return;
        const material = paintFocus(new THREE.MeshLambertMaterial({ vertexColors: true }), this.focus);
        const mesh = new THREE.Mesh(decodeMesh(bytes), material);
        mesh.position.set(...piece.position);
        mesh.quaternion.set(...piece.rotation);
        mesh.scale.setScalar(piece.scale);
        mesh.userData = { piece: piece.piece };
        lightAt(mesh.position, null, view.lights, this.shade, this.tint);
        material.color.copy(this.tint).multiplyScalar(1.5);
        this.meshes.add(mesh);
        this.version++;
      });
    }
  }

  setMachine(view: MachineView | null) {
    this.fill(this.machine, view?.bodies ?? []);
    const fixed = view?.fixed ?? [];
    this.fill(this.fixed, fixed);
    this.place(this.fixed, Float32Array.from(fixed.flatMap((s) => [...s.position, ...s.rotation])));
  }

  /** The machines of all setups, where they stand before anybody drives them. */
  setOthers(views: SetupView[]) {
    for (const { machine, fixed } of this.others.values()) {
      for (const group of [machine, fixed]) {
        empty(group);
        group.removeFromParent();
      }
    }
    this.others.clear();
    for (const view of views) {
      const stands = Float32Array.from(view.poses.flat());
      const one = { machine: new THREE.Group(), fixed: new THREE.Group(), stands };
      this.fill(one.machine, view.bodies);
      this.fill(one.fixed, view.fixed);
      this.place(one.fixed, Float32Array.from(view.fixed.flatMap((s) => [...s.position, ...s.rotation])));
      this.scene.add(one.machine, one.fixed);
      this.others.set(view.id, one);
    }
  }

  /** The other setups' machines where they are, if they are to be seen; not what a lens has of its own. */
  private poseOthers(at: Moment | null, seen: boolean, eye: number) {
    const live = new Map(at?.live ? link.frame?.others.map((o) => [o.setup, o.bodies]) : []);
    for (const [setup, { machine, fixed, stands }] of this.others) {
      machine.visible = fixed.visible = seen && setup !== now.setupId;
      if (!machine.visible) continue;
      this.place(machine, live.get(setup) ?? stands);
      for (const mesh of machine.children)
        mesh.visible = setup !== eye || !unseen.has(mesh.userData.name as string);
    }
  }

  /** Hides pieces that are taken out for a setup. */
  private takeOut(setup: number) {
    const wild = new Set(this.setView?.wild.flatMap(([piece, of]) => (of.includes(setup) ? [piece] : [])));
    for (const group of [this.set, this.cards.group, this.meshes])
      for (const mesh of group.children) mesh.visible = !wild.has((mesh.userData as { piece: number }).piece);
    this.movers.children.forEach((group, i) => {
      const piece = now.figures[i]?.piece;
      group.visible = piece == null || !wild.has(piece);
    });
  }

  setMovers(views: MoverView[]) {
    this.movers.children.forEach((group) => empty(group as THREE.Group));
    this.movers.clear();
    for (const view of views) {
      const group = new THREE.Group();
      this.fill(group, view.bodies);
      this.movers.add(group);
    }
    this.poses = new Float32Array(views.reduce((sum, v) => sum + v.bodies.length, 0) * 7);
  }

  /** Paths of the camera as x y z a point: the take as rolled, and the move as it is now. */
  setPaths(raw: Float32Array | null, now: Float32Array | null) {
    for (const [line, points] of [
      [this.ghost, raw],
      [this.path, now],
    ] as const) {
      line.geometry.dispose();
      line.geometry = new THREE.BufferGeometry();
      if (points) line.geometry.setAttribute("position", new THREE.BufferAttribute(points, 3));
      line.visible = !!points;
    }
    this.version++;
  }

  private fill(group: THREE.Group, bodies: Body[]) {
    empty(group);
    const glows = new Set(this.setView?.colors.filter(([, , glow]) => glow).map(([name]) => name));
    for (const body of bodies) {
      const color = this.colors.get(body.material)?.clone() ?? new THREE.Color(1, 1, 1);
      const glow = glows.has(body.material);
      const material = glow
        ? new THREE.MeshBasicMaterial({ color })
        : new THREE.MeshLambertMaterial({ color });
      const mesh = new THREE.Mesh(geometryOf(body), paintFocus(material, this.focus));
      mesh.userData = { color: glow ? null : color.clone(), name: body.name };
      group.add(mesh);
    }
    this.version++;
  }

  /** Puts everything where it is at a moment. */
  pose(at: Moment | null, performance: Performance | null, eye: { setup: number } | null, machines: boolean) {
    const through = eye !== null;
    const own = eye?.setup === now.setupId && now.setupId !== 0;
    this.takeOut(eye?.setup ?? 0);
    this.poseOthers(at, machines, eye?.setup ?? 0);
    if (performance && at) {
      posesNow(performance, at.sceneTime, at.movers, this.poses);
      let first = 0;
      (this.movers.children as THREE.Group[]).forEach((group, i) => {
        this.place(group, this.poses.subarray(first));
        first += group.children.length * 7;
        this.cards.carry(now.figures[i]?.piece, group);
      });
    }
    if (at) this.cards.turn(at);
    this.cards.show(at?.sceneTime ?? 0);
    if (at) this.place(this.machine, at.bodies);
    // The lens does not see its own camera, head and paths.
    for (const mesh of this.machine.children) {
      mesh.visible = !!at && !(own && unseen.has(mesh.userData.name as string));
    }
    this.ghost.visible = !through && this.ghost.geometry.hasAttribute("position");
    this.path.visible = !through && this.path.geometry.hasAttribute("position");
  }

  /** Waits until everything that is seen at a scene time has come. */
  async there(time: number) {
    await Promise.all([now.performance?.there(time), this.cards.there(time)]);
  }

  private place(group: THREE.Group, poses: Float32Array) {
    group.children.forEach((child, i) => {
      const k = i * 7;
      if (k + 7 > poses.length) return;
      child.position.fromArray(poses, k);
      child.quaternion.fromArray(poses, k + 3);
    });
    // What moves is lit by where it is.
    const middle = group.children[Math.min(2, group.children.length - 1)];
    if (!middle || !this.setView) return;
    lightAt(middle.position, null, this.setView.lights, this.shade, this.tint);
    for (const child of group.children) {
      const color = child.userData.color as THREE.Color | null;
      const material = (child as THREE.Mesh).material as THREE.MeshLambertMaterial;
      if (color) material.color.copy(color).multiply(this.tint).multiplyScalar(1.5);
    }
  }

  /** Points the lens. */
  aim(eye: Eye, width: number, height: number) {
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

/**
 * How large the sensor is drawn: its whole width where the frame then still fits the height,
 * with a tenth of the height left over for what is about to enter.
 */
export function pixelsPerMm(camera: Camera, width: number, height: number): number {
  const { sensor, frame } = shownMm(camera);
  return Math.min(width / sensor[0], (0.92 * height) / frame[1]);
}

export const stage = new Stage();

/**
 * A picture of the stage on a canvas of its own, which outlives the component that shows it: a
 * new canvas would cost new shaders. Pictures get coarser while they take long, finer when they
 * do not.
 */
export class View {
  readonly canvas = document.createElement("canvas");
  private renderer: THREE.WebGLRenderer | null = null;
  /** Share of full resolution while things move. */
  private quality = 1;
  private average = 16;
  private since = 0;
  private still = 0;
  private drawn = "";
  private sharp = true;
  /** Camera of the last picture, for drawing over it. */
  private readonly seen = new THREE.PerspectiveCamera();
  private blurred: Blur | null = null;
  /** Draws what is out of focus soft; a still picture only, where drawing takes long. */
  blur: { focal_mm: number; stop: number; focus_m: number } | null = null;

  constructor() {
    Object.assign(this.canvas.style, {
      position: "absolute",
      width: "100%",
      height: "100%",
      touchAction: "none",
    });
  }

  /** True if pictures take so long here that hands should come first. */
  get slow(): boolean {
    return this.average > 30;
  }

  /**
   * Whether to draw now, given what the picture depends on and the seconds since the last frame of
   * the page. A picture that was drawn coarse is drawn sharp once things stand still.
   */
  wants(picture: string, elapsed: number): boolean {
    this.average += (elapsed * 1000 - this.average) * 0.06;
    this.since += elapsed * 1000;
    const wanted = `${picture} ${this.canvas.clientWidth} ${this.canvas.clientHeight} ${this.quality} ${stage.version} ${now.performance?.state}`;
    if (wanted === this.drawn) {
      this.still += elapsed;
      if (this.sharp || this.still < 0.3) return false;
      this.sharp = true;
      return true;
    }
    // Where one picture takes long, hands and numbers come first.
    if (this.average > 40 && this.since < this.average * 1.4) return false;
    this.since = this.still = 0;
    this.adapt();
    this.sharp = this.quality === 1;
    this.drawn = wanted;
    return true;
  }

  /** Draws a moment as an eye sees it; only the part from `left` to `right` (0 to 1). */
  draw(eye: Eye, at: Moment | null, performance: Performance | null, left = 0, right = 1) {
    const density = Math.min(window.devicePixelRatio, 2) * (this.sharp ? 1 : this.quality);
    const width = Math.max(2, Math.round(this.canvas.clientWidth * density));
    const height = Math.max(2, Math.round(this.canvas.clientHeight * density));
    const renderer = this.ready();
    if (!renderer) return;
    if (this.canvas.width !== width || this.canvas.height !== height) renderer.setSize(width, height, false);
    const through = "through" in eye ? { setup: eye.setup ?? now.setupId } : null;
    stage.pose(at, performance, through, !through || useView.getState().overlays.machines);
    stage.aim(eye, width, height);
    renderer.setScissorTest(right - left < 1);
    renderer.setScissor(Math.round(left * width), 0, Math.round((right - left) * width), height);
    this.seen.copy(stage.lens);
    stage.lens.updateMatrixWorld();
    this.seen.updateMatrixWorld();
    if (this.blur && right - left === 1 && (this.sharp || this.average < 25)) {
      this.blurred ??= new Blur();
      this.blurred.draw(renderer, stage.scene, stage.lens, this.blur);
    } else renderer.render(stage.scene, stage.lens);
  }

  /** The eye of the picture as it was drawn last. */
  eye(): readonly [number, number, number] {
    return this.seen.position.toArray();
  }

  /** The direction through a place in the picture, 0 to 1 across and down. */
  direction(x: number, y: number): [number, number, number] {
    const far = new THREE.Vector3(x * 2 - 1, 1 - y * 2, 0.5).unproject(this.seen);
    return far.sub(this.seen.position).normalize().toArray();
  }

  /** Place of a direction in the picture, 0 to 1 across and down; null behind the camera. */
  placeOf(direction: readonly [number, number, number]): [number, number] | null {
    const p = new THREE.Vector3(...direction).add(this.seen.position);
    if (p.clone().applyMatrix4(this.seen.matrixWorldInverse).z > -1e-6) return null;
    p.project(this.seen);
    return [(p.x + 1) / 2, (1 - p.y) / 2];
  }

  /** Draws the next picture even when nothing moved. */
  again() {
    this.drawn = "";
  }

  private adapt() {
    if (this.average > 75 && this.quality > 0.7) this.turn(0.7);
    else if (this.average < 21 && this.quality < 1) this.turn(1);
  }

  private turn(quality: number) {
    this.quality = quality;
    this.average = 40;
  }

  private ready() {
    try {
      this.renderer ??= new THREE.WebGLRenderer({
        canvas: this.canvas,
        antialias: window.devicePixelRatio > 1,
        preserveDrawingBuffer: true,
      });
      this.renderer.setPixelRatio(1);
      this.renderer.debug.checkShaderErrors = false;
    } catch {
      return null;
    }
    return this.renderer;
  }
}

/** Stills and small pictures: a canvas nobody sees, drawn at any size. */
class Still {
  private renderer: THREE.WebGLRenderer | null = null;

  /** A picture of the frame alone; it stands on the canvas until the next one. */
  draw(
    from: Standing,
    focal: number,
    camera: Camera,
    size: [number, number],
    at: Moment,
    /** Without the machine: it stands otherwise than at this moment, or is another one. */
    bare = false,
    /** Setup whose eye it is. */
    setup = now.setupId,
  ): HTMLCanvasElement {
    this.renderer ??= new THREE.WebGLRenderer({ preserveDrawingBuffer: true });
    const { renderer } = this;
    renderer.setPixelRatio(1);
    const { frame } = shownMm(camera);
    if (renderer.domElement.width !== size[0] || renderer.domElement.height !== size[1])
      renderer.setSize(size[0], size[1], false);
    stage.pose(at, now.performance, { setup }, !bare && useView.getState().overlays.machines);
    stage.lens.position.set(...from.position);
    stage.lens.quaternion.set(...from.rotation);
    stage.lens.fov = THREE.MathUtils.radToDeg(2 * Math.atan(frame[1] / 2 / focal));
    stage.lens.aspect = size[0] / size[1];
    stage.lens.updateProjectionMatrix();
    const focus = stage.focus.on.value;
    stage.focus.on.value = 0;
    stage.machine.visible = !bare;
    renderer.render(stage.scene, stage.lens);
    stage.machine.visible = true;
    stage.focus.on.value = focus;
    return renderer.domElement;
  }
}
export const still = new Still();

/** Through the lens. */
export const finderView = new View();
/** Through the lens of another take. */
export const otherView = new View();
/** Through the lens of another setup. */
export const secondView = new View();
/** View from outside. */
export const aroundView = new View();

/** Shows a view's canvas in an element, as long as it is there. */
export function mount(view: View, host: HTMLElement): () => void {
  host.prepend(view.canvas);
  return () => view.canvas.remove();
}
