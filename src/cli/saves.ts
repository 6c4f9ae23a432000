import { resolve } from "node:path";
import { pathToFileURL } from "node:url";
import { MantleError } from "../core/base/problem.ts";
import type { Migration } from "../core/save/migrations.ts";
import { reasonOf } from "../node/file-error.ts";
import type { DefineCommand } from "./output.ts";
import type { SavesAction, SavesOptions } from "./saves/action.ts";
import { listAction } from "./saves/list.ts";
import { migrateAction } from "./saves/migrate.ts";
import { openPlace } from "./saves/open-place.ts";
import { recoverAction } from "./saves/recover.ts";
import { renewAction } from "./saves/renew.ts";
import { showAction } from "./saves/show.ts";
import { exportAction, importAction } from "./saves/transfer.ts";
import { verifyAction } from "./saves/verify.ts";

/** Everything that is done with saves, in the order in which it is needed. */
const actions: readonly SavesAction[] = [
  listAction,
  showAction,
  verifyAction,
  recoverAction,
  migrateAction,
  exportAction,
  importAction,
  renewAction,
];

/** `mantle saves`: what is kept in a folder or a database, and the care for it. */
export const defineSaves: DefineCommand = (command, terminal) => {
  const names = actions.map(
    ({ name, takes, does }) => `  ${[name, takes].filter(Boolean).join(" ").padEnd(15)} ${does}`,
  );
  command
    .argument("<place>", "folder of a file store, folder of a database, or postgres://…")
    .argument("[action]", "what to do with the saves", "list")
    .argument("[subject]", "the key, or the file, that the action takes")
    .option("--player <id>", "whose saves, in a database")
    .option("--catalog <folder>", "judge characters by this catalog, when verifying")
    .option("--migrations <module>", "a module that exports `migrations` of the game's own kinds")
    .option("--overwrite", "replace saves that differ, when importing")
    .option("--write", "do what the plan says")
    .option("--json", "print data for programs")
    .addHelpText(
      "after",
      `\nActions:\n${names.join("\n")}\n\nExample:\n  $ mantle saves out/saves\n  character-wren  Wren, reed, 3 worn, 1 carried\n  profile         seat 1: wren\n  2 saves, all whole.`,
    )
    .action(async (place: string, name: string, subject: string | undefined, options: SavesOptions) => {
      const action = actions.find((each) => each.name === name);
      if (action === undefined) {
        const known = actions.map((each) => each.name).join(", ");
        throw new MantleError("bad-call", `There is no "${name}" for saves. There are: ${known}.`);
      }
      const migrations = options.migrations === undefined ? [] : await loadMigrations(options.migrations);
      const { store, database, close } = await openPlace(place, options.player, action);
      try {
        const { colors } = terminal;
        terminal.answer(await action.run({ store, database, place, subject, options, migrations, colors }), options);
      } finally {
        await close();
      }
    });
};

/** The migrations that a module exports. */
async function loadMigrations(file: string): Promise<readonly Migration[]> {
  const module: { readonly migrations?: unknown } = await import(pathToFileURL(resolve(file)).href).catch(
    (error: unknown) => {
      throw new MantleError("unreadable-file", `The module ${file} cannot be loaded: ${reasonOf(error)}.`);
    },
  );
  const { migrations } = module;
  if (Array.isArray(migrations) && migrations.every(isMigration)) return migrations;
  throw new MantleError("bad-call", `The module ${file} exports no list \`migrations\` of { kind, from, migrate }.`);
}

function isMigration(value: unknown): value is Migration {
  const { kind, from, migrate }: { readonly kind?: unknown; readonly from?: unknown; readonly migrate?: unknown } =
    Object(value);
  return typeof kind === "string" && Number.isSafeInteger(from) && typeof migrate === "function";
}
