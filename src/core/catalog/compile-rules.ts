import { recall } from "../recall.ts";
import type {
  Bound,
  CompiledBound,
  CompiledCondition,
  CompiledRule,
  CompiledRules,
  Condition,
  Rule,
  Stat,
} from "./catalog.ts";

/** What rules can speak of, besides parts. */
interface Vocabulary {
  readonly rules: readonly Rule[];
  readonly slots: readonly string[];
  readonly stats: ReadonlyMap<string, Pick<Stat, "least" | "most">>;
  /** The parts of each outfit. */
  readonly outfits: ReadonlyMap<string, readonly string[]>;
  /** The stats that parts need. */
  readonly needed: ReadonlySet<string>;
}

/**
 * Compiles rules to integers.
 *
 * Everything a rule can ask about (a part, a tag, a filled slot, a body, an answer, a signal) becomes a *mark*. Parts carry
 * marks, so a check only counts the marks of what is worn and looks at the rules those marks belong to.
 */
export function compileRules({ rules, slots, stats, outfits, needed }: Vocabulary): CompiledRules {
  const marks = new Map<string, number>();
  const statNumbers = new Map<string, number>();
  const mark = (key: string) => recall(marks, key, () => marks.size);
  const stat = (id: string) => recall(statNumbers, id, () => statNumbers.size);
  const bound = (source: Bound | undefined): CompiledBound | undefined =>
    source === undefined || typeof source === "number" ? source : { stat: stat(source.stat) };
  const condition = (source: Condition): CompiledCondition => compileCondition(source, mark, outfits);

  const compiled = rules.map((rule): CompiledRule => {
    switch (rule.kind) {
      case "never":
        return { kind: "never", marks: rule.patterns.map((pattern) => mark(markKey(pattern))) };
      case "needs":
        return { kind: "needs", when: condition(rule.when), needs: condition(rule.needs) };
      case "count":
        return { kind: "count", mark: mark(markKey(rule.of)), atLeast: rule.atLeast, atMost: rule.atMost };
      case "total":
        return { kind: "total", stat: stat(rule.stat), atLeast: bound(rule.atLeast), atMost: bound(rule.atMost) };
    }
  });
  for (const id of needed) stat(id);

  return {
    rules: compiled,
    marks,
    slotMarks: slots.map((id) => marks.get(`slot:${id}`) ?? -1),
    slotNumbers: new Map(slots.map((id, number) => [id, number])),
    answers: answersIn(marks),
    stats: [...statNumbers.keys()].map((id) => ({
      id,
      least: stats.get(id)?.least ?? Number.NEGATIVE_INFINITY,
      most: stats.get(id)?.most ?? Number.POSITIVE_INFINITY,
    })),
    statNumbers,
    ...indexRules(compiled, marks, statNumbers.size),
  };
}

/** What a mark is called: `tag:lamp`, `fact:trade=pilot`. */
function markKey({
  kind,
  id,
  value,
}: {
  readonly kind: string;
  readonly id: string;
  readonly value?: string | undefined;
}) {
  return value === undefined ? `${kind}:${id}` : `${kind}:${id}=${value}`;
}

function compileCondition(
  source: Condition,
  mark: (key: string) => number,
  outfits: ReadonlyMap<string, readonly string[]>,
): CompiledCondition {
  switch (source.kind) {
    case "any":
    case "all":
      return { kind: source.kind, of: source.of.map((each) => compileCondition(each, mark, outfits)) };
    case "not":
      return { kind: "not", of: compileCondition(source.of, mark, outfits) };
    case "outfit": {
      const parts = outfits.get(source.id) ?? [];
      // An outfit of nothing is never worn.
      if (parts.length === 0) return { kind: "any", of: [] };
      return { kind: "all", of: parts.map((id) => ({ kind: "mark", mark: mark(`part:${id}`) })) };
    }
    default:
      return { kind: "mark", mark: mark(markKey(source)) };
  }
}

/** The marks that the game's answers and signals set, read back from their keys. */
function answersIn(marks: ReadonlyMap<string, number>): CompiledRules["answers"] {
  return [...marks].flatMap(([key, mark]) => {
    const source = key.startsWith("fact:") ? "facts" : key.startsWith("signal:") ? "signals" : undefined;
    if (source === undefined) return [];
    const [id = "", ...value] = key.slice(key.indexOf(":") + 1).split("=");
    return [{ source, id, value: value.length === 0 ? undefined : value.join("="), mark }] as const;
  });
}

/** Which rules to look at: for a mark that is there, for one that comes or goes, for a stat that changes, and always. */
function indexRules(
  rules: readonly CompiledRule[],
  marks: ReadonlyMap<string, number>,
  statCount: number,
): Pick<CompiledRules, "triggers" | "mentions" | "totals" | "always"> {
  const standing = new Set([...marks].filter(([key]) => /^(body|fact|signal):/.test(key)).map(([, mark]) => mark));
  const triggers: number[][] = Array.from(marks, () => []);
  const mentions: number[][] = Array.from(marks, () => []);
  const totals: number[][] = Array.from({ length: statCount }, () => []);
  const always: number[] = [];
  for (const [number, rule] of rules.entries()) {
    const { mentioned, stats } = subjectsOf(rule);
    for (const mark of mentioned) mentions[mark]?.push(number);
    for (const stat of stats) totals[stat]?.push(number);
    const triggered = triggersOf(rule, standing);
    if (triggered === undefined) always.push(number);
    else for (const mark of triggered) triggers[mark]?.push(number);
  }
  return { triggers, mentions, totals, always };
}

function subjectsOf(rule: CompiledRule): { mentioned: ReadonlySet<number>; stats: ReadonlySet<number> } {
  switch (rule.kind) {
    case "never":
      return { mentioned: new Set(rule.marks), stats: new Set() };
    case "needs":
      return { mentioned: new Set([...marksIn(rule.when), ...marksIn(rule.needs)]), stats: new Set() };
    case "count":
      return { mentioned: new Set([rule.mark]), stats: new Set() };
    case "total": {
      const bounds = [rule.atLeast, rule.atMost].flatMap((bound) => (typeof bound === "object" ? [bound.stat] : []));
      return { mentioned: new Set(), stats: new Set([rule.stat, ...bounds]) };
    }
  }
}

/** The marks of worn parts without which a rule cannot be broken; `undefined` when it can be broken without any. */
function triggersOf(rule: CompiledRule, standing: ReadonlySet<number>): ReadonlySet<number> | undefined {
  switch (rule.kind) {
    case "never":
      return new Set(rule.marks);
    case "needs":
      return mayBare(rule.when, true, standing) ? undefined : new Set(marksIn(rule.when));
    case "count":
      return (rule.atLeast ?? 0) > 0 || (rule.atMost ?? 0) < 0 ? undefined : new Set([rule.mark]);
    case "total":
      return undefined;
  }
}

/**
 * Whether a condition may come out so while nothing is worn.
 *
 * @param standing - marks of bodies, answers and signals, which may be there or not whatever is worn.
 */
function mayBare(condition: CompiledCondition, outcome: boolean, standing: ReadonlySet<number>): boolean {
  switch (condition.kind) {
    case "mark":
      return !outcome || standing.has(condition.mark);
    case "any":
    case "all": {
      const each = (part: CompiledCondition) => mayBare(part, outcome, standing);
      return (condition.kind === "any") === outcome ? condition.of.some(each) : condition.of.every(each);
    }
    case "not":
      return mayBare(condition.of, !outcome, standing);
  }
}

/** Every mark a condition asks about. */
export function marksIn(condition: CompiledCondition): readonly number[] {
  switch (condition.kind) {
    case "mark":
      return [condition.mark];
    case "any":
    case "all":
      return condition.of.flatMap(marksIn);
    case "not":
      return marksIn(condition.of);
  }
}
