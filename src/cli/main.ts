#!/usr/bin/env node
import { Command, CommanderError } from "commander";
import { MantleError } from "../core/problem.ts";
import { commands } from "./commands.ts";

const program = new Command("mantle")
  .description("Characters for games: check a catalog, roll characters, draw and bake them, look after saves.")
  .version("0.1.0")
  .showHelpAfterError("Add --help to see how the command is used.")
  .exitOverride();
for (const add of commands) add(program);
for (const command of program.commands) command.exitOverride();

try {
  await program.parseAsync();
} catch (error) {
  process.exitCode = report(error);
}

/** Says what went wrong on standard error. The call or its input was wrong: 2. */
function report(error: unknown): number {
  if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : 2;
  if (error instanceof MantleError) {
    process.stderr.write(`mantle: ${error.message}\n`);
    return 2;
  }
  throw error;
}
