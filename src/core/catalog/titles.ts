import type { EntityKind, Titles } from "../base/format.ts";
import type { Param } from "../base/message.ts";
import { type Text, textIn } from "../base/text.ts";
import type { Catalog, FactAnswer, Step } from "./model/catalog.ts";

/**
 * What the things of a catalog are called in a language, for `format`.
 *
 * @param language - BCP 47 tag.
 * @example
 * format(problem, messages, catalogTitles(catalog, "en"))
 */
export function catalogTitles(catalog: Catalog, language = "en"): Titles {
  const known: Record<
    Exclude<EntityKind, "fact" | "answer">,
    ReadonlyMap<string, { readonly title: Text }> | undefined
  > = {
    part: catalog.parts,
    slot: catalog.slots,
    body: catalog.bodies,
    outfit: catalog.outfits,
    channel: catalog.channels,
    ramp: catalog.ramps,
    preset: catalog.presets,
    step: catalog.creation?.steps,
    stat: catalog.stats,
    tag: catalog.tags,
  };
  return {
    language,
    titleOf: (noun, id, { fact }) => {
      const titled =
        noun === "fact"
          ? stepOf(catalog, id)
          : noun === "answer"
            ? answersTo(catalog, fact).find((answer) => answer.id === id)
            : known[noun]?.get(id);
      return titled && textIn(titled.title, language);
    },
  };
}

/** The step that asks for a fact: the first, where several do. */
function stepOf({ creation }: Catalog, fact: Param | undefined): Step | undefined {
  const steps = creation?.steps.values() ?? [];
  return [...steps].find(({ asks }) => asks.kind === "fact" && asks.fact === fact);
}

function answersTo(catalog: Catalog, fact: Param | undefined): readonly FactAnswer[] {
  const asks = stepOf(catalog, fact)?.asks;
  return asks?.kind === "fact" ? asks.from : [];
}
