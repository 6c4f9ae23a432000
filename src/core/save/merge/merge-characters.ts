import { MantleError } from "../../base/problem.ts";
import { getOwn } from "../../base/record.ts";
import type { Catalog } from "../../catalog/model/catalog.ts";
import type { Character } from "../../character/character.ts";
import type { Context } from "../../character/context.ts";
import type { LoadoutProblem } from "../../character/edit.ts";
import { withPacks } from "../../character/needed-packs.ts";
import { checkLoadout } from "../../loadout/check-loadout.ts";
import { isCounted, mergeBags } from "./merge-bags.ts";
import type { Versions } from "./versions.ts";

/** Something that both changed, each in another way. */
export interface MergeConflict {
  /** Where in the character: `["name"]`, `["loadout", "hat"]`, `["colors", "oilcloth"]`. */
  readonly at: readonly string[];
  /** What it is here; `undefined` where nothing is chosen. */
  readonly mine: string | undefined;
  readonly theirs: string | undefined;
}

/** Which side a conflict is decided for. */
export type Side = "mine" | "theirs";

export interface MergeOptions extends Context {
  /** Decides each conflict, as a player does who is asked. @defaultValue always `"theirs"` */
  readonly prefer?: Side | ((conflict: MergeConflict) => Side);
}

/** What merging came to. */
export interface CharacterMerge {
  /** Both changes in one character; conflicts are decided as asked. */
  readonly character: Character;
  /** What both changed, each in another way; empty when nothing had to be decided. */
  readonly conflicts: readonly MergeConflict[];
  /** Errors of the merged loadout that neither side has alone: two parts that are never worn together, one put on by each. */
  readonly problems: readonly LoadoutProblem[];
}

/**
 * Merges two changes of one character that were made without knowledge of each other, as on two devices.
 *
 * What only one side changed is taken from it: slots, colors, answers, the name. The bag is merged by difference: of each part there are as
 * many as at the beginning, and what either side gained or lost; what loses its slot goes to the bag. So nothing vanishes, and nothing is
 * doubled.
 *
 * @param versions - what both began with, and what each side has now; all three have the same id.
 * @throws MantleError `other-character` when they are not versions of one character.
 * @example
 * // Here a hat was put on, there the coat was painted.
 * mergeCharacters(catalog, { base: wren, mine: hatted, theirs: painted }).conflicts // → []
 */
export function mergeCharacters(
  catalog: Catalog,
  versions: Versions<Character>,
  { prefer = "theirs", ...context }: MergeOptions = {},
): CharacterMerge {
  const { base, mine, theirs } = versions;
  if (mine.id !== theirs.id || base.id !== mine.id) {
    throw new MantleError("other-character", `"${mine.id}" and "${theirs.id}" are not versions of one character.`);
  }
  const conflicts: MergeConflict[] = [];
  const side = typeof prefer === "function" ? prefer : () => prefer;
  const decide = (conflict: MergeConflict) => {
    conflicts.push(conflict);
    return side(conflict);
  };
  const record = (key: "loadout" | "colors" | "facts") => mergeRecords(key, versions, decide);
  const one = (key: "body" | "name") => pick([key], base[key], mine[key], theirs[key], decide) ?? theirs[key];

  const loadout = { ...record("loadout") };
  const bag = mergeBags(catalog, versions, loadout, (part) => {
    // There is one of it, and each side wears it in another slot.
    const slots = Object.keys(loadout).filter((slot) => loadout[slot] === part && isCounted(catalog, slot, part));
    const [mySlot] = slots.filter((slot) => getOwn(theirs.loadout, slot) !== part);
    const [theirSlot] = slots.filter((slot) => getOwn(mine.loadout, slot) !== part);
    const at = ["loadout", mySlot ?? theirSlot ?? slots[0] ?? ""];
    const isKeptHere = decide({ at, mine: part, theirs: getOwn(theirs.loadout, at[1] ?? "") }) === "mine";
    const lost = isKeptHere ? (theirSlot ?? mySlot) : (mySlot ?? theirSlot);
    if (lost !== undefined) delete loadout[lost];
  });
  const concealed = stillWorn(mergeConcealed(versions, decide), loadout);
  const { concealed: _, ...rest } = theirs;
  const character = withPacks(catalog, {
    ...rest,
    catalog: mergeCatalogs(versions),
    body: one("body"),
    name: one("name"),
    loadout,
    bag,
    colors: record("colors"),
    facts: record("facts"),
    ...(concealed === undefined ? {} : { concealed }),
  });
  return { character, conflicts, problems: newErrors(catalog, character, [mine, theirs], context) };
}

/** The catalog that is named last, with the packs of both: which of them are still needed is found out with the rest. */
function mergeCatalogs({ base, mine, theirs }: Versions<Character>): Character["catalog"] {
  const [one, other] = [mine.catalog, theirs.catalog].map(({ packs: _, ...own }) => own);
  const { packs: _, ...own } = base.catalog;
  const last = (isSame(own, other) ? one : other) ?? own;
  const packs = { ...mine.catalog.packs, ...theirs.catalog.packs };
  return Object.keys(packs).length === 0 ? last : { ...last, packs };
}

function mergeRecords(
  key: "loadout" | "colors" | "facts",
  { base, mine, theirs }: Versions<Character>,
  decide: (conflict: MergeConflict) => Side,
): Readonly<Record<string, string>> {
  const ids = new Set([...Object.keys(theirs[key]), ...Object.keys(mine[key])]);
  return Object.fromEntries(
    [...ids].flatMap((id) => {
      const [before, here, there] = [base, mine, theirs].map((each) => getOwn(each[key], id));
      const value = pick([key, id], before, here, there, decide);
      return value === undefined ? [] : [[id, value]];
    }),
  );
}

function pick(
  at: readonly string[],
  base: string | undefined,
  mine: string | undefined,
  theirs: string | undefined,
  decide: (conflict: MergeConflict) => Side,
): string | undefined {
  if (mine === theirs || base === mine) return theirs;
  if (base === theirs) return mine;
  return decide({ at, mine, theirs }) === "mine" ? mine : theirs;
}

function mergeConcealed(
  { base, mine, theirs }: Versions<Character>,
  decide: (conflict: MergeConflict) => Side,
): Character["concealed"] {
  if (isSame(mine.concealed, theirs.concealed) || isSame(base.concealed, mine.concealed)) return theirs.concealed;
  if (isSame(base.concealed, theirs.concealed)) return mine.concealed;
  const conflict = { at: ["concealed"], mine: mine.concealed?.by, theirs: theirs.concealed?.by };
  return decide(conflict) === "mine" ? mine.concealed : theirs.concealed;
}

/** What is concealed is worn, and nothing else is. */
function stillWorn(concealed: Character["concealed"], loadout: Character["loadout"]): Character["concealed"] {
  const gear = Object.entries(concealed?.gear ?? {}).filter(([slot, part]) => getOwn(loadout, slot) === part);
  return concealed === undefined || gear.length === 0 ? undefined : { ...concealed, gear: Object.fromEntries(gear) };
}

/** Whether two small values of JSON are the same; their keys come in one order, since they have one origin. */
function isSame(one: unknown, other: unknown): boolean {
  return JSON.stringify(one) === JSON.stringify(other);
}

function newErrors(
  catalog: Catalog,
  merged: Character,
  sides: readonly Character[],
  context: Context,
): readonly LoadoutProblem[] {
  const errorsOf = (character: Character) =>
    checkLoadout(catalog, character, context).filter(({ severity }) => severity === "error");
  const nameOf = ({ code, params }: LoadoutProblem) => JSON.stringify([code, params]);
  const known = new Set(sides.flatMap(errorsOf).map(nameOf));
  return errorsOf(merged).filter((problem) => !known.has(nameOf(problem)));
}
