import { type Problem, pointerTo } from "../../base/problem.ts";
import { isRecord } from "../../base/schema/bounds.ts";
import { checkForm } from "../../base/schema/check-form.ts";
import { titleFromId } from "../../base/text.ts";
import { namespaceOf } from "../id-form.ts";
import type { Pack } from "../model/pack.ts";
import { type FormProblems, formProblems } from "../read/form-problems.ts";
import { gatherSources, mapSections, type SourceFile, type Sources } from "../read/source.ts";
import { type PackFragmentSource, type PackSource, packFragmentSchema, packSchema } from "../schema/pack-schema.ts";
import { artSections, withArtIn } from "./art-paths.ts";
import { changeEntries } from "./change-entries.ts";
import { type Ordered, orderPacks } from "./order-packs.ts";
import { type PackFiles, packFolder } from "./pack-files.ts";

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

/** A pack that has the right form. */
interface ReadPack extends Ordered {
  readonly pack: Pack;
  readonly over: string;
  readonly files: readonly PackFile[];
}

interface PackFile {
  readonly file: string;
  readonly content: PackSource | PackFragmentSource;
}

/**
 * Makes packs ready to be laid over a catalog. Their order makes no difference.
 *
 * What is wrong with them is found when the catalog is read, and is among its problems. It costs what the packs hold, however many there are.
 *
 * @example
 * const { catalog, problems } = readCatalog(main, included, { packs: layPacks([{ source: JSON.parse(text) }]) })
 */
export function layPacks(packs: readonly PackFiles[]): Packs {
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

/** A file of a pack, with the pack. */
export interface PackedFile extends SourceFile, PackFile {
  readonly pack: string;
  readonly content: PackSource | PackFragmentSource;
}

/** Reads the files of a pack. @param number - its place among those that were handed in, by which one without a right id is called. */
function readPack(
  { source, included = {} }: PackFiles,
  number: number,
): FormProblems & { readonly pack: ReadPack | undefined } {
  const main = formProblems(checkForm(packSchema, source), `packs/${nameOf(source, number)}/pack.json`);
  const folder = packFolder(nameOf(source, number));
  const others = Object.entries(included).map(([path, content]) => ({ file: folder + path, content }));
  const found = [
    main,
    ...others.map(({ file, content }) => formProblems(checkForm(packFragmentSchema, content), file)),
  ];
  const problems = found.flatMap((each) => each.problems);
  const more = found.reduce((sum, each) => sum + each.more, 0);
  if (problems.length > 0) return { problems, more, pack: undefined };
  const { id, version, title = titleFromId(id), needs = [], over } = source as PackSource;
  const files = [{ file: `${folder}pack.json`, content: source as PackSource }, ...(others as readonly PackFile[])];
  return {
    problems,
    more,
    pack: {
      id,
      needs,
      over,
      file: `${folder}pack.json`,
      pack: { id, version, title, needs },
      files: files.map(({ file, content }) => ({ file, content: contentIn(folder, content) })),
    },
  };
}

function nameOf(source: unknown, number: number): string {
  const id: unknown = Object(source).id;
  return typeof id === "string" && /^[\w.-]+$/.test(id) ? id : String(number + 1);
}

/** The content of a file with all paths of art from the folder of the catalog. */
function contentIn<Content extends PackSource | PackFragmentSource>(folder: string, content: Content): Content {
  const placed = (sections: Readonly<Record<string, unknown>>) =>
    Object.fromEntries(
      artSections.flatMap((section) => {
        const entries = sections[section];
        return isRecord(entries) ? [[section, withArtIn(folder, section, entries)]] : [];
      }),
    );
  const { changes } = content;
  const changed = changes === undefined ? {} : { changes: { ...changes, ...placed(changes) } };
  return { ...content, ...placed(content), ...changed };
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
