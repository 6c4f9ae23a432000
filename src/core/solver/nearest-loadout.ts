import { getOwn } from "../base/record.ts";
import type { Character } from "../character/character.ts";
import type { Situation } from "../character/situation.ts";
import type { Broken } from "../rules/find-broken.ts";
import { BagRoom } from "./bag-room.ts";
import { LoadoutSearch } from "./loadout-search.ts";
import type { Model, Value } from "./model.ts";
import type { Budget } from "./search/budget.ts";
import { type Aim, type Fewest, FewestSearch } from "./search/fewest.ts";
import { always, type Literal } from "./search/trail.ts";

/** Whose loadout is sought, and what binds it. */
export interface Seeking extends Situation {
  readonly model: Model;
  /** What is broken and may stay so. */
  readonly waived?: readonly Broken[];
  /** What a slot is bound to: what it holds now, or a part. */
  readonly bindOf: (slot: string) => "keep" | { readonly part: string } | undefined;
}

/** By variable, the number of a value. */
type Values = readonly number[];

/** Steps that choosing among answers that tie may take. */
const stepsOfTies = 4_000;

type Report = (state: { readonly changes: number | undefined; readonly lowerBound: number }) => void;

/** Finds the valid loadout that is nearest to a character's: in which the fewest slots change what is chosen in them. */
export class NearestLoadout {
  readonly #seeking: Seeking;
  /** By variable, the values that are no change; all of those that are no slots. */
  readonly #staying: readonly ReadonlySet<number>[];
  readonly #choices: readonly number[];
  readonly #search: LoadoutSearch;
  /** By variable, a literal that holds while its slot stays as it is. */
  readonly #wishes: ReadonlyMap<number, Literal>;
  #fewest: FewestSearch<Values> | undefined;
  #room: BagRoom | undefined;

  constructor(seeking: Seeking) {
    const { model } = seeking;
    this.#seeking = seeking;
    this.#staying = model.variables.map(({ slot, values }) =>
      slot === undefined ? new Set(values.keys()) : this.#stayingIn(slot.id, values),
    );
    this.#choices = model.variables.flatMap(({ slot }, variable) => (slot === undefined ? [] : [variable]));
    this.#search = this.#open();
    const { catalog, character, context } = seeking;
    if (context.bagPlaces !== undefined) this.#keepRoom(new BagRoom(catalog, character, context, context.bagPlaces));
    this.#wishes = this.#wish(this.#search);
  }

  /** Looks only for loadouts of which what comes off finds room in the bag. */
  #keepRoom(room: BagRoom): void {
    const { engine } = this.#search;
    room.require(this.#search, this.#staying);
    const accepts = engine.accepts;
    engine.accepts = () => {
      const wrong = accepts?.();
      if (wrong !== undefined) return wrong;
      const values = this.#search.values();
      return room.holds(this.loadoutOf(values)) ? undefined : room.literalsOf(this.#search, values);
    };
    this.#room = room;
  }

  #stayingIn(slot: string, values: readonly Value[]): ReadonlySet<number> {
    const part = this.#chosenIn(slot);
    const isBare = part === undefined || this.#isDefault(slot, part);
    const staying = new Set<number>();
    for (const [number, { kind, parts }] of values.entries()) {
      if (kind === "worn" ? parts.some(({ id }) => id === part) : isBare) staying.add(number);
    }
    return staying;
  }

  /** What is chosen in a slot, as far as the catalog knows it. */
  #chosenIn(slot: string): string | undefined {
    const { catalog, character } = this.#seeking;
    const part = getOwn(character.loadout, slot);
    return part !== undefined && catalog.parts.has(part) ? part : undefined;
  }

  /** Whether what is chosen in a slot is worn with a value that is no change. */
  #isKept(slot: string, value: Value | undefined): boolean {
    return this.#chosenIn(slot) === undefined || value?.kind !== "covered";
  }

  #isDefault(slot: string, part: string): boolean {
    const known = this.#seeking.catalog.slots.get(slot);
    return known?.required === true && known.default === part;
  }

  find(budget: Budget, report: Report | undefined): Fewest<Values> {
    const { engine, program } = this.#search;
    const costs = this.#seeking.model.variables.map(({ values }, variable) =>
      values.map((_, value) => (this.#staying[variable]?.has(value) === true ? 0 : 1)),
    );
    const wishes = [...this.#wishes.values()].filter((wish) => wish !== always);
    const aim: Aim<Values> = {
      wishes,
      costs,
      read: () => this.#search.values(),
      report: ({ size, least }) => report?.({ changes: size, lowerBound: least }),
    };
    this.#fewest = new FewestSearch(engine, program.program, aim, budget);
    return this.#fewest.run();
  }

  /** A search among loadouts in which every slot has what it is bound to. */
  #open(): LoadoutSearch {
    const { model, character, context, waived, bindOf } = this.#seeking;
    const search = new LoadoutSearch(model, character.facts, context, waived === undefined ? {} : { waived });
    const { engine } = search;
    for (const variable of this.#choices) {
      const { slot, values } = model.variables[variable] ?? {};
      const bound = slot && bindOf(slot.id);
      if (slot === undefined || values === undefined || bound === undefined) continue;
      const allowed = [...values.keys()].filter((value) =>
        bound === "keep"
          ? this.#staying[variable]?.has(value) === true && this.#isKept(slot.id, values[value])
          : values[value]?.parts.some(({ id }) => id === bound.part) === true,
      );
      const literals = allowed.map((value) => search.literal(variable, value));
      for (const value of values.keys())
        if (!allowed.includes(value)) engine.require(search.literal(variable, value) ^ 1);
      engine.requireAny(literals);
    }
    return search;
  }

  #wish(search: LoadoutSearch): ReadonlyMap<number, Literal> {
    const { engine } = search;
    const wishes = new Map<number, Literal>();
    for (const variable of this.#choices) {
      const staying = [...(this.#staying[variable] ?? [])];
      const [first] = staying;
      const own = staying.map((value) => search.literal(variable, value));
      if (first !== undefined) engine.preferred[variable] = own[0] ?? -1;
      wishes.set(variable, this.#within(search, variable, own));
    }
    return wishes;
  }

  #within({ engine, program, model }: LoadoutSearch, variable: number, own: readonly Literal[]): Literal {
    const { length } = model.variables[variable]?.values ?? [];
    const [first = 1] = own;
    if (own.length === length) return always;
    if (own.length < 2) return first;
    const free = model.variables[variable]?.values.filter(({ kind }) => kind !== "worn").length ?? 0;
    if (own.length === free && program.unchosen[variable] !== undefined) {
      const { kind } = model.variables[variable]?.values[[...(this.#staying[variable] ?? [])].at(-1) ?? 0] ?? {};
      if (kind !== "worn") return program.unchosen[variable];
    }
    const literal = engine.add();
    engine.requireAny([literal ^ 1, ...own]);
    for (const each of own) engine.requireAny([literal, each ^ 1]);
    return literal;
  }

  /** Among the smallest answers, the one that changes what matters least: each slot stays in turn, where that costs nothing. */
  preferred(found: Values, size: number, recent: readonly string[], budget: Budget): Values {
    if (size === 0 || this.#fewest === undefined) return found;
    const rank = this.#rankOf(recent);
    const kept: Literal[] = [this.#fewest.within(size)];
    let values = found;
    let left = Math.min(stepsOfTies, budget.steps / 4);
    for (const variable of [...this.#choices].sort((one, other) => rank(one) - rank(other))) {
      const wish = this.#wishes.get(variable);
      if (wish === undefined || wish === always) continue;
      if (this.#moves(values, variable)) {
        if (left < 1) continue;
        const part = { steps: left / 4, isOver: budget.isOver };
        const outcome = this.#search.engine.search([...kept, wish], part);
        left -= left / 4 - part.steps;
        if (outcome !== "found") continue;
        values = this.#search.values();
      }
      kept.push(wish);
    }
    return this.#plainest(this.#search, values);
  }

  /** The values with the first of each slot that will do as well. */
  #plainest(search: LoadoutSearch, values: Values): Values {
    const plain = [...values];
    for (const variable of this.#choices) {
      if (!this.#moves(plain, variable)) continue;
      const chosen = plain[variable] ?? 0;
      for (let value = 0; value < Math.min(chosen, 32); value += 1) {
        if (this.#staying[variable]?.has(value) === true) continue;
        if (
          search.engine.trail.levels[search.literal(variable, value) >> 1] === 0 &&
          !search.engine.has(search.literal(variable, value))
        )
          continue;
        const tried = plain.with(variable, value);
        if (!this.#isSound(search, tried)) continue;
        plain[variable] = value;
        break;
      }
    }
    return plain;
  }

  /** Whether all holds, and what is issued or covered is so by the choices. */
  #isSound(search: LoadoutSearch, values: Values): boolean {
    if (search.judge(values).length > 0 || this.#room?.holds(this.loadoutOf(values)) === false) return false;
    const { issued } = search.state(values);
    return this.#choices.every((variable) => {
      const kind = this.#seeking.model.variables[variable]?.values[values[variable] ?? 0]?.kind;
      return kind !== "issued" || issued[variable] === 1;
    });
  }

  #moves(values: Values, variable: number): boolean {
    return this.#staying[variable]?.has(values[variable] ?? 0) !== true;
  }

  /** What a slot that changes matters: what was chosen last most, then appearance, then what is worn, then what is bare. */
  #rankOf(recent: readonly string[]): (variable: number) => number {
    const { model } = this.#seeking;
    return (variable) => {
      const slot = model.variables[variable]?.slot;
      if (slot === undefined) return 0;
      if (recent.includes(slot.id)) return recent.length - recent.lastIndexOf(slot.id);
      if (slot.kind === "appearance") return recent.length + 1;
      return recent.length + (this.#chosenIn(slot.id) === undefined ? 3 : 2);
    };
  }

  /** The loadout of an answer: what stays as it is, and of parts that rules do not distinguish the first. */
  loadoutOf(values: Values): Character["loadout"] {
    const { model, character, bindOf } = this.#seeking;
    const loadout: Record<string, string> = { ...character.loadout };
    for (const variable of this.#choices) {
      const { slot, values: choices = [] } = model.variables[variable] ?? {};
      if (slot === undefined) continue;
      const bound = bindOf(slot.id);
      const value = choices[values[variable] ?? -1];
      if (typeof bound !== "object" && !this.#moves(values, variable) && this.#keeps(slot.id, value, choices)) continue;
      const wanted = typeof bound === "object" ? bound.part : value?.parts[0]?.id;
      if (value?.kind === "worn" && wanted !== undefined) loadout[slot.id] = wanted;
      else delete loadout[slot.id];
    }
    return loadout;
  }

  /** Whether what is chosen in a slot may stay with a value that is no change: a default that was chosen comes by itself as well. */
  #keeps(slot: string, value: Value | undefined, choices: readonly Value[]): boolean {
    const part = this.#chosenIn(slot);
    if (part === undefined || value?.kind === "worn") return true;
    return (
      value?.kind === "issued" &&
      choices.some(({ kind, parts }) => kind === "worn" && parts.some(({ id }) => id === part))
    );
  }
}
