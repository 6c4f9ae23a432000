import type { Rig } from "../../catalog/model/catalog.ts";
import type { Image } from "../../raster/image.ts";
import { visibleBounds } from "../../raster/visible-bounds.ts";
import type { Found } from "../found.ts";
import { framesOfNames } from "../frames-of-names.ts";
import { withoutEnding } from "../name-id.ts";
import type { NameOptions } from "../name-pattern.ts";

export interface FilesOptions extends NameOptions {
  /**
   * Where the origin lies in each picture, from 0 (left, top) to 1 (right, bottom).
   *
   * @defaultValue `[0.5, 1]`, the middle of the bottom; pictures of the size of the rig's frame lie on it
   */
  readonly anchor?: readonly [x: number, y: number];
}

/** Reads files that hold one frame each, of any sizes, by what their names say. @param name - what the part is called if they say no part. */
export function readFiles(
  name: string,
  files: ReadonlyMap<string, Image>,
  rig: Rig,
  { anchor, ...options }: FilesOptions,
): Found {
  const named = [...files].flatMap(([path, image]) => {
    if (visibleBounds(image) === undefined) return [];
    const isWhole = anchor === undefined && image.width === rig.frame.width && image.height === rig.frame.height;
    const [across, down] = anchor ?? [0.5, 1];
    const at = isWhole
      ? { x: 0, y: 0 }
      : { x: rig.origin.x - Math.round(image.width * across), y: rig.origin.y - Math.round(image.height * down) };
    return [{ name: withoutEnding(path), image, at }];
  });
  return framesOfNames(name, named, rig, options);
}
