import { firstFindings, type Problem } from "../../base/problem.ts";
import { checkForm } from "../../base/schema/check-form.ts";
import type { Catalog, CatalogIds, IdsIn } from "../model/catalog.ts";
import type { Packs } from "../packs/merge-packs.ts";
import { type FramesSource, framesSchema } from "../schema/frames-schema.ts";
import { type CatalogSource, catalogSchema, fragmentSchema } from "../schema/schema.ts";
import { pointsOfBodies } from "./body-points.ts";
import { formProblems } from "./form-problems.ts";
import type { PointImage } from "./point-images.ts";
import { readSources } from "./read-sources.ts";
import { gatherSources, type SourceFile } from "./source.ts";

/** What reading a catalog gives: the catalog and what to look at in it, or the errors that stand in the way. */
export type Reading<Ids extends CatalogIds = CatalogIds> =
  | { readonly catalog: Catalog<Ids>; readonly problems: readonly Problem[] }
  | { readonly catalog: undefined; readonly problems: readonly Problem[] };

export interface ReadOptions {
  /** The pictures that mark points, by path; `pointImages` returns which there are. */
  readonly pictures?: ReadonlyMap<string, PointImage>;
  /** The frames tables that layers name, by path, each as parsed JSON; `neededTables` returns which there are. */
  readonly tables?: ReadonlyMap<string, unknown>;
  /** Packs to lay over it, from `mergePacks`. */
  readonly packs?: Packs;
}

/**
 * Reads a catalog from parsed JSON and compiles it.
 *
 * Pictures are not looked at, but for those that mark points; `checkArt` does that. Every problem found is returned, not just the first, up to a hundred and the number of the others.
 *
 * Ids in content that has a type of its own are known to the compiler: where a part is named, only one of the catalog compiles. What
 * takes any id, such as one that came from a server, is asked for so: `openFitting<CatalogIds>(catalog, wren)`.
 *
 * @param source - the content of `catalog.json`.
 * @param included - the contents of the files it includes, by their path in the catalog folder.
 * @returns the catalog with its warnings, or no catalog and what is wrong. Never throws for bad content.
 * @example
 * const { catalog, problems } = readCatalog(JSON.parse(text))
 */
export function readCatalog<const Source, const Included extends Readonly<Record<string, unknown>> = Nothing>(
  source: Source,
  included?: Included,
  options?: ReadOptions & { readonly packs?: never },
): Reading<{ readonly [Kind in keyof CatalogIds]: IdsIn<Source, Included>[Kind] }>;
/** With packs: what they add is known when they are read, and not to the compiler. */
export function readCatalog(
  source: unknown,
  included: Readonly<Record<string, unknown>> | undefined,
  options: ReadOptions,
): Reading;
export function readCatalog(
  source: unknown,
  included: Readonly<Record<string, unknown>> = {},
  { pictures = new Map(), tables = new Map(), packs }: ReadOptions = {},
): Reading {
  const problems: Problem[] = [];
  let more = 0;
  const files: SourceFile[] = [];
  const main = { file: "catalog.json", content: source, schema: catalogSchema };
  const others = Object.entries(included).map(([file, content]) => ({ file, content, schema: fragmentSchema }));
  const framed = [...tables].map(([file, content]) => ({ file, content, schema: framesSchema }));
  for (const { file, content, schema } of [main, ...others, ...framed]) {
    const found = formProblems(checkForm(schema, content), file);
    problems.push(...found.problems);
    more += found.more;
    if (schema !== framesSchema) files.push({ file, content: content as SourceFile["content"] });
  }
  if (problems.length > 0) return { catalog: undefined, problems: firstFindings(problems, more) };

  const head = source as CatalogSource;
  const gathered = packs === undefined ? { ...gatherSources(files), more: 0 } : packs.lay(head.id, files);
  const { points, ...marked } = pointsOfBodies(gathered.sources, pictures);
  const { catalog, findings } = readSources({
    main: head,
    sources: gathered.sources,
    points,
    tables: tables as ReadonlyMap<string, FramesSource>,
    packs: packs?.packs ?? [],
  });
  const found = [gathered.problems, ...findings.map((each) => each.problems), marked.problems].flat();
  const all = firstFindings(
    found,
    findings.reduce((sum, each) => sum + each.more, gathered.more + marked.more),
  );
  return { catalog: all.some(({ severity }) => severity === "error") ? undefined : catalog, problems: all };
}

type Nothing = Readonly<Record<never, unknown>>;
