import { getOrInsert } from "../base/get-or-insert.ts";
import { MantleError } from "../base/problem.ts";
import type { CatalogIds, SlicedImage } from "../catalog/model/catalog.ts";
import { celsAt } from "../look/cels-at.ts";
import type { Cel, Look, LookLayer, Moment } from "../look/look.ts";
import { changedCell } from "./changed-cell.ts";
import { FrameCanvas } from "./frame-canvas.ts";
import { createImage, type Image, type Images } from "./image.ts";
import { recolorTable } from "./recolor-table.ts";
import { type Sheet, sheetOf } from "./sheet.ts";

/**
 * Draws a look at a moment: one frame of its rig's size, transparent where nothing is.
 *
 * Layers are laid over one another by source-over (T. Porter and T. Duff, "Compositing digital images", 1984) on straight
 * alpha; every channel is rounded to the nearest whole number once for each layer, and once more where the whole look is not
 * opaque. What reaches beyond the frame is cut off.
 *
 * @param images - every picture the look names; pictures that were cut short leave blank cells.
 * @throws MantleError `missing-picture`, `unknown-animation`, `unknown-facing`.
 * @example
 * const frame = composeFrame(look, images, { animation: "idle", facing: "south", time: 0 })
 */
export function composeFrame<Ids extends CatalogIds>(look: Look<Ids>, images: Images, moment: Moment<Ids>): Image {
  const frame = createImage(look.rig.frame.width, look.rig.frame.height);
  composeInto(frame, look, images, moment, 0, 0);
  return frame;
}

// One is enough: a frame is finished before the next is begun.
const canvas = new FrameCanvas();

/** Draws a look at a moment into a blank, frame-sized place of a larger picture. */
export function composeInto(target: Image, look: Look, images: Images, moment: Moment, x: number, y: number): void {
  const { origin, frame } = look.rig;
  canvas.begin(target, x, y, frame.width, frame.height);
  const cels = celsAt(look, moment);
  for (let number = cels.length - 1; number >= 0; number -= 1) {
    const cel = cels[number] as Cel;
    const { sheet, table, isTranslucent } = prepared(cel, images);
    const { source, frame } = cel;
    const left = origin.x + cel.x;
    const top = origin.y + cel.y;
    if (cel.rotation === 0 && cel.width === source.width && cel.height === source.height) {
      canvas.drawBehind(sheet.cells, frame.cell, table, isTranslucent, left, top, cel.flip ? source.width : 0);
    } else {
      const { cells, x: across, y: down } = changedCell(sheet, cel);
      canvas.drawBehind(cells, 0, table, isTranslucent, left + across, top + down, 0);
    }
  }
  canvas.end(look.opacity);
}

/** A layer's picture, ready to draw in its colors. */
interface Prepared {
  readonly image: Image;
  readonly sheet: Sheet;
  readonly table: Uint32Array;
  /** Whether what is opaque in the picture is not opaque in these colors. */
  readonly isTranslucent: boolean;
}

/** By layer, one for each of its pictures. */
const preparedLayers = new WeakMap<LookLayer, Prepared[]>();

function prepared({ layer, image: path, frame: { picture } }: Cel, images: Images): Prepared {
  const image = images.get(path);
  const known = getOrInsert(preparedLayers, layer, () => []);
  const own = known[picture];
  if (own !== undefined && own.image === image) return own;
  if (image === undefined) throw missingPicture(layer, path);
  const sheet = sheetOf(image, layer.art.pictures[picture] as SlicedImage, layer.blank);
  const table = recolorTable(sheet, layer.recolor, layer.opacity);
  const ready = { image, sheet, table, isTranslucent: layer.opacity !== 1 };
  known[picture] = ready;
  return ready;
}

function missingPicture(layer: LookLayer, path: string): MantleError {
  const owner = layer.part === undefined ? "the body" : `"${layer.part}"`;
  return new MantleError(
    "missing-picture",
    `There is no picture "${path}", which ${owner} needs. Load the pictures of the look first.`,
  );
}
