import * as THREE from "three";
import type { Camera, FigureView, MachineView, SetView } from "../generated/types";
import { performanceAt, type Moment, type Performance } from "../moves";
import { bakeSet, geometryOf, lightAt, shadeOf } from "./bake";

/** What a view shows: through the lens, or from outside. */
export type Eye =
  | { through: Moment; camera: Camera }
  | {
      around: {
        azimuth: number;
        height: number;
        distance: number;
        target: [number, number, number];
        bounds: [number, number];
      };
    };

const NIGHT = new THREE.Color("#0B1114");

/** The stage in three dimensions: the set, who is in it, the machine, and the camera's paths. */
class Stage {
  readonly scene = new THREE.Scene();
  private readonly machine = new THREE.Group();
  private readonly people = new THREE.Group();
  private readonly ghost = new THREE.Line(
    new THREE.BufferGeometry(),
    new THREE.LineBasicMaterial({ color: "#9AD7E0", transparent: true, opacity: 0.75 }),
  );
  private readonly path = new THREE.Line(
    new THREE.BufferGeometry(),
    new THREE.LineBasicMaterial({ color: "#EEEBE0" }),
  );
  readonly lens = new THREE.PerspectiveCamera(40, 1, 0.05, 200);
  private set: THREE.Mesh | null = null;
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
    this.scene.add(new THREE.HemisphereLight("#cfe0e6", "#3a4246", 1.5));
    const key = new THREE.DirectionalLight("#ffe7c4", 2.1);
    key.position.set(-3, 8, 4);
    this.scene.add(key, this.machine, this.people, this.ghost, this.path);
    this.ghost.frustumCulled = this.path.frustumCulled = false;
  }

  setSet(view: SetView) {
    if (this.setView === view) return;
    this.setView = view;
    this.shade = shadeOf(view);
    this.colors = new Map(view.colors.map(([name, rgb]) => [name, new THREE.Color(...rgb)]));
    this.set?.geometry.dispose();
    this.set?.removeFromParent();
    this.set = new THREE.Mesh(bakeSet(view), new THREE.MeshBasicMaterial({ vertexColors: true }));
    this.scene.add(this.set);
    this.version++;
  }

  setMachine(view: MachineView | null) {
    this.fill(this.machine, view?.bodies ?? []);
  }

  setPeople(views: FigureView[]) {
    this.fill(
      this.people,
      views.flatMap((v) => v.bodies),
    );
    this.poses = new Float32Array(this.people.children.length * 7);
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

  private fill(group: THREE.Group, bodies: MachineView["bodies"]) {
    group.traverse((o) => {
      if (o instanceof THREE.Mesh) {
        (o.geometry as THREE.BufferGeometry).dispose();
        (o.material as THREE.Material).dispose();
      }
    });
    group.clear();
    for (const body of bodies) {
      const color = this.colors.get(body.material)?.clone() ?? new THREE.Color(1, 1, 1);
      const mesh = new THREE.Mesh(
        geometryOf({ ...body, piece: 0, position: [0, 0, 0], rotation: [0, 0, 0, 1], footprint: [] }),
        new THREE.MeshLambertMaterial({ color }),
      );
      mesh.userData.color = color.clone();
      mesh.userData.name = body.name;
      group.add(mesh);
    }
    this.version++;
  }

  /** Puts everything where it is at a moment. */
  pose(at: Moment | null, performance: Performance | null, through: boolean) {
    if (performance && at) {
      performanceAt(performance, at.sceneTime, this.poses);
      this.place(this.people, this.poses);
    }
    if (at) this.place(this.machine, at.bodies);
    // The lens does not see its own camera, head and paths.
    for (const mesh of this.machine.children) {
      const own = mesh.userData.name === "camera" || mesh.userData.name === "head";
      mesh.visible = !!at && !(through && own);
    }
    this.ghost.visible = !through && this.ghost.geometry.hasAttribute("position");
    this.path.visible = !through && this.path.geometry.hasAttribute("position");
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
      const material = (child as THREE.Mesh).material as THREE.MeshLambertMaterial;
      material.color
        .copy(child.userData.color as THREE.Color)
        .multiply(this.tint)
        .multiplyScalar(1.5);
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
  const frameHeight = camera.sensor_width_mm / camera.frame_aspect;
  return Math.min(
    width / camera.sensor_width_mm,
    (0.92 * height) / Math.min(frameHeight, camera.sensor_height_mm),
  );
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

  constructor() {
    Object.assign(this.canvas.style, {
      position: "absolute",
      width: "100%",
      height: "100%",
      touchAction: "none",
    });
  }

  /**
   * Whether to draw now, given what the picture depends on and the seconds since the last frame of
   * the page. A picture that was drawn coarse is drawn sharp once things stand still.
   */
  wants(picture: string, elapsed: number): boolean {
    this.average += (elapsed * 1000 - this.average) * 0.06;
    this.since += elapsed * 1000;
    const now = `${picture} ${this.canvas.clientWidth} ${this.canvas.clientHeight} ${this.quality} ${stage.version}`;
    if (now === this.drawn) {
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
    this.drawn = now;
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
    stage.pose(at, performance, "through" in eye);
    stage.aim(eye, width, height);
    renderer.setScissorTest(right - left < 1);
    renderer.setScissor(Math.round(left * width), 0, Math.round((right - left) * width), height);
    renderer.render(stage.scene, stage.lens);
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

/** Through the lens. */
export const finderView = new View();
/** From outside. */
export const aroundView = new View();

/** Shows a view's canvas in an element, as long as it is there. */
export function mount(view: View, host: HTMLElement): () => void {
  host.prepend(view.canvas);
  return () => view.canvas.remove();
}
