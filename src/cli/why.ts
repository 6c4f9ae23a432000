import type { Colors } from "picocolors/types.js";
import { format } from "../core/base/format.ts";
import type { Message } from "../core/base/message.ts";
import { english } from "../core/base/messages/english.ts";
import { MantleError, type Place } from "../core/base/problem.ts";
import type { Catalog, Part } from "../core/catalog/model/catalog.ts";
import { catalogTitles } from "../core/catalog/titles.ts";
import type { Character } from "../core/character/character.ts";
import type { Edit, LoadoutProblem } from "../core/character/edit.ts";
import { applyEdit } from "../core/edits/apply-edit.ts";
import { editMessage } from "../core/edits/edit-message.ts";
import { checkLoadout } from "../core/loadout/check-loadout.ts";
import { optionsFor } from "../core/loadout/options-for.ts";
import { editsPastTrouble } from "../core/solver/edits-past-trouble.ts";
import { repairLoadout } from "../core/solver/repair-loadout.ts";
import { solver } from "../core/solver/solver.ts";
import { surveyRules } from "../core/survey/survey-rules.ts";
import { CatalogFolder } from "../node/catalog-folder.ts";
import type { CatalogPlace } from "../node/catalog-place.ts";
import { findLines } from "../node/find-lines.ts";
import { loadCatalog } from "../node/load-catalog.ts";
import { catalogArgument, type PackOptions, placeOf } from "./catalog-argument.ts";
import { readCharacterFile } from "./character-file.ts";
import { type Answer, type DefineCommand, problemData, sayWithFixes } from "./output.ts";
import { sayFact } from "./say-data.ts";

interface Options extends PackOptions {
  readonly in?: string;
  readonly json?: boolean;
}

/** `mantle why`: whether a character can wear a part now, the chain of facts behind it, and the smallest change. */
export const defineWhy: DefineCommand = (command, terminal) => {
  catalogArgument(command)
    .argument("<character>", "file of the character, or folder of its save")
    .argument("<part>", "id of the part")
    .option("--in <slot>", "the slot, for a part that goes in several")
    .option("--json", "print data for programs")
    .addHelpText(
      "after",
      '\nExample:\n  $ mantle why saltmarsh out/wren.json watch-chain\n  Watch chain ("watch-chain") cannot go in Chain now.\n  With Watch chain there must be Waistcoat. A chain hangs from a waistcoat, or it hangs in the air.\n  What would do it:\n    put on Waistcoat in slot Vest\n    put on Watch chain in slot Chain',
    )
    .action(async (folder: string, file: string, part: string, options: Options) =>
      terminal.answer(await why(placeOf(folder, options), file, part, options.in, terminal.colors), options),
    );
};

async function why(
  place: CatalogPlace,
  file: string,
  id: string,
  named: string | undefined,
  colors: Colors,
): Promise<Answer> {
  const catalog = await loadCatalog(place, { art: "none" });
  const character = await readCharacterFile(file);
  const part = catalog.parts.get(id);
  const [refusal] = part === undefined ? problemsOf(catalog, character, { wear: id }) : [];
  if (part === undefined) throw new MantleError("unknown-part", saidOf(refusal));
  const slot = named ?? part.slots[0] ?? "";
  const option = optionsFor(catalog, character, slot).find((each) => each.part === part);
  if (option === undefined) {
    const [wrong] = problemsOf(catalog, character, { wear: id, in: slot });
    throw new MantleError("wrong-slot", saidOf(wrong));
  }
  const { state, displaced, problems } = option;
  const places = await rulePlaces(place, catalog, [...problems, ...checkLoadout(catalog, character, { solver })]);
  const speaks = { catalog, colors, places };
  const toWear = state === "blocked" ? editsPastTrouble({ catalog, character, context: {} }, id, slot) : undefined;
  const rest = toWear === undefined ? [] : mendingAfter(catalog, character, toWear, slot);
  const proof = state === "blocked" && toWear === undefined ? proofOf(catalog, part) : undefined;
  const wrong = state === "worn" ? concerning(catalog, character, id, slot) : [];
  const lines = [
    verdict(part, slot, state, wrong.length > 0, speaks),
    ...displaced.map((each) => `${titled(catalog, "part", each.part)} comes off: ${said(each.because, catalog)}`),
    ...problems.flatMap((problem) => findingLines(problem, { part: id, slot }, speaks)),
    ...wrong.flatMap((problem) => findingLines(problem, undefined, speaks)),
    ...(proof === undefined ? [] : [proof]),
    ...(state === "blocked" ? linesToWear(toWear, character, catalog) : []),
    ...(rest.length === 0 ? [] : ["What else is wrong would be mended by:", ...editLines(rest, character, catalog)]),
    ...mending(wrong, catalog),
  ];
  return {
    lines,
    data: {
      part: id,
      slot,
      state,
      displaced,
      problems: problemData([...problems, ...wrong]),
      editsToWear: toWear ?? null,
      mends: rest,
    },
    exitCode: state === "blocked" || state === "secret" || wrong.length > 0 ? 1 : 0,
  };
}

interface Speaking {
  readonly catalog: Catalog;
  readonly colors: Colors;
  /** Where rules are written, by their numbers. */
  readonly places: ReadonlyMap<number, Place>;
}

/** Where the rules that some findings speak of are written, with their lines. */
async function rulePlaces(
  place: CatalogPlace,
  { rules }: Catalog,
  problems: readonly LoadoutProblem[],
): Promise<ReadonlyMap<number, Place>> {
  const numbers = problems.flatMap(({ chain }) =>
    chain.flatMap((fact) => (fact.kind === "rule" || fact.kind === "set" ? [fact.number] : [])),
  );
  const spoken = [...new Set(numbers)].flatMap((number) => {
    const place = rules[number]?.place;
    return place === undefined ? [] : [{ number, place }];
  });
  const files = ["catalog.json", ...spoken.flatMap(({ place }) => place.file ?? [])];
  const found = await findLines(
    new CatalogFolder(place),
    [...new Set(files)],
    spoken.map(
      ({ place }) => ({ code: "rule-never-fires", params: {}, severity: "warning", fixes: [], place }) as const,
    ),
  );
  return new Map(spoken.map(({ number, place }, at) => [number, found[at]?.place ?? place]));
}

function said(message: Message, catalog: Catalog): string {
  return format(message, english, catalogTitles(catalog));
}

function titled(catalog: Catalog, noun: "part" | "slot", id: string): string {
  return catalogTitles(catalog).titleOf?.(noun, id, {}) ?? id;
}

/** A finding, and the facts that lead to it. What is only supposed is kept apart from what is. */
function findingLines(
  problem: LoadoutProblem,
  supposed: { readonly part: string; readonly slot: string } | undefined,
  { catalog, colors, places }: Speaking,
): readonly string[] {
  const facts = problem.chain.map((fact) => {
    const isSupposed = fact.kind === "worn" && fact.part === supposed?.part && fact.slot === supposed.slot;
    return colors.dim(`  ${isSupposed ? "supposing that " : ""}${sayFact(fact, catalog, places)}`);
  });
  return [said(problem, catalog), ...facts];
}

function verdict(part: Part, slot: string, state: string, isWrong: boolean, { catalog, colors }: Speaking): string {
  const [name, place] = [`${titled(catalog, "part", part.id)} ("${part.id}")`, titled(catalog, "slot", slot)];
  if (state === "worn" && isWrong) return colors.red(`${name} is worn in ${place}, and something is wrong with it.`);
  if (state === "worn") return colors.green(`${name} is worn in ${place}.`);
  if (state === "blocked") return colors.red(`${name} cannot go in ${place} now.`);
  if (state === "secret") return colors.red(`${name} cannot go in ${place}.`);
  return colors.green(`${name} can go in ${place} now.`);
}

/** What is wrong with a part that is worn. */
function concerning(catalog: Catalog, character: Character, part: string, slot: string): readonly LoadoutProblem[] {
  return checkLoadout(catalog, character, { solver }).filter(
    ({ subject, place, chain }) =>
      (subject.kind === "part" && subject.id === part) ||
      place.pointer === `/loadout/${slot}` ||
      chain.some((fact) => fact.kind === "worn" && fact.part === part && fact.slot === slot),
  );
}

/** The fewest edits that mend what is wrong besides, once a part is worn. */
function mendingAfter(catalog: Catalog, character: Character, toWear: readonly Edit[], slot: string): readonly Edit[] {
  let dressed = character;
  for (const edit of toWear) dressed = applyEdit(catalog, dressed, edit).character;
  return repairLoadout(catalog, dressed, { keep: [slot] }).edits ?? [];
}

function editLines(edits: readonly Edit[], { loadout }: Character, catalog: Catalog): readonly string[] {
  return edits.map((edit) => `  ${said(editMessage(edit, loadout), catalog)}`);
}

/** What would mend findings, each by itself. */
function mending(problems: readonly LoadoutProblem[], catalog: Catalog): readonly string[] {
  const fixes = problems.flatMap((problem) => problem.fixes.filter(({ edits }) => edits !== undefined));
  return fixes.length === 0 ? [] : ["What would mend it:", ...fixes.map((fix) => `  ${said(fix, catalog)}`)];
}

function linesToWear(toWear: readonly Edit[] | undefined, character: Character, catalog: Catalog): readonly string[] {
  if (toWear === undefined) return ["No change of other slots would do it."];
  return ["What would do it:", ...editLines(toWear, character, catalog)];
}

/** What a survey of the catalog has to say about a part that no edits lead to. */
function proofOf(catalog: Catalog, part: Part): string | undefined {
  const { problems } = surveyRules(catalog);
  const found = problems.find(({ place }) => place.pointer === `/parts/${part.id}`);
  return found && said(found, catalog);
}

function problemsOf(catalog: Catalog, character: Character, edit: Edit): readonly LoadoutProblem[] {
  const result = applyEdit(catalog, character, edit);
  return result.ok ? [] : result.problems;
}

function saidOf(problem: LoadoutProblem | undefined): string {
  return problem === undefined ? "" : sayWithFixes(problem);
}
