import { badCatalog } from "../core/base/bad-catalog.ts";
import type { MantleError, Problem } from "../core/base/problem.ts";

/**
 * The error for a served catalog that cannot be used. The sentences for it are loaded now: a game whose catalog is right never needs them. Where they do not
 * come, the error has codes in their place.
 */
export async function badServedCatalog({ href }: URL, problems: readonly Problem[]): Promise<MantleError> {
  const { english } = await import("../core/base/messages/english.ts").catch(() => ({ english: {} }));
  return badCatalog(`at ${href}`, problems, english);
}
