import type { PartSource } from "../schema/schema.ts";
import type { Findings } from "./findings.ts";
import type { Entry, Sources } from "./source.ts";

/** A list of parts that are to be worn together. */
interface Wardrobe {
  readonly parts: readonly string[];
  readonly colors?: Readonly<Record<string, string>> | undefined;
}

/** Finds parts and colors of an outfit that name nothing, and parts that take one another's place. */
export function checkOutfit(entry: Entry<Wardrobe>, sources: Sources, findings: Findings): void {
  const taken = new Map<string, string>();
  for (const [number, id] of entry.value.parts.entries()) {
    if (!findings.known(entry, ["parts", number], "part", id, sources.parts)) continue;
    const part = sources.parts.get(id)?.value;
    if (part === undefined) continue;
    const slot = freeSlot(part, taken);
    const clash = slot === undefined ? slotsOf(part.slot)[0] : (part.occupies ?? []).find((each) => taken.has(each));
    if (clash !== undefined) {
      const other = taken.get(clash) ?? "";
      findings.report(entry, ["parts", number], "parts-clash", { part: id, other, slot: clash });
      continue;
    }
    for (const each of [slot, ...(part.occupies ?? [])]) if (each !== undefined) taken.set(each, id);
  }
  for (const [channel, ramp] of Object.entries(entry.value.colors ?? {})) {
    if (!findings.known(entry, ["colors", channel], "channel", channel, sources.channels)) continue;
    const offered = sources.channels.get(channel)?.value;
    if (offered?.custom === true && ramp.startsWith("#")) continue;
    findings.known(entry, ["colors", channel], "ramp", ramp, new Set(offered?.ramps));
  }
}

/** The slot each of several parts goes in, when they are put on one after the other. */
export function placeParts(parts: readonly string[], sources: Sources): Readonly<Record<string, string>> {
  const taken = new Map<string, string>();
  for (const id of parts) {
    const part = sources.parts.get(id)?.value;
    const slot = part === undefined ? undefined : freeSlot(part, taken);
    if (slot !== undefined) taken.set(slot, id);
  }
  return Object.fromEntries(taken);
}

function freeSlot(part: PartSource, taken: ReadonlyMap<string, string>): string | undefined {
  return slotsOf(part.slot).find((slot) => !taken.has(slot));
}

/** The slots a part goes in. */
export function slotsOf(slot: string | readonly string[]): readonly string[] {
  return typeof slot === "string" ? [slot] : slot;
}
