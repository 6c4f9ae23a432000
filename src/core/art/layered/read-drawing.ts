import { message } from "../../base/message.ts";
import { MantleError, type Problem } from "../../base/problem.ts";
import type { Point, Rectangle, Rig } from "../../catalog/model/catalog.ts";
import { createImage, type Image, pasteImage } from "../../raster/image.ts";
import { visibleBounds } from "../../raster/visible-bounds.ts";
import { artFinding, type Found, type FoundLayer, type FoundPart } from "../found.ts";
import { nameId } from "../name-id.ts";
import { readSheet, type SheetOptions } from "../sheet/read-sheet.ts";
import { type Drawing, flatten, layersOf, openDrawing } from "./open-drawing.ts";
import type { StackItem } from "./read-stack.ts";

export interface DrawingOptions {
  /** The ids of slots: a group whose name makes one of them holds its parts. */
  readonly slots: ReadonlySet<string>;
  /** The layers or groups that were drawn over, and are no part. @defaultValue `["body", "guide"]` */
  readonly guides?: readonly string[];
  /** What the guide shows, as a frame of the rig: it says where on the rig the drawing lies. */
  readonly figure?: Image;
  /** Where the rig's frame begins on the canvas, if it is known. */
  readonly corner?: readonly [x: number, y: number];
  /** For a drawing whose canvas is a whole sheet: how that is laid out. */
  readonly sheet?: SheetOptions;
}

/**
 * Reads a drawing in layers (OpenRaster): groups that are called as slots hold parts, a layer each, or a group each for parts of several
 * layers; hidden layers are parts as well, for that is how alternatives are drawn.
 *
 * @throws MantleError `bad-drawing`, `bad-picture`.
 */
export function readDrawing(name: string, bytes: Uint8Array, rig: Rig, options: DrawingOptions): Found {
  const drawing = openNamed(name, bytes);
  const { guides = ["body", "guide"] } = options;
  const isGuide = (item: StackItem) => guides.includes(nameId(item.name) ?? "");
  const problems: Problem[] = [...checkWhole(name, drawing)];
  const corner = cornerOf(drawing, drawing.items.filter(isGuide), rig, options);
  const parts: FoundPart[] = [];
  const read = (item: StackItem, slot: string | undefined) => {
    if (isGuide(item)) return;
    const own = slot ?? slotOf(item, options.slots);
    if (item.source === undefined && slot === undefined && own !== undefined)
      for (const inner of item.items.toReversed()) read(inner, own);
    else parts.push(...partOf(drawing, item, own, { rig, corner, sheet: options.sheet }, problems));
  };
  for (const item of drawing.items.toReversed()) read(item, undefined);
  return { parts, problems };
}

/** Opens a drawing; what is wrong with it names its file. */
function openNamed(name: string, bytes: Uint8Array): Drawing {
  try {
    return openDrawing(bytes);
  } catch (error) {
    if (error instanceof MantleError) throw new MantleError(error.code, `${name}: ${error.message}`);
    throw error;
  }
}

/** The slot that a group is called as. */
function slotOf({ name, source }: StackItem, slots: ReadonlySet<string>): string | undefined {
  const id = nameId(name);
  return source === undefined && id !== undefined && slots.has(id) ? id : undefined;
}

interface Place {
  readonly rig: Rig;
  /** Where the rig's frame begins on the canvas. */
  readonly corner: Point;
  readonly sheet: SheetOptions | undefined;
}

function partOf(
  drawing: Drawing,
  item: StackItem,
  slot: string | undefined,
  place: Place,
  problems: Problem[],
): readonly FoundPart[] {
  const layers: FoundLayer[] = [];
  for (const layer of item.source === undefined ? layersOf(item.items) : [item]) {
    if (layer.blending !== "svg:src-over") {
      const finding = message("blend-mode", { name: layer.name, mode: layer.blending.replace(/^svg:/, "") });
      problems.push(artFinding(item.name, "error", finding, message("make-normal")));
      return [];
    }
    layers.push({ opacity: layer.opacity, frames: framesOf(drawing, layer, place) });
  }
  return [{ name: item.name, slot, layers }];
}

function framesOf(drawing: Drawing, layer: StackItem, { rig, corner, sheet }: Place): FoundLayer["frames"] {
  const image = drawing.picture(layer);
  if (sheet === undefined) {
    if (visibleBounds(image) === undefined) return [];
    const at = { x: layer.x - corner.x, y: layer.y - corner.y };
    return [{ animation: undefined, facing: undefined, frame: undefined, image, at }];
  }
  const canvas = createImage(drawing.width, drawing.height);
  pasteImage(canvas, image, layer.x, layer.y);
  return readSheet(layer.name, canvas, rig, sheet).parts.flatMap(({ layers }) =>
    layers.flatMap(({ frames }) => frames),
  );
}

/** Where the rig's frame begins on the canvas: where the guide says, or else where its feet would be. */
function cornerOf(drawing: Drawing, guides: readonly StackItem[], { frame }: Rig, options: DrawingOptions): Point {
  if (options.corner !== undefined) return { x: options.corner[0], y: options.corner[1] };
  const shown = options.figure && visibleBounds(options.figure);
  const drawn = boundsOf(drawing, guides);
  if (shown !== undefined && drawn !== undefined) {
    const middle = ({ x, width }: Rectangle) => x + width / 2;
    return { x: Math.round(middle(drawn) - middle(shown)), y: drawn.y + drawn.height - shown.y - shown.height };
  }
  return { x: Math.round((drawing.width - frame.width) / 2), y: drawing.height - frame.height };
}

/** The box around what some layers and groups show. */
function boundsOf(drawing: Drawing, items: readonly StackItem[]): Rectangle | undefined {
  const canvas = createImage(drawing.width, drawing.height);
  for (const layer of layersOf(items)) {
    const image = drawing.picture(layer);
    // Only where something is drawn matters, so nothing need be blended.
    for (let y = 0; y < image.height; y += 1)
      for (let x = 0; x < image.width; x += 1) {
        const [left, top] = [x + layer.x, y + layer.y];
        const isOn = left >= 0 && top >= 0 && left < canvas.width && top < canvas.height;
        if (isOn && (image.data[(y * image.width + x) * 4 + 3] ?? 0) > 0)
          canvas.data[(top * canvas.width + left) * 4 + 3] = 255;
      }
  }
  return visibleBounds(canvas);
}

/** Channels may be rounded otherwise. */
const tolerance = 2;

/** Whether the layers come to the picture of the whole that the file brings. */
function checkWhole(name: string, drawing: Drawing): readonly Problem[] {
  const whole = drawing.whole();
  if (whole === undefined) return [];
  const flat = flatten(drawing);
  const isSame =
    whole.width === flat.width &&
    whole.height === flat.height &&
    whole.data.every((value, at) => isNear(at, value, flat, whole));
  return isSame ? [] : [artFinding(name, "warning", message("drawing-mismatch"), message("mend-drawing-mismatch"))];
}

/** Colors of what is nearly transparent say nothing. */
function isNear(at: number, value: number, flat: Image, whole: Image): boolean {
  const alpha = Math.min(whole.data[at | 3] ?? 0, flat.data[at | 3] ?? 0);
  return Math.abs(value - (flat.data[at] ?? 0)) <= (alpha > 64 || (at & 3) === 3 ? tolerance : 255);
}
