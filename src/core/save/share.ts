import { type Message, message, type ProblemCode } from "../base/message.ts";
import type { Problem } from "../base/problem.ts";
import { sha256 } from "../base/sha256.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import { withheld } from "../character/bag/access.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { Appearance } from "../character/edit.ts";
import { concealedGear } from "../edits/concealed-gear.ts";
import { isOffered } from "../rules/is-offered.ts";
import { BitReader, BitWriter } from "./bits.ts";
import { findHashed, hashWidths, idHash } from "./id-hash.ts";

/** What a code holds, and what could not be taken from it. */
export type SharedLook =
  | { readonly look: Appearance; readonly problems: readonly Problem[] }
  | { readonly look: undefined; readonly problems: readonly Problem[] };

/** Digits and capitals without I, L, O and U, which are read for others. */
const letters = "0123456789ABCDEFGHJKMNPQRSTVWXYZ";
const bitsOfLetter = 5;
const version = 1;
const checksumBits = 25;
/** No look of any catalog needs more letters; what is longer is not looked at. */
const longestCode = 1_000;

/**
 * Writes the look of a character as a short code that can be sent to anyone who has the game.
 *
 * The code holds hashes of ids and no places in lists, so it is still understood when the catalog has grown, and a part that is
 * gone is missed and never taken for another. It is made of digits and capitals, five bits each; a checksum finds mistyped codes.
 * Name, bag and facts are not in it, nor gear that an outfit conceals, nor what the catalog does not know.
 *
 * @example
 * shareLook(catalog, wren) // → "2V0B370R…"
 */
export function shareLook(catalog: Catalog, look: Appearance & Pick<Character, "body" | "concealed">): string {
  const widths = hashWidths(catalog);
  const bits = new BitWriter();
  bits.write(version, 4);
  bits.write(widths.place, 5);
  bits.write(widths.thing, 5);
  bits.write(idHash("body", look.body, widths.thing), widths.thing);
  const unseen = concealedGear(catalog, { facts: {}, ...look });
  const worn = Object.entries(look.loadout).filter(
    ([slot, part]) => catalog.slots.has(slot) && catalog.parts.has(part) && !unseen.has(slot),
  );
  bits.write(Math.min(worn.length, 255), 8);
  for (const [slot, part] of worn.slice(0, 255)) {
    bits.write(idHash("slot", slot, widths.place), widths.place);
    bits.write(idHash("part", part, widths.thing), widths.thing);
  }
  const painted = Object.entries(look.colors).filter(([channel]) => catalog.channels.has(channel));
  bits.write(Math.min(painted.length, 255), 8);
  for (const [channel, ramp] of painted.slice(0, 255)) {
    bits.write(idHash("channel", channel, widths.place), widths.place);
    const isCustom = ramp.startsWith("#");
    bits.write(isCustom ? 1 : 0, 1);
    if (isCustom) bits.write(Number.parseInt(ramp.slice(1), 16), 24);
    else bits.write(idHash("ramp", ramp, widths.thing), widths.thing);
  }
  const body = bits.groups(bitsOfLetter);
  return [...body, ...checksum(body)].map((each) => letters[each]).join("");
}

/**
 * Reads the look that a code holds.
 *
 * Small letters, spaces and hyphens make no difference; `O` is read as `0`, `I` and `L` as `1`. What this catalog does not
 * have, and with holdings what the player does not own, is left out and listed. Takes time in proportion to the length of the
 * code, which is bounded, whatever it holds.
 *
 * @returns the look, to be put on with `fitting.applyAppearance`; or none when the code is not one, or was mistyped.
 * @example
 * const { look, problems } = readSharedLook(catalog, code, { holdings })
 * if (look) fitting.applyAppearance(look)
 */
export function readSharedLook(catalog: Catalog, code: string, context: Context = {}): SharedLook {
  if (code.length > longestCode) return unreadable(message("code-too-long", { max: longestCode }));
  const groups = lettersOf(code);
  const body = groups?.slice(0, -checksumBits / bitsOfLetter);
  if (groups === undefined || body === undefined || body.length === 0) {
    return unreadable(message("not-a-code"));
  }
  const sum = groups.slice(body.length);
  if (!checksum(body).every((each, at) => each === sum[at])) return unreadable(message("code-mistyped"));
  const bits = new BitReader(body, bitsOfLetter);
  if (bits.read(4) !== version) return unreadable(message("code-too-new"));
  return readLook(catalog, bits, context);
}

function unreadable({ code, params }: Message<ProblemCode>): SharedLook {
  const fixes = [{ code: code === "code-too-new" ? "update-game" : "copy-code", params: {} }] as const;
  return { look: undefined, problems: [{ code, params, severity: "error", place: { pointer: "" }, fixes }] };
}

function lettersOf(code: string): readonly number[] | undefined {
  const plain = code.toUpperCase().replaceAll(/[\s-]/g, "").replaceAll("O", "0").replaceAll(/[IL]/g, "1");
  const groups = [...plain].map((letter) => letters.indexOf(letter));
  return groups.includes(-1) ? undefined : groups;
}

/** The first bits of SHA-256 over the letters' numbers, in letters. */
function checksum(groups: readonly number[]): readonly number[] {
  const hash = new BitReader([...sha256(Uint8Array.from(groups))], 8);
  return Array.from({ length: checksumBits / bitsOfLetter }, () => hash.read(bitsOfLetter) ?? 0);
}

function readLook(catalog: Catalog, bits: BitReader, context: Context): SharedLook {
  const problems: Problem[] = [];
  const miss = ({ code, params }: Message<ProblemCode>, advice: "body-stays" | "left-out" = "left-out") =>
    problems.push({ code, params, severity: "warning", place: { pointer: "" }, fixes: [{ code: advice, params: {} }] });
  const widths = { place: bits.read(5) ?? 0, thing: bits.read(5) ?? 0 };
  const next = (noun: "slot" | "part" | "channel" | "ramp" | "body", ids: Iterable<string>) => {
    const width = noun === "slot" || noun === "channel" ? widths.place : widths.thing;
    return findHashed(noun, ids, bits.read(width), width);
  };
  const body = next("body", catalog.bodies.keys());
  if (body === undefined) miss(message("body-not-here"), "body-stays");

  const loadout: Record<string, string> = {};
  for (let left = bits.read(8) ?? 0; left > 0 && bits.left > 0; left -= 1) {
    const slot = catalog.slots.get(next("slot", catalog.slots.keys()) ?? "");
    const id = next("part", slot?.parts.map((part) => part.id) ?? catalog.parts.keys());
    const part = catalog.parts.get(id ?? "");
    if (slot === undefined) miss(message("slot-not-here"));
    else if (part === undefined) miss(message("part-not-here", { slot: slot.id }));
    else if (withheld(part, context.holdings, []).length > 0) miss(message("part-not-owned", { slot: slot.id }));
    else loadout[slot.id] = part.id;
  }

  const colors: Record<string, string> = {};
  for (let left = bits.read(8) ?? 0; left > 0 && bits.left > 0; left -= 1) {
    const channel = catalog.channels.get(next("channel", catalog.channels.keys()) ?? "");
    const isCustom = bits.read(1) === 1;
    const ramp = isCustom
      ? `#${(bits.read(24) ?? 0).toString(16).padStart(6, "0")}`
      : next("ramp", channel?.ramps ?? catalog.ramps.keys());
    if (channel !== undefined && ramp !== undefined && isOffered(channel, ramp)) colors[channel.id] = ramp;
    else miss(channel === undefined ? message("channel-not-here") : message("color-not-here", { channel: channel.id }));
  }
  return { look: { ...(body === undefined ? {} : { body }), loadout, colors }, problems };
}
