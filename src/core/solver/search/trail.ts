import { NumberList } from "./number-list.ts";

/** A literal: a yes-or-no variable, twice its number; or its negation, one more. */
export type Literal = number;

/** The literal that always holds, and the one that never does. */
export const always: Literal = 0;
export const never: Literal = 1;

/** What is known of a literal. */
export const open = 0;
export const holds = 1;
export const fails = 2;

/** What made a literal hold: nobody but the search, or one of those who draw conclusions. */
export const source = { decision: 0, clause: 1, choice: 2, exclusion: 3, sum: 4, product: 5 } as const;

/**
 * What is known, in the order in which it became known, with the reason of each; and how to go back.
 *
 * Levels are counted from 0, at which everything holds for good. Level 1 has the assumptions, if there are any.
 */
export class Trail {
  /** By literal: `open`, `holds` or `fails`. */
  values: Uint8Array;
  /** By variable. */
  levels: Int32Array;
  positions: Int32Array;
  sources: Uint8Array;
  reasons: Int32Array;
  /** By position. */
  literals: Int32Array;
  size = 0;
  /** How many literals have been followed up. */
  followed = 0;
  variables: number;
  /** The size at which each level begins, from level 1. */
  readonly starts: number[] = [];
  /** Literals that all fail, of which one had to hold. */
  readonly conflict = new NumberList();

  constructor(variables: number) {
    const room = variables + 64;
    this.variables = variables;
    this.values = new Uint8Array(2 * room);
    this.levels = new Int32Array(room);
    this.positions = new Int32Array(room);
    this.sources = new Uint8Array(room);
    this.reasons = new Int32Array(room);
    this.literals = new Int32Array(room);
    this.assign(always, source.decision, 0);
  }

  get level(): number {
    return this.starts.length;
  }

  /** Makes an open literal hold. */
  assign(literal: Literal, by: number, reason: number): void {
    const variable = literal >> 1;
    this.values[literal] = holds;
    this.values[literal ^ 1] = fails;
    this.levels[variable] = this.starts.length;
    this.positions[variable] = this.size;
    this.sources[variable] = by;
    this.reasons[variable] = reason;
    this.literals[this.size] = literal;
    this.size += 1;
  }

  /** A new variable. */
  add(): number {
    const variable = this.variables;
    this.variables += 1;
    if (variable < this.levels.length) return variable;
    const room = 2 * variable;
    this.values = grown(this.values, new Uint8Array(2 * room));
    this.levels = grown(this.levels, new Int32Array(room));
    this.positions = grown(this.positions, new Int32Array(room));
    this.sources = grown(this.sources, new Uint8Array(room));
    this.reasons = grown(this.reasons, new Int32Array(room));
    this.literals = grown(this.literals, new Int32Array(room));
    return variable;
  }
}

function grown<A extends Uint8Array | Int32Array | Float64Array>(from: A, to: A): A {
  to.set(from as never);
  return to;
}
