import { type AnimationClip, AnimationMixer, type Mesh, type Object3D, SkinnedMesh, Vector3 } from "three";
import { GLTFLoader } from "three/examples/jsm/loaders/GLTFLoader.js";

/** Where the corners of every mesh are, as an engine has them: x, y and z of each, by the mesh's name. */
export type Corners = ReadonlyMap<string, readonly number[]>;

/** The corners of a model at a time of a clip. @param bytes - a binary glTF file without pictures. */
export async function cornersAt(bytes: Uint8Array, clip: string, time: number): Promise<Corners> {
  const { scene, animations } = await new GLTFLoader().parseAsync(bytes.slice().buffer, "");
  const found = animations.find(({ name }) => name === clip);
  if (found === undefined) throw new Error(`There is no clip ${clip}`);
  return cornersOf(scene, found, time);
}

/** The corners of an object as it stands, or at a time of a clip. */
export function cornersOf(object: Object3D, clip?: AnimationClip, time = 0): Corners {
  if (clip !== undefined) {
    const mixer = new AnimationMixer(object);
    mixer.clipAction(clip).play();
    mixer.setTime(time);
  }
  object.updateMatrixWorld(true);
  const corners = new Map<string, readonly number[]>();
  object.traverse((each) => {
    if (!("isMesh" in each)) return;
    const mesh = each as Mesh;
    if (mesh instanceof SkinnedMesh) mesh.skeleton.update();
    const position = mesh.geometry.getAttribute("position");
    const at = new Vector3();
    const all: number[] = [];
    for (let corner = 0; corner < position.count; corner += 1) {
      mesh.getVertexPosition(corner, at).applyMatrix4(mesh.matrixWorld);
      all.push(at.x, at.y, at.z);
    }
    corners.set(mesh.name, all);
  });
  return corners;
}
