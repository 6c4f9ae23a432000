import type { Bone, BufferGeometry, Material, Matrix4, Mesh, Object3D } from "three";
import type { GLTF } from "three/examples/jsm/loaders/GLTFLoader.js";

/** A mesh of a file, of which figures make their own: geometry and material are shared. */
export interface SharedMesh {
  /** The name of the node that shows it, as the file has it. */
  readonly node: string;
  readonly geometry: BufferGeometry;
  readonly material: Material;
  /** What the colors of its corners say: gray ones how open they lie, others what its own color is multiplied by. */
  readonly colors: "openness" | "tint" | undefined;
  /** The joints it bends with, by their names in the file, with what brings a corner to each; none for what hangs. */
  readonly joints: readonly string[];
  readonly binds: readonly Matrix4[];
  /** Where it stands by itself. */
  readonly matrix: Matrix4;
}

/** The meshes of a file that was loaded. */
export function meshesOf({ scene, parser }: GLTF): readonly SharedMesh[] {
  const nodes: readonly { readonly name?: string }[] = parser.json.nodes ?? [];
  const found: SharedMesh[] = [];
  scene.traverse((object) => {
    if (!isMesh(object)) return;
    const skeleton = "skeleton" in object ? (object as { skeleton: SkeletonLike }).skeleton : undefined;
    found.push({
      node: nodeOf(object, (each) => nodes[parser.associations.get(each)?.nodes ?? -1]?.name),
      geometry: object.geometry,
      material: Array.isArray(object.material) ? (object.material[0] as Material) : object.material,
      colors: colorsOf(object.geometry),
      joints: skeleton?.bones.map(jointName) ?? [],
      binds: skeleton?.boneInverses ?? [],
      matrix: object.matrix.clone(),
    });
  });
  return found;
}

function colorsOf(geometry: BufferGeometry): SharedMesh["colors"] {
  if (!geometry.hasAttribute("color")) return undefined;
  const color = geometry.getAttribute("color");
  for (let corner = 0; corner < color.count; corner += 1)
    if (color.getX(corner) !== color.getY(corner) || color.getX(corner) !== color.getZ(corner)) return "tint";
  return "openness";
}

interface SkeletonLike {
  readonly bones: readonly Bone[];
  readonly boneInverses: readonly Matrix4[];
}

/** The name of a joint as its file has it: the loader leaves out what paths of clips cannot hold. */
export function jointName({ name, userData }: Object3D): string {
  return typeof userData["name"] === "string" ? userData["name"] : name;
}

function isMesh(object: Object3D): object is Mesh {
  return "isMesh" in object && object.isMesh === true;
}

/** A mesh of several materials is a group of meshes: the group is the node. */
function nodeOf(mesh: Object3D, nameOf: (object: Object3D) => string | undefined): string {
  for (let each: Object3D | null = mesh; each !== null; each = each.parent) {
    const name = nameOf(each);
    if (name !== undefined) return name;
  }
  return mesh.name;
}
