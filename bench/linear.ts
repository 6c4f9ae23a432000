import type { ConditionSource, RuleSource, Source } from "./catalogs.ts";

/** Weighted variables, by number, of which the sum keeps within a bound. */
export interface Row {
  readonly terms: readonly (readonly [weight: number, variable: number])[];
  readonly atMost: number;
}

/** A repair as linear rows over yes-or-no variables, one for each part in its slot: what general solvers take. */
export interface LinearModel {
  readonly variables: number;
  readonly rows: readonly Row[];
  /** What is minimized: `fixed` and the sum of the costs. */
  readonly costs: readonly (readonly [cost: number, variable: number])[];
  readonly fixed: number;
}

/** The fewest changes of a loadout, as a linear model: as tight as it can be said without more variables. */
export function linearModel(source: Source, loadout: Readonly<Record<string, string>>): LinearModel {
  const parts = Object.entries(source.parts);
  const number = new Map(parts.map(([id], at) => [id, at]));
  const slots = Object.keys(source.slots);
  const inSlot = new Map(slots.map((slot) => [slot, parts.flatMap(([id, part]) => (part.slot === slot ? [id] : []))]));
  const rows: Row[] = [];
  const numberOf = (id: string) => number.get(id) ?? -1;
  const sum = (ids: readonly string[], weight = 1) => ids.map((id) => [weight, numberOf(id)] as const);
  for (const [slot, ids] of inSlot) {
    rows.push({ terms: sum(ids), atMost: 1 });
    if ((source.slots[slot] as { required?: boolean }).required === true)
      rows.push({ terms: sum(ids, -1), atMost: -1 });
  }
  const matching = (pattern: string): readonly string[] => {
    const [kind, named = ""] = pattern.split(":");
    if (kind === "part") return [named];
    return parts
      .filter(([, part]) => (kind === "tag" ? part.tags.includes(named) : part.slot === named))
      .map(([id]) => id);
  };
  for (const rule of source.rules) rows.push(...rowsOf(rule, { source, matching, sum, slots }));
  const worn = slots.map((slot) => loadout[slot]);
  return {
    variables: parts.length,
    rows,
    fixed: worn.filter((id) => id !== undefined).length,
    costs: slots.flatMap((slot, at) => {
      const own = worn[at];
      return own === undefined ? sum(inSlot.get(slot) ?? []) : sum([own], -1);
    }),
  };
}

interface Making {
  readonly source: Source;
  readonly matching: (pattern: string) => readonly string[];
  readonly sum: (ids: readonly string[], weight?: number) => readonly (readonly [number, number])[];
  readonly slots: readonly string[];
}

function rowsOf(rule: RuleSource, { source, matching, sum, slots }: Making): readonly Row[] {
  const bySlot = (ids: readonly string[]) =>
    slots.flatMap((slot) => {
      const own = ids.filter((id) => source.parts[id]?.slot === slot);
      return own.length === 0 ? [] : [{ slot, own }];
    });
  if (rule.never !== undefined) {
    const [one = [], other = []] = rule.never.map((pattern) => bySlot(matching(pattern)));
    return one.flatMap((a) =>
      other.flatMap((b) => (a.slot === b.slot ? [] : [{ terms: [...sum(a.own), ...sum(b.own)], atMost: 1 }])),
    );
  }
  if (rule.if !== undefined) {
    const away = listOf(rule.if);
    const wanted = listOf(rule.needs ?? "");
    const [first = ""] = away.patterns;
    if (away.patterns.length === 1 && !away.isNot && !wanted.isNot) {
      const needed = wanted.patterns.flatMap(matching);
      return bySlot(matching(first)).map(({ own }) => ({
        terms: [
          ...sum(own),
          ...sum(
            [...new Set(needed)].filter((id) => !own.includes(id)),
            -1,
          ),
        ].concat(),
        atMost: own.some((id) => needed.includes(id)) ? 1 : 0,
      }));
    }
    // One of some parts must be worn, or not be worn.
    const ways = [
      ...away.patterns.map((pattern) => ({ pattern, worn: away.isNot })),
      ...wanted.patterns.map((pattern) => ({ pattern, worn: !wanted.isNot })),
    ];
    const terms = ways.flatMap(({ pattern, worn }) => sum(matching(pattern), worn ? -1 : 1));
    return [{ terms, atMost: ways.filter(({ worn }) => !worn).length - 1 }];
  }
  const terms =
    rule.count !== undefined
      ? sum(matching(rule.count))
      : Object.entries(source.parts).flatMap(([id, { gives }]) => sum([id], gives[rule.total ?? ""] ?? 0));
  return [
    ...(rule.atMost === undefined ? [] : [{ terms, atMost: rule.atMost }]),
    ...(rule.atLeast === undefined
      ? []
      : [{ terms: terms.map(([weight, at]) => [-weight, at] as const), atMost: -rule.atLeast }]),
  ];
}

function listOf(condition: string | ConditionSource) {
  if (typeof condition === "string") return { patterns: [condition], isNot: false };
  if (condition.not !== undefined) return { patterns: [condition.not], isNot: true };
  return { patterns: condition.any ?? condition.all ?? [], isNot: false };
}
