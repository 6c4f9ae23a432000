import { recall } from "../base/recall.ts";
import { valueAt } from "../base/record.ts";
import { type Text, textIn } from "../base/text.ts";
import type { Catalog, Condition } from "../catalog/model/catalog.ts";
import type { Context } from "./context.ts";
import { englishTexts, type TextCode } from "./english-texts.ts";

/** What a sentence speaks of. */
export type Word = string | number | Condition | readonly string[];
export type Words = Readonly<Record<string, Word>>;

/** Who speaks: the catalog that has the titles, and the context that has the language. */
export interface Voice {
  readonly catalog: Catalog;
  readonly context: Pick<Context, "language" | "texts">;
}

/**
 * Says a sentence.
 *
 * @example
 * sayText(voice, "take-off", { part: "storm-hat" }) // → 'Take "storm-hat" off.'
 */
export function sayText(voice: Voice, code: TextCode, words: Words = {}): string {
  const template = voice.context.texts?.[code] ?? englishTexts[code];
  let said = "";
  for (const piece of recall(templates, template, () => readTemplate(template))) {
    const word = typeof piece === "string" ? undefined : valueAt(words, piece.name);
    if (typeof piece === "string") said += piece;
    else if (word === undefined) said += piece.whole;
    else said += piece.title ? sayTitles(voice, piece.name, word) : sayWord(voice, word);
  }
  return said;
}

/** A piece of a template: words as they are, or a place for one. */
type Piece = string | { readonly whole: string; readonly name: string; readonly title: boolean };

/** Templates that were said before, in pieces. There are as many as the game has texts. */
const templates = new Map<string, readonly Piece[]>();

function readTemplate(template: string): readonly Piece[] {
  return template
    .split(/(\{[a-z]+(?::title)?\})/)
    .filter((piece) => piece !== "")
    .map((piece): Piece => {
      const [, name, title] = /^\{([a-z]+)(:title)?\}$/.exec(piece) ?? [];
      return name === undefined ? piece : { whole: piece, name, title: title !== undefined };
    });
}

/** What an author says of a rule, in the language of the voice. */
export function sayAuthored(voice: Voice, text: Text | undefined): readonly string[] {
  return text === undefined ? [] : [textIn(text, voice.context.language)];
}

function sayWord(voice: Voice, word: Word): string {
  if (typeof word === "string" || typeof word === "number") return String(word);
  if ("kind" in word) return sayCondition(voice, word);
  return word.map((id) => `"${id}"`).join(sayText(voice, "and"));
}

/** A condition in words: `something in slot "vest"`. */
function sayCondition(voice: Voice, condition: Condition): string {
  switch (condition.kind) {
    case "part":
    case "tag":
    case "slot":
    case "body":
      return sayText(voice, `a-${condition.kind}`, namedBy(condition.kind, condition.id));
    case "outfit":
      return sayText(voice, "an-outfit", namedBy("outfit", condition.id));
    case "fact":
      return sayText(voice, "a-fact", { id: condition.id, value: condition.value });
    case "signal":
      return condition.value === undefined
        ? sayText(voice, "a-signal", { id: condition.id })
        : sayText(voice, "a-signal-of", { id: condition.id, value: condition.value });
    case "any":
      return condition.of.map((each) => sayCondition(voice, each)).join(sayText(voice, "or"));
    case "all":
      return condition.of.map((each) => sayCondition(voice, each)).join(sayText(voice, "and"));
    case "not":
      return sayText(voice, "not-so", { condition: sayCondition(voice, condition.of) });
  }
}

/** The id under its own name as well, so that a text can ask for `{part:title}`. */
function namedBy(kind: string, id: string): Words {
  return { id, [kind]: id };
}

/** The title of what a word names; of a list, each of its members'. */
function sayTitles(voice: Voice, name: string, word: Word): string {
  if (typeof word !== "object" || "kind" in word) return sayTitle(voice, name, String(word));
  const single = name === "bodies" ? "body" : name.replace(/s$/, "");
  return word.map((id) => sayTitle(voice, single, id)).join(sayText(voice, "and"));
}

function sayTitle({ catalog, context }: Voice, name: string, id: string): string {
  const known = {
    part: catalog.parts,
    other: catalog.parts,
    slot: catalog.slots,
    body: catalog.bodies,
    outfit: catalog.outfits,
    channel: catalog.channels,
    ramp: catalog.ramps,
    preset: catalog.presets,
    step: catalog.creation?.steps ?? new Map(),
    stat: catalog.stats,
  };
  const titled = (valueAt(known, name) as ReadonlyMap<string, { title: Text }> | undefined)?.get(id);
  return titled === undefined ? id : textIn(titled.title, context.language);
}
