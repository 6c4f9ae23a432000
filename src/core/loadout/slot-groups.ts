import { getOrInsert } from "../base/get-or-insert.ts";
import { expanded, kindOfCondition } from "../catalog/conditions/condition-kinds.ts";
import { plainConditions } from "../catalog/conditions/visit-condition.ts";
import type { Catalog, Condition, Rule } from "../catalog/model/catalog.ts";
import { kindOfRule } from "../catalog/rules/rule-kinds.ts";

const groups = new WeakMap<Catalog, ReadonlyMap<string, string>>();

/**
 * Puts slots that can make a difference to one another in one group: those that a part takes together or can choose between,
 * that one rule speaks of, or whose parts give or need one stat. What is worn in a slot of one group never changes what can be
 * worn in a slot of another.
 *
 * @param bagMatters - whether all gear shares something more, such as the room in a bag.
 * @returns for each slot the name of its group.
 */
export function slotGroups(catalog: Catalog, { bagMatters = false } = {}): ReadonlyMap<string, string> {
  if (bagMatters) return findGroups(catalog, true);
  return getOrInsert(groups, catalog, () => findGroups(catalog, false));
}

function findGroups(catalog: Catalog, bagMatters: boolean): ReadonlyMap<string, string> {
  const { join, rootOf } = disjointSets();
  const named = new Set<string>();
  for (const rule of catalog.rules) {
    const names = namesIn(rule, catalog);
    for (const name of names) {
      named.add(name);
      join(`rule:${rule.number}`, name);
    }
  }
  for (const part of catalog.parts.values()) {
    const own = `slot:${part.slots[0]}`;
    for (const slot of [...part.slots, ...part.occupies]) join(own, `slot:${slot}`);
    for (const stat in part.gives) join(own, `stat:${stat}`);
    for (const stat in part.requires) join(own, `stat:${stat}`);
    if (named.has(`part:${part.id}`)) join(own, `part:${part.id}`);
    for (const tag of part.tags) if (named.has(`tag:${tag}`)) join(own, `tag:${tag}`);
  }
  if (bagMatters) {
    for (const slot of catalog.slots.values()) if (slot.kind === "gear") join("bag", `slot:${slot.id}`);
  }
  return new Map([...catalog.slots.keys()].map((id) => [id, rootOf(`slot:${id}`)]));
}

/** Disjoint sets of names, joined by twos. R. E. Tarjan, "Efficiency of a good but not linear set union algorithm" (1975). */
function disjointSets() {
  const parents = new Map<string, string>();
  const rootOf = (name: string): string => {
    let root = name;
    for (let next = parents.get(root); next !== undefined && next !== root; next = parents.get(root)) root = next;
    parents.set(name, root);
    return root;
  };
  const join = (one: string, other: string) => {
    parents.set(rootOf(one), rootOf(other));
  };
  return { join, rootOf };
}

function namesIn(rule: Rule, catalog: Catalog): readonly string[] {
  const { conditions, stats } = kindOfRule(rule).speaksOf(rule);
  return [
    ...conditions.flatMap(({ condition }) => namesOf(condition, catalog)),
    ...stats.map((stat) => `stat:${stat}`),
  ];
}

function namesOf(condition: Condition, catalog: Catalog): readonly string[] {
  return plainConditions(condition).flatMap((each) => {
    const meant = expanded(each, catalog.outfits);
    if (meant !== each) return namesOf(meant, catalog);
    return kindOfCondition(each).by === "worn" ? [`${each.kind}:${each.id}`] : [];
  });
}
