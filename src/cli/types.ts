import type { Catalog, CatalogIds } from "../core/catalog/model/catalog.ts";
import type { CatalogPlace } from "../node/catalog-place.ts";
import { loadCatalog } from "../node/load-catalog.ts";
import { catalogArgument, type PackOptions, placeOf } from "./catalog-argument.ts";
import type { Answer, DefineCommand } from "./output.ts";
import { writeOutput } from "./write-output.ts";

interface Options extends PackOptions {
  readonly out?: string;
  readonly json?: boolean;
}

/** `mantle types`: the ids of a catalog as types, for a game in TypeScript. */
export const defineTypes: DefineCommand = (command, terminal) => {
  catalogArgument(command)
    .option("--out <file>", "write the types to this file, such as saltmarsh.ts")
    .option("--json", "print data for programs")
    .addHelpText(
      "after",
      '\nExample:\n  $ mantle types saltmarsh --out src/saltmarsh.ts\n  Then loadCatalog<SaltmarshIds>("saltmarsh") knows every id, and wear("strom-hat") does not compile.',
    )
    .action(async (folder: string, options: Options) =>
      terminal.answer(await types(placeOf(folder, options), options), options),
    );
};

async function types(place: CatalogPlace, { out }: Options): Promise<Answer> {
  const catalog = await loadCatalog(place, { art: "none" });
  const name = nameOf(catalog);
  const ids = idsIn(catalog);
  const text = asTypes(name, ids);
  if (out === undefined) return { lines: text.trimEnd().split("\n"), data: { name, ids } };
  await writeOutput(out, text);
  return { lines: [`Written: ${out}`], data: { name, ids, file: out } };
}

/** The name of the type: the id of the catalog in capitals, as in `SaltmarshIds`. An id that begins with a digit gets a letter. */
function nameOf({ id }: Catalog): string {
  const words = id.split("-").map((word) => word.charAt(0).toUpperCase() + word.slice(1));
  return `${/^[0-9]/.test(id) ? "Catalog" : ""}${words.join("")}Ids`;
}

function idsIn(catalog: Catalog): { readonly [Kind in keyof CatalogIds]: readonly string[] } {
  return {
    part: [...catalog.parts.keys()],
    slot: [...catalog.slots.keys()],
    body: [...catalog.bodies.keys()],
    channel: [...catalog.channels.keys()],
    ramp: [...catalog.ramps.keys()],
    outfit: [...catalog.outfits.keys()],
    preset: [...catalog.presets.keys()],
    animation: [...new Set([...catalog.rigs.values()].flatMap(({ animations }) => [...animations.keys()]))],
    facing: [...new Set([...catalog.rigs.values()].flatMap(({ facings }) => [...facings.keys()]))],
    signal: signalsOf(catalog),
    cue: [...catalog.cues.keys()],
  };
}

/** Every signal that something of a catalog asks about. */
function signalsOf({ rules, cues, forms, creation }: Catalog): readonly string[] {
  const found = new Set<string>();
  const look = (value: unknown): void => {
    if (typeof value !== "object" || value === null) return;
    if ("kind" in value && value.kind === "signal" && "id" in value) found.add(String(value.id));
    if ("signal" in value) found.add(String(value.signal));
    for (const each of value instanceof Map ? value.values() : Object.values(value)) look(each);
  };
  for (const section of [rules, cues, forms, creation]) look(section);
  return [...found];
}

function asTypes(name: string, ids: Readonly<Record<string, readonly string[]>>): string {
  const entries = Object.entries(ids).map(([kind, known]) => `  readonly ${kind}:${unionOf(known)};\n`);
  return [
    "// Written by mantle types. Run it again when the catalog changes.\n",
    'import type { CatalogIds } from "zealous-mantle";\n\n',
    `export interface ${name} extends CatalogIds {\n${entries.join("")}}\n`,
  ].join("");
}

function unionOf(ids: readonly string[]): string {
  return ids.length === 0 ? " never" : ids.map((id) => `\n    | ${JSON.stringify(id)}`).join("");
}
