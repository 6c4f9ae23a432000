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
import { createFromPreset, readCatalog, resolveLook } from "zealous-mantle";
import { openSnapshots, Shelf } from "zealous-mantle/three";

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

/** A catalog with models, as text that a page can be handed. */
export interface Portrayed {
  readonly main: object;
  readonly included: Readonly<Record<string, object>>;
  readonly preset: string;
  /** The files that the look needs, in base64. */
  readonly models: Readonly<Record<string, string>>;
}

/** Takes the first snapshot that a page takes, of a preset's portrait, and says which of its pixels are seen, row by row. */
async function portray({ main, included, preset, models }: Portrayed): Promise<readonly boolean[]> {
  const { catalog } = readCatalog(main, included);
  if (catalog === undefined) throw new Error("The catalog cannot be read");
  const load = async (file: string) => Uint8Array.from(atob(models[file] ?? ""), (letter) => letter.charCodeAt(0));
  const snapshots = openSnapshots(new Shelf(load, { shading: "ramps" }));
  const look = resolveLook(catalog, createFromPreset(catalog, preset));
  const canvas = await snapshots.take(look, { window: "portrait", width: 128, height: 144 });
  snapshots.close();
  const data = canvas.getContext("2d")?.getImageData(0, 0, 128, 144).data ?? new Uint8ClampedArray();
  return Array.from({ length: data.length / 4 }, (_, pixel) => (data[pixel * 4 + 3] ?? 0) > 127);
}

Object.assign(globalThis, { shoot, portray });
