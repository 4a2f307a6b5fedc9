import * as THREE from "three";
import type { Camera, SetupId } from "../generated/types";
import { shownMm } from "../lens";
import { stage } from "./stage";
import type { PictureSubject, Standing } from "./subject";

/** A picture of the frame alone. */
export interface StillPicture {
  subject: PictureSubject;
  through: Standing & { focal: number };
  camera: Camera;
  /** Setup whose eye it is. */
  setup: SetupId;
  /** Pixels across and down. */
  size: readonly [number, number];
}

type Job = () => Promise<void>;

/**
 * Pictures of the frame alone, at any size, on a canvas that nobody sees: of lists, films and strips. They are drawn
 * one after another, each once all that it shows has come; what somebody waits for comes before what lists lack.
 */
class Stills {
  private renderer: THREE.WebGLRenderer | null = null;
  private readonly awaited: Job[] = [];
  private readonly idle: Job[] = [];
  private running = false;

  /** Draws a picture when its turn comes, and has it taken while it stands on the canvas; null where it is not wanted then. */
  picture<T>(
    what: () => StillPicture | null,
    take: (canvas: HTMLCanvasElement) => T | Promise<T>,
    rank: "awaited" | "idle" = "awaited",
  ): Promise<T | null> {
    return new Promise((done, failed) => {
      const job = async () => {
        try {
          const wanted = what();
          if (wanted) await stage.there(wanted.subject);
          // What it shows may have changed while it came; before anything has come there is no picture.
          const given = wanted && what();
          const { set, poses } = given?.subject.played ?? {};
          done(given && set && poses ? await take(this.draw(given)) : null);
        } catch (error) {
          failed(error instanceof Error ? error : new Error(String(error)));
        }
      };
      this[rank].push(job);
      void this.run();
    });
  }

  private async run() {
    if (this.running) return;
    this.running = true;
    for (let job; (job = this.awaited.shift() ?? this.idle.shift());) {
      await job();
      // Hands and the floor come between two pictures.
      await new Promise((next) => setTimeout(next));
    }
    this.running = false;
  }

  /** Draws at once, of what is there; the picture stands on the canvas until the next one. */
  draw({ subject, through, camera, setup, size }: StillPicture): HTMLCanvasElement {
    this.renderer ??= new THREE.WebGLRenderer({ preserveDrawingBuffer: true });
    const { renderer } = this;
    renderer.setPixelRatio(1);
    const { frame } = shownMm(camera);
    if (renderer.domElement.width !== size[0] || renderer.domElement.height !== size[1])
      renderer.setSize(size[0], size[1], false);
    stage.show(subject, { through, camera, setup }, size[0], size[1]);
    // The frame alone, not the sensor around it.
    stage.lens.fov = THREE.MathUtils.radToDeg(2 * Math.atan(frame[1] / 2 / through.focal));
    stage.lens.updateProjectionMatrix();
    renderer.render(stage.scene, stage.lens);
    return renderer.domElement;
  }
}

export const stills = new Stills();
