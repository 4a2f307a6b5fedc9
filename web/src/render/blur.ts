import * as THREE from "three";

/**
 * Depth of field as a lens makes it: the picture is the mean of pictures from all over the iris,
 * each sheared so that the plane in focus stays where it is.
 */
const PICTURES = 24;

export class Blur {
  private readonly target = new THREE.WebGLRenderTarget(2, 2, { type: THREE.HalfFloatType });
  private readonly sheet = new THREE.Mesh(
    new THREE.PlaneGeometry(2, 2),
    new THREE.MeshBasicMaterial({ transparent: true, depthTest: false, depthWrite: false }),
  );
  private readonly flat = new THREE.Scene();
  private readonly front = new THREE.OrthographicCamera(-1, 1, 1, -1, 0, 1);

  constructor() {
    this.sheet.material.map = this.target.texture;
    this.flat.add(this.sheet);
  }

  draw(
    renderer: THREE.WebGLRenderer,
    scene: THREE.Scene,
    lens: THREE.PerspectiveCamera,
    { focal_mm, stop, focus_m }: { focal_mm: number; stop: number; focus_m: number },
  ) {
    const size = renderer.getDrawingBufferSize(new THREE.Vector2());
    this.target.setSize(size.x, size.y);
    const middle = lens.position.clone();
    const straight = lens.projectionMatrix.clone();
    const right = new THREE.Vector3(1, 0, 0).applyQuaternion(lens.quaternion);
    const up = new THREE.Vector3(0, 1, 0).applyQuaternion(lens.quaternion);
    const radius = focal_mm / stop / 2000;
    renderer.autoClear = false;
    for (let i = 0; i < PICTURES; i++) {
      // Evenly over a disc (Vogel, Math. Biosci. 44, 1979).
      const angle = i * Math.PI * (3 - Math.sqrt(5));
      const out = radius * Math.sqrt((i + 0.5) / PICTURES);
      const [x, y] = [Math.cos(angle) * out, Math.sin(angle) * out];
      lens.position.copy(middle).addScaledVector(right, x).addScaledVector(up, y);
      lens.updateMatrixWorld();
      lens.projectionMatrix.copy(straight);
      lens.projectionMatrix.elements[8]! -= (straight.elements[0]! * x) / focus_m;
      lens.projectionMatrix.elements[9]! -= (straight.elements[5]! * y) / focus_m;
      renderer.setRenderTarget(this.target);
      renderer.clear();
      renderer.render(scene, lens);
      renderer.setRenderTarget(null);
      this.sheet.material.opacity = 1 / (i + 1);
      if (i === 0) renderer.clear();
      renderer.render(this.flat, this.front);
    }
    renderer.autoClear = true;
    lens.position.copy(middle);
    lens.projectionMatrix.copy(straight);
  }
}
