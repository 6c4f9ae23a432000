import { join } from "node:path";
import { Option } from "commander";
import { MantleError } from "../core/base/problem.ts";
import { textIn } from "../core/base/text.ts";
import { countLoadouts } from "../core/solver/count-loadouts.ts";
import { type PartCoverage, surveyCoverage } from "../core/survey/coverage.ts";
import type { Company } from "../core/survey/pairwise/items.ts";
import { pairwiseCover } from "../core/survey/pairwise/pairwise-cover.ts";
import type { CatalogPlace } from "../node/catalog-place.ts";
import { loadCatalog } from "../node/load-catalog.ts";
import { catalogArgument, type PackOptions, placeOf } from "./catalog-argument.ts";
import { wholeNumber } from "./numbers.ts";
import { type Answer, counted, type DefineCommand, say, type Terminal } from "./output.ts";
import { surveyChanges } from "./survey/changes.ts";
import { drawFigures } from "./survey/draw-figures.ts";
import { figureOf, otherFigures } from "./survey/figures.ts";
import { seenIn, writeReport } from "./survey/report.ts";
import { words, wordsOf } from "./words.ts";
import { writeOutput } from "./write-output.ts";

interface Options extends PackOptions {
  readonly out: string;
  readonly slots?: readonly string[];
  readonly with?: readonly Company[];
  readonly strength: string;
  readonly seed: number;
  readonly against?: string;
  readonly saves?: string;
  readonly json?: boolean;
}

/** `mantle survey`: a whole catalog on one page. */
export const defineSurvey: DefineCommand = (command, terminal) => {
  catalogArgument(command)
    .option("--out <folder>", "where the report and its characters go", "out/survey")
    .option("--slots <ids>", "see the parts of these slots together, like hat,coat; else of all", words)
    .option("--with <kinds>", "see parts with bodies, with colors, or with both", wordsOf(["bodies", "colors"]))
    .addOption(
      new Option("--strength <number>", "how many parts are to be seen together").choices(["2", "3"]).default("2"),
    )
    .option("--seed <number>", "a whole number; another may lead to fewer characters", wholeNumber, 1)
    .option("--against <catalog>", "tell what changed since this older version instead")
    .option("--saves <folder>", "with --against: characters and saves, to see whom it touches")
    .option("--json", "print data for programs")
    .addHelpText(
      "after",
      "\nExample:\n  $ mantle survey saltmarsh --out out/survey\n  3,067 pairs of parts are seen together on 60 characters; 56 are needed at least. 17 never meet.",
    )
    .action(async (folder: string, options: Options) =>
      terminal.answer(await answerTo(placeOf(folder, options), options, terminal), options),
    );
};

async function answerTo(place: CatalogPlace, options: Options, terminal: Terminal): Promise<Answer> {
  const { against, saves, out } = options;
  if (against !== undefined) return surveyChanges(place, against, { out, saves, note: terminal.note });
  if (saves !== undefined) throw new MantleError("bad-call", "--saves goes with --against: name the older version.");
  return survey(place, options, terminal);
}

async function survey(place: CatalogPlace, options: Options, { note }: Terminal): Promise<Answer> {
  const { out, slots, with: company, seed } = options;
  const strength = Number(options.strength) === 3 ? 3 : 2;
  const catalog = await loadCatalog(place);
  const counts = [...catalog.bodies.keys()].map((body) => ({ body, ...countLoadouts(catalog, { body }) }));
  const coverage = surveyCoverage(catalog);
  const chosen = { ...(slots === undefined ? {} : { slots }), ...(company === undefined ? {} : { company }) };
  const pairs = pairwiseCover(catalog, { ...chosen, seed, strength });
  const figures = [
    ...pairs.characters.map((character) => figureOf(catalog, character, "pairs", character.name)),
    ...otherFigures(catalog),
  ];
  let told = performance.now();
  const drawn = await drawFigures(place, catalog, figures, (done) => {
    if (performance.now() - told < 5_000) return;
    told = performance.now();
    note(`Drawing: ${done} of ${figures.length} figures.`);
  });
  const characters = new Map(figures.map(({ character }) => [character.id, character]));
  for (const character of characters.values())
    await writeOutput(join(out, "characters", `${character.id}.json`), `${JSON.stringify(character, null, 2)}\n`);
  const report = join(out, "survey.html");
  await writeOutput(report, writeReport({ catalog, place, out, counts, coverage, pairs, drawn }));
  const total = counts.reduce((sum, { count }) => sum + count, 0n);
  const isExact = counts.every(({ isProven }) => isProven);
  return {
    lines: [
      `${textIn(catalog.title)} ${catalog.version}: ${counted(catalog.bodies.size, "body", "bodies")}, ${counted(catalog.slots.size, "slot")}, ${counted(catalog.parts.size, "part")}.`,
      `${isExact ? "" : "At least "}${total.toLocaleString("en")} valid ways to dress somebody.`,
      coverageLine(coverage),
      `${seenIn(pairs)} of ${what(company)} are seen together on ${counted(pairs.characters.length, "character")}; ${pairs.lowerBound} are needed at least. ${pairs.apart.length.toLocaleString("en")} never ${pairs.apart.length === 1 ? "meets" : "meet"}.`,
      ...(pairs.isProven ? [] : ["The rules are too many to look at every pair; some are left unseen."]),
      `Written: ${report}, and ${counted(characters.size, "character")} in ${join(out, "characters")}`,
    ],
    data: {
      catalog: { id: catalog.id, version: catalog.version },
      valid: counts.map(({ body, count, isProven }) => ({ body, count: String(count), isProven })),
      coverage: coverage.flatMap(({ body, part, moments }) =>
        moments.filter(({ state }) => state !== "drawn").map((moment) => ({ body, part: part ?? null, ...moment })),
      ),
      pairs: {
        seen: pairs.pairs,
        threes: pairs.threes,
        characters: pairs.characters.map(({ id }) => id),
        lowerBound: pairs.lowerBound,
        isProven: pairs.isProven,
        apart: pairs.apart.map(({ items, because }) => ({
          items,
          because: because.map(say),
        })),
      },
      report,
    },
  };
}

function what(company: readonly Company[] = []): string {
  return ["parts", ...company].join(", ").replace(/, ([^,]*)$/, " and $1");
}

/** `Everything is drawn: …`, or what is not. */
function coverageLine(coverage: readonly PartCoverage[]): string {
  const states = coverage.flatMap(({ moments }) => moments.map(({ state }) => state));
  const [fallen, missing] = ["falls-back", "missing"].map((state) => states.filter((each) => each === state).length);
  const all = `${states.length.toLocaleString("en")} animations and facings of parts on bodies`;
  if (fallen === 0 && missing === 0) return `All ${all} are drawn.`;
  return `Of ${all}, ${(fallen ?? 0).toLocaleString("en")} show another animation and ${(missing ?? 0).toLocaleString("en")} show nothing.`;
}
