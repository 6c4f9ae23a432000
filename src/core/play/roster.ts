import { MantleError } from "../base/problem.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import { countGraphemes, graphemesOf, nameKey, nameLimit } from "../character/name.ts";

/** The characters of a profile, in their order, and those that are retired. */
export class Roster {
  readonly #characters = new Map<string, Character>();
  #order: string[] = [];
  readonly #retired = new Set<string>();
  readonly #max: number;

  /** @param most - how many there may be that are not retired. */
  constructor(characters: Iterable<Character>, order: readonly string[], retired: readonly string[], max: number) {
    for (const character of characters) this.#characters.set(character.id, character);
    const known = [...new Set(order)].filter((id) => this.#characters.has(id));
    const others = [...this.#characters.keys()].filter((id) => !known.includes(id)).sort();
    this.#order = [...known, ...others];
    for (const id of retired) if (this.#characters.has(id)) this.#retired.add(id);
    this.#max = max;
  }

  get active(): readonly Character[] {
    return this.#order.filter((id) => !this.#retired.has(id)).map((id) => this.get(id));
  }

  /** Whoever was retired last comes last. */
  get retired(): readonly Character[] {
    return [...this.#retired].map((id) => this.get(id));
  }

  get isFull(): boolean {
    return this.#order.length - this.#retired.size >= this.#max;
  }

  /** What of it is not in the characters themselves, as JSON. */
  get arrangement(): { readonly order: readonly string[]; readonly retired: readonly string[] } {
    return { order: this.#order, retired: [...this.#retired] };
  }

  find(id: string): Character | undefined {
    return this.#characters.get(id);
  }

  isRetired(id: string): boolean {
    return this.#retired.has(id);
  }

  /** The character with an id; not knowing it is a broken call. */
  get(id: string): Character {
    const character = this.#characters.get(id);
    if (character !== undefined) return character;
    throw new MantleError("unknown-character", `There is no character "${id}" in the roster. Add it first.`);
  }

  /** Puts a character in the place of the one with its id, or at the end. */
  put(character: Character): void {
    if (!this.#characters.has(character.id)) {
      if (this.isFull) throw this.#full();
      this.#order.push(character.id);
    }
    this.#characters.set(character.id, character);
  }

  retire(id: string): void {
    this.get(id);
    this.#retired.delete(id);
    this.#retired.add(id);
  }

  restore(id: string): void {
    this.get(id);
    if (this.#retired.has(id) && this.isFull) throw this.#full();
    this.#retired.delete(id);
  }

  /** Takes a character away for good. */
  remove(id: string): void {
    this.get(id);
    this.#characters.delete(id);
    this.#order = this.#order.filter((each) => each !== id);
    this.#retired.delete(id);
  }

  /** Moves a character to a place among those that are not retired, from 0. */
  move(id: string, place: number): void {
    this.get(id);
    const active = this.active.map((each) => each.id).filter((each) => each !== id);
    const at = Math.max(0, Math.min(active.length, place));
    this.#order = [...active.slice(0, at), id, ...active.slice(at), ...this.#retired].filter(
      (each, number, all) => all.indexOf(each) === number,
    );
  }

  /** A copy with an id and a name of its own. */
  copyOf(catalog: Catalog, id: string): Character {
    const original = this.get(id);
    const names = new Set([...this.#characters.values()].map(({ name }) => nameKey(name)));
    const most = catalog.names?.longest ?? nameLimit;
    for (let number = 2; ; number += 1) {
      const copy = `${id.replace(/-\d+$/, "")}-${number}`;
      const name = original.name === "" ? "" : shortened(original.name.replace(/ \d+$/, ""), ` ${number}`, most);
      if (!this.#characters.has(copy) && (name === "" || !names.has(nameKey(name))))
        return { ...original, id: copy, name };
    }
  }

  /** The names of all but one. */
  namesBeside(id: string): readonly string[] {
    return [...this.#characters.values()].filter((each) => each.id !== id).map(({ name }) => name);
  }

  #full(): MantleError {
    return new MantleError("roster-full", `The roster holds ${this.#max}. Retire somebody first.`);
  }
}

/** A name with something at its end, no longer than names may be. */
function shortened(name: string, end: string, most: number): string {
  const letters = [...graphemesOf(name)].map((each) => each.segment);
  return (
    letters
      .slice(0, Math.max(1, most - countGraphemes(end)))
      .join("")
      .trimEnd() + end
  );
}
