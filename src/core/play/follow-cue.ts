import { type Message, message } from "../base/message.ts";
import { getOwn } from "../base/record.ts";
import type { Catalog, Cue, CueAction } from "../catalog/model/catalog.ts";
import { addToBag } from "../character/bag/bag.ts";
import { overfull } from "../character/bag/overfull.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { Displaced, Edit, LoadoutProblem } from "../character/edit.ts";
import { unknownId } from "../character/refuse.ts";
import { applyEdit } from "../edits/apply-edit.ts";
import { holds } from "../rules/condition.ts";
import { hasValue } from "../rules/signals.ts";
import { statsOf } from "../rules/stats.ts";
import { wornParts } from "../rules/worn.ts";

/** What came with a word of the game. */
export type CuePayload = Readonly<Record<string, string | number | boolean>>;

/** Why a cue was not followed. */
export type CueRefusal = "nobody" | "guard" | "spent" | "resting" | "grace" | "refused";

/** What came of one cue: `ok` says whether it was followed. */
export type CueOutcome = { readonly cue: Cue; readonly seat: number } & (CueFollowed | CueRefused);

export interface CueFollowed {
  readonly ok: true;
  readonly displaced: readonly Displaced[];
  /** The parts that it gave. In this session they are owned from now on; the game keeps that with the other holdings. */
  readonly given: readonly string[];
  readonly code?: undefined;
  readonly because?: undefined;
  readonly problems: readonly [];
}

export interface CueRefused {
  readonly ok: false;
  /** Why it was not followed. */
  readonly code: CueRefusal;
  /** The same for people. */
  readonly because: Message;
  readonly problems: readonly LoadoutProblem[];
  readonly displaced: readonly [];
  readonly given: readonly [];
}

/** For whom a cue is judged, and when. */
export interface CueMoment {
  readonly catalog: Catalog;
  readonly character: Character;
  readonly context: Context;
  readonly payload: CuePayload;
  /** How often it was followed before. */
  readonly followed: number;
  /** Seconds since it was followed last, and since the player arrived; infinity for never. */
  readonly since: { readonly followed: number; readonly arrival: number };
  /** Whether time passes at all; not in a session that was handed no clock. */
  readonly hasClock: boolean;
}

/** Why a cue is not to be followed now, if so. */
export function guardAgainst(cue: Cue, moment: CueMoment): readonly [CueRefusal, Message] | undefined {
  const { payload: facts, followed, since, hasClock } = moment;
  const more = hasClock ? {} : { more: [message("no-clock")] };
  for (const [fact, wanted] of Object.entries(cue.payload)) {
    const found = getOwn(facts, fact);
    if (hasValue(found, wanted)) continue;
    const params = { key: fact, wanted: String(wanted) };
    if (found === undefined) return ["guard", message("payload-missing", params)];
    return ["guard", message("payload-differs", { ...params, found: String(found) })];
  }
  if (since.arrival < cue.grace)
    return [
      "grace",
      { ...message("too-soon-after-arrival", { since: tenths(since.arrival), grace: cue.grace }), ...more },
    ];
  if (followed >= cue.times) return ["spent", message("followed-already", { times: followed })];
  if (since.followed < cue.cooldown)
    return [
      "resting",
      { ...message("still-resting", { since: tenths(since.followed), cooldown: cue.cooldown }), ...more },
    ];
  const lack = lackOf(cue, moment);
  if (lack === undefined) return undefined;
  return ["guard", cue.message === undefined ? lack : message("authored", { say: cue.message })];
}

/** What a cue asks of the character that is not so. */
function lackOf(cue: Cue, moment: CueMoment): Message | undefined {
  const { catalog, character, context } = moment;
  if (cue.when !== undefined && !holds(cue.when, { catalog, character, context, worn: wornParts(catalog, character) }))
    return message("condition-unmet");
  const lacking = lackingStat(cue, moment);
  return lacking && message("stat-unmet", lacking);
}

/** Seconds as messages give them: rounded down, so that what is too soon never sounds late enough. */
function tenths(seconds: number): number {
  return Math.floor(seconds * 10) / 10;
}

function lackingStat({ requires: needs }: Cue, { catalog, character, context }: CueMoment) {
  const needed = Object.entries(needs);
  if (needed.length === 0) return undefined;
  const stats = statsOf(catalog, character, context);
  return needed
    .map(([stat, min]) => ({ stat, min, value: getOwn(stats, stat) ?? 0 }))
    .find(({ min, value }) => value < min);
}

/** What the edits of a cue make of a character, all of them or none. */
export type Followed =
  | {
      readonly ok: true;
      readonly character: Character;
      readonly displaced: readonly Displaced[];
      readonly given: readonly string[];
    }
  | { readonly ok: false; readonly problems: readonly LoadoutProblem[] };

/** Does what a cue does to the character itself. What it gives is owned, and can be worn by the same cue. */
export function changeByCue(cue: Cue, { catalog, character, context }: CueMoment): Followed {
  const given: string[] = [];
  let { bag } = character;
  for (const action of cue.does) {
    if (!("give" in action)) continue;
    if (!catalog.parts.has(action.give))
      return { ok: false, problems: [unknownId(catalog, "part", action.give, ["bag"])] };
    bag = addToBag(catalog, bag, action.give, action.count);
    given.push(action.give);
  }
  const richer = given.length === 0 ? character : { ...character, bag };
  const owner = { ...context, ...ownedToo(context, given) };
  const edits = cue.does.flatMap((action) => editsOf(catalog, character, action));
  const result = applyEdit(catalog, richer, { together: edits }, owner);
  if (!result.ok) return result;
  const problems = overfull(character, result.character, context);
  return problems.length > 0 ? { ok: false, problems } : { ...result, given };
}

/** The holdings of a context with some more parts in them; nothing where no holdings are given, since everything is owned then. */
export function ownedToo({ holdings }: Pick<Context, "holdings">, parts: readonly string[]): Pick<Context, "holdings"> {
  if (holdings === undefined || parts.length === 0) return {};
  return { holdings: { ...holdings, ...Object.fromEntries(parts.map((part) => [part, "owned" as const])) } };
}

function editsOf(catalog: Catalog, character: Character, action: CueAction): readonly Edit[] {
  if ("give" in action || "form" in action || "control" in action || "raise" in action) return [];
  if (!("undress" in action)) return [action];
  const parts = catalog.outfits.get(action.undress)?.parts ?? [];
  return wornParts(catalog, character)
    .filter(({ part, issued }) => !issued && parts.includes(part.id))
    .map(({ slot }) => ({ remove: slot }));
}
