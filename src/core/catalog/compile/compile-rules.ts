import { getOrInsert } from "../../base/get-or-insert.ts";
import { getOwn } from "../../base/record.ts";
import { expanded, kindOfCondition } from "../conditions/condition-kinds.ts";
import type { OutfitParts } from "../conditions/kind.ts";
import { visitCondition } from "../conditions/visit-condition.ts";
import type {
  Bound,
  CompiledBound,
  CompiledCondition,
  CompiledRule,
  CompiledRules,
  CompiledSet,
  Condition,
  PlainCondition,
  Rule,
  Stat,
} from "../model/catalog.ts";
import { kindOfRule } from "../rules/rule-kinds.ts";

/** What rules can speak of, besides parts. */
interface Vocabulary {
  readonly rules: readonly Rule[];
  readonly slots: readonly string[];
  readonly stats: ReadonlyMap<string, Pick<Stat, "min" | "max">>;
  readonly outfits: OutfitParts;
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
  const given: { readonly condition: PlainCondition; readonly mark: number }[] = [];
  const mark = (condition: PlainCondition) =>
    getOrInsert(marks, markKey(condition), () => {
      if (kindOfCondition(condition).by !== "worn") given.push({ condition, mark: marks.size });
      return marks.size;
    });
  const stat = (id: string) => getOrInsert(statNumbers, id, () => statNumbers.size);
  const bound = (source: Bound | undefined): CompiledBound | undefined =>
    source === undefined || typeof source === "number" ? source : { stat: stat(source.stat) };
  const condition = (source: Condition): CompiledCondition => compileCondition(source, mark, outfits);

  const compiler = { mark, stat, bound, condition };
  const compiled = rules.map((rule) => ruleOf(kindOfRule(rule).compile(rule, compiler)));
  for (const id of needed) stat(id);
  const sets = setsIn(compiled);
  const bonuses = [...statNumbers.keys()].map((id) =>
    sets.flatMap(({ marks, atLeast, gives }) => {
      const gift = getOwn(gives, id);
      return gift === undefined ? [] : [{ marks, atLeast, ...gift }];
    }),
  );

  return {
    rules: compiled,
    marks,
    partMarks: marksOf("part:", marks),
    tagMarks: marksOf("tag:", marks),
    slotMarks: slots.map((id) => marks.get(`slot:${id}`) ?? -1),
    slotNumbers: new Map(slots.map((id, number) => [id, number])),
    given,
    stats: [...statNumbers.keys()].map((id) => ({
      id,
      min: stats.get(id)?.min ?? Number.NEGATIVE_INFINITY,
      max: stats.get(id)?.max ?? Number.POSITIVE_INFINITY,
    })),
    statNumbers,
    sets,
    bonuses,
    ...indexRules(compiled, marks, new Set(given.map((each) => each.mark)), bonuses),
  };
}

const nothing: CompiledCondition = { kind: "any", mark: -1, of: [] };

/** A rule with every field in its place, so that all rules are one shape to the engine. */
function ruleOf(fields: Partial<CompiledRule> & Pick<CompiledRule, "kind">): CompiledRule {
  const { kind, marks = [], when = nothing, needs = nothing, stat = -1, atLeast, atMost, gives = noGifts } = fields;
  return { kind, marks, when, needs, stat, atLeast, atMost, gives };
}

const noGifts = {};

function setsIn(rules: readonly CompiledRule[]): readonly CompiledSet[] {
  return rules.flatMap(({ kind, marks, atLeast, gives }, rule) =>
    kind === "giving" ? [{ rule, marks, atLeast: Number(atLeast), gives }] : [],
  );
}

function marksOf(kind: string, marks: ReadonlyMap<string, number>): ReadonlyMap<string, number> {
  return new Map(
    [...marks].filter(([key]) => key.startsWith(kind)).map(([key, mark]) => [key.slice(kind.length), mark]),
  );
}

/** What a mark is called: `tag:lamp`, `fact:trade=pilot`. */
function markKey(condition: PlainCondition): string {
  const key = `${condition.kind}:${condition.id}`;
  return "value" in condition && condition.value !== undefined ? `${key}=${condition.value}` : key;
}

function compileCondition(
  source: Condition,
  mark: (condition: PlainCondition) => number,
  outfits: OutfitParts,
): CompiledCondition {
  return visitCondition<CompiledCondition>(source, {
    any: (of) => ({ kind: "any", mark: -1, of }),
    all: (of) => ({ kind: "all", mark: -1, of }),
    not: (inner) => ({ kind: "not", mark: -1, of: [inner] }),
    plain(condition) {
      const meant = expanded(condition, outfits);
      if (meant !== condition) return compileCondition(meant, mark, outfits);
      return { kind: "mark", mark: mark(condition), of: [] };
    },
  });
}

/** Which rules to look at: for a mark that is there, for one that comes or goes, for a stat that changes, and always. */
function indexRules(
  rules: readonly CompiledRule[],
  marks: ReadonlyMap<string, number>,
  given: ReadonlySet<number>,
  bonuses: CompiledRules["bonuses"],
): Pick<CompiledRules, "triggers" | "exclusive" | "more" | "totals" | "always"> {
  const byMark = (): number[][] => Array.from(marks, () => []);
  const [triggers, exclusive] = [byMark(), byMark()];
  const more = { leading: byMark(), failing: byMark() };
  const totals: number[][] = bonuses.map(() => []);
  const always: number[] = [];
  for (const [number, rule] of rules.entries()) {
    if (rule.kind === "exclusive") for (const mark of new Set(rule.marks)) exclusive[mark]?.push(number);
    for (const mark of leaders(rule, bonuses)) more.leading[mark]?.push(number);
    for (const mark of marksTowards(rule.needs, false)) more.failing[mark]?.push(number);
    for (const stat of statsOf(rule)) totals[stat]?.push(number);
    const triggered = triggersOf(rule, given);
    if (triggered === undefined) always.push(number);
    else for (const mark of triggered) triggers[mark]?.push(number);
  }
  return { triggers, exclusive, more, totals, always };
}

/** The marks of which one more can break a count, make the `if` of a rule hold, or bring a bonus to a bounded stat. */
function leaders(rule: CompiledRule, bonuses: CompiledRules["bonuses"]): ReadonlySet<number> {
  switch (rule.kind) {
    case "implied":
      return marksTowards(rule.when, true);
    case "counted":
      return new Set(rule.atMost === undefined ? [] : rule.marks);
    case "bounded":
      return new Set([...statsOf(rule)].flatMap((stat) => (bonuses[stat] ?? []).flatMap(({ marks }) => marks)));
    case "exclusive":
    case "giving":
      return new Set();
  }
}

/** The marks whose coming (or, with `false`, whose going) can make a condition hold. */
function marksTowards(condition: CompiledCondition, coming: boolean, found = new Set<number>()): ReadonlySet<number> {
  if (condition.kind === "mark") return coming ? found.add(condition.mark) : found;
  for (const part of condition.of) marksTowards(part, condition.kind === "not" ? !coming : coming, found);
  return found;
}

function statsOf({ stat, atLeast, atMost }: CompiledRule): ReadonlySet<number> {
  const bounds = [atLeast, atMost].flatMap((bound) => (typeof bound === "object" ? [bound.stat] : []));
  return new Set(stat < 0 ? [] : [stat, ...bounds]);
}

/**
 * Marks of worn parts of which one must be there for a rule to be broken; `undefined` when it can be broken without any. The
 * fewer the better: each is a reason to look.
 */
function triggersOf(rule: CompiledRule, given: ReadonlySet<number>): ReadonlySet<number> | undefined {
  switch (rule.kind) {
    case "exclusive":
      // It takes two of them, so all but the last will do.
      return new Set(rule.marks.slice(0, -1));
    case "implied":
      return leadingTo(rule.when, true, given);
    case "counted":
      return Number(rule.atLeast ?? 0) > 0 || Number(rule.atMost ?? 0) < 0 ? undefined : new Set(rule.marks);
    case "bounded":
      return undefined;
    case "giving":
      return new Set();
  }
}

/**
 * Marks of worn parts of which one must be there for a condition to come out so; `undefined` when it may while nothing is worn.
 *
 * @param given - marks of bodies, answers and signals, which may be there or not whatever is worn.
 */
function leadingTo(
  condition: CompiledCondition,
  outcome: boolean,
  given: ReadonlySet<number>,
): ReadonlySet<number> | undefined {
  if (condition.kind === "mark") return !outcome || given.has(condition.mark) ? undefined : new Set([condition.mark]);
  const inner = condition.kind === "not" ? !outcome : outcome;
  return (condition.kind === "any") === outcome
    ? leadingToOne(condition.of, inner, given)
    : leadingToAll(condition.of, inner, given);
}

/** The same for one of several conditions: each brings its marks. */
function leadingToOne(parts: readonly CompiledCondition[], outcome: boolean, given: ReadonlySet<number>) {
  const all = new Set<number>();
  for (const part of parts) {
    const marks = leadingTo(part, outcome, given);
    if (marks === undefined) return undefined;
    for (const mark of marks) all.add(mark);
  }
  return all;
}

/** The same for all of several conditions: the one with the fewest marks will do. */
function leadingToAll(parts: readonly CompiledCondition[], outcome: boolean, given: ReadonlySet<number>) {
  let fewest: ReadonlySet<number> | undefined;
  for (const part of parts) {
    const marks = leadingTo(part, outcome, given);
    if (marks !== undefined && (fewest === undefined || marks.size < fewest.size)) fewest = marks;
  }
  return fewest;
}
