import type { Catalog } from "../core/catalog/model/catalog.ts";
import type { Edit, Fact } from "../core/character/edit.ts";
import { sayText } from "../core/character/wording.ts";

/** An edit in words: `wear waistcoat in vest`. */
export function sayEdit(edit: Edit): string {
  if ("wear" in edit) return `wear ${edit.wear}${edit.in === undefined ? "" : ` in ${edit.in}`}`;
  if ("remove" in edit) return `take off what is in ${edit.remove}`;
  if ("cycle" in edit) return `move on in ${edit.cycle}`;
  if ("paint" in edit) return `paint ${edit.paint} ${edit.ramp}`;
  if ("dress" in edit) return `dress in ${edit.dress}`;
  if ("body" in edit) return `change the body to ${edit.body}`;
  if ("grow" in edit) return "grow up";
  if ("rename" in edit) return `rename to "${edit.rename}"`;
  if ("fact" in edit) return edit.value === null ? `forget ${edit.fact}` : `answer ${edit.fact} with ${edit.value}`;
  if ("preset" in edit) return `become ${edit.preset}`;
  if ("resemble" in edit) return "become what is shown";
  if ("split" in edit) return `split ${edit.count} of ${edit.split} off`;
  if ("merge" in edit) return `merge the stacks of ${edit.merge}`;
  return `all at once: ${edit.together.map(sayEdit).join(" and ")}`;
}

/** A link of a chain in words. */
export function sayFact(catalog: Catalog, fact: Fact): string {
  switch (fact.kind) {
    case "worn":
      return `${fact.part} is worn in ${fact.slot}${fact.issued ? ", because nothing else is" : ""}`;
    case "body":
      return `the body is ${fact.id}`;
    case "fact":
      return `${fact.id} is ${fact.value ?? "not answered"}`;
    case "signal":
      return `${fact.id} is ${fact.value ?? "not signaled"}`;
    case "stat":
      return `${fact.id} is ${fact.value}`;
    case "carried":
      return `${fact.count} of ${fact.part} in the bag`;
    case "access":
      return `${fact.part} is ${fact.access}`;
    case "need":
      return `${fact.part} needs ${fact.least} ${fact.stat}`;
    case "required":
      return `slot ${fact.slot} must not be empty`;
    case "missing":
      return sayText({ catalog, context: {} }, "is-missing", { needs: fact.condition });
    case "rule":
      return `rule ${fact.number} of the catalog says so`;
  }
}
