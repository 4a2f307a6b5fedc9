import * as THREE from "three";
import { Blur } from "./blur";
import { stage } from "./stage";
import type { Eye, PictureSubject } from "./subject";

/** What a picture is seen through: from directions to places in the picture, and back. */
class Sight {
  constructor(private readonly camera: THREE.PerspectiveCamera) {}

  /** Takes over another camera as it is. */
  take(camera: THREE.PerspectiveCamera) {
    this.camera.copy(camera);
    this.camera.updateMatrixWorld();
  }

  /** As it is now, whatever is drawn later. */
  held(): Sight {
    return new Sight(this.camera.clone());
  }

  eye(): readonly [number, number, number] {
    return this.camera.position.toArray();
  }

  /** The direction through a place in the picture, 0 to 1 across and down. */
  direction(x: number, y: number): [number, number, number] {
    const far = new THREE.Vector3(x * 2 - 1, 1 - y * 2, 0.5).unproject(this.camera);
    return far.sub(this.camera.position).normalize().toArray();
  }

  /** Place of a direction in the picture, 0 to 1 across and down; null behind the camera. */
  placeOf(direction: readonly [number, number, number]): [number, number] | null {
    const p = new THREE.Vector3(...direction).add(this.camera.position);
    if (p.clone().applyMatrix4(this.camera.matrixWorldInverse).z > -1e-6) return null;
    p.project(this.camera);
    return [(p.x + 1) / 2, (1 - p.y) / 2];
  }
}

/** How a picture is drawn. */
interface How {
  left?: number;
  right?: number;
  /** Draws what is out of focus soft. */
  blur?: { focal_mm: number; stop: number; focus_m: number } | null;
}

/**
 * A picture on a canvas of its own, which outlives the component that shows it: a
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
  /** The last picture is seen through this: for drawing over it. */
  readonly sight = new Sight(new THREE.PerspectiveCamera());
  private blurred: Blur | null = null;
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
  wants(subject: PictureSubject, picture: string, elapsed: number): boolean {
    this.average += (elapsed * 1000 - this.average) * 0.06;
    this.since += elapsed * 1000;
    const wanted = `${picture} ${this.canvas.clientWidth} ${this.canvas.clientHeight} ${this.quality} ${stage.version} ${subject.played.poses?.state}`;
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

  /** Draws what an eye sees; only the part from `left` to `right` (0 to 1). */
  draw(subject: PictureSubject, eye: Eye, { left = 0, right = 1, blur = null }: How = {}) {
    const density = Math.min(window.devicePixelRatio, 2) * (this.sharp ? 1 : this.quality);
    const width = Math.max(2, Math.round(this.canvas.clientWidth * density));
    const height = Math.max(2, Math.round(this.canvas.clientHeight * density));
    const renderer = this.ready();
    if (!renderer) return;
    if (this.canvas.width !== width || this.canvas.height !== height) renderer.setSize(width, height, false);
    if (!stage.show(subject, eye, width, height)) return;
    renderer.setScissorTest(right - left < 1);
    renderer.setScissor(Math.round(left * width), 0, Math.round((right - left) * width), height);
    stage.lens.updateMatrixWorld();
    this.sight.take(stage.lens);
    // Softness is for a still picture only, where drawing takes long.
    if (blur && right - left === 1 && (this.sharp || this.average < 25)) {
      this.blurred ??= new Blur();
      this.blurred.draw(renderer, stage.scene, stage.lens, blur);
    } else renderer.render(stage.scene, stage.lens);
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
