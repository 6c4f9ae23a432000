import { AnimationMixer, type Mesh, SkinnedMesh, Vector3 } from "three";
import { GLTFLoader } from "three/examples/jsm/loaders/GLTFLoader.js";

/**
 * Where the corners of every mesh of a model are at a time of a clip, as an engine has them: x, y and z of each, by the mesh's name.
 *
 * @param bytes - a binary glTF file without pictures.
 */
export async function cornersAt(
  bytes: Uint8Array,
  clip: string,
  time: number,
): Promise<ReadonlyMap<string, readonly number[]>> {
  const buffer = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer;
  const { scene, animations } = await new GLTFLoader().parseAsync(buffer, "");
  const mixer = new AnimationMixer(scene);
  const found = animations.find(({ name }) => name === clip);
  if (found === undefined) throw new Error(`There is no clip ${clip}`);
  mixer.clipAction(found).play();
  mixer.setTime(time);
  scene.updateMatrixWorld(true);
  const corners = new Map<string, readonly number[]>();
  scene.traverse((object) => {
    if (!("isMesh" in object)) return;
    const mesh = object as Mesh;
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
