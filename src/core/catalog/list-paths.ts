import { plainConditions, visitCondition } from "./conditions/visit-condition.ts";
import type { Catalog, Condition } from "./model/catalog.ts";
import type { Creation, Step } from "./model/creation.ts";

/** Every way through a creation flow. */
export interface Paths {
  /** The ids of the steps that are asked, in their order; each sequence once. */
  readonly paths: readonly (readonly string[])[];
  /** Ways that come back to a step they have passed, up to where they do. */
  readonly circles: readonly (readonly string[])[];
  /** Whether these are all; `false` when the budget ran out. */
  readonly complete: boolean;
}

/** What a path has found out on its way: a value, or that nothing was answered. */
type Known = ReadonlyMap<string, string | undefined>;

/** A place on a way: the step it comes to, the steps it has passed and which of them were asked. */
interface Direction {
  readonly go: string | undefined;
  readonly known: Known;
  readonly passed: readonly string[];
  readonly asked: readonly string[];
}

/**
 * Lists every sequence of steps that some player can be asked.
 *
 * Answers about the body and about facts are followed exactly: of those, every answer that makes a difference is tried. What
 * is worn, and what the game signals, may hold or not at any time.
 *
 * @param budget - how many steps to look at in all.
 * @example
 * listPaths(catalog).paths[0] // → ["build", "oak-age", "hair", "hair-color", "skin", "beard", "trade", "badge", "name"]
 */
export function listPaths(catalog: Pick<Catalog, "creation" | "presets">, budget = 20_000): Paths {
  const { creation, presets } = catalog;
  const paths = new Map<string, readonly string[]>();
  const circles = new Map<string, readonly string[]>();
  if (creation === undefined) return { paths: [], circles: [], complete: true };
  const answersTo = answersThatMatter(creation, presets);
  const open: Direction[] = [{ go: creation.start, known: new Map(), passed: [], asked: [] }];
  for (let left = budget; open.length > 0; ) {
    if (left <= 0) return { paths: [...paths.values()], circles: [...circles.values()], complete: false };
    const way = open.pop();
    if (way === undefined) break;
    // A long way takes longer to go on.
    left -= 1 + Math.floor(way.passed.length / 64);
    const step = creation.steps.get(way.go ?? "");
    if (step === undefined) paths.set(way.asked.join(" "), way.asked);
    else if (way.passed.includes(step.id)) {
      const circle = way.passed.slice(way.passed.indexOf(step.id));
      circles.set(circle.join(" "), circle);
    } else open.push(...waysOn(step, way, answersTo));
  }
  return { paths: [...paths.values()], circles: [...circles.values()], complete: true };
}

function waysOn(step: Step, way: Direction, answersTo: (step: Step) => readonly Known[]): readonly Direction[] {
  const passed = [...way.passed, step.id];
  const isAsked = step.when === undefined ? true : decide(step.when, way.known);
  const ways: Direction[] = [];
  if (isAsked !== true) ways.push({ ...way, passed });
  if (isAsked !== false) {
    for (const answer of answersTo(step))
      ways.push({ ...way, passed, asked: [...way.asked, step.id], known: new Map([...way.known, ...answer]) });
  }
  return ways.flatMap((each) => turnsFrom(step, each));
}

/** Where a way goes on from a step: by every transition it may take. */
function turnsFrom(step: Step, way: Direction): readonly Direction[] {
  const ways: Direction[] = [];
  for (const { when, go } of step.next) {
    const taken = when === undefined ? true : decide(when, way.known);
    if (taken !== false) ways.push({ ...way, go });
    if (taken === true) return ways;
  }
  return [...ways, { ...way, go: undefined }];
}

/** Whether a condition holds, as far as it is known. */
function decide(condition: Condition, known: Known): boolean | undefined {
  const isIn = (key: string, value: string) => (known.has(key) ? known.get(key) === value : undefined);
  const settledBy = (outcome: boolean, each: readonly (boolean | undefined)[]) => {
    if (each.includes(outcome)) return outcome;
    return each.includes(undefined) ? undefined : !outcome;
  };
  return visitCondition<boolean | undefined>(condition, {
    plain(each) {
      if (each.kind === "body") return isIn("body", each.id);
      return each.kind === "fact" ? isIn(`fact:${each.id}`, each.value) : undefined;
    },
    any: (each) => settledBy(true, each),
    all: (each) => settledBy(false, each),
    not: (inner) => (inner === undefined ? undefined : !inner),
  });
}

/** For each step, what its answers come to, as far as conditions ask about it: answers they do not distinguish count once. */
function answersThatMatter(creation: Creation, presets: Catalog["presets"]): (step: Step) => readonly Known[] {
  const named = new Map<string, Set<string>>();
  const note = (key: string, value: string) => named.set(key, (named.get(key) ?? new Set()).add(value));
  for (const step of creation.steps.values()) {
    for (const condition of [step.when, ...step.next.map(({ when }) => when)]) noteNamed(condition, note);
  }
  const asked = (key: string, value: string | undefined) => (named.get(key)?.has(value ?? "") ? value : undefined);
  return ({ asks, canWait }) => {
    const found: Known[] = canWait ? [new Map()] : [];
    if (asks.kind === "body") found.push(...asks.from.map((body) => new Map([["body", asked("body", body)]])));
    else if (asks.kind === "fact") {
      const key = `fact:${asks.fact}`;
      if (canWait) found.push(new Map([[key, undefined]]));
      found.push(...asks.from.map(({ id }) => new Map([[key, asked(key, id)]])));
    } else if (asks.kind === "preset") {
      for (const id of asks.from) {
        const { body, facts = {} } = presets.get(id) ?? {};
        const answers = Object.entries(facts).map(
          ([fact, value]) => [`fact:${fact}`, asked(`fact:${fact}`, value)] as const,
        );
        found.push(new Map([["body", asked("body", body)], ...answers]));
      }
    } else found.push(new Map());
    const different = new Map(found.map((known) => [JSON.stringify([...known]), known]));
    return [...different.values()];
  };
}

function noteNamed(condition: Condition | undefined, note: (key: string, value: string) => void): void {
  if (condition === undefined) return;
  for (const each of plainConditions(condition)) {
    if (each.kind === "body") note("body", each.id);
    else if (each.kind === "fact") note(`fact:${each.id}`, each.value);
  }
}
