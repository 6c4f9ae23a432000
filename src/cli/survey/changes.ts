import { join } from "node:path";
import { textIn } from "../../core/base/text.ts";
import { editMessage } from "../../core/edits/edit-message.ts";
import { compareCharacter } from "../../core/survey/compare/compare-characters.ts";
import { compareSources } from "../../core/survey/compare/compare-sources.ts";
import type { CatalogPlace } from "../../node/catalog-place.ts";
import { loadCatalog } from "../../node/load-catalog.ts";
import { sourcesAt, versionInWords } from "../catalog-sources.ts";
import { type Answer, counted, problemData, sayByTitles, type Terminal } from "../output.ts";
import { writeOutput } from "../write-output.ts";
import { type CharacterChanges, writeChanges } from "./changes-report.ts";
import { LookComparison, type Version } from "./compare-looks.ts";
import { readCharacters } from "./read-characters.ts";

export interface ChangesOptions {
  readonly out: string;
  readonly saves: string | undefined;
  readonly note: Terminal["note"];
}

/** Tells what changed from an older version of a catalog to this one, and whom that touches. */
export async function surveyChanges(
  place: CatalogPlace,
  against: string,
  { out, saves, note }: ChangesOptions,
): Promise<Answer> {
  const [older, newer] = [await versionOf(against), await versionOf(place)];
  const data = compareSources(await sourcesAt(against), await sourcesAt(place));
  const comparison = new LookComparison(older, newer);
  let told = performance.now();
  const looks = await comparison.parts((done, all) => {
    if (performance.now() - told < 5_000) return;
    told = performance.now();
    note(`Comparing: ${done} of ${all} parts on bodies.`);
  });
  const read = saves === undefined ? undefined : await readCharacters(saves);
  const characters: CharacterChanges[] = [];
  if (read !== undefined) note(`Looking at ${counted(read.characters.length, "character")}.`);
  const says = sayByTitles(newer.catalog);
  for (const character of read?.characters ?? []) {
    const { problems, lost, edits } = compareCharacter(older.catalog, newer.catalog, character);
    const look = await comparison.character(character);
    if (problems.length + lost.length === 0 && look === undefined) continue;
    const mends = edits?.map((edit) => says(editMessage(edit, character.loadout)));
    characters.push({ character, problems, lost, mends, look });
  }
  const report = join(out, "changes.html");
  const all = { older, newer, data, looks, characters: read && characters };
  await writeOutput(report, writeChanges(all));
  const { version } = newer.catalog;
  return {
    lines: [
      `${textIn(newer.catalog.title)}: ${versionInWords(older.catalog)} to ${versionInWords(newer.catalog)}.`,
      `${counted(data.length, "entry", "entries")} changed in the data; ${counted(looks.length, "part")} on bodies look otherwise.`,
      ...(read === undefined ? [] : [charactersLine(read.characters.length, characters)]),
      ...(read?.unread ?? []).map((name) => `Not read: ${name} holds no character that is whole.`),
      `Written: ${report}`,
    ],
    data: {
      catalog: { id: newer.catalog.id, version },
      against: { id: older.catalog.id, version: older.catalog.version },
      changes: data,
      looks: looks.map(({ body, part, moment, frames, pixels }) => ({
        body,
        part: part ?? null,
        moment,
        frames,
        pixels,
      })),
      ...(read === undefined
        ? {}
        : {
            characters: characters.map(({ character, problems, lost, mends, look }) => ({
              id: character.id,
              problems: problemData(problems),
              lost,
              mends: mends ?? null,
              pixels: look?.pixels ?? 0,
            })),
            unread: read.unread,
          }),
      report,
    },
  };
}

async function versionOf(place: CatalogPlace): Promise<Version> {
  return { place, catalog: await loadCatalog(place) };
}

/** What is not known any more is kept, and makes nobody invalid. */
function isInvalid({ problems }: CharacterChanges): boolean {
  return problems.some(({ severity }) => severity === "error");
}

function charactersLine(count: number, touched: readonly CharacterChanges[]): string {
  const having = (what: (each: CharacterChanges) => boolean) => touched.filter(what).length;
  return `Of ${counted(count, "character")}, ${having(isInvalid)} become invalid, ${having(({ lost }) => lost.length > 0)} lose something, ${having(({ look }) => look !== undefined)} look otherwise.`;
}
