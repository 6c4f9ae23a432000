import type * as z from "zod/mini";
import { type Problem, pointerTo } from "../problem.ts";
import { recall } from "../recall.ts";
import { pointsOfBodies } from "./body-points.ts";
import type { Catalog } from "./catalog.ts";
import { checkReferences } from "./check-references.ts";
import { compileCatalog } from "./compile-catalog.ts";
import { explainIssue } from "./explain-issue.ts";
import { type QuickCheck, quickCheck } from "./quick-check.ts";
import type { MarkerPicture } from "./read-markers.ts";
import { type CatalogSource, catalogSchema, fragmentSchema } from "./schema.ts";
import { gatherSources, type SourceFile } from "./source.ts";

/** What reading a catalog gives: the catalog and what to look at in it, or the errors that stand in the way. */
export type Reading =
  | { readonly catalog: Catalog; readonly problems: readonly Problem[] }
  | { readonly catalog: undefined; readonly problems: readonly Problem[] };

export interface ReadOptions {
  /** The pictures that mark points, by path; `markerPictures` says which there are. */
  readonly pictures?: ReadonlyMap<string, MarkerPicture>;
}

/**
 * Reads a catalog from parsed JSON and compiles it.
 *
 * Pictures are not looked at, but for those that mark points; `checkArt` does that. Every problem found is returned, not just the first.
 *
 * @param source - the content of `catalog.json`.
 * @param included - the contents of the files it includes, by their path in the catalog folder.
 * @returns the catalog with its warnings, or no catalog and what is wrong. Never throws for bad content.
 * @example
 * const { catalog, problems } = readCatalog(JSON.parse(text))
 */
export function readCatalog(
  source: unknown,
  included: Readonly<Record<string, unknown>> = {},
  { pictures = new Map() }: ReadOptions = {},
): Reading {
  const problems: Problem[] = [];
  const main = readForm(catalogSchema, source, "catalog.json", problems);
  const files: SourceFile[] = main === undefined ? [] : [{ file: "catalog.json", content: main }];
  for (const [file, content] of Object.entries(included)) {
    const fragment = readForm(fragmentSchema, content, file, problems);
    if (fragment !== undefined) files.push({ file, content: fragment });
  }
  if (main === undefined || problems.length > 0) return { catalog: undefined, problems };

  const gathered = gatherSources(files);
  const { points, problems: pointProblems } = pointsOfBodies(gathered.sources, pictures);
  problems.push(...gathered.problems, ...checkReferences(gathered.sources), ...pointProblems);
  if (problems.some(({ severity }) => severity === "error")) return { catalog: undefined, problems };
  return { catalog: compileCatalog(main as CatalogSource, gathered.sources, points), problems };
}

function readForm<S extends z.ZodMiniType>(
  schema: S,
  content: unknown,
  file: string,
  problems: Problem[],
): z.infer<S> | undefined {
  const unusable = prototypeKeys(content, file);
  const isGood = recall(quickChecks, schema, () => quickCheck(schema));
  if (unusable.length === 0 && isGood(content)) return content as z.infer<S>;
  if (isDeeperThan(content, depthLimit)) {
    problems.push(tooDeep(file));
    return undefined;
  }
  problems.push(...unusable);
  const result = schema.safeParse(content);
  if (result.success) return unusable.length === 0 ? result.data : undefined;
  problems.push(...result.error.issues.map((issue) => explainIssue(issue, content, file)));
  return undefined;
}

/** Asked first: the schema library, which can say what is wrong, takes many times as long to see that nothing is. */
const quickChecks = new WeakMap<z.ZodMiniType, QuickCheck>();

/** The schema library passes over the key `__proto__`; an author must not lose an entry that way. */
function prototypeKeys(content: unknown, file: string): readonly Problem[] {
  if (typeof content !== "object" || content === null) return [];
  return Object.entries(content)
    .filter(([, section]) => typeof section === "object" && section !== null && Object.hasOwn(section, "__proto__"))
    .map(([section]) => ({
      code: "wrong-form",
      severity: "error",
      place: { file, pointer: pointerTo(section, "__proto__") },
      because: '"__proto__" is not an id.',
      fixes: [{ say: 'Write an id in lower-case words joined by hyphens, like "storm-hat".' }],
    }));
}

/** No catalog needs more levels than this; what does would exhaust the stack of whoever walks it. */
const depthLimit = 64;

function isDeeperThan(content: unknown, limit: number): boolean {
  if (typeof content !== "object" || content === null) return false;
  if (limit === 0) return true;
  for (const key in content) if (isDeeperThan((content as Record<string, unknown>)[key], limit - 1)) return true;
  return false;
}

function tooDeep(file: string): Problem {
  const because = `Something in this file is nested more than ${depthLimit} levels deep.`;
  return {
    code: "too-deep",
    severity: "error",
    place: { file, pointer: "" },
    because,
    fixes: [{ say: "Write its conditions flatter." }],
  };
}
