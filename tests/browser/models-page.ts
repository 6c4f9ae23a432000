import {
  AnimationMixer,
  Color,
  Mesh,
  MeshBasicMaterial,
  type MeshStandardMaterial,
  type Object3D,
  OrthographicCamera,
  Scene,
  WebGLRenderer,
} from "three";
import { GLTFLoader } from "three/examples/jsm/loaders/GLTFLoader.js";

/** How a figure is drawn: at which moment, and turned how far. */
export interface Shot {
  readonly clip: string;
  readonly time: number;
  /** Degrees. */
  readonly turn: number;
  readonly tilt: number;
}

const [width, height, scale] = [256, 320, 140];

const renderer = new WebGLRenderer({ antialias: false, alpha: true, preserveDrawingBuffer: true });
renderer.setSize(width, height, false);
renderer.setClearColor(new Color(0), 0);

/** Draws a model with nothing but its colors, and returns the pixels in base64, from the lower left. */
async function shoot(base64: string, { clip, time, turn, tilt }: Shot): Promise<string> {
  const bytes = Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0));
  const { scene: figure, animations } = await new GLTFLoader().parseAsync(bytes.buffer, "");
  figure.traverse((object: Object3D) => {
    if (!(object instanceof Mesh)) return;
    object.frustumCulled = false;
    const { color, side } = object.material as MeshStandardMaterial;
    object.material = new MeshBasicMaterial({ color, side });
  });
  const mixer = new AnimationMixer(figure);
  const found = animations.find(({ name }) => name === clip);
  if (found === undefined) throw new Error(`There is no clip ${clip}`);
  mixer.clipAction(found).play();
  mixer.setTime(time);
  figure.rotation.y = (turn * Math.PI) / 180;
  const scene = new Scene();
  scene.add(figure);
  // The rig's origin, 128 pixels from the left and 300 from the top, is where the figure stands.
  const camera = new OrthographicCamera(-128 / scale, 128 / scale, 300 / scale, -20 / scale, -10, 10);
  camera.rotation.x = (-tilt * Math.PI) / 180;
  renderer.render(scene, camera);
  const gl = renderer.getContext();
  const pixels = new Uint8Array(width * height * 4);
  gl.readPixels(0, 0, width, height, gl.RGBA, gl.UNSIGNED_BYTE, pixels);
  let text = "";
  for (let at = 0; at < pixels.length; at += 8192) text += String.fromCharCode(...pixels.subarray(at, at + 8192));
  return btoa(text);
}

Object.assign(globalThis, { shoot });
