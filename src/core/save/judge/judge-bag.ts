import { getOwn } from "../../base/record.ts";
import type { Catalog } from "../../catalog/model/catalog.ts";
import { countInBag, stackSize, stacksIn } from "../../character/bag/bag.ts";
import { isGear } from "../../character/bag/is-gear.ts";
import type { Character } from "../../character/character.ts";
import { loadoutProblem } from "../../character/refuse.ts";
import type { JudgeContext, Report } from "./judge-context.ts";

/** The bag against its places, the sizes of stacks, and what can be carried at all. Returns whether the catalog knows all of it. */
export function judgeBag(
  catalog: Catalog,
  { bag }: Character,
  { bagPlaces = Number.POSITIVE_INFINITY }: JudgeContext,
  report: Report,
): boolean {
  let isKnown = true;
  const count = stacksIn(bag);
  if (count > bagPlaces) {
    const params = { places: bagPlaces, count };
    report(() => loadoutProblem("bag-too-full", { subject: { kind: "character", id: "" }, at: ["bag"], params }));
  }
  for (const id in bag) {
    const about = { subject: { kind: "part", id }, at: ["bag", id] } as const;
    if (!catalog.parts.has(id)) {
      isKnown = false;
      report(() => loadoutProblem("unknown-part", { ...about, params: { id } }));
      continue;
    }
    if (!isGear(catalog, id)) report(() => loadoutProblem("appearance-in-bag", { ...about, params: { part: id } }));
    const largest = Math.max(...(bag[id] ?? []));
    const most = stackSize(catalog, id);
    if (largest <= most) continue;
    const params = { part: id, count: largest, max: most };
    report(() => loadoutProblem("stack-too-large", { ...about, params }));
  }
  return isKnown;
}

/** What is worn and carried against how many of it the player has. Appearance is free. */
export function judgeCounts(
  catalog: Catalog,
  { bag, loadout }: Character,
  counts: NonNullable<JudgeContext["counts"]>,
  report: Report,
): void {
  const had = new Map(Object.keys(bag).map((id) => [id, countInBag(bag, id)]));
  for (const part of Object.values(loadout)) had.set(part, (had.get(part) ?? 0) + 1);
  for (const [id, count] of had) {
    const most = getOwn(counts, id) ?? 0;
    if (count <= most || !isGear(catalog, id)) continue;
    const about = { subject: { kind: "part", id }, at: ["bag", id], params: { part: id, count, max: most } } as const;
    report(() => loadoutProblem("too-many", about));
  }
}
