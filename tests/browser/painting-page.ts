import {
  composeFrame,
  createCharacter,
  type Image,
  type Images,
  type Look,
  readCatalog,
  resolveLook,
} from "zealous-mantle";
import { canvasOf, canvasPainter } from "zealous-mantle/browser";
import { animationOf, type BakedSheet, bakeSheet, createImage, timedFrames } from "zealous-mantle/raster";
import { openSolver, serveSolver, solver } from "zealous-mantle/solver";
import { described } from "../in-words.ts";

/** What is found in the page. */
export interface Findings {
  readonly progress: readonly number[];
  readonly workerIsSame: boolean;
  readonly tableIsSame: boolean;
  readonly painted: readonly boolean[];
  /** Bytes the painter keeps: after one frame, after all of them, and when it is disposed of. */
  readonly bytes: readonly number[];
}

/** What a search in a worker answered: as here; with the reason, when it was aborted; and as here again. */
export type Searched = readonly [isSame: boolean, aborted: string, isSameAgain: boolean];

const frame = { width: 6, height: 8 };

function makeLook(): { look: Look; images: Images } {
  const { catalog, problems } = readCatalog({
    mantle: "catalog/1",
    id: "page",
    version: "1",
    rigs: {
      rig: {
        frame,
        origin: [3, 8],
        facings: ["west", { id: "east", mirror: "west" }],
        animations: { walk: { frames: 5, fps: 10 } },
      },
    },
    ramps: { red: ["#ff2040"] },
    channels: { dye: { ramps: ["red"], default: "red", key: ["#808080"] } },
    bodies: { plain: { rig: "rig", art: [{ image: "a.png", depth: 0, channel: "dye" }] } },
  });
  if (catalog === undefined) throw new Error(problems.map(described).join("\n"));
  const image = createImage(frame.width * 5, frame.height);
  const pixels = new Uint32Array(image.data.buffer);
  for (let at = 0; at < pixels.length; at += 1) pixels[at] = at % 3 === 0 ? 0 : at % 7 === 0 ? 0xff3366cc : 0xff808080;
  return {
    look: resolveLook(catalog, createCharacter(catalog, { body: "plain" })),
    images: new Map([["a.png", image]]),
  };
}

/** Bakes in a worker that runs this very program, and paints every frame on a canvas. */
async function tryOut(path: string): Promise<Findings> {
  const { look, images } = makeLook();
  const worker = new Worker(path);
  const progress: number[] = [];
  const baked = await new Promise<BakedSheet>((resolve) => {
    worker.onmessage = ({ data }) => (data.image === undefined ? progress.push(data.done / data.total) : resolve(data));
    worker.postMessage({ look, images });
  });
  const here = bakeSheet(look, images);

  const room = frame.width * frame.height * 4;
  const painter = canvasPainter(images, { bytes: 3 * room });
  const canvas = canvasOf(createImage(40, 40));
  const context = canvas.getContext("2d", { willReadFrequently: true });
  if (context === null) throw new Error("no canvas");
  const bytes: number[] = [];
  const painted = here.table.frames.map(({ animation, facing, frame: number }) => {
    // A canvas that is set to a size forgets everything, as one does whose context was lost.
    canvas.width = 40;
    const moment = { animation, facing, time: timedFrames(animationOf(look, animation))[number]?.time ?? 0 };
    painter.paint(context, look, moment, { x: 9.4, y: 24, scale: 2 });
    bytes.push(painter.bytes);
    const shown = context.getImageData(9 - 6, 24 - 16, 12, 16);
    return sameAsDoubled(shown, composeFrame(look, images, moment));
  });
  const most = Math.max(...bytes);
  painter.clear();
  return {
    progress,
    workerIsSame: baked.image.data.every((byte, at) => byte === here.image.data[at]),
    tableIsSame: JSON.stringify(baked.table) === JSON.stringify(here.table),
    painted,
    bytes: [bytes[0] ?? 0, most, painter.bytes],
  };
}

function sameAsDoubled(shown: ImageData, whole: Image): boolean {
  for (let y = 0; y < shown.height; y += 1) {
    for (let x = 0; x < shown.width * 4; x += 1) {
      const from = ((y >> 1) * whole.width + (x >> 3)) * 4 + (x & 3);
      if (shown.data[y * shown.width * 4 + x] !== whole.data[from]) return false;
    }
  }
  return true;
}

/** Searches in a worker that runs this very program. */
async function search(path: string): Promise<Searched> {
  const { catalog, problems } = readCatalog({
    mantle: "catalog/1",
    id: "page",
    version: "1",
    rigs: { rig: { frame, origin: [3, 8], facings: ["west"], animations: { idle: { frames: 1, fps: 1 } } } },
    bodies: { plain: { rig: "rig", art: [{ image: "a.png", depth: 0 }] } },
    slots: { hat: { kind: "gear" }, coat: { kind: "gear" } },
    parts: { cap: { slot: "hat", layers: [] }, cloak: { slot: "coat", layers: [] } },
    rules: [{ if: "part:cap", needs: "slot:coat" }],
  });
  if (catalog === undefined) throw new Error(problems.map(described).join("\n"));
  const character = { ...createCharacter(catalog, { body: "plain" }), loadout: { hat: "cap" } };
  const situation = { catalog, character, context: {} };
  const away = openSolver({ worker: () => new Worker(path, { name: "search" }) });
  const here = JSON.stringify(solver.repair(situation));
  const isSame = async () => JSON.stringify(await away.repair(situation)) === here;
  const first = await isSame();
  const controller = new AbortController();
  const asked = away.repair(situation, { signal: controller.signal });
  controller.abort(new Error("left the page"));
  const aborted = await asked.then(
    () => "answered",
    (error: Error) => error.message,
  );
  const again = await isSame();
  away.close();
  return [first, aborted, again];
}

if (typeof document === "undefined" && self.name === "search") serveSolver(self);
else if (typeof document === "undefined") {
  self.addEventListener("message", ({ data: { look, images } }) => {
    const onProgress = (progress: object) => postMessage(progress);
    postMessage(bakeSheet(look, images, { onProgress }));
  });
} else Object.assign(window, { tryOut, search });
