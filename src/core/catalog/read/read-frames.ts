import type { LayerSource } from "../schema/art-schema.ts";
import type { LayerPlace, LayerReader } from "./reader.ts";

/** Whether a path stands for one file a frame. */
export function isNumbered(image: string): boolean {
  return image.includes("{") && /\{(animation|facing|frame)\b/.test(image);
}

/** Whether the frames of a layer are found in a table: one that it names, or the one made of the files its path stands for. */
export function isTabled({ image, frames }: Pick<LayerSource, "image" | "frames">): boolean {
  return frames !== undefined || isNumbered(image);
}

/** The path of the table of a layer on a body. @param artName - what `{body}` stands for. */
export function tablePath({ image, frames }: Pick<LayerSource, "image" | "frames">, artName: string): string {
  return (frames ?? image).replaceAll("{body}", artName);
}

/** Reports tables that were not handed in, and what they name that is not there. */
export function reportFrames(
  layer: LayerSource,
  { entry, keys, bodies }: LayerPlace,
  known: { readonly animations: ReadonlySet<string>; readonly facings: ReadonlySet<string> },
  { sources, tables, findings }: LayerReader,
): void {
  const names = [...bodies].map((body) => sources.bodies.get(body)?.value.artFrom ?? body);
  for (const path of new Set(names.map((name) => tablePath(layer, name)))) {
    const table = tables.get(path);
    if (table === undefined) {
      findings.warn(entry, [...keys, layer.frames === undefined ? "image" : "frames"], "missing-frames", { path });
      continue;
    }
    const file = { id: path, value: table, file: path, pointer: "" };
    const reported = new Set<string | undefined>([undefined]);
    for (const [number, { animation, facing }] of table.frames.entries()) {
      if (animation !== undefined && !known.animations.has(animation) && !reported.has(animation))
        findings.known(file, ["frames", number, "animation"], "animation", animation, known.animations);
      if (facing !== undefined && !known.facings.has(facing) && !reported.has(facing))
        findings.known(file, ["frames", number, "facing"], "facing", facing, known.facings);
      reported.add(animation).add(facing);
    }
  }
}
