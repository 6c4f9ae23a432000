import { join } from "node:path";
import { nearestId } from "../core/base/nearest-id.ts";
import { MantleError } from "../core/base/problem.ts";
import { textIn } from "../core/base/text.ts";
import type { Catalog } from "../core/catalog/model/catalog.ts";
import type { Character } from "../core/character/character.ts";
import { createFromPreset } from "../core/edits/create-from-preset.ts";
import type { RollKeep } from "../core/loadout/solver.ts";
import { wornParts } from "../core/rules/worn.ts";
import { rollCharacter } from "../core/solver/roll-character.ts";
import type { CatalogPlace } from "../node/catalog-place.ts";
import { loadCatalog } from "../node/load-catalog.ts";
import { catalogArgument, type PackOptions, placeOf } from "./catalog-argument.ts";
import { readCharacterFile } from "./character-file.ts";
import { rollCount, wholeNumber } from "./numbers.ts";
import type { Answer, DefineCommand } from "./output.ts";
import { words } from "./words.ts";
import { writeOutput } from "./write-output.ts";

interface Options extends PackOptions {
  readonly seed: number;
  readonly count: number;
  readonly body?: string;
  readonly from?: string;
  readonly keep?: readonly string[];
  readonly weights?: readonly string[];
  readonly presets?: boolean;
  readonly out?: string;
  readonly json?: boolean;
}

/** `mantle roll`: valid characters at random. */
export const defineRoll: DefineCommand = (command, terminal) => {
  catalogArgument(command)
    .option("--seed <number>", "a whole number", wholeNumber, 1)
    .option("--count <number>", "how many, 10,000 at most", rollCount, 1)
    .option("--body <id>", "use this body")
    .option("--from <character>", "file of a character, for --keep")
    .option("--keep <ids>", "slots and channels that stay as in --from, like body,hair; body keeps the body", words)
    .option("--weights <rarity=weight>", "how many times as likely parts of a rarity are, like rare=4,common=1", words)
    .option("--presets", "instead of rolling, make one character of each preset of the catalog")
    .option("--out <folder>", "write each character to a file in this folder")
    .option("--json", "print data for programs")
    .addHelpText(
      "after",
      "\nExample:\n  $ mantle roll saltmarsh --seed 7 --count 3 --out out/rolled\n  Three files, out/rolled/rolled-7.json to rolled-9.json, ready for mantle draw.",
    )
    .action(async (folder: string, options: Options) =>
      terminal.answer(await roll(placeOf(folder, options), options), options),
    );
};

async function roll(place: CatalogPlace, options: Options): Promise<Answer> {
  const { out } = options;
  const catalog = await loadCatalog(place, { art: "none" });
  const characters =
    options.presets === true ? madeOfPresets(catalog, options) : await rolledCharacters(catalog, options);
  const files: string[] = [];
  if (out !== undefined) {
    for (const character of characters) {
      const file = join(out, `${character.id}.json`);
      await writeOutput(file, `${JSON.stringify(character, null, 2)}\n`);
      files.push(file);
    }
  }
  const described = characters.map((character) => describe(catalog, character));
  return { lines: [...described, ...files.map((file) => `Written: ${file}`)], data: { characters, files } };
}

function madeOfPresets(catalog: Catalog, { body, from, keep, weights }: Options): readonly Character[] {
  if ((body ?? from ?? keep ?? weights) !== undefined)
    throw new MantleError("bad-call", "A preset is as it is: leave out what --presets cannot be rolled with.");
  if (catalog.presets.size === 0)
    throw new MantleError("bad-call", 'The catalog has no presets. Write some in its "presets".');
  return [...catalog.presets.keys()].map((id) => createFromPreset(catalog, id, { id }));
}

async function rolledCharacters(catalog: Catalog, options: Options): Promise<readonly Character[]> {
  const { seed, count, body } = options;
  const keep = await keepOf(catalog, options);
  const weights = weightsOf(catalog, options.weights ?? []);
  return Array.from({ length: count }, (_, number) =>
    rollCharacter(catalog, {
      seed: seed + number,
      id: `rolled-${(seed + number) >>> 0}`,
      weights,
      ...(body === undefined ? {} : { body }),
      ...(keep === undefined ? {} : { keep }),
    }),
  );
}

/** What stays: each word is the body, a slot, a channel, or a slot and the channel of its name. */
async function keepOf(catalog: Catalog, { from, keep }: Options): Promise<RollKeep | undefined> {
  if (from === undefined && keep === undefined) return undefined;
  if (from === undefined || keep === undefined)
    throw new MantleError("bad-call", "--keep and --from belong together: say what to keep, and of whom.");
  for (const word of keep) {
    if (word === "body" || catalog.slots.has(word) || catalog.channels.has(word)) continue;
    const known = ["body", ...catalog.slots.keys(), ...catalog.channels.keys()];
    const meant = nearestId(word, known);
    const advice = meant === undefined ? "Name a slot, a channel, or body." : `Write "${meant}" if that is meant.`;
    throw new MantleError("bad-call", `There is no slot or channel "${word}" to keep. ${advice}`);
  }
  return {
    character: await readCharacterFile(from),
    body: keep.includes("body"),
    slots: keep.filter((word) => catalog.slots.has(word)),
    channels: keep.filter((word) => catalog.channels.has(word)),
  };
}

/** Reads `rare=0.2`. */
function weightsOf(catalog: Catalog, pairs: readonly string[]): Readonly<Record<string, number>> {
  const rarities = new Set([...catalog.parts.values()].flatMap(({ rarity }) => rarity ?? []));
  return Object.fromEntries(
    pairs.map((pair) => {
      const [rarity = "", text = ""] = pair.split("=");
      const weight = Number(text);
      if (text === "" || !Number.isFinite(weight) || weight < 0)
        throw new MantleError("bad-call", `"${pair}" is not a weight. Write it like rare=0.2.`);
      if (!rarities.has(rarity))
        throw new MantleError("bad-call", `No part has rarity "${rarity}". There are: ${[...rarities].join(", ")}.`);
      return [rarity, weight];
    }),
  );
}

function describe(catalog: Catalog, character: Character): string {
  const worn = wornParts(catalog, character).map(({ part }) => textIn(part.title));
  return `${character.id}: ${textIn(catalog.bodies.get(character.body)?.title ?? character.body)}, ${worn.join(", ")}`;
}
