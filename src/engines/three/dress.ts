import { type Bone, type Material, Matrix4, Mesh, type Object3D, type Raycaster, Skeleton, SkinnedMesh } from "three";
import { MantleError } from "../../core/base/problem.ts";
import type { Look, LookMesh } from "../../core/look/look.ts";
import { lacksJoint } from "../../core/model/lacks-joint.ts";
import type { ModelCache } from "./model-cache.ts";
import { jointName, type SharedMesh } from "./parts.ts";

/** Meshes of a look on somebody's skeleton. */
export interface Dressed {
  /** The look that is shown. */
  readonly look: Look | undefined;
  /**
   * Shows a look: what is in both stays as it is, what is not goes, and what is new comes. Nothing else is touched: no bone moves, and no
   * clip starts again. Looks are shown in the order of the calls.
   *
   * @throws MantleError `other-skeleton` for a mesh with joints that are not there, `missing-model` for one that is not in its file; what was
   * shown stays then.
   */
  show(look: Look): Promise<void>;
  /** What a ray meets first: a part, or the body where `part` is `undefined`; `undefined` when it meets nothing. */
  pick(ray: Raycaster): { readonly part: string | undefined } | undefined;
  /** Takes all of its meshes off again. */
  close(): void;
}

/** A mesh that is shown, and what it is one of. */
interface Shown {
  readonly key: string;
  readonly part: string | undefined;
  readonly file: string;
  readonly object: Object3D;
}

/** Puts looks on an object that has the joints of a rig: an own figure, or one that stands in a scene already. */
export class Dressing implements Dressed {
  look: Look | undefined;
  readonly #shelf: ModelCache;
  readonly #object: Object3D;
  readonly #joints: ReadonlyMap<string, Object3D>;
  readonly #skeletons = new Map<string, Skeleton>();
  #shown: readonly Shown[] = [];
  #last: Promise<void> = Promise.resolve();
  #isClosed = false;

  constructor(shelf: ModelCache, object: Object3D) {
    this.#shelf = shelf;
    this.#object = object;
    const joints = new Map<string, Object3D>();
    object.traverse((each) => joints.set(jointName(each), each));
    this.#joints = joints;
  }

  show(look: Look): Promise<void> {
    const showing = this.#last.then(() => this.#change(look));
    // The next look is shown even when this one cannot be.
    this.#last = showing.catch(() => {});
    return showing;
  }

  close(): void {
    this.#isClosed = true;
    for (const shown of this.#shown) this.#remove(shown);
    this.#shown = [];
    for (const skeleton of this.#skeletons.values()) skeleton.dispose();
    this.#skeletons.clear();
  }

  pick(ray: Raycaster): { readonly part: string | undefined } | undefined {
    // Lines of ink are children of what they surround, and are not asked.
    const [first] = ray.intersectObjects(
      this.#shown.map(({ object }) => object),
      false,
    );
    const shown = this.#shown.find(({ object }) => object === first?.object);
    return shown && { part: shown.part };
  }

  /** The joint of a name. */
  joint(name: string): Object3D | undefined {
    return this.#joints.get(name);
  }

  async #change(look: Look): Promise<void> {
    const wanted = await Promise.all(
      look.meshes.map(async (mesh) => ({ mesh, shared: (await this.#shelf.file(mesh.file)).meshes })),
    );
    if (this.#isClosed) return;
    const left = new Map(this.#shown.map((shown) => [shown.key, shown]));
    const next: Shown[] = [];
    const made: Shown[] = [];
    try {
      for (const { mesh, shared } of wanted) {
        const own = shared.filter(({ node }) => mesh.node === undefined || mesh.node === node);
        if (own.length === 0)
          throw new MantleError("missing-model", `The file ${mesh.file} has no mesh "${mesh.node}".`);
        for (const each of own) {
          const key = keyOf(mesh, each, shared.indexOf(each));
          const known = left.get(key);
          left.delete(key);
          const shown = known ?? { key, part: mesh.part, file: mesh.file, object: this.#make(mesh, each, inkOf(look)) };
          next.push(shown);
          if (known === undefined) made.push(shown);
        }
      }
    } catch (error) {
      for (const { object } of made) object.removeFromParent();
      throw error;
    }
    for (const { file } of made) this.#shelf.use(file, 1);
    for (const shown of left.values()) this.#remove(shown);
    this.#shown = next;
    this.look = look;
  }

  #remove({ object, file }: Shown): void {
    object.removeFromParent();
    this.#shelf.use(file, -1);
  }

  #make(mesh: LookMesh, shared: SharedMesh, ink: number): Object3D {
    const [material, inks] = [this.#shelf.material(shared, mesh), this.#shelf.inks(shared, mesh, ink)];
    if (shared.joints.length > 0 && mesh.attach === undefined) {
      const skeleton = this.#skeleton(shared, mesh.file);
      const made = skinned(shared, material, skeleton);
      for (const each of inks) made.add(skinned(shared, each, skeleton));
      this.#object.add(made);
      return made;
    }
    const made = new Mesh(shared.geometry, material);
    made.name = shared.node;
    for (const each of inks) made.add(new Mesh(shared.geometry, each));
    shared.matrix.decompose(made.position, made.quaternion, made.scale);
    if (mesh.attach === undefined) {
      this.#object.add(made);
      return made;
    }
    const [x, y, z] = mesh.attach.offset;
    made.position.x += x;
    made.position.y += y;
    made.position.z += z;
    this.#joint(mesh.attach.joint, mesh.file).add(made);
    return made;
  }

  /** One skeleton for all meshes that follow the same joints from the same rest. */
  #skeleton({ joints, binds }: SharedMesh, file: string): Skeleton {
    const key = [...joints, ...binds.flatMap(({ elements }) => elements)].join(" ");
    const known = this.#skeletons.get(key);
    if (known !== undefined) return known;
    const bones = joints.map((name) => this.#joint(name, file) as Bone);
    const made = new Skeleton(
      bones,
      binds.map((bind: Matrix4) => bind.clone()),
    );
    this.#skeletons.set(key, made);
    return made;
  }

  #joint(name: string, file: string): Object3D {
    const joint = this.#joints.get(name);
    if (joint !== undefined) return joint;
    throw lacksJoint(file, name);
  }
}

function skinned({ geometry, node }: SharedMesh, material: Material, skeleton: Skeleton): SkinnedMesh {
  const made = new SkinnedMesh(geometry, material);
  made.name = node;
  // Corners go where joints are, wherever the box of the pose at rest is.
  made.frustumCulled = false;
  made.bind(skeleton, new Matrix4());
  return made;
}

/** How wide the outline of a look is, in units of the model. */
function inkOf({ rig: { model } }: Look): number {
  return model === undefined ? 0 : model.ink / model.scale;
}

/** The same for what looks the same: a mesh in its colors, where it hangs. */
function keyOf({ file, attach, recolors }: LookMesh, { node, material }: SharedMesh, number: number): string {
  const recolor = recolors.get(material.name) ?? recolors.get("");
  return [file, node, number, attach?.joint, attach?.offset, recolor?.colors].join("|");
}
