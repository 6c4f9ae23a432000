import { nearestId } from "./nearest-id.ts";
import { type ErrorCode, MantleError } from "./problem.ts";

type KnownKind = Extract<ErrorCode, `unknown-${string}`> extends `unknown-${infer Each}` ? Each : never;

/**
 * What is known under an id.
 *
 * @throws MantleError `unknown-part` and the like, with the nearest id that is known, or else with all of them where they are few.
 */
export function requireKnown<T>(noun: KnownKind, id: string, known: ReadonlyMap<string, T>): T {
  const found = known.get(id);
  if (found !== undefined) return found;
  const ids = [...known.keys()];
  const meant = nearestId(id, ids);
  const all = ids.length > 0 && ids.length <= 12 ? ` There are ${ids.map((each) => `"${each}"`).join(", ")}.` : "";
  const advice = meant === undefined ? all : ` Write "${meant}" if that is meant.`;
  throw new MantleError(`unknown-${noun}` as ErrorCode, `There is no ${noun} "${id}".${advice}`);
}
