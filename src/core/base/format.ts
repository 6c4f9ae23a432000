import { getOrInsert } from "./get-or-insert.ts";
import type { Message, Param, Params, PartialMessages } from "./message.ts";
import { formatNumber, pluralOf } from "./number-words.ts";
import type { Problem } from "./problem.ts";
import { getOwn } from "./record.ts";
import { type Text, textIn } from "./text.ts";

/** What things are called, so that sentences name them as players know them; `catalogTitles` takes them from a catalog. */
export interface Titles {
  /** BCP 47 tag of the language. @defaultValue `"en"` */
  readonly language?: string;
  /**
   * The title of a thing; `undefined` where it has none, and is called by its id.
   *
   * @param beside - all that the sentence speaks of: an answer is one to the `fact` beside it.
   */
  readonly titleOf?: (noun: EntityKind, id: string, beside: Params) => string | undefined;
}

/** What has a title. */
export type EntityKind =
  | "part"
  | "slot"
  | "body"
  | "outfit"
  | "channel"
  | "ramp"
  | "preset"
  | "step"
  | "stat"
  | "tag"
  | "fact"
  | "answer";

/**
 * Puts a message into words: a finding, what to do about it, why something came off. Sentences that follow it are added.
 *
 * @param messages - the sentences of a language, such as `messages` of `zealous-mantle/locales/en`.
 * @param titles - what things are called; ids in quotation marks where it is left out.
 * @example
 * format(problem, messages)
 * // → '"storm-hat" and "hood-up" are never worn together. A hood does not close over a brim.'
 * format(problem, messages, catalogTitles(catalog, "en"))
 * // → 'Storm hat and Hood up are never worn together. A hood does not close over a brim.'
 */
export function format({ code, params, more = [] }: Message, messages: PartialMessages, titles: Titles = {}): string {
  // What an author says is in the catalog, in every language that it has.
  const template = messages[code] ?? (code === "authored" ? "{say:text}" : code);
  let said = "";
  for (const piece of getOrInsert(templates, template, () => readTemplate(template)))
    said += typeof piece === "string" ? piece : formatPiece(piece, params, messages, titles);
  return more.length === 0 ? said : [said, ...more.map((each) => format(each, messages, titles))].join(" ");
}

/**
 * Formats a problem for people: where, what, and what to do, in one line.
 *
 * @example
 * describeProblem(problem, messages)
 * // → '/loadout/neck: "storm-hat" and "hood-up" are never worn together. A hood does not close over a brim. Take "storm-hat" off. Take "hood-up" off.'
 */
export function describeProblem(problem: Problem<unknown>, messages: PartialMessages, titles: Titles = {}): string {
  const { file, line, column, pointer } = problem.place;
  const where = [[file, line, column].filter(Boolean).join(":"), pointer].filter(Boolean).join(" ");
  const what = [problem, ...problem.fixes].map((each) => format(each, messages, titles)).join(" ");
  // In one line, whatever data it quotes.
  return (where === "" ? what : `${where}: ${what}`).replace(/\s*[\r\n]\s*/g, " ");
}

/** A piece of a template: words as they are, or a place for a parameter. */
type Piece = string | Place;

interface Place {
  readonly name: string;
  readonly option: string | undefined;
  /** The quotation marks around it, which are left out around titles. */
  readonly quotes: readonly [string, string];
}

/** Templates that were used before, in pieces. There are as many as the game has sentences. */
const templates = new Map<string, readonly Piece[]>();

/** A place for a parameter, with the quotation marks around it; split at it, a text is followed by its four groups. */
const placeForm = /((?:["“„「]|«\u00a0?)?)\{([a-zA-Z]+)(?::([^{}]+))?\}((?:["”“」]|\u00a0?»)?)/;

function readTemplate(template: string): readonly Piece[] {
  const split = template.split(placeForm);
  const pieces: Piece[] = [];
  for (let at = 0; at < split.length; at += 5) {
    const [words = "", open = "", name, option, close = ""] = split.slice(at);
    pieces.push(words);
    if (name !== undefined) pieces.push({ name, option, quotes: [open, close] });
  }
  return pieces;
}

function formatPiece(
  { name, option, quotes: [open, close] }: Place,
  params: Params,
  messages: PartialMessages,
  titles: Titles,
): string {
  const param = getOwn(params, name);
  if (param === undefined) return `${open}{${name}}${close}`;
  if (option?.includes("=") === true) return pluralOf(Number(param), option, titles.language);
  if (option === "text") return textIn(param as Text, titles.language);
  const noun = nouns[name];
  const titleOf = noun && titles.titleOf;
  const formatOne = (one: string | Message) => {
    if (typeof one !== "string") return format(one, messages, titles);
    return titleOf ? (titleOf(noun, one, params) ?? one) : option === "bare" ? one : `"${one}"`;
  };
  if (isList(param))
    return join(param.map(formatOne), option === "or" ? "disjunction" : "conjunction", titles.language);
  if (typeof param === "object") return formatOne(param as Message);
  // At the start of a sentence.
  if (option === "start") {
    const [first = "", ...others] = titleOf ? formatOne(String(param)) : String(param);
    return [first.toLocaleUpperCase(titles.language), ...others].join("");
  }
  if (titleOf) return formatOne(String(param));
  return `${open}${typeof param === "number" ? formatNumber(param, titles.language) : param}${close}`;
}

/** What parameters name, by their names. */
const nouns: Readonly<Record<string, EntityKind | undefined>> = {
  part: "part",
  parts: "part",
  other: "part",
  slot: "slot",
  slots: "slot",
  body: "body",
  bodies: "body",
  outfit: "outfit",
  channel: "channel",
  ramp: "ramp",
  ramps: "ramp",
  preset: "preset",
  step: "step",
  steps: "step",
  stat: "stat",
  tag: "tag",
  fact: "fact",
  answer: "answer",
};

function isList(param: Param): param is readonly (string | Message)[] {
  return Array.isArray(param);
}

function join(items: readonly string[], type: "conjunction" | "disjunction", language = "en"): string {
  return getOrInsert(joiners, `${language} ${type}`, () => new Intl.ListFormat(language, { type })).format(items);
}

const joiners = new Map<string, Intl.ListFormat>();
