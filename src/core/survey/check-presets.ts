import { MantleError, type Problem, pointerTo } from "../base/problem.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import type { Edit } from "../character/edit.ts";
import { createFromPreset } from "../edits/create-from-preset.ts";
import { checkLoadout } from "../loadout/check-loadout.ts";

/** Finds presets that break a rule of their own catalog. */
export function checkPresets(catalog: Catalog): readonly Problem<Edit>[] {
  return [...catalog.presets.keys()].flatMap((id) =>
    reasonsAgainst(catalog, id).map(
      (because): Problem<Edit> => ({
        code: "preset-breaks-rule",
        severity: "error",
        place: { pointer: pointerTo("presets", id) },
        because: `Preset "${id}" cannot be worn as it is. ${because}`,
        fixes: [{ say: "Change its parts." }],
      }),
    ),
  );
}

function reasonsAgainst(catalog: Catalog, id: string): readonly string[] {
  try {
    return checkLoadout(catalog, createFromPreset(catalog, id)).map(({ because }) => because);
  } catch (error) {
    if (error instanceof MantleError) return [error.message];
    throw error;
  }
}
