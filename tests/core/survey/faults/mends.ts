import type { Image, Problem } from "zealous-mantle";
import { createImage, cropImage, pasteImage } from "zealous-mantle/raster";
import {
  type Art,
  cellAt,
  changed,
  clear,
  exchange,
  facings,
  laidOut,
  pictureIn,
  picturesOf,
  rowsExchanged,
  whole,
  withLayer,
  withPicture,
  withRig,
} from "./broken-art.ts";

/** What a finding says, and the first advice it gives: nothing else is known to who mends. */
interface Told {
  readonly path: string;
  readonly owner: string;
  readonly said: Readonly<Record<string, unknown>>;
  readonly advice: Readonly<Record<string, unknown>>;
}

/** Does what a finding advises, where it says, and nothing else. What has to be drawn again is drawn as it is in the whole art. */
export function mend(broken: Art, { place, params, fixes }: Problem): Art {
  const [advice] = fixes;
  if (advice === undefined) throw new Error("There is no advice.");
  const doIt = mends[advice.code];
  if (doIt === undefined) throw new Error(`Nobody knows how to do "${advice.code}".`);
  const owner = String(params["owner"]);
  return doIt(broken, { path: place.file ?? "", owner, said: params, advice: advice.params });
}

type Mend = (broken: Art, told: Told) => Art;

/** Changes the picture that is named. */
const inPicture =
  (change: (copy: Image, told: Told, drawn: Image) => void): Mend =>
  (broken, told) => {
    const image = pictureIn(broken, told.path);
    const drawn = pictureIn(whole, told.path);
    return withPicture(
      broken,
      told.path,
      changed(image, (copy) => change(copy, told, drawn)),
    );
  };

/** Draws a cell, or a row of them, again. */
function redraw(copy: Image, drawn: Image, cell: ReturnType<typeof cellAt>): void {
  pasteImage(copy, cropImage(drawn, cell), cell.x, cell.y);
}

const redrawAll: Mend = (broken, { path }) => withPicture(broken, path, pictureIn(whole, path));

const words = (list: unknown) => list as readonly string[];

/** Changes every pixel of a picture. */
function repaint(copy: Image, paint: (pixel: Uint8ClampedArray) => void): void {
  for (let at = 0; at < copy.data.length; at += 4) paint(copy.data.subarray(at, at + 4));
}

const mends: Readonly<Record<string, Mend>> = {
  "mend-blank-frame": inPicture((copy, { said }, drawn) => {
    for (const frame of words(said["frames"])) {
      const [facing = "", number] = frame.split(" ");
      redraw(copy, drawn, cellAt(String(said["animation"]), facing, Number(number)));
    }
  }),
  "mend-blank-series": inPicture((copy, { said }, drawn) => {
    for (const facing of words(said["facings"])) redraw(copy, drawn, cellAt(String(said["animation"]), facing));
  }),
  "mend-frames-exchanged": (broken, { path, said }) => {
    const at = (frame: number) => cellAt(String(said["animation"]), String(said["facing"]), frame);
    const pairs = words(said["order"]).map((from, to) => [at(Number(from)), at(to)] as const);
    return withPicture(broken, path, exchange(pictureIn(broken, path), pairs));
  },
  "mend-series-exchanged": (broken, { path, said }) => {
    const row = (named: unknown) => cellAt(...(String(named).split(" ") as [string, string]));
    const pairs = rowsExchanged(row(said["one"]), row(said["other"]));
    return withPicture(broken, path, exchange(pictureIn(broken, path), pairs));
  },
  "mend-same-picture": redrawAll,
  "mend-cut-by-frame": redrawAll,
  "mend-part-away": redrawAll,
  "mend-part-baked-in": redrawAll,
  "resize-picture": redrawAll,
  "mend-part-scale": (broken, { owner }) =>
    picturesOf(owner).reduce((art, path) => withPicture(art, path, pictureIn(whole, path)), broken),
  "mend-part-floats": inPicture((copy, { said }, drawn) =>
    redraw(copy, drawn, cellAt(String(said["animation"]), String(said["facing"]), Number(said["frame"]))),
  ),
  "mend-patch-left": inPicture((copy, { said }) => {
    const { x, y, width, height } = said as unknown as ReturnType<typeof cellAt>;
    clear(copy, { x, y, width, height });
  }),
  "mend-stray-pixels": inPicture((copy, { said }) => {
    const cell = cellAt(String(said["animation"]), String(said["facing"]), Number(said["frame"]));
    erase(copy, cell.x + Number(said["x"]), cell.y + Number(said["y"]));
  }),
  "mend-color-near-key": inPicture((copy, { said, advice }) => {
    const [found, meant] = [said["color"], advice["color"]].map((color) => Number.parseInt(String(color).slice(1), 16));
    repaint(copy, (pixel) => {
      const [red = 0, green = 0, blue = 0] = pixel;
      if ((red << 16) + (green << 8) + blue !== found || meant === undefined) return;
      pixel.set([meant >> 16, (meant >> 8) & 255, meant & 255]);
    });
  }),
  "mend-animation-off-key": inPicture((copy, { said }, drawn) => {
    for (const facing of facings) redraw(copy, drawn, cellAt(String(said["animation"]), facing));
  }),
  "mend-shows-through": inPicture((copy, { said }, drawn) =>
    redraw(copy, drawn, cellAt(String(said["animation"]), String(said["facing"]), Number(said["frame"]))),
  ),
  "mend-soft-pixels": inPicture((copy) =>
    repaint(copy, (pixel) => {
      if (pixel[3] !== 0) pixel[3] = 255;
    }),
  ),
  "mend-depth-tie": (broken, { path, said }) => withLayer(broken, path, { depth: Number(said["depth"]) + 0.5 }),
  "swap-rows": (broken, { path }) => {
    const image = pictureIn(broken, path);
    const size = [(image.height / 80) * 64, (image.width / 64) * 80] as const;
    return withPicture(
      broken,
      path,
      laidOut(image, size, (column, row) => [row * 64, column * 80]),
    );
  },
  "list-animations": (broken, { path, advice }) => {
    const drawn = Object.keys(whole.source.rigs.courier.animations).slice(0, Number(advice["rows"]) / facings.length);
    return withLayer(broken, path, { animations: drawn });
  },
  "say-border": (broken, { path, advice }) => {
    const { margin, spacing } = advice;
    return withLayer(broken, path, { layout: { margin, spacing } });
  },
  "scale-picture": (broken, { path, advice }) => {
    const [large, factor] = [pictureIn(broken, path), Number(advice["factor"])];
    const small = createImage(large.width / factor, large.height / factor);
    for (let at = 0; at < small.width * small.height; at += 1) {
      const [x, y] = [at % small.width, Math.floor(at / small.width)];
      const from = (y * factor * large.width + x * factor) * 4;
      small.data.set(large.data.subarray(from, from + 4), at * 4);
    }
    return withPicture(broken, path, small);
  },
  "mend-frame-of-rig": (broken, { advice: { width, height } }) => {
    const { frame: _frame, ...rig } = broken.source.rigs.courier;
    return withRig(broken, { ...rig, frame: { width, height } });
  },
  "rename-picture": ({ source, pictures }, { said, advice }) => {
    const renamed = [...pictures].map(
      ([path, image]) => [path === said["meant"] ? advice["path"] : path, image] as const,
    );
    return { source, pictures: new Map(renamed as [string, Image][]) };
  },
};

/** Erases the pixels that touch one another around the first that is seen in a row. */
function erase(copy: Image, x: number, y: number): void {
  const alphaAt = (column: number, row: number) => copy.data[(row * copy.width + column) * 4 + 3] ?? 0;
  let start = x;
  while (alphaAt(start, y) === 0) start += 1;
  const left: [number, number][] = [[start, y]];
  for (let next = left.pop(); next !== undefined; next = left.pop()) {
    const [column, row] = next;
    if (alphaAt(column, row) === 0) continue;
    copy.data.fill(0, (row * copy.width + column) * 4, (row * copy.width + column) * 4 + 4);
    for (const [dx, dy] of [
      [1, 0],
      [-1, 0],
      [0, 1],
      [0, -1],
    ] as const)
      left.push([column + dx, row + dy]);
  }
}
