import { basename, join } from "node:path";
import type { Colors } from "picocolors/types.js";
import { MantleError, type Problem } from "../core/base/problem.ts";
import { textIn } from "../core/base/text.ts";
import type { Catalog } from "../core/catalog/model/catalog.ts";
import { checkLoadout } from "../core/loadout/check-loadout.ts";
import { enlargeImage } from "../core/raster/image.ts";
import { encodePng } from "../core/raster/png/encode-png.ts";
import { solver } from "../core/solver/solver.ts";
import { checkPresets } from "../core/survey/check-presets.ts";
import { compareSources } from "../core/survey/compare/compare-sources.ts";
import { excludedByPacks } from "../core/survey/excluded-by-packs.ts";
import { type Fallback, findFallbacks } from "../core/survey/find-fallbacks.ts";
import { surveyRules } from "../core/survey/survey-rules.ts";
import { CatalogFolder } from "../node/catalog-folder.ts";
import { type CatalogPlace, folderOf, packsOf } from "../node/catalog-place.ts";
import { findLines } from "../node/find-lines.ts";
import { inspectCatalog, loadCatalog } from "../node/load-catalog.ts";
import { cachePoints } from "../node/marks.ts";
import { surveyPictures } from "../node/survey-pictures.ts";
import { surveyWorn } from "../node/survey-worn.ts";
import { catalogArgument, type PackOptions, placeOf } from "./catalog-argument.ts";
import { sourcesAt } from "./catalog-sources.ts";
import { readCharacterFile } from "./character-file.ts";
import { type Answer, counted, type DefineCommand, problemData, problemLines, type Terminal } from "./output.ts";
import { packLines } from "./pack-changes.ts";
import { writeOutput } from "./write-output.ts";

interface Options extends PackOptions {
  readonly keepPoints?: boolean;
  readonly quick?: boolean;
  readonly strict?: boolean;
  readonly pictures?: string;
  readonly json?: boolean;
}

/** `mantle check`: everything that is wrong with a catalog, or with a character under it. */
export const defineCheck: DefineCommand = (command, terminal) => {
  catalogArgument(command)
    .argument("[character]", "file of a character, or folder of its save, to judge under the catalog")
    .option("--keep-points", "write the points of marker pictures beside them, so that nobody need decode the pictures")
    .option("--quick", "look at the sizes of pictures, and not at their pixels")
    .option("--strict", "exit with 1 for warnings too")
    .option("--pictures <folder>", "draw where findings about pixels are seen, with the pixels ringed")
    .option("--json", "print data for programs")
    .addHelpText(
      "after",
      "\nExample:\n  $ mantle check saltmarsh\n  Saltmarsh Post 1.0.0: 4 bodies, 19 slots, 76 parts, 4 outfits, 14 rules. Nothing is wrong.",
    )
    .action(async (folder: string, character: string | undefined, options: Options) =>
      terminal.answer(
        character === undefined
          ? await check(placeOf(folder, options), options, terminal)
          : await checkCharacter(placeOf(folder, options), character, options, terminal.colors),
        options,
      ),
    );
};

async function check(place: CatalogPlace, options: Options, { colors, note }: Terminal): Promise<Answer> {
  const { keepPoints = false, quick = false, strict = false, pictures } = options;
  const { catalog, problems: found, files } = await inspectCatalog(place);
  const folder = folderOf(place);
  const survey = catalog === undefined ? undefined : surveyRules(catalog);
  const base = packsOf(place).length === 0 ? undefined : (await inspectCatalog(folder, { art: "none" })).catalog;
  const ruled = base === undefined ? (survey?.problems ?? []) : excludedByPacks(survey?.problems ?? [], base);
  const changes =
    catalog === undefined || base === undefined
      ? undefined
      : compareSources(await sourcesAt(folder), await sourcesAt(place));
  const presets = catalog === undefined ? [] : checkPresets(catalog);
  const art = catalog === undefined || quick ? noPixels : await surveyPixels(place, catalog, { pictures, note });
  const surveyed = await findLines(new CatalogFolder(place), files, [...ruled, ...presets]);
  const models = catalog === undefined || quick ? noPixels : await surveyModels(place, catalog, pictures);
  const problems = [...found, ...surveyed, ...art.problems, ...models.problems];
  const drawn = [...art.drawn, ...models.drawn];
  const fallbacks = catalog === undefined || quick ? [] : findFallbacks(catalog);
  const errors = problems.filter(({ severity }) => severity === "error").length;
  const warnings = problems.length - errors;
  const kept = keepPoints && catalog !== undefined && errors === 0 ? await keepPointsOf(catalog, folder) : [];
  const holds =
    catalog === undefined
      ? `The catalog in ${folder}`
      : `${textIn(catalog.title)} ${catalog.version}: ${[
          counted(catalog.bodies.size, "body", "bodies"),
          counted(catalog.slots.size, "slot"),
          counted(catalog.parts.size, "part"),
          counted(catalog.outfits.size, "outfit"),
          counted(catalog.rules.length, "rule"),
        ].join(", ")}.`;
  const verdict =
    problems.length === 0
      ? colors.green("Nothing is wrong.")
      : `${[errors > 0 ? counted(errors, "error") : "", warnings > 0 ? counted(warnings, "warning") : ""].filter(Boolean).join(" and ")} found.`;
  return {
    lines: [
      ...problemLines(problems, colors),
      ...kept.map((file) => `Written: ${file}`),
      ...drawn.map((file) => `Picture: ${file}`),
      ...fallbacks.map(fallbackLine),
      ...(catalog === undefined || changes === undefined ? [] : packLines(catalog, changes)),
      ...(survey?.isProven === false ? ["The rules are too many to survey; dead ones may be left."] : []),
      catalog === undefined ? `${holds} cannot be used: ${verdict}` : `${holds} ${verdict}`,
    ],
    data: {
      catalog: catalog === undefined ? null : { id: catalog.id, version: catalog.version },
      problems: problemData(problems),
      ...(changes === undefined ? {} : { packs: [...(catalog?.packs.values() ?? [])], changes }),
      ...(quick ? {} : { fallbacks }),
      ...(keepPoints ? { kept } : {}),
      ...(pictures === undefined ? {} : { pictures: drawn }),
    },
    exitCode: errors > 0 || (strict && warnings > 0) ? 1 : 0,
  };
}

/** `wade is not drawn for 2 parts, which show walk: kilt, cape.` */
function fallbackLine({ animation, shown = "nothing", parts }: Fallback): string {
  const named = parts.length > 8 ? [...parts.slice(0, 7), `${parts.length - 7} more`] : parts;
  const show = parts.length === 1 ? "shows" : "show";
  return `${animation} is not drawn for ${counted(parts.length, "part")}, which ${show} ${shown}: ${named.join(", ")}.`;
}

/** Looks at the models that a catalog names; what reads them is loaded when it names any. */
async function surveyModels(place: CatalogPlace, catalog: Catalog, pictures: string | undefined): Promise<Pixels> {
  if ([...catalog.rigs.values()].every(({ model }) => model === undefined)) return noPixels;
  const { checkModels } = await import("../core/model/check-models.ts");
  const { readModelFile } = await import("../node/read-model-file.ts");
  const problems = await checkModels(catalog, (file) => readModelFile(place, file));
  // Models that cannot be put together are not looked at in motion.
  if (problems.some(({ severity }) => severity === "error")) return { problems, drawn: [] };
  const worn = await surveyWorn(catalog, place);
  const drawn: string[] = [];
  for (const [name, image] of pictures === undefined ? [] : worn.pictures) {
    const file = join(pictures ?? "", `${name}.png`);
    await writeOutput(file, encodePng(enlargeImage(image, 4)));
    drawn.push(file);
  }
  return { problems: [...problems, ...worn.problems], drawn };
}

interface Pixels {
  readonly problems: readonly Problem[];
  /** Files in which findings are drawn. */
  readonly drawn: readonly string[];
}

const noPixels: Pixels = { problems: [], drawn: [] };

interface PixelOptions {
  readonly pictures: string | undefined;
  readonly note: Terminal["note"];
}

/** Looks at every picture, and draws what is found where that is asked for. */
async function surveyPixels(place: CatalogPlace, catalog: Catalog, { pictures, note }: PixelOptions): Promise<Pixels> {
  let told = performance.now();
  const { problems, unreadable } = await surveyPictures(place, catalog, {
    draw: pictures !== undefined,
    onProgress: ({ done, total }) => {
      if (performance.now() - told < 5_000) return;
      told = performance.now();
      note(`Looking at pictures: ${done} of ${total} parts on bodies.`);
    },
  });
  const drawn: string[] = [];
  for (const { code, place, seen } of problems) {
    if (pictures === undefined || seen === undefined) continue;
    const file = join(pictures, `${drawn.length + 1}-${code}-${basename(place.file ?? "", ".png")}.png`);
    await writeOutput(file, encodePng(seen));
    drawn.push(file);
  }
  return { problems: [...unreadable, ...problems.map(({ seen, ...problem }) => problem)], drawn };
}

async function keepPointsOf(catalog: Catalog, folder: string): Promise<readonly string[]> {
  const pictures = new Set([...catalog.bodies.values()].flatMap(({ markers }) => markers ?? []));
  const files: string[] = [];
  for (const picture of pictures) files.push(join(folder, await cachePoints(folder, picture)));
  return files;
}

async function checkCharacter(
  place: CatalogPlace,
  file: string,
  { keepPoints = false }: Options,
  colors: Colors,
): Promise<Answer> {
  if (keepPoints) throw new MantleError("bad-call", "Points are kept for a catalog: leave the character out.");
  const catalog = await loadCatalog(place, { art: "none" });
  const character = await readCharacterFile(file);
  const problems = checkLoadout(catalog, character, { solver });
  const errors = problems.filter(({ severity }) => severity === "error").length;
  const verdict =
    problems.length === 0 ? colors.green("Nothing is wrong.") : `${counted(problems.length, "problem")} found.`;
  return {
    lines: [...problemLines(problems, colors), `${character.name || character.id}: ${verdict}`],
    data: { character: character.id, problems: problemData(problems) },
    exitCode: errors > 0 ? 1 : 0,
  };
}
