import type { Pattern, Rule, RuleOf } from "../catalog/model/catalog.ts";
import { type Dressed, holds, matches, patternsIn } from "../rules/condition.ts";

/** What whoever makes a catalog sees of a kind of rule: whom it concerns, and what it makes of parts. How it is judged is in `core/rules/kinds`. */
export interface RelatedKind<K extends Rule["kind"]> {
  /** Whether it has to do with what is worn, though it is kept. */
  concerns(rule: RuleOf<K>, dressed: Dressed): boolean;
  /** What it makes of parts, two by two. */
  relate(rule: RuleOf<K>): readonly Relating[];
}

/** What a rule makes of every two parts of which one fits the first pattern, and the other the second. */
export interface Relating {
  /** `excludes`: they are never worn together. `displaces`: putting on one takes off the other. `needs`: the first asks for the other, or for one of several. */
  readonly kind: "excludes" | "displaces" | "needs";
  readonly one: Pattern;
  readonly other: Pattern;
}

const isWorn = (pattern: Pattern, { worn }: Dressed) => worn.some((each) => matches(pattern, each));

const relatedKinds: { readonly [K in Rule["kind"]]: RelatedKind<K> } = {
  never: {
    concerns: ({ patterns }, dressed) => patterns.some((pattern) => isWorn(pattern, dressed)),
    relate({ patterns, then }) {
      const kind = then === "displace" ? "displaces" : "excludes";
      return patterns.flatMap((one, at) => patterns.slice(at + 1).map((other) => ({ kind, one, other }) as const));
    },
  },
  needs: {
    concerns: ({ when }, dressed) => holds(when, dressed),
    relate: ({ when, needs }) =>
      patternsIn(when).flatMap((one) => patternsIn(needs).map((other) => ({ kind: "needs", one, other }) as const)),
  },
  count: {
    concerns: ({ atLeast, of }, dressed) => atLeast !== undefined || isWorn(of, dressed),
    relate: ({ atMost, of }) => (atMost === 1 ? [{ kind: "excludes", one: of, other: of }] : []),
  },
  set: {
    concerns: ({ of, atLeast }, dressed) => of.filter((pattern) => isWorn(pattern, dressed)).length >= atLeast,
    relate: () => [],
  },
  total: { concerns: () => true, relate: () => [] },
};

/** What whoever makes a catalog sees of the kind of a rule. */
export function relatedKind(rule: Rule): RelatedKind<Rule["kind"]> {
  return relatedKinds[rule.kind] as RelatedKind<Rule["kind"]>;
}
