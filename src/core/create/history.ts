import { getOrInsert } from "../base/get-or-insert.ts";
import { changesBetween } from "../character/changes.ts";
import type { Character } from "../character/character.ts";

/** The states of a character that is edited: where it began, those that can be undone, and those that can be done again. */
export class History {
  original: Character;
  /** Where it is now. */
  current: Character;
  readonly #past: Character[] = [];
  readonly #future: Character[] = [];

  constructor(original: Character) {
    this.original = original;
    this.current = original;
  }

  get canUndo(): boolean {
    return this.#past.length > 0;
  }

  get canRedo(): boolean {
    return this.#future.length > 0;
  }

  /** The slots that were changed, the last change last. */
  get recentSlots(): readonly string[] {
    return this.#past.flatMap((before, at) => changesBetween(before, this.#past[at + 1] ?? this.current).slots);
  }

  /** Adds a state; what was undone cannot be done again then. `false` when it is the current one. */
  add(next: Character): boolean {
    if (next === this.current) return false;
    this.#past.push(this.current);
    this.#future.length = 0;
    this.current = next;
    return true;
  }

  /** Goes back a state; `false` at the first. */
  undo(): boolean {
    return this.#step(this.#past, this.#future);
  }

  /** Goes forward to the state that was undone last; `false` when there is none. */
  redo(): boolean {
    return this.#step(this.#future, this.#past);
  }

  /** Goes back to where it began, and forgets all others. */
  reset(): true {
    this.#past.length = 0;
    this.#future.length = 0;
    this.current = this.original;
    return true;
  }

  /** Changes every state in the same way: what happened to the character meanwhile, and nobody undoes. */
  amend(change: (state: Character) => Character): void {
    const made = new Map<Character, Character>();
    // What was one state stays one.
    const amended = (state: Character) => getOrInsert(made, state, () => change(state));
    this.original = amended(this.original);
    this.current = amended(this.current);
    for (const states of [this.#past, this.#future]) states.splice(0, states.length, ...states.map(amended));
  }

  #step(from: Character[], to: Character[]): boolean {
    const next = from.pop();
    if (next === undefined) return false;
    to.push(this.current);
    this.current = next;
    return true;
  }
}
