import { tablePath } from "../model/frames-table.ts";
import type { LayerSource } from "../schema/art-schema.ts";
import type { LayerPlace, LayerReader } from "./reader.ts";

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
