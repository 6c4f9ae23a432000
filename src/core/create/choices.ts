import { getOrInsert } from "../base/get-or-insert.ts";
import type { Text } from "../base/text.ts";
import type { Catalog, Step } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { EditResult, LoadoutProblem } from "../character/edit.ts";
import { applyEdit } from "../edits/apply-edit.ts";
import { type Option, optionsFor } from "../loadout/options-for.ts";
import type { Answer } from "./progress.ts";
import { editFor } from "./walk-steps.ts";

/** One thing a step offers. Everything but the answer and its words is worked out when it is first read. */
export interface Choice {
  readonly answer: Answer;
  /** `undefined` for nothing in a slot. */
  readonly title: Text | undefined;
  /** What the author says of it. */
  readonly say: Text | undefined;
  /** As of options: whether it can be chosen now. */
  readonly state: "ready" | "displaces" | "blocked" | "locked";
  /** Why it cannot be chosen. */
  readonly problems: readonly LoadoutProblem[];
  /** The character as it would be, with every later answer that still fits. */
  readonly shows: Character;
}

/** What choices are made of: a step, who it is asked, and how an answer would look. */
interface Asking {
  readonly catalog: Catalog;
  readonly step: Step;
  readonly before: Character;
  readonly context: Context;
  readonly showWith: (answer: Answer) => Character;
}

/** What a step offers, without what is secret to this player; empty for a name, which is written. */
export function choicesOf(asking: Asking): readonly Choice[] {
  const { catalog, step, before, context } = asking;
  const { asks } = step;
  const choice = (answer: Answer, title: Text | undefined, say?: Text) => new LazyChoice(asking, answer, title, say);
  const titled = (ids: readonly string[], all: ReadonlyMap<string, { title: Text; say?: Text | undefined }>) =>
    ids.map((id) => choice(id, all.get(id)?.title ?? id, all.get(id)?.say));
  switch (asks.kind) {
    case "body":
      return titled(asks.from, catalog.bodies);
    case "outfit":
      return titled(asks.from, catalog.outfits);
    case "preset":
      return titled(asks.from, catalog.presets);
    case "color":
      return titled(asks.from, catalog.ramps);
    case "fact":
      return asks.from.map(({ id, title, say }) => choice(id, title, say));
    case "name":
      return [];
    case "part": {
      const offered = new Set(asks.from);
      const options = optionsFor(catalog, before, asks.slot, context).filter(
        ({ part, state }) => offered.has(part.id) && state !== "secret",
      );
      const parts = options.map(
        (option) => new LazyChoice(asking, option.part.id, option.part.title, undefined, option),
      );
      return asks.bare ? [choice(null, undefined), ...parts] : parts;
    }
  }
}

class LazyChoice implements Choice {
  readonly answer: Answer;
  readonly title: Text | undefined;
  readonly say: Text | undefined;
  readonly #asking: Asking;
  readonly #option: Option | undefined;
  readonly #known = new Map<"result" | "shows", unknown>();

  constructor(asking: Asking, answer: Answer, title: Text | undefined, say: Text | undefined, option?: Option) {
    this.#asking = asking;
    this.answer = answer;
    this.title = title;
    this.say = say;
    this.#option = option;
  }

  get state(): Choice["state"] {
    const state = this.#option?.state;
    if (state === "worn") return "ready";
    if (state !== undefined && state !== "secret") return state;
    const result = this.#result();
    if (!result.ok) return "blocked";
    return result.displaced.length > 0 ? "displaces" : "ready";
  }

  get problems(): readonly LoadoutProblem[] {
    const result = this.#result();
    return result.ok ? [] : result.problems;
  }

  get shows(): Character {
    return getOrInsert(this.#known, "shows", () => this.#asking.showWith(this.answer)) as Character;
  }

  #result(): EditResult {
    const { catalog, step, before, context } = this.#asking;
    return getOrInsert(this.#known, "result", () => {
      const edit = editFor(step, this.answer);
      if (edit === undefined) throw new TypeError(`Step "${step.id}" offers "${this.answer}", which it cannot do`);
      return applyEdit(catalog, before, edit, context);
    }) as EditResult;
  }
}
