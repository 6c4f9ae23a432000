import { describeProblem, format, type Message, type Problem } from "zealous-mantle";
import { messages as englishAlone } from "zealous-mantle/locales/en";
import { englishArt } from "zealous-mantle/locales/en/art";

const english = { ...englishAlone, ...englishArt };

/** What each message says in English, with names of parameters in braces. */
export const sentences: Readonly<Record<string, string>> = english;

/** A message in English; nothing for none. */
export function inWords(message: Message | undefined): string {
  return message === undefined ? "" : format(message, english);
}

/** A problem in English, with its place and what to do. */
export function described(problem: Problem<unknown>): string {
  return describeProblem(problem, english);
}
