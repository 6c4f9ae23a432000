import { Command } from "commander";
import { MantleError } from "../core/base/problem.ts";
import type { CommandEntry, DefineCommand, Terminal } from "./output.ts";

const shells = ["bash", "zsh", "fish"] as const;

/** `mantle completion`: what a shell needs to finish commands and options that are begun. */
export const completionOf =
  (commands: readonly CommandEntry[]): DefineCommand =>
  (command, terminal) => {
    command
      .argument("<shell>", shells.join(", "))
      .option("--json", "print data for programs")
      .addHelpText(
        "after",
        '\nExample:\n  $ mantle completion bash >> ~/.bashrc\n  From the next terminal on, the tabulator finishes "mantle che".',
      )
      .action(async (shell: string, options: { readonly json?: boolean }) => {
        if (shell !== "bash" && shell !== "zsh" && shell !== "fish")
          throw new MantleError("bad-call", `There is no completion for "${shell}". There are: ${shells.join(", ")}.`);
        const known = await Promise.all(commands.map((entry) => describe(entry, terminal)));
        const script = shell === "fish" ? forFish(known) : forBash(known, shell === "zsh");
        terminal.answer({ lines: script, data: { shell, script: script.join("\n") } }, options);
      });
  };

interface Known {
  readonly name: string;
  readonly description: string;
  readonly options: readonly { readonly long: string; readonly description: string }[];
}

async function describe({ name, description, load }: CommandEntry, terminal: Terminal): Promise<Known> {
  const command = new Command(name);
  (await load())(command, terminal);
  const options = command.options.flatMap(({ long, description: what }) =>
    typeof long === "string" ? [{ long, description: what }] : [],
  );
  return { name, description, options };
}

function forBash(known: readonly Known[], isZsh: boolean): readonly string[] {
  const typed = (at: string) => `"$\{COMP_WORDS[${at}]}"`;
  return [
    ...(isZsh ? ["autoload -U +X bashcompinit && bashcompinit"] : []),
    "_mantle() {",
    `  local current=${typed("COMP_CWORD")} words=""`,
    `  case ${typed("1")} in`,
    ...known.map(({ name, options }) => `    ${name}) words="${options.map(({ long }) => long).join(" ")}" ;;`),
    "  esac",
    `  [ "$COMP_CWORD" -eq 1 ] && words="${known.map(({ name }) => name).join(" ")}"`,
    '  COMPREPLY=($(compgen -W "$words" -- "$current"))',
    // Of files, where no option was begun.
    '  case "$COMP_CWORD $current" in 1\\ *|*\\ -*) ;; *) COMPREPLY+=($(compgen -f -- "$current")) ;; esac',
    "}",
    "complete -F _mantle mantle",
  ];
}

function forFish(known: readonly Known[]): readonly string[] {
  const quoted = (text: string) => `'${text.replaceAll("\\", "\\\\").replaceAll("'", "\\'")}'`;
  return known.flatMap(({ name, description, options }) => [
    `complete -c mantle -n __fish_use_subcommand -a ${name} -d ${quoted(description)}`,
    ...options.map(
      ({ long, description: what }) =>
        `complete -c mantle -n '__fish_seen_subcommand_from ${name}' -l ${long.slice(2)} -d ${quoted(what)}`,
    ),
  ]);
}
