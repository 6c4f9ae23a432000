import { valueAt } from "../../base/record.ts";
import type { Catalog } from "../../catalog/model/catalog.ts";
import { countInBag, stackSize, stacksIn } from "../../character/bag/bag.ts";
import type { Character } from "../../character/character.ts";
import { loadoutProblem } from "../../character/refuse.ts";
import type { Voice } from "../../character/wording.ts";
import type { JudgeContext, Report } from "./judge-context.ts";

/** The bag against its places, the sizes of stacks, and what can be carried at all. Returns whether the catalog knows all of it. */
export function judgeBag(
  voice: Voice,
  { bag }: Character,
  { bagPlaces = Number.POSITIVE_INFINITY }: JudgeContext,
  report: Report,
): boolean {
  const { catalog } = voice;
  let isKnown = true;
  const count = stacksIn(bag);
  if (count > bagPlaces) {
    const words = { places: bagPlaces, count };
    report(() => loadoutProblem(voice, "bag-too-full", { subject: { kind: "character", id: "" }, at: ["bag"], words }));
  }
  for (const id in bag) {
    const about = { subject: { kind: "part", id }, at: ["bag", id] } as const;
    if (!catalog.parts.has(id)) {
      isKnown = false;
      report(() => loadoutProblem(voice, "unknown-part", { ...about, words: { id } }));
      continue;
    }
    if (!isGear(catalog, id))
      report(() => loadoutProblem(voice, "appearance-in-bag", { ...about, words: { part: id } }));
    const largest = Math.max(...(bag[id] ?? []));
    const most = stackSize(catalog, id);
    if (largest <= most) continue;
    const words = { part: id, count: largest, most };
    report(() => loadoutProblem(voice, "stack-too-large", { ...about, words }));
  }
  return isKnown;
}

/** What is worn and carried against how many of it the player has. Appearance is free. */
export function judgeCounts(
  voice: Voice,
  { bag, loadout }: Character,
  counts: NonNullable<JudgeContext["counts"]>,
  report: Report,
): void {
  const had = new Map(Object.keys(bag).map((id) => [id, countInBag(bag, id)]));
  for (const part of Object.values(loadout)) had.set(part, (had.get(part) ?? 0) + 1);
  for (const [id, count] of had) {
    const most = valueAt(counts, id) ?? 0;
    if (count <= most || !isGear(voice.catalog, id)) continue;
    const about = { subject: { kind: "part", id }, at: ["bag", id], words: { part: id, count, most } } as const;
    report(() => loadoutProblem(voice, "too-many", about));
  }
}

/** Whether a part goes in a slot of gear; `false` for one that the catalog does not know. */
function isGear({ parts, slots }: Catalog, id: string): boolean {
  return parts.get(id)?.slots.some((slot) => slots.get(slot)?.kind === "gear") ?? false;
}
