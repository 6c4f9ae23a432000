import { titleFromId } from "../../base/text.ts";
import type { Part, Slot } from "../model/catalog.ts";
import type { Reader } from "./reader.ts";
import type { Sources } from "./source.ts";

type SlotEntry = Sources["slots"] extends ReadonlyMap<string, infer E> ? E : never;

/** Reads a slot. Reports a default that is not there, goes elsewhere, or does not fit everybody. */
export function readSlot(entry: SlotEntry, number: number, parts: readonly Part[], reader: Reader): Slot {
  const { id, value } = entry;
  const { title = titleFromId(id), kind, required = false, default: initial, data = false } = value;
  if (initial !== undefined) checkDefault(entry, initial, reader);
  else if (required && kind === "gear") {
    reader.findings.warn(entry, ["required"], "required-without-default", { slot: id });
  }
  return { id, number, title, kind, required, default: initial, data, parts };
}

function checkDefault(entry: SlotEntry, initial: string, { sources, findings }: Reader): void {
  if (!findings.known(entry, ["default"], "part", initial, sources.parts)) return;
  const part = sources.parts.get(initial)?.value;
  if (part === undefined) return;
  if (part.retired === true) findings.warn(entry, ["default"], "retired-and-worn", { part: initial, by: entry.id });
  const slots = slotsOf(part.slot);
  if (!slots.includes(entry.id)) {
    findings.report(entry, ["default"], "default-elsewhere", { slot: entry.id, part: initial, slots });
  }
  if (entry.value.required !== true || part.fits === undefined) return;
  const left = [...sources.bodies.keys()].filter((body) => !part.fits?.includes(body));
  if (left.length > 0) {
    findings.report(entry, ["default"], "default-does-not-fit", { slot: entry.id, part: initial, bodies: left });
  }
}

/** The slots a part goes in. */
export function slotsOf(slot: string | readonly string[]): readonly string[] {
  return typeof slot === "string" ? [slot] : slot;
}
