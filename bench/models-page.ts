import {
  AmbientLight,
  AnimationMixer,
  type BufferGeometry,
  Color,
  DirectionalLight,
  Mesh,
  type Object3D,
  OrthographicCamera,
  PerspectiveCamera,
  Scene,
  WebGLRenderer,
} from "three";
import { GLTFLoader } from "three/examples/jsm/loaders/GLTFLoader.js";
import { type Catalog, createFromPreset, type Look, readCatalog, resolveLook } from "zealous-mantle";
import { assembleModel, drawModel, prepareModel } from "zealous-mantle/model";
import { rollCharacter } from "zealous-mantle/solver";
import { ModelCache, openModelFigure } from "zealous-mantle/three";

/** The demo in three dimensions: the files of its catalog, and its models in base64. */
export interface Given {
  readonly main: object;
  readonly included: Readonly<Record<string, object>>;
  readonly models: Readonly<Record<string, string>>;
}

const [width, height] = [256, 320];
const figures = 100;

function opened({ main, included, models }: Given) {
  const { catalog } = readCatalog(main, included);
  if (catalog === undefined) throw new Error("the catalog cannot be read");
  const bytes = new Map(
    Object.entries(models).map(([path, base64]) => [
      path,
      Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0)),
    ]),
  );
  const load = async (file: string) => bytes.get(file) ?? new Uint8Array();
  return { catalog, bytes, load };
}

/** Runs in a page: one picture of a figure by our rasterizer, and by the graphics card, read back. */
async function measureRaster(given: Given) {
  const { catalog, bytes, load } = opened(given);
  const inked = resolveLook(catalog, createFromPreset(catalog, "first-watch"));
  // Without lines, which the two draw in other ways.
  const { rig } = inked;
  const look = { ...inked, rig: { ...rig, ...(rig.model && { model: { ...rig.model, ink: 0 } }) } };
  const prepared = await prepareModel(look, bytes);
  const figure = await openModelFigure(new ModelCache(load, { shading: "ramps" }), look);
  figure.play("walk", 0);
  const { origin, model } = look.rig;
  const { scale = 1, tilt = 0, turns } = model ?? {};
  const scene = new Scene();
  scene.add(figure.object);
  figure.object.rotation.y = ((turns?.get("west") ?? 0) * Math.PI) / 180;
  const [left, top] = [-origin.x / scale, origin.y / scale];
  const camera = new OrthographicCamera(left, left + 64 / scale, top, top - 80 / scale, -10, 10);
  camera.rotation.x = (-tilt * Math.PI) / 180;
  const renderer = new WebGLRenderer({ antialias: false, alpha: true, preserveDrawingBuffer: true });
  renderer.setSize(width, height, false);
  renderer.setClearColor(new Color(0), 0);
  const gl = renderer.getContext();
  const pixels = new Uint8Array(width * height * 4);
  const times = Array.from({ length: 12 }, (_, at) => at / 15);
  const ours = (time: number) =>
    drawModel(prepared, { animation: "walk", facing: "west", time }, { scale: 4, samples: 1, ink: 0 }).data;
  const theirs = (time: number) => {
    figure.seek(time);
    renderer.render(scene, camera);
    gl.readPixels(0, 0, width, height, gl.RGBA, gl.UNSIGNED_BYTE, pixels);
    return pixels;
  };
  const taken = sideBySide(
    () => times.forEach(ours),
    () => times.forEach(theirs),
    9,
  );
  return {
    ours: taken.ours / times.length,
    theirs: taken.theirs / times.length,
    off: compared(ours(0.2), theirs(0.2)),
  };
}

/**
 * How many pixels are seen by one only, for each pixel at the edge; and the share of pixels that differ in color where it is the same all
 * around, since the card blends where two meet.
 */
function compared(one: ArrayLike<number>, other: ArrayLike<number>) {
  let [edge, outside, flat, colors] = [0, 0, 0, 0];
  const isSeen = (y: number, x: number) => (one[(y * width + x) * 4 + 3] ?? 0) > 0;
  const around = [4, -4, width * 4, -width * 4];
  const differ = (from: ArrayLike<number>, here: number, to: ArrayLike<number>, there: number) =>
    [0, 1, 2].some((channel) => Math.abs((from[here + channel] ?? 0) - (to[there + channel] ?? 0)) > 2);
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) {
      const [here, there] = [(y * width + x) * 4, ((height - 1 - y) * width + x) * 4];
      const [seen, drawn] = [isSeen(y, x), (other[there + 3] ?? 0) > 0];
      if (seen !== drawn) outside += 1;
      if (!seen || !drawn) continue;
      if (!isSeen(y - 1, x) || !isSeen(y + 1, x) || !isSeen(y, x - 1) || !isSeen(y, x + 1)) edge += 1;
      if (around.some((by) => differ(other, there, other, there + by))) continue;
      flat += 1;
      if (differ(one, here, other, there)) colors += 1;
    }
  return { outline: outside / edge, colors: colors / flat };
}

/** Runs in a page: a frame of a hundred figures that share what they can, and of as many assembled models; and how much they keep. */
async function measureCrowd3d(given: Given) {
  const { catalog, bytes, load } = opened(given);
  const looks = Array.from({ length: figures }, (_, at) => lookOf(catalog, at + 1));
  const renderer = new WebGLRenderer({ antialias: false });
  renderer.setSize(1280, 800, false);
  const [ours, theirs] = [sceneOf(), sceneOf()];
  const shelf = new ModelCache(load);
  const mixers: AnimationMixer[] = [];
  for (const [at, look] of looks.entries()) {
    const figure = await openModelFigure(shelf, look);
    figure.play("walk", 0);
    figure.seek(at / 100);
    place(figure.object, at);
    ours.add(figure.object);
    const { bytes: assembled } = await assembleModel(look, bytes);
    const { scene, animations } = await new GLTFLoader().parseAsync(assembled.slice().buffer, "");
    const mixer = new AnimationMixer(scene);
    const walk = animations.find(({ name }) => name === "walk");
    if (walk === undefined) throw new Error("nobody walks");
    mixer.clipAction(walk).play();
    mixer.setTime(at / 100);
    scene.traverse((each) => {
      each.frustumCulled = false;
    });
    place(scene, at);
    theirs.add(scene);
    mixers.push(mixer);
  }
  const camera = new PerspectiveCamera(40, 1280 / 800, 0.1, 100);
  camera.position.set(0, 6, 14);
  camera.lookAt(0, 0, 0);
  const gl = renderer.getContext();
  const one = new Uint8Array(4);
  const drawn = (scene: Scene) => () => {
    renderer.render(scene, camera);
    // Reading a pixel makes the card do what was asked of it.
    gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, one);
  };
  const shot = (scene: Scene) => {
    drawn(scene)();
    const pixels = new Uint8Array(1280 * 800 * 4);
    gl.readPixels(0, 0, 1280, 800, gl.RGBA, gl.UNSIGNED_BYTE, pixels);
    return pixels;
  };
  const [first, second] = [shot(ours), shot(theirs)];
  let differ = 0;
  for (let at = 0; at < first.length; at += 4) if (Math.abs((first[at] ?? 0) - (second[at] ?? 0)) > 2) differ += 1;
  const taken = sideBySide(drawn(ours), drawn(theirs), 9);
  return { ...taken, off: differ / (1280 * 800), memory: { ours: bytesIn(ours), theirs: bytesIn(theirs) } };
}

function lookOf(catalog: Catalog, seed: number): Look {
  return resolveLook(catalog, rollCharacter(catalog, { seed }));
}

function sceneOf(): Scene {
  const scene = new Scene();
  const sun = new DirectionalLight(0xffffff, 2);
  sun.position.set(-3, 5, 4);
  scene.add(sun, new AmbientLight(0xffffff, 1));
  return scene;
}

function place(object: Object3D, at: number): void {
  object.position.set((at % 10) - 4.5, 0, Math.floor(at / 10) - 5);
}

/** The megabytes of all geometries of a scene, each once. */
function bytesIn(scene: Scene): number {
  const geometries = new Set<BufferGeometry>();
  scene.traverse((object) => {
    if (object instanceof Mesh) geometries.add(object.geometry);
  });
  const arrays = new Set<ArrayLike<number> & { byteLength: number }>();
  for (const geometry of geometries)
    for (const attribute of [...Object.values(geometry.attributes), geometry.index])
      if (attribute !== null && "array" in attribute) arrays.add(attribute.array);
  return [...arrays].reduce((sum, { byteLength }) => sum + byteLength / 2 ** 20, 0);
}

function sideBySide(ours: () => void, theirs: () => void, samples: number): { ours: number; theirs: number } {
  const taken = { ours: [] as number[], theirs: [] as number[] };
  for (let turn = -2; turn < samples; turn += 1)
    for (const [who, run] of Object.entries({ ours, theirs })) {
      const start = performance.now();
      run();
      if (turn >= 0) taken[who as keyof typeof taken].push(performance.now() - start);
    }
  return { ours: median(taken.ours), theirs: median(taken.theirs) };
}

function median(samples: readonly number[]): number {
  return samples.toSorted((one, other) => one - other)[Math.floor(samples.length / 2)] ?? 0;
}

Object.assign(globalThis, { measureRaster, measureCrowd3d });
