import type { NumberList } from "./number-list.ts";
import { fails, holds, type Literal, open, source, type Trail } from "./trail.ts";

/** Some values of a choice, and a literal that holds where the choice is one of them. */
export interface Mask {
  readonly literal: Literal;
  readonly choice: number;
  readonly values: readonly Literal[];
}

/** What never changes of choices, and is shared by all who search. */
export interface ChoiceTable {
  /** By choice, the literal of each value. */
  readonly values: readonly (readonly Literal[])[];
  readonly masks: readonly Mask[];
  /** By choice, and by mask, how many values there are. */
  readonly sizes: Int32Array;
  readonly maskSizes: Int32Array;
  /** By choice, how many values its largest mask has. */
  readonly largest: Int32Array;
  /** By variable of a value, its choice; -1 for others. */
  readonly choiceOf: Int32Array;
  /** By variable of a value, the masks it is in. */
  readonly masksOf: readonly (readonly number[] | undefined)[];
  /** By variable of the literal of a mask, that mask; -1 for others. */
  readonly maskOf: Int32Array;
}

/** The table of choices of three values or more, and of masks of their values. */
export function choiceTable(
  variables: number,
  values: readonly (readonly Literal[])[],
  masks: readonly Mask[],
): ChoiceTable {
  const choiceOf = new Int32Array(variables).fill(-1);
  const maskOf = new Int32Array(variables).fill(-1);
  const masksOf = new Array<number[] | undefined>(variables).fill(undefined);
  for (const [choice, literals] of values.entries()) {
    if (literals.length < 3) continue;
    for (const literal of literals) choiceOf[literal >> 1] = choice;
  }
  for (const [mask, { literal, values: within }] of masks.entries()) {
    maskOf[literal >> 1] = mask;
    for (const value of within) {
      const known = masksOf[value >> 1];
      if (known === undefined) masksOf[value >> 1] = [mask];
      else known.push(mask);
    }
  }
  const largest = new Int32Array(values.length);
  for (const { choice, values: within } of masks) largest[choice] = Math.max(largest[choice] as number, within.length);
  const sizes = Int32Array.from(values, ({ length }) => length);
  const maskSizes = Int32Array.from(masks, (mask) => mask.values.length);
  return { values, masks, sizes, maskSizes, largest, choiceOf, masksOf, maskOf };
}

/**
 * Choices of three values or more, of which exactly one holds, and masks of their values.
 *
 * A mask holds when only its values are left, and fails when none of them is.
 */
export class Choices {
  readonly #values: ChoiceTable["values"];
  readonly #masks: readonly Mask[];
  readonly #choiceOf: Int32Array;
  readonly #masksOf: ChoiceTable["masksOf"];
  readonly #maskOf: Int32Array;
  /** By choice, how many values are left. */
  readonly #left: Int32Array;
  /** By choice, a place before which no value is left. */
  readonly #first: Int32Array;
  /** By choice, how many values its largest mask has. */
  readonly #largest: Int32Array;
  /** By mask, how many of its values are left. */
  readonly #leftIn: Int32Array;
  /** By variable, the mask it was in when it was marked last, and 1; 0 when it never was. */
  readonly #marked: Int32Array;

  constructor({ values, masks, sizes, maskSizes, largest, choiceOf, masksOf, maskOf }: ChoiceTable) {
    this.#values = values;
    this.#masks = masks;
    this.#choiceOf = choiceOf;
    this.#masksOf = masksOf;
    this.#maskOf = maskOf;
    this.#left = sizes.slice();
    this.#first = new Int32Array(values.length);
    this.#largest = largest;
    this.#leftIn = maskSizes.slice();
    this.#marked = new Int32Array(choiceOf.length);
  }

  /** The choice that a variable is a value of; -1 for others. */
  choiceOf(variable: number): number {
    return this.#choiceOf[variable] ?? -1;
  }

  /** How many values a choice of three or more has left. */
  left(choice: number): number {
    return this.#left[choice] as number;
  }

  /** Follows up a literal that holds now; whether every choice still has a value. */
  follow(literal: Literal, trail: Trail): boolean {
    const variable = literal >> 1;
    const choice = this.#choiceOf[variable] ?? -1;
    if (choice >= 0) {
      if ((literal & 1) === 1) return this.#drop(variable, choice, trail);
      const values = this.#values[choice] ?? [];
      for (let at = 0; at < values.length; at += 1) {
        const value = values[at] as number;
        const known = trail.values[value];
        if (value === literal || known === fails) continue;
        if (known === open) trail.assign(value ^ 1, source.exclusion, literal);
        else {
          trail.conflict.set([literal ^ 1, value ^ 1]);
          return false;
        }
      }
      return true;
    }
    const mask = this.#maskOf[variable] ?? -1;
    return mask < 0 || this.#bind(literal, mask, trail);
  }

  /** A value is open again. */
  undo(literal: Literal, wasFollowed: boolean): void {
    const variable = literal >> 1;
    const choice = this.#choiceOf[variable] ?? -1;
    if (choice < 0 || (literal & 1) === 0) return;
    // The variables of a choice follow one another.
    const place = variable - ((this.#values[choice]?.[0] as number) >> 1);
    if (place < (this.#first[choice] as number)) this.#first[choice] = place;
    if (!wasFollowed) return;
    this.#left[choice] = (this.#left[choice] as number) + 1;
    const masks = this.#masksOf[variable];
    if (masks === undefined) return;
    for (let at = 0; at < masks.length; at += 1) {
      const mask = masks[at] as number;
      this.#leftIn[mask] = (this.#leftIn[mask] as number) + 1;
    }
  }

  #drop(variable: number, choice: number, trail: Trail): boolean {
    const left = (this.#left[choice] as number) - 1;
    this.#left[choice] = left;
    const masks = this.#masksOf[variable];
    let empty = -1;
    if (masks !== undefined) {
      for (let at = 0; at < masks.length; at += 1) {
        const mask = masks[at] as number;
        const within = (this.#leftIn[mask] as number) - 1;
        this.#leftIn[mask] = within;
        if (within > 0) continue;
        const { literal, values } = this.#masks[mask] as Mask;
        const known = trail.values[literal];
        if (known === open) trail.assign(literal ^ 1, source.choice, mask);
        else if (known === holds && empty < 0) {
          empty = mask;
          trail.conflict.set([literal ^ 1, ...values]);
        }
      }
    }
    if (empty >= 0) return false;
    const values = this.#values[choice] as readonly Literal[];
    let at = this.#first[choice] as number;
    while (at < values.length && trail.values[values[at] as number] === fails) at += 1;
    this.#first[choice] = at;
    const first = at < values.length ? (values[at] as number) : -1;
    if (first < 0) {
      trail.conflict.set(values);
      return false;
    }
    if (left === 1 && trail.values[first] === open) trail.assign(first, source.choice, -1 - choice);
    if (left > (this.#largest[choice] as number)) return true;
    // Whatever mask has all that is left has the first of it.
    const around = this.#masksOf[first >> 1];
    if (around === undefined) return true;
    for (let each = 0; each < around.length; each += 1) {
      const mask = around[each] as number;
      if ((this.#leftIn[mask] as number) < left) continue;
      const { literal } = this.#masks[mask] as Mask;
      const known = trail.values[literal];
      if (known === open) trail.assign(literal, source.choice, mask);
      else if (known === fails) {
        trail.conflict.set([literal, ...this.#outside(mask)]);
        return false;
      }
    }
    return true;
  }

  #bind(literal: Literal, mask: number, trail: Trail): boolean {
    const { literal: own, values } = this.#masks[mask] as Mask;
    const dropped = literal === own ? this.#outside(mask) : values;
    for (let at = 0; at < dropped.length; at += 1) {
      const value = dropped[at] as number;
      const known = trail.values[value];
      if (known === open) trail.assign(value ^ 1, source.exclusion, literal);
      else if (known === holds) {
        trail.conflict.set([literal ^ 1, value ^ 1]);
        return false;
      }
    }
    return true;
  }

  #outside(mask: number): readonly Literal[] {
    const { choice, values } = this.#masks[mask] as Mask;
    const marked = this.#marked;
    for (let at = 0; at < values.length; at += 1) marked[(values[at] as number) >> 1] = mask + 1;
    return (this.#values[choice] as readonly Literal[]).filter((value) => marked[value >> 1] !== mask + 1);
  }

  /** The failing literals that made a literal hold. */
  explain(literal: Literal, reason: number, into: NumberList): void {
    if (reason < 0) {
      for (const value of this.#values[-1 - reason] ?? []) if (value !== literal) into.push(value);
      return;
    }
    const mask = this.#masks[reason] as Mask;
    const failing = literal === mask.literal ? this.#outside(reason) : mask.values;
    for (let at = 0; at < failing.length; at += 1) into.push(failing[at] as number);
  }
}
