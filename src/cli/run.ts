import { Command, CommanderError } from "commander";
import pc from "picocolors";
import { MantleError } from "../core/problem.ts";
import { commands } from "./commands.ts";
import type { Answer, Terminal } from "./output.ts";

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
  const terminal: Terminal = {
    colors: pc.createColors(color),
    answer(answer, options) {
      stdout.write(textOf(answer, options));
      exitCode = answer.exitCode ?? 0;
    },
    note: (text) => stderr.write(`${text}\n`),
  };
  const program = new Command("mantle")
    .description("Characters for games: check a catalog, roll characters, draw and bake them, look after saves.")
    .version("0.1.0")
    .showHelpAfterError("Add --help to see how the command is used.")
    .configureOutput({ writeOut: (text) => stdout.write(text), writeErr: (text) => stderr.write(text) })
    .exitOverride();
  const [asked, subject] = args.filter((word) => !word.startsWith("-"));
  for (const { name, description, load } of commands) {
    const command = program.command(name).description(description).exitOverride();
    if (name === asked || (asked === "help" && name === subject)) (await load())(command, terminal);
  }
  try {
    await program.parseAsync(args, { from: "user" });
  } catch (error) {
    if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : 2;
    if (!(error instanceof MantleError)) throw error;
    stderr.write(`mantle: ${error.message}\n`);
    return 2;
  }
  return exitCode;
}

function textOf({ text, data }: Answer, { json = false }: { readonly json?: boolean }): string {
  return json ? `${JSON.stringify(data, null, 2)}\n` : `${text}\n`;
}
