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
import { type Character, readCatalog, resolveLook } from "zealous-mantle";
import { ModelCache, openModelFigure, openModelRenderer } from "zealous-mantle/three";

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
  return inBase64(pixels);
}

/** Somebody of a catalog with models, as text that a page can be handed. */
export interface Portrayed {
  readonly main: object;
  readonly included: Readonly<Record<string, object>>;
  readonly character: Character;
  /** The files that the look needs, in base64. */
  readonly models: Readonly<Record<string, string>>;
  /** The crop that is drawn; nothing for the frame. */
  readonly window?: string;
  readonly width: number;
  readonly height: number;
}

/** The first snapshot that a page takes. */
export interface Portrait {
  /** Base64, row by row. */
  readonly pixels: string;
  /** The files that were asked for, one by one. */
  readonly asked: readonly string[];
}

/** How many textures and geometries the graphics card keeps. */
export type Kept = readonly [textures: number, geometries: number];

async function portray({ main, included, character, models, width, height, window }: Portrayed): Promise<Portrait> {
  const { catalog } = readCatalog(main, included);
  if (catalog === undefined) throw new Error("The catalog cannot be read");
  const asked: string[] = [];
  const snapshots = openModelRenderer(shelfOf(models, (file) => asked.push(file)));
  const canvas = await snapshots.render(resolveLook(catalog, character), { width, height, ...(window && { window }) });
  snapshots.close();
  const { data } = canvas.getContext("2d")?.getImageData(0, 0, width, height) ?? { data: [] };
  return { pixels: inBase64(Uint8Array.from(data)), asked };
}

function shelfOf(models: Portrayed["models"], ask: (file: string) => void = () => {}): ModelCache {
  const load = async (file: string) => {
    ask(file);
    return Uint8Array.from(atob(models[file] ?? ""), (letter) => letter.charCodeAt(0));
  };
  return new ModelCache(load, { shading: "ramps" });
}

/** Takes all off somebody and puts it on again, many times, and says what is kept for the one and for the other, the first time and the last. */
async function exchange({ main, included, character, models }: Portrayed, times: number): Promise<readonly Kept[]> {
  const { catalog } = readCatalog(main, included);
  if (catalog === undefined) throw new Error("The catalog cannot be read");
  const [bare, whole] = [{ ...character, loadout: {} }, character].map((each) => resolveLook(catalog, each));
  if (bare === undefined || whole === undefined) throw new Error("There is nothing to show");
  const shelf = shelfOf(models);
  const figure = await openModelFigure(shelf, bare);
  const scene = new Scene();
  scene.add(figure.object);
  const kept: Kept[] = [];
  for (let time = 0; time < times; time += 1)
    for (const look of [bare, whole]) {
      await figure.show(look);
      await shelf.trim();
      renderer.render(scene, new OrthographicCamera(-2, 2, 2, -2, -10, 10));
      kept.push([renderer.info.memory.textures, renderer.info.memory.geometries]);
    }
  figure.close();
  return [...kept.slice(0, 2), ...kept.slice(-2)];
}

function inBase64(bytes: Uint8Array): string {
  let text = "";
  for (let at = 0; at < bytes.length; at += 8192) text += String.fromCharCode(...bytes.subarray(at, at + 8192));
  return btoa(text);
}

Object.assign(globalThis, { shoot, portray, exchange });
