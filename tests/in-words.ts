import { describeProblem, format, type Message, type Problem } from "zealous-mantle";
import { english as englishAlone } from "zealous-mantle/english";
import { englishArt } from "zealous-mantle/english/art";

const english = { ...englishAlone, ...englishArt };

/** A message in English; nothing for none. */
export function inWords(message: Message | undefined): string {
  return message === undefined ? "" : format(message, english);
}

/** A problem in English, with its place and what to do. */
export function described(problem: Problem<unknown>): string {
  return describeProblem(problem, english);
}
