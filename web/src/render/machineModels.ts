import { LRUCache } from "lru-cache";
import * as THREE from "three";
import type { Lit } from "./lit";
import { empty } from "./materials";
import type { MachineShown } from "./subject";

/** Number of shapes of machines that are kept while no picture shows them. */
const IDLE = 24;

/** A machine in three dimensions: its parts, and the track or rail below it. */
interface MachineModel {
  machine: THREE.Group;
  fixed: THREE.Group;
}

type Shape = Pick<MachineShown, "bodies" | "fixed">;

/** Machines in pictures, kept by their shape: a picture with two machines of one shape has a model for each. */
export class MachineModels {
  readonly group = new THREE.Group();
  private readonly models = new LRUCache<string, MachineModel[]>({
    max: IDLE,
    dispose: (models) => models.forEach(remove),
    memoMethod: () => [],
  });
  private readonly words = new WeakMap<object, string>();

  /** Shows these machines and no others; an eye does not see its own camera and head. */
  show(machines: MachineShown[], eye: number | null, lit: Lit) {
    for (const child of this.group.children) child.visible = false;
    const taken = new Map<string, number>();
    for (const { setup, bodies, unseen, fixed, poses } of machines) {
      const word = this.wordOf({ bodies, fixed });
      const nth = taken.get(word) ?? 0;
      taken.set(word, nth + 1);
      const model = this.model(word, nth, { bodies, fixed }, lit);
      model.machine.visible = model.fixed.visible = true;
      lit.place(model.machine, poses);
      model.machine.children.forEach((mesh, i) => (mesh.visible = setup !== eye || !unseen.includes(i)));
    }
  }

  private model(word: string, nth: number, { bodies, fixed }: Shape, lit: Lit): MachineModel {
    const known = this.models.memo(word);
    if (known[nth]) return known[nth];
    const model = { machine: new THREE.Group(), fixed: new THREE.Group() };
    lit.fill(model.machine, bodies);
    lit.fill(model.fixed, fixed);
    lit.place(model.fixed, Float32Array.from(fixed.flatMap((s) => [...s.position, ...s.rotation])));
    known.push(model);
    this.group.add(model.machine, model.fixed);
    return model;
  }

  private wordOf({ bodies, fixed }: Shape): string {
    const known = this.words.get(bodies);
    if (known !== undefined) return known;
    const word = JSON.stringify([bodies, fixed]);
    this.words.set(bodies, word);
    return word;
  }
}

function remove({ machine, fixed }: MachineModel) {
  for (const group of [machine, fixed]) {
    empty(group);
    group.removeFromParent();
  }
}
