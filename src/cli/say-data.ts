import { type EntityKind, format } from "../core/base/format.ts";
import { message } from "../core/base/message.ts";
import { english } from "../core/base/messages/english.ts";
import type { Place } from "../core/base/problem.ts";
import type { Catalog } from "../core/catalog/model/catalog.ts";
import { catalogTitles } from "../core/catalog/titles.ts";
import type { Evidence } from "../core/character/edit.ts";
import { conditionMessage } from "../core/rules/condition-message.ts";
import { placeInWords } from "./output.ts";

/**
 * A link of a chain in words; things are called by their titles, and rules by where they are written.
 *
 * @param places - where each rule is written, with the line, as far as that was looked up.
 */
export function sayFact(fact: Evidence, catalog: Catalog, places: ReadonlyMap<number, Place> = new Map()): string {
  const titles = catalogTitles(catalog);
  const titled = (noun: EntityKind, id: string) => titles.titleOf?.(noun, id, {}) ?? id;
  const ruleAt = (number: number) => placeInWords(places.get(number) ?? { pointer: `/rules/${number}` });
  switch (fact.kind) {
    case "worn": {
      const worn = `${titled("part", fact.part)} is worn in ${titled("slot", fact.slot)}`;
      return `${worn}${fact.issued ? ", because nothing else is" : ""}`;
    }
    case "body":
      return `the body is ${titled("body", fact.id)}`;
    case "fact":
      return `${fact.id} is ${fact.value ?? "not answered"}`;
    case "signal":
      return `${fact.id} is ${fact.value ?? "not signaled"}`;
    case "stat":
      return `${titled("stat", fact.id)} comes to ${fact.value}`;
    case "carried":
      return `${fact.count} of ${titled("part", fact.part)} in the bag`;
    case "access":
      return `${titled("part", fact.part)} is ${fact.access}`;
    case "need":
      return `${titled("part", fact.part)} requires ${fact.min} ${titled("stat", fact.stat)}`;
    case "required":
      return `slot ${titled("slot", fact.slot)} must not be empty`;
    case "set":
      return `enough of the set is worn that is written at ${ruleAt(fact.number)}`;
    case "missing":
      return format(message("is-missing", { needs: conditionMessage(fact.condition) }), english, titles);
    case "rule":
      return `by the rule at ${ruleAt(fact.number)}`;
  }
}
