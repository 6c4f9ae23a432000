import type { Titles } from "../base/format.ts";
import { textIn } from "../base/text.ts";
import type { Catalog } from "./model/catalog.ts";

/**
 * What the things of a catalog are called in a language, for `format`.
 *
 * @param language - BCP 47 tag.
 * @example
 * format(problem, english, titlesIn(catalog, "en"))
 */
export function titlesIn(catalog: Catalog, language = "en"): Titles {
  const known = {
    part: catalog.parts,
    slot: catalog.slots,
    body: catalog.bodies,
    outfit: catalog.outfits,
    channel: catalog.channels,
    ramp: catalog.ramps,
    preset: catalog.presets,
    step: catalog.creation?.steps,
    stat: catalog.stats,
    tag: undefined,
  };
  return {
    language,
    titleOf: (noun, id) => {
      const titled = known[noun]?.get(id);
      return titled && textIn(titled.title, language);
    },
  };
}
