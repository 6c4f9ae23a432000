import { titleFromId } from "../../base/text.ts";
import type { Outfit, Preset } from "../model/catalog.ts";
import type { PresetSource } from "../schema/creation-schema.ts";
import type { PartSource } from "../schema/schema.ts";
import { slotsOf } from "./read-slot.ts";
import type { Reader } from "./reader.ts";
import type { Entry, Sources } from "./source.ts";

type OutfitEntry = Sources["outfits"] extends ReadonlyMap<string, infer E> ? E : never;

/** Reads an outfit. Reports parts and colors that are not there, and parts that take one another's place. */
export function readOutfit(entry: OutfitEntry, reader: Reader): Outfit {
  const { id, value } = entry;
  placeParts(entry, reader);
  const { title = titleFromId(id), parts, others = "keep" } = value;
  return { id, title, parts, colors: readColors(entry, reader), others };
}

/** Reads a preset: each part in its slot. Reports what an outfit does, and parts that do not fit its body. */
export function readPreset(entry: Entry<PresetSource>, reader: Reader): Preset {
  const { id, value } = entry;
  const { title = titleFromId(id), say, body, parts, facts = {} } = value;
  const { sources, findings } = reader;
  const loadout = placeParts(entry, reader);
  const colors = readColors(entry, reader);
  if (findings.known(entry, ["body"], "body", body, sources.bodies)) {
    for (const [number, part] of parts.entries()) {
      const fits = sources.parts.get(part)?.value.fits;
      if (fits === undefined || fits.includes(body)) continue;
      findings.report(entry, ["parts", number], "preset-does-not-fit", { part, body });
    }
  }
  return { id, title, say, body, loadout, colors, facts };
}

/** A list of parts that are to be worn together. */
type Wardrobe = Entry<{
  readonly parts: readonly string[];
  readonly colors?: Readonly<Record<string, string>> | undefined;
}>;

/** The slot each of several parts goes in, when they are put on one after the other. */
function placeParts(entry: Wardrobe, { sources, findings }: Reader): Readonly<Record<string, string>> {
  const taken = new Map<string, string>();
  const placed: Record<string, string> = {};
  for (const [number, id] of entry.value.parts.entries()) {
    if (!findings.known(entry, ["parts", number], "part", id, sources.parts)) continue;
    const part = sources.parts.get(id)?.value;
    if (part === undefined) continue;
    if (part.retired === true) findings.warn(entry, ["parts", number], "retired-and-worn", { part: id, by: entry.id });
    const { occupies = [] } = part;
    const slot = freeSlot(part, taken);
    const clash = slot === undefined ? slotsOf(part.slot)[0] : occupies.find((each) => taken.has(each));
    if (slot === undefined || clash !== undefined) {
      const at = clash ?? "";
      findings.report(entry, ["parts", number], "parts-clash", { part: id, other: taken.get(at) ?? "", slot: at });
      continue;
    }
    placed[slot] = id;
    for (const each of [slot, ...occupies]) taken.set(each, id);
  }
  return placed;
}

function freeSlot(part: PartSource, taken: ReadonlyMap<string, string>): string | undefined {
  return slotsOf(part.slot).find((slot) => !taken.has(slot));
}

function readColors(entry: Wardrobe, { sources, findings }: Reader): Readonly<Record<string, string>> {
  const { colors = {} } = entry.value;
  for (const [channel, ramp] of Object.entries(colors)) {
    if (!findings.known(entry, ["colors", channel], "channel", channel, sources.channels)) continue;
    const offered = sources.channels.get(channel)?.value;
    if (offered?.custom === true && ramp.startsWith("#")) continue;
    findings.known(entry, ["colors", channel], "ramp", ramp, new Set(offered?.ramps));
  }
  return colors;
}
