import { message } from "../base/message.ts";
import { nearestId } from "../base/nearest-id.ts";
import { type Fix, type Place, type Problem, pointerTo } from "../base/problem.ts";
import { plainConditions } from "../catalog/conditions/visit-condition.ts";
import type { Catalog, Condition } from "../catalog/model/catalog.ts";
import { kindOfRule } from "../catalog/rules/rule-kinds.ts";

/** Finds conditions on an answer that no step, preset or cue of the catalog ever gives to a question that a step asks: it is misspelled, mostly. */
export function checkFacts(catalog: Catalog): readonly Problem[] {
  const answers = answersIn(catalog);
  const found: Problem[] = [];
  for (const { condition, place } of conditionsIn(catalog))
    for (const { id, value } of factsIn(condition)) {
      const known = answers.get(id);
      if (known === undefined || known.has(value)) continue;
      const meant = nearestId(value, [...known]);
      const fix: Fix =
        meant === undefined
          ? { code: "write-one-of", params: { values: [...known] } }
          : { code: "write-value", params: { value: `fact:${id}=${meant}` } };
      found.push({ ...message("never-answered", { fact: id, value }), severity: "warning", place, fixes: [fix] });
    }
  return found;
}

/** What may be answered to each question that steps ask. */
function answersIn({ creation, presets, cues }: Catalog): ReadonlyMap<string, ReadonlySet<string>> {
  const answers = new Map<string, Set<string>>();
  for (const { asks } of creation?.steps.values() ?? [])
    if (asks.kind === "fact")
      answers.set(asks.fact, new Set([...(answers.get(asks.fact) ?? []), ...asks.from.map(({ id }) => id)]));
  const given = [
    ...[...presets.values()].flatMap(({ facts }) => Object.entries(facts)),
    ...[...cues.values()].flatMap((all) =>
      all.flatMap(({ does }) =>
        does.flatMap((each) => ("fact" in each ? [[each.fact, String(each.value)] as const] : [])),
      ),
    ),
  ];
  for (const [fact, value] of given) answers.get(fact)?.add(value);
  return answers;
}

interface Placed {
  readonly condition: Condition | undefined;
  readonly place: Place;
}

function* conditionsIn({ creation, rules, cues }: Catalog): Iterable<Placed> {
  for (const { id, when, next } of creation?.steps.values() ?? []) {
    yield { condition: when, place: { pointer: pointerTo("creation", "steps", id, "if") } };
    for (const [number, way] of next.entries())
      yield { condition: way.when, place: { pointer: pointerTo("creation", "steps", id, "next", number, "if") } };
  }
  for (const rule of rules)
    for (const { key, condition } of kindOfRule(rule).speaksOf(rule).conditions)
      yield { condition, place: within(rule.place, key) };
  for (const all of cues.values())
    for (const { when, place } of all) yield { condition: when, place: within(place, "when") };
}

function within(place: Place, key: string): Place {
  return { ...place, pointer: place.pointer + pointerTo(key) };
}

function factsIn(condition: Condition | undefined): readonly { readonly id: string; readonly value: string }[] {
  if (condition === undefined) return [];
  return plainConditions(condition).flatMap((each) => (each.kind === "fact" ? [each] : []));
}
