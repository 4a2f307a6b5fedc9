import * as THREE from "three";

/** What is shown as sharp, shared by all materials: metres along the view. */
export interface Focus {
  on: { value: number };
  near: { value: number };
  far: { value: number };
}

/** Lets a material show what is sharp: sharp things keep their colour and get a chalk hatch. */
export function paintFocus<M extends THREE.Material>(material: M, focus: Focus): M {
  material.onBeforeCompile = (shader) => {
    Object.assign(shader.uniforms, { focusOn: focus.on, focusNear: focus.near, focusFar: focus.far });
    shader.fragmentShader = shader.fragmentShader
      .replace(
        "void main() {",
        "uniform float focusOn;\nuniform float focusNear;\nuniform float focusFar;\nvoid main() {",
      )
      .replace(
        "#include <dithering_fragment>",
        `#include <dithering_fragment>
        if (focusOn > 0.5) {
          // From the depth buffer's value back to metres; the stage's lens sees from 0.05 to 200 m.
          float away = 0.05 * 200.0 / (200.0 - gl_FragCoord.z * (200.0 - 0.05));
          float inside = step(focusNear, away) * step(away, focusFar);
          float grey = dot(gl_FragColor.rgb, vec3(0.3, 0.6, 0.1));
          vec3 soft = mix(vec3(grey), vec3(0.07, 0.1, 0.11), 0.55);
          float hatch = step(0.82, fract((gl_FragCoord.x + gl_FragCoord.y) / 9.0));
          vec3 crisp = mix(gl_FragColor.rgb * 1.15, vec3(0.42, 0.77, 0.6), 0.18 + 0.3 * hatch);
          gl_FragColor.rgb = mix(soft, crisp, inside);
        }`,
      );
  };
  return material;
}

/** A mesh as the server keeps it; docs/wire.md. */
export function decodeMesh(buffer: ArrayBuffer): THREE.BufferGeometry {
  const [corners = 0, triangles = 0] = new Uint32Array(buffer, 0, 2);
  const colorsAt = 8 + corners * 24;
  const facesAt = Math.ceil((colorsAt + corners * 3) / 4) * 4;
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute("position", new THREE.BufferAttribute(new Float32Array(buffer, 8, corners * 3), 3));
  geometry.setAttribute(
    "normal",
    new THREE.BufferAttribute(new Float32Array(buffer, 8 + corners * 12, corners * 3), 3),
  );
  geometry.setAttribute(
    "color",
    new THREE.BufferAttribute(new Uint8Array(buffer, colorsAt, corners * 3), 3, true),
  );
  geometry.setIndex(new THREE.BufferAttribute(new Uint32Array(buffer, facesAt, triangles * 3), 1));
  return geometry;
}

/** Takes everything out of a group, and frees what it was drawn with. */
export function empty(group: THREE.Group) {
  for (const child of group.children) {
    const mesh = child as THREE.Mesh<THREE.BufferGeometry, THREE.MeshBasicMaterial>;
    mesh.geometry.dispose();
    mesh.material.map?.dispose();
    mesh.material.dispose();
  }
  group.clear();
}
