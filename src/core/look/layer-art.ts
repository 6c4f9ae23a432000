import type { DrawnFrame, Facing, LayerArt, Rectangle, Size } from "../catalog/model/catalog.ts";

/** The frames of an animation in a facing, and whether they are to be mirrored; `undefined` when they are not drawn. */
export function framesIn(
  { frames }: LayerArt,
  animation: string,
  facing: Facing,
): { readonly frames: readonly (DrawnFrame | undefined)[]; readonly flip: boolean } | undefined {
  const byFacing = frames.get(animation) ?? frames.get("");
  const own = byFacing?.get(facing.id);
  const found = own ?? byFacing?.get(facing.drawnAs) ?? byFacing?.get("");
  return found && { frames: found, flip: own === undefined && facing.mirrored };
}

/** Whether a facing has pictures of its own, and is not only shown as the mirror image of another. */
export function hasOwnArt({ frames }: LayerArt, facing: string): boolean {
  return [...frames.values()].some((byFacing) => byFacing.has(facing));
}

/** The size a frame is drawn in. */
export function drawnSize(size: Size, scale: number): Size {
  if (scale === 1) return size;
  const { width, height } = size;
  return { width: Math.max(1, Math.round(width * scale)), height: Math.max(1, Math.round(height * scale)) };
}

/** Where its cell lies in a frame that is drawn in some size: the whole pixels that its own pixels reach. */
export function drawnPart({ size, trim }: DrawnFrame, cell: Size, whole: Size): Rectangle {
  if (whole === size) return { x: trim.x, y: trim.y, width: cell.width, height: cell.height };
  const x = Math.floor((trim.x * whole.width) / size.width);
  const y = Math.floor((trim.y * whole.height) / size.height);
  const right = Math.ceil(((trim.x + cell.width) * whole.width) / size.width);
  const bottom = Math.ceil(((trim.y + cell.height) * whole.height) / size.height);
  return { x, y, width: right - x, height: bottom - y };
}
