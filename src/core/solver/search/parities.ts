import type { Literal } from "./trail.ts";

/** That of some variables an even number holds, or an odd one. */
interface Parity {
  readonly variables: ReadonlySet<number>;
  readonly isOdd: boolean;
}

/** The largest parity that is looked for: it takes half as many clauses as there are ways to fill its variables. */
const most = 6;

/**
 * Whether what some clauses say of even and odd cannot hold together, which a search by clauses would take very long to see.
 *
 * Parities are found among the clauses and eliminated one by another, as linear equations are. J. P. Warners, H. van Maaren, "A
 * two-phase algorithm for solving a class of hard satisfiability problems" (1998).
 */
export function haveNoParity(clauses: readonly (readonly Literal[])[]): boolean {
  const equations = new Map<number, Parity>();
  for (const parity of paritiesIn(clauses)) {
    let left = parity;
    for (;;) {
      const [pivot] = [...left.variables].sort((one, other) => one - other);
      if (pivot === undefined) {
        if (left.isOdd) return true;
        break;
      }
      const known = equations.get(pivot);
      if (known === undefined) {
        equations.set(pivot, left);
        break;
      }
      left = added(left, known);
    }
  }
  return false;
}

function added(one: Parity, other: Parity): Parity {
  const variables = new Set(one.variables);
  for (const variable of other.variables) if (!variables.delete(variable)) variables.add(variable);
  return { variables, isOdd: one.isOdd !== other.isOdd };
}

/** Clauses over the same variables that leave out every way with an even number of them, or every way with an odd one. */
function paritiesIn(clauses: readonly (readonly Literal[])[]): readonly Parity[] {
  const found = new Map<string, { readonly variables: readonly number[]; readonly ways: [Set<string>, Set<string>] }>();
  for (const clause of clauses) {
    if (clause.length < 2 || clause.length > most) continue;
    const literals = [...clause].sort((one, other) => one - other);
    const variables = literals.map((literal) => literal >> 1);
    const key = variables.join(" ");
    const known = found.get(key) ?? { variables, ways: [new Set<string>(), new Set<string>()] };
    found.set(key, known);
    // What the clause leaves out makes all its literals fail: so many variables hold as are negated in it.
    const negated = literals.reduce((count, literal) => count + (literal & 1), 0);
    known.ways[(negated & 1) as 0 | 1].add(literals.join(" "));
  }
  return [...found.values()].flatMap(({ variables, ways }) => {
    const all = 2 ** (variables.length - 1);
    return ([0, 1] as const).flatMap((left) =>
      ways[left].size === all ? [{ variables: new Set(variables), isOdd: left === 0 }] : [],
    );
  });
}
