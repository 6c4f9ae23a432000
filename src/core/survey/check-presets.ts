import { type Message, message } from "../base/message.ts";
import { MantleError, type Problem, pointerTo } from "../base/problem.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import { createFromPreset } from "../edits/create-from-preset.ts";
import { checkLoadout } from "../loadout/check-loadout.ts";

/** Finds presets that break a rule of their own catalog. */
export function checkPresets(catalog: Catalog): readonly Problem[] {
  return [...catalog.presets.keys()].flatMap((preset) =>
    reasonsAgainst(catalog, preset).map(
      (reason): Problem => ({
        ...message("preset-breaks-rule", { preset, reason }),
        severity: "error",
        place: { pointer: pointerTo("presets", preset) },
        fixes: [{ code: "mend-preset-breaks-rule", params: {} }],
      }),
    ),
  );
}

function reasonsAgainst(catalog: Catalog, id: string): readonly Message[] {
  const found = () => {
    try {
      return checkLoadout(catalog, createFromPreset(catalog, id));
    } catch (error) {
      if (error instanceof MantleError && error.code === "bad-preset") return error.problems;
      throw error;
    }
  };
  return found().map(({ code, params, more = [] }) => ({ code, params, more }));
}
