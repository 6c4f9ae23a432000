import { MantleError } from "../base/problem.ts";
import { suggest } from "../base/suggest.ts";

/**
 * What a rig has under an id; of forms, what the catalog has.
 *
 * @throws MantleError `unknown-animation`, `unknown-facing`, `unknown-crop` or `unknown-form`, with the nearest that is known.
 */
export function named<T>(noun: "animation" | "facing" | "crop" | "form", id: string, known: ReadonlyMap<string, T>): T {
  const found = known.get(id);
  if (found !== undefined) return found;
  const fix = suggest(
    id,
    [...known.keys()],
    (meant) => `Say "${meant}" if that is meant.`,
    `Known: ${[...known.keys()].join(", ")}.`,
  );
  throw new MantleError(
    `unknown-${noun}`,
    [`The ${noun === "form" ? "catalog" : "rig"} has no ${noun} "${id}".`, ...fix.map(({ say }) => say)].join(" "),
  );
}
