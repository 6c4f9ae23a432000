import { describeProblem, type Image } from "zealous-mantle";
import { type ImportPlan, planImport, readArt } from "zealous-mantle/authoring";
import { messages } from "zealous-mantle/locales/en";
import { englishArt } from "zealous-mantle/locales/en/art";
import type { Bench } from "./bench.ts";

/** A part that was dropped on the bench, and what draws it. */
export interface DroppedPart {
  readonly id: string;
  readonly fragment: object;
  readonly tables: ReadonlyMap<string, unknown>;
  readonly pictures: ReadonlyMap<string, Image>;
}

/**
 * Reads a sheet or a drawing in layers that was dropped, as a part for the slot of what is on the bench, in its channel and at its depth.
 *
 * @throws Error with what is wrong with it.
 */
export function readDropped(bench: Bench, name: string, bytes: Uint8Array): DroppedPart {
  const { catalog, choice, part } = bench;
  const rig = catalog.bodies.get(choice.body)?.rig;
  const [firstSlot = ""] = catalog.slots.keys();
  if (rig === undefined) throw new Error("There is no body to wear it.");
  const slots = new Set(catalog.slots.keys());
  const found = readArt(new Map([[name, bytes]]), { rig, slots });
  // Trimmings lie before and behind what a part is made of.
  const colored = part?.layers.filter(({ channel }) => channel !== undefined) ?? [];
  const like = colored[Math.floor(colored.length / 2)];
  const depths = part?.layers.filter(({ channel }) => channel === like?.channel).map(({ depth }) => depth?.rest ?? 0);
  // Nothing of the catalog is called so.
  const parts = found.parts.map((each) => ({ ...each, name: `Dropped ${each.name}` }));
  const plan: ImportPlan = planImport(
    catalog,
    { ...found, parts },
    {
      rig,
      slot: part?.slots[0] ?? firstSlot,
      depth: Math.max(...(depths ?? [64])),
      ...(like?.channel === undefined ? {} : { channel: like.channel }),
    },
  );
  const [made] = plan.parts;
  if (made === undefined || plan.fragment === undefined) {
    const reasons = plan.problems.map((problem) => describeProblem(problem, { ...messages, ...englishArt }));
    throw new Error(reasons.join(" ") || "Nothing is drawn in it.");
  }
  const layers = plan.parts.flatMap((each) => each.layers);
  return {
    id: made.id,
    fragment: plan.fragment,
    tables: new Map(layers.map(({ tablePath, table }) => [tablePath, table])),
    pictures: new Map(layers.map(({ path, image }) => [path, image])),
  };
}
