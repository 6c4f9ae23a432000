import { Command, CommanderError } from "commander";
import { MantleError } from "../core/base/problem.ts";
import { commands } from "./commands.ts";
import { escapeText, safeColors } from "./escape.ts";
import type { Terminal } from "./output.ts";

/** What a run of the command line is given: where it writes text, and whether that may be colored. */
export interface RunOptions {
  readonly stdout: Output;
  readonly stderr: Output;
  readonly color: boolean;
}

interface Output {
  write(text: string): unknown;
}

/**
 * Runs `mantle` once. Only the command that is asked for is loaded.
 *
 * @param args - the words after `mantle`.
 * @returns the exit code: 0 fine, 1 problems found, 2 the call or its input was wrong.
 */
export async function run(args: readonly string[], { stdout, stderr, color }: RunOptions): Promise<number> {
  let exitCode = 0;
  const { colors, escaped } = safeColors(color);
  const [asked, subject] = args.filter((word) => !word.startsWith("-"));
  const writeData = (data: object) => stdout.write(`${asJson({ mantle: "answer/1", command: asked, ...data })}\n`);
  const terminal: Terminal = {
    colors,
    answer({ lines, data, exitCode: code = 0 }, { json = false }) {
      if (json) writeData(data);
      else stdout.write(lines.map((line) => `${escaped(line)}\n`).join(""));
      exitCode = code;
    },
    note: (text) => stderr.write(`${escaped(text)}\n`),
  };
  const program = new Command("mantle")
    .description("Characters for games: check a catalog, roll characters, draw and bake them, look after saves.")
    .version("0.1.0")
    .showHelpAfterError("Add --help to see how the command is used.")
    .configureOutput({
      writeOut: (text) => stdout.write(text),
      writeErr: (text) => stderr.write(escapeText(text)),
      outputError: (text, write) => write(text.replace(/^error: /, "mantle: ")),
    })
    .exitOverride();
  for (const { name, description, load } of commands) {
    const command = program.command(name).description(description).exitOverride();
    if (name === asked || (asked === "help" && name === subject)) (await load())(command, terminal);
  }
  try {
    await program.parseAsync(askedOf(args).map(folderOf), { from: "user" });
  } catch (error) {
    if (error instanceof CommanderError && error.exitCode === 0) return 0;
    const isCall = error instanceof CommanderError;
    if (!isCall && !(error instanceof MantleError)) throw error;
    const code = error instanceof MantleError ? error.code : "bad-call";
    if (args.includes("--json")) {
      const { problemData } = await import("./output.ts");
      const problems = error instanceof MantleError ? problemData(error.problems) : [];
      writeData({ error: { code, message: error.message.replace(/^error: /, ""), problems } });
    }
    // What is wrong with a call was said when it was found.
    if (!isCall) stderr.write(`mantle: ${escapeText(error.message)}\n`);
    return 2;
  }
  return exitCode;
}

/** The words to be read: help on a command that there is not is a command that there is not. */
function askedOf(args: readonly string[]): readonly string[] {
  const words = args.filter((word) => !/^(--help|-h|help)$/.test(word));
  const [asked] = words.filter((word) => !word.startsWith("-"));
  const isUnknown = asked !== undefined && commands.every(({ name }) => name !== asked);
  return isUnknown ? words : args;
}

/** Who names the `catalog.json` or `pack.json` of a folder means the folder. */
function folderOf(word: string): string {
  const [, folder] = /^(.*[\\/])?(?:catalog|pack)\.json$/.exec(word) ?? [word, word];
  return folder ?? ".";
}

/** Data for programs, in which nothing is left that commands a terminal: JSON has its own way to write it. */
function asJson(data: unknown): string {
  return escapeText(JSON.stringify(data, null, 2));
}
