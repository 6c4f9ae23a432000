import { type Problem, pointerTo } from "../../base/problem.ts";
import { namespaceOf } from "../id-form.ts";
import type { Pack } from "../model/pack.ts";
import { gatherSources, mapSections, type SourceFile, type Sources } from "../read/source.ts";
import { changeEntries } from "./change-entries.ts";
import { orderPacks } from "./order-packs.ts";
import type { PackFiles } from "./pack-files.ts";
import { type PackedFile, type ReadPack, readPack } from "./read-pack.ts";

/** Packs that are ready to be laid over a catalog, for `readCatalog`. */
export interface Packs {
  /** In the order in which they are laid: each after those it needs, and else by their ids. */
  readonly packs: readonly Pack[];
  /** What they hold of entries, with paths from the folder of the catalog, for those who look for art before a catalog is read. */
  readonly contents: readonly unknown[];
  /** Lays them over what the files of a catalog hold. @internal */
  lay(catalog: string, files: readonly SourceFile[]): Laid;
}

/** The sections of a catalog and its packs, laid together. */
export interface Laid {
  readonly sources: Sources;
  readonly problems: readonly Problem[];
  readonly more: number;
}

/**
 * Makes packs ready to be laid over a catalog. Their order makes no difference.
 *
 * What is wrong with them is found when the catalog is read, and is among its problems. It costs what the packs hold, however many there are.
 *
 * @example
 * const { catalog, problems } = readCatalog(main, included, { packs: mergePacks([{ source: JSON.parse(text) }]) })
 */
export function mergePacks(packs: readonly PackFiles[]): Packs {
  const problems: Problem[] = [];
  let more = 0;
  const read: ReadPack[] = [];
  const broken = new Set<unknown>();
  for (const [number, files] of packs.entries()) {
    const found = readPack(files, number);
    problems.push(...found.problems);
    more += found.more;
    if (found.pack === undefined) broken.add(Object(files.source).id);
    else read.push(found.pack);
  }
  const twice = sameId(read);
  const { ordered, problems: disordered } = orderPacks(
    read.filter((pack) => !twice.some(({ late }) => late === pack)),
    broken,
  );
  problems.push(...twice.map(({ problem }) => problem), ...disordered);
  const filesOf = (laid: readonly ReadPack[]) =>
    laid.flatMap((each) => each.files.map((file): PackedFile => ({ ...file, pack: each.id })));
  return {
    packs: ordered.map(({ pack }) => pack),
    contents: filesOf(ordered).flatMap(({ content }) => [content, content.changes ?? {}]),
    lay(catalog, own) {
      const elsewhere = ordered.filter(({ over }) => over !== catalog).map((pack) => overAnother(pack, catalog));
      const files = filesOf(ordered.filter(({ over }) => over === catalog));
      const gathered = gatherSources([...own, ...files]);
      const changed = changeEntries(gathered.sources, files, new Map(ordered.map(({ pack }) => [pack.id, pack])));
      return {
        sources: changed.sources,
        problems: [...problems, ...elsewhere, ...gathered.problems, ...foreignNames(files), ...changed.problems],
        more: more + changed.more,
      };
    },
  };
}

function sameId(packs: readonly ReadPack[]): readonly { readonly late: ReadPack; readonly problem: Problem }[] {
  const first = new Map<string, ReadPack>();
  return packs.flatMap((late) => {
    const before = first.get(late.id);
    if (before === undefined) {
      first.set(late.id, late);
      return [];
    }
    const problem: Problem = {
      code: "duplicate-pack",
      params: { id: late.id, one: before.pack.version, other: late.pack.version },
      severity: "error",
      place: { file: late.file, pointer: pointerTo("id") },
      fixes: [{ code: "mend-duplicate-pack", params: {} }],
    };
    return [{ late, problem }];
  });
}

function overAnother({ id, over, file }: ReadPack, catalog: string): Problem {
  return {
    code: "pack-for-other-catalog",
    params: { pack: id, over, catalog },
    severity: "error",
    place: { file, pointer: pointerTo("over") },
    fixes: [{ code: "mend-pack-for-other-catalog", params: { catalog } }],
  };
}

/** Entries whose id bears the name of another pack. */
function foreignNames(files: readonly PackedFile[]): readonly Problem[] {
  return files.flatMap(({ file, content, pack }) =>
    mapSections.flatMap((section) =>
      Object.keys(content[section] ?? {}).flatMap((id): readonly Problem[] => {
        const named = namespaceOf(id);
        if (named === undefined || named === pack) return [];
        return [
          {
            code: "namespace-of-other-pack",
            params: { id, pack: named },
            severity: "error",
            place: { file, pointer: pointerTo(section, id) },
            fixes: [{ code: "add-namespace", params: { name: `${pack}${id.slice(named.length)}` } }],
          },
        ];
      }),
    ),
  );
}
