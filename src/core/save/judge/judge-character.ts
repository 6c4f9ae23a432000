import { limits } from "../../base/limits.ts";
import { getOwn } from "../../base/record.ts";
import type { Catalog } from "../../catalog/model/catalog.ts";
import type { Character } from "../../character/character.ts";
import type { LoadoutProblem } from "../../character/edit.ts";
import { normalizeName } from "../../character/name.ts";
import { readCharacterText } from "../../character/read-character.ts";
import { aboutWhole, loadoutProblem } from "../../character/refuse.ts";
import { nameProblem, tooManyCharacters } from "../../edits/verbs/rename.ts";
import { checkLoadout } from "../../loadout/check-loadout.ts";
import { judgeBag, judgeCounts } from "./judge-bag.ts";
import type { JudgeContext, Report } from "./judge-context.ts";
import { judgeFacts } from "./judge-facts.ts";

/** What came of judging a character from a stranger. */
export interface Judgement {
  /** Whether it may be taken as it is. */
  readonly accepted: boolean;
  /** What was sent; `undefined` when it is no character at all. */
  readonly character: Character | undefined;
  /** Everything that was found, up to a hundred findings; the last one counts those left out. */
  readonly problems: readonly LoadoutProblem[];
}

/**
 * Judges everything about a character that a stranger sends: for servers that believe nobody.
 *
 * The size of the text is checked before it is parsed, its form before anything is compared, and what it costs is bounded. Then its
 * catalog, its name, its answers, its bag, what it conceals, and its loadout with colors are judged; ids that the catalog does not know
 * are errors here. It does not look at the id, which the server has to know, nor at how the player came by what they own: hand that in with
 * `holdings` and `counts`.
 *
 * @param text - JSON as it was received, of 32,000 characters at most.
 * @returns never throws, whatever the text is.
 * @example
 * const { accepted, character, problems } = judgeCharacter(catalog, body, { holdings, counts, bagPlaces: 12 })
 */
export function judgeCharacter(catalog: Catalog, text: string, context: JudgeContext = {}): Judgement {
  const { character, problems } = readCharacterText(text);
  if (character === undefined) return { accepted: false, character, problems: problems.map(aboutWhole) };
  const found: LoadoutProblem[] = [];
  let more = 0;
  judgeAll(catalog, character, context, (find) => {
    if (found.length < limits.findings) found.push(find());
    else more += 1;
  });
  if (more > 0) found.push(moreFindings(more));
  return { accepted: !found.some(({ severity }) => severity === "error"), character, problems: found };
}

/** Everything that is wrong, the cheapest first. */
function judgeAll(catalog: Catalog, character: Character, context: JudgeContext, report: Report): void {
  judgeCatalog(catalog, character, report);
  judgeName(catalog, character, context, report);
  judgeFacts(catalog, character, context, report);
  const isBagKnown = judgeBag(catalog, character, context, report);
  if (context.counts !== undefined) judgeCounts(catalog, character, context.counts, report);
  const isKnown = judgeIds(catalog, character, report) && isBagKnown;
  judgeConcealed(catalog, character, report);
  const known = isKnown ? character : knownOnly(catalog, character);
  for (const problem of checkLoadout(catalog, known, context)) report(() => problem);
}

function judgeCatalog(catalog: Catalog, { catalog: { id, version } }: Character, report: Report): void {
  const about = { subject: { kind: "catalog", id } } as const;
  if (id !== catalog.id)
    report(() =>
      loadoutProblem("other-catalog", {
        ...about,
        at: ["catalog", "id"],
        params: { id, expected: catalog.id },
      }),
    );
  else if (version !== catalog.version) {
    const params = { version, expected: catalog.version };
    report(() => loadoutProblem("other-version", { ...about, at: ["catalog", "version"], params }));
  }
}

function judgeName(catalog: Catalog, { name }: Character, { names = {} }: JudgeContext, report: Report): void {
  const problem =
    tooManyCharacters(name) ??
    nameProblem(catalog, name, names) ??
    // What is not tidy was not typed into the game.
    (normalizeName(name) === name
      ? undefined
      : loadoutProblem("name-not-seen", { subject: { kind: "name", id: name }, at: ["name"], params: {} }));
  if (problem !== undefined) report(() => problem);
}

/**
 * Ids of the loadout, the colors and what is concealed that the catalog does not know. A stranger needs no help with spelling. Returns
 * whether it knows them all.
 */
function judgeIds(catalog: Catalog, { loadout, colors, concealed }: Character, report: Report): boolean {
  const { channels } = catalog;
  let isKnown = judgeWorn(catalog, "loadout", loadout, report);
  if (concealed !== undefined) judgeWorn(catalog, "concealed", concealed.gear, report);
  for (const channel in colors) {
    if (channels.has(channel)) continue;
    isKnown = false;
    report(() => unknown("channel", channel, ["colors", channel]));
  }
  return isKnown;
}

function judgeWorn(catalog: Catalog, key: string, worn: Character["loadout"], report: Report): boolean {
  let isKnown = true;
  for (const slot in worn) {
    const part = worn[slot] ?? "";
    const isSlot = catalog.slots.has(slot);
    if (isSlot && catalog.parts.has(part)) continue;
    isKnown = false;
    report(() => unknown(isSlot ? "part" : "slot", isSlot ? part : slot, [key, slot]));
  }
  return isKnown;
}

function unknown(kind: "slot" | "part" | "channel", id: string, at: readonly string[]): LoadoutProblem {
  return loadoutProblem(`unknown-${kind}`, { subject: { kind, id }, at, params: { id } });
}

/** What is concealed must be worn, under an outfit that conceals and is worn whole itself. */
function judgeConcealed(catalog: Catalog, { loadout, concealed }: Character, report: Report): void {
  if (concealed === undefined) return;
  const outfit = catalog.outfits.get(concealed.by);
  const worn = new Set(Object.values(loadout));
  const isDressed = outfit?.others === "hide" && outfit.parts.every((part) => worn.has(part));
  const slots = Object.keys(concealed.gear);
  const isWorn = slots.every(
    (slot) =>
      getOwn(loadout, slot) === concealed.gear[slot] &&
      catalog.slots.get(slot)?.kind === "gear" &&
      outfit?.parts.includes(concealed.gear[slot] ?? "") === false,
  );
  if (isDressed && isWorn && slots.length > 0) return;
  const about = { subject: { kind: "outfit", id: concealed.by }, at: ["concealed"] } as const;
  report(() => loadoutProblem("nothing-concealed", { ...about, params: { outfit: concealed.by } }));
}

/** The character without ids that the catalog does not know, which are reported already. */
function knownOnly({ slots, parts, channels }: Catalog, character: Character): Character {
  const loadout = keptOf(character.loadout, (slot, part) => slots.has(slot) && parts.has(part));
  const bag = keptOf(character.bag, (part) => parts.has(part));
  const colors = keptOf(character.colors, (channel) => channels.has(channel));
  return { ...character, loadout, bag, colors };
}

function keptOf<T>(
  record: Readonly<Record<string, T>>,
  isKept: (key: string, value: T) => boolean,
): Readonly<Record<string, T>> {
  return Object.fromEntries(Object.entries(record).filter(([key, value]) => isKept(key, value)));
}

function moreFindings(count: number): LoadoutProblem {
  return loadoutProblem("more-findings", { subject: { kind: "character", id: "" }, at: [], params: { count } });
}
