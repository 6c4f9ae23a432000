import {
  composeFrame,
  createFromPreset,
  type FrameEvent,
  type HitResult,
  type Images,
  type Look,
  type Moment,
  memoryStore,
  openSession,
  resolveLook,
  type Session,
} from "zealous-mantle";
import { fetchCatalog, type ImageLoader } from "zealous-mantle/browser";
import { durationOf, pointAt } from "zealous-mantle/raster";
import { rolledMoments } from "../../rolled-moments.ts";
import { canvas, placeOf } from "./places.ts";

/** Somebody in a scene of an engine; what all engines' figures have in common. */
export interface Actor {
  look: Look | undefined;
  animation: string;
  facing: string;
  time: number;
  readonly moment: Moment;
  hitTest(point: { readonly x: number; readonly y: number }): HitResult | undefined;
  destroy(): void;
}

export interface ActorOptions {
  readonly look?: Look;
  readonly session?: Session;
  readonly seat?: number;
  readonly animation?: string;
  readonly facing?: string;
}

/** A scene of an engine, of the size of `canvas`. */
export interface Scene {
  /** Adds somebody whose origin is at a place. */
  add(options: ActorOptions, x: number, y: number): Actor;
  /** Attaches something of the engine to a point. Returns where that is in the scene; `undefined` while it is not seen. */
  attach(actor: Actor, point: string): () => { readonly x: number; readonly y: number } | undefined;
  /** Whether a pointer hits it there, in pixels from its origin. */
  isHit(actor: Actor, x: number, y: number): boolean;
  /** Draws frames of a look that nobody shows yet. */
  warm(look: Look): void;
  onEvent(actor: Actor, listener: (event: FrameEvent) => void): void;
  /** One tick of the engine, as long as this. */
  tick(seconds: number): void;
  /** What is on the screen after a tick: RGBA, row by row from the top. */
  pixels(): Uint8Array;
  close(): void;
}

/** What was found in a page with an engine. */
export interface Findings {
  /** Moments whose opaque pixels differ from the composed frame, and how many there are to differ. */
  readonly differing: readonly string[];
  readonly opaque: number;
  /** Seconds that the walk went on a tenth of a second after another look was set, and again after a turn. */
  readonly timeAfterExchange: number;
  readonly timeAfterTurn: number;
  readonly shownAfterExchange: string;
  /** From the origin: where something attached to the crown is, and where the look has it. */
  readonly attached: readonly (number | undefined)[];
  readonly crown: readonly (number | undefined)[];
  readonly touched: readonly (HitResult | undefined)[];
  readonly hit: readonly boolean[];
  readonly words: readonly string[];
  readonly seatFollowed: boolean;
  /** Live textures and listeners before and after all births and deaths. */
  readonly before: Living;
  readonly after: Living;
}

export interface Living {
  readonly textures: number;
  readonly listeners: number;
}

/** A baked sheet as its files are called, and its frames. */
export interface SheetFiles {
  readonly image: string;
  readonly table: string;
  readonly names: readonly string[];
}

/** A sheet as an engine read and drew it. */
export interface SheetFindings {
  /** What is on the screen, each frame at its place of `placeOf`: RGBA, row by row from the top, in base64. */
  readonly pixels: string;
  /** The animations that the engine has of it, and how many frames are in each. */
  readonly animations: Readonly<Record<string, number>>;
}

/** The pixels of the canvas, row by row from the top. */
export function readUpright(gl: WebGLRenderingContext | WebGL2RenderingContext): Uint8Array {
  const { width, height } = canvas;
  const upward = new Uint8Array(width * height * 4);
  gl.bindFramebuffer(gl.FRAMEBUFFER, null);
  gl.readPixels(0, 0, width, height, gl.RGBA, gl.UNSIGNED_BYTE, upward);
  const pixels = new Uint8Array(upward.length);
  for (let row = 0; row < height; row += 1)
    pixels.set(upward.subarray(row * width * 4, (row + 1) * width * 4), (height - 1 - row) * width * 4);
  return pixels;
}

export function inBase64(bytes: Uint8Array): string {
  let text = "";
  for (let at = 0; at < bytes.length; at += 8192) text += String.fromCharCode(...bytes.subarray(at, at + 8192));
  return btoa(text);
}

let textures = 0;
for (const kind of [WebGLRenderingContext, WebGL2RenderingContext]) {
  const { createTexture, deleteTexture } = kind.prototype;
  kind.prototype.createTexture = function create() {
    textures += 1;
    return createTexture.call(this);
  };
  kind.prototype.deleteTexture = function drop(texture) {
    if (texture !== null) textures -= 1;
    deleteTexture.call(this, texture);
  };
}

/** Opens a scene whose pictures come from a loader. */
export type Open = (loader: ImageLoader) => Promise<Scene>;

/** How much is tried. */
export interface Extent {
  readonly looks: number;
  /** How many figures are made and destroyed, each of which would leave something behind. */
  readonly births: number;
}

/** Makes what a page offers: to try out an adapter on the demo catalog, which is in the files given. */
export function trialOf(open: Open): (files: readonly string[], extent: Extent) => Promise<Findings> {
  return (files, extent) => tryOut(open, files, extent);
}

async function tryOut(open: Open, files: readonly string[], { looks, births }: Extent): Promise<Findings> {
  const { catalog, loader } = await fetchCatalog("/saltmarsh/", { files });
  const shown = rolledMoments(catalog, 100, looks);
  await loader.load(...shown.map(({ look }) => look));
  const scene = await open(loader);

  // What was drawn and handed over before anybody showed it is there when somebody does.
  const [early] = shown;
  if (early !== undefined) scene.warm(early.look);
  scene.tick(0);
  const standing = { look: (early as Shown).look, moment: { animation: "idle", facing: "south", time: 0 } };
  const crowd = [...shown.slice(1), standing].map(({ look, moment }, number) => {
    const { x, y } = placeOf(number);
    const actor = scene.add({ look, animation: moment.animation, facing: moment.facing }, x, y);
    return { actor, look, moment, x, y };
  });
  // Everybody has a time of their own.
  for (const { actor, moment } of crowd) actor.time = moment.time;
  scene.tick(0);
  const { differing, opaque } = compare(crowd, scene.pixels(), loader.images);
  for (const { actor } of crowd) actor.destroy();

  const preset = (id: string) => createFromPreset(catalog, id, { id, name: "Wren" });
  const [first, second] = [...catalog.presets.keys()].map((id) => resolveLook(catalog, preset(id)));
  if (first === undefined || second === undefined) throw new Error("The demo has two presets");
  await loader.load(first, second);
  const wren = scene.add({ look: first, animation: "walk", facing: "south" }, 100, 200);
  const words: string[] = [];
  scene.onEvent(wren, ({ word }) => words.push(word));
  const crownAt = scene.attach(wren, "crown");
  for (let tick = 0; tick < 40; tick += 1) scene.tick(0.05);
  // A frame lasts a tenth of a second, and a run as long as these eight.
  const run = durationOf(first, "walk");
  const since = (time: number) => (wren.moment.time - time + run) % run;
  const { time } = wren.moment;
  wren.look = second;
  scene.tick(0.1);
  const timeAfterExchange = since(time);
  const shownAfterExchange = wren.look?.key === second.key ? "the new look" : "another";
  const afterExchange = compare(
    [{ look: second, moment: { ...wren.moment }, x: 100, y: 200 }],
    scene.pixels(),
    loader.images,
  );
  wren.facing = "west";
  scene.tick(0.1);
  const timeAfterTurn = since(time);
  const at = crownAt();
  const crown = wren.look === undefined ? undefined : pointAt(wren.look, "crown", wren.moment);
  const touched = [wren.hitTest({ x: 0, y: -30 }), wren.hitTest({ x: 31, y: -75 })];
  const hit = [scene.isHit(wren, 0, -30), scene.isHit(wren, 31, -75)];
  wren.destroy();

  const session = await openSession({ catalog, store: memoryStore() });
  let listeners = 0;
  const counting: Session = Object.create(session, {
    on: {
      value: (...given: Parameters<Session["on"]>) => {
        listeners += 1;
        const stop = session.on(...given);
        return () => {
          listeners -= 1;
          stop();
        };
      },
    },
  });
  const [one = "", other = ""] = [...catalog.presets.keys()];
  session.add(preset(one));
  session.add(preset(other));
  session.seat(1).take(one);
  const seated = scene.add({ session: counting, seat: 1 }, 300, 300);
  scene.tick(0.05);
  const sat = seated.look?.key;
  session.seat(1).take(other);
  scene.tick(0.05);
  const seatFollowed = sat === first.key && seated.look?.key === second.key;
  seated.destroy();

  const bear = () => {
    const actor = scene.add({ session: counting, seat: 1, animation: "walk" }, 300, 300);
    scene.attach(actor, "crown");
    scene.tick(0.05);
    actor.destroy();
  };
  bear();
  const before = { textures, listeners };
  for (let number = 0; number < births; number += 1) bear();
  scene.tick(0.05);
  const after = { textures, listeners };
  scene.close();
  return {
    differing: [...differing, ...afterExchange.differing],
    opaque,
    timeAfterExchange,
    timeAfterTurn,
    shownAfterExchange,
    attached: [at?.x, at?.y],
    crown: [crown && 100 + crown.x, crown && 200 + crown.y],
    touched,
    hit,
    words,
    seatFollowed,
    before,
    after,
  };
}

type Shown = ReturnType<typeof rolledMoments>[number];

interface Placed {
  readonly look: Look;
  readonly moment: Moment;
  readonly x: number;
  readonly y: number;
}

/** Compares what is opaque in composed frames with what is on the screen at their places. */
function compare(crowd: readonly Placed[], pixels: Uint8Array, images: Images) {
  let opaque = 0;
  const differing: string[] = [];
  for (const { look, moment, x, y } of crowd) {
    const { data, width, height } = composeFrame(look, images, moment);
    const { origin } = look.rig;
    let different = 0;
    for (let at = 0; at < width * height; at += 1) {
      if (data[at * 4 + 3] !== 255) continue;
      opaque += 1;
      const [across, down] = [x - origin.x + (at % width), y - origin.y + Math.floor(at / width)];
      const on = (down * canvas.width + across) * 4;
      if ([0, 1, 2, 3].some((byte) => pixels[on + byte] !== data[at * 4 + byte])) different += 1;
    }
    if (different > 0) differing.push(`${different} pixels of ${moment.animation} ${moment.facing} ${moment.time}`);
  }
  return { opaque, differing };
}
