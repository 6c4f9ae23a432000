import type { Command } from "commander";
import type { Colors } from "picocolors/types.js";
import { describeProblem, format } from "../core/base/format.ts";
import type { Message } from "../core/base/message.ts";
import { english as englishAlone } from "../core/base/messages/english.ts";
import { englishArt } from "../core/base/messages/english-art.ts";
import type { Place, Problem } from "../core/base/problem.ts";
import type { Catalog } from "../core/catalog/model/catalog.ts";
import { catalogTitles } from "../core/catalog/titles.ts";

const english = { ...englishAlone, ...englishArt };

/** What a command answers: lines for people, or the same as data with `--json`. */
export interface Answer {
  readonly lines: readonly string[];
  readonly data: object;
  /** 0 fine, 1 problems found. */
  readonly exitCode?: 0 | 1;
}

/** What a command writes to. */
export interface Terminal {
  readonly colors: Colors;
  /** Prints an answer on standard output, as data with `json`; its exit code becomes that of the run. */
  answer(answer: Answer, options: { readonly json?: boolean }): void;
  /** Prints a line on standard error. */
  note(text: string): void;
}

/** Gives a command its arguments, its options, its worked example, and what it does. */
export type DefineCommand = (command: Command, terminal: Terminal) => void;

/** A command as it is listed; what it needs is loaded when it is asked for. */
export interface CommandEntry {
  readonly name: string;
  readonly description: string;
  readonly load: () => Promise<DefineCommand>;
}

/** Problems as lines for people: what, where and what to do, errors first. */
export function problemLines(problems: readonly Problem<unknown>[], colors: Colors): readonly string[] {
  const order = (problem: Problem<unknown>) => (problem.severity === "error" ? 0 : 1);
  return problems
    .toSorted((one, other) => order(one) - order(other))
    .flatMap((problem) => {
      const mark = problem.severity === "error" ? colors.red("error  ") : colors.yellow("warning");
      const related = (problem.related ?? []).map((place) => `         see ${placeInWords(place)}`);
      return [`${mark}  ${describeProblem(problem, english)}`, ...related];
    });
}

/** `catalog.json:140:5 /rules/3`. */
export function placeInWords({ file, line, column, pointer }: Place): string {
  return [[file, line, column].filter(Boolean).join(":"), pointer].filter(Boolean).join(" ");
}

/** A message in English. */
export function say(message: Message): string {
  return format(message, english);
}

/** Says messages in English, and calls what they speak of by its title. */
export function sayByTitles(catalog: Catalog): (message: Message) => string {
  const titles = catalogTitles(catalog, "en");
  return (message) => format(message, english, titles);
}

/** A problem and what would mend it, without its place. */
export function sayWithFixes(problem: Problem<unknown>): string {
  return [problem, ...problem.fixes].map(say).join(" ");
}

/** Problems as data for programs: with their sentences besides. */
export function problemData<P extends Problem<unknown>>(problems: readonly P[]): readonly (P & { message: string })[] {
  return problems.map((problem) => ({ ...problem, message: say(problem) }));
}

/** `1 part`, `2 parts`. */
export function counted(count: number, noun: string, plural = `${noun}s`): string {
  return `${count.toLocaleString("en")} ${count === 1 ? noun : plural}`;
}
