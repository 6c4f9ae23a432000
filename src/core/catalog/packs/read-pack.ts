import { beyondLimits, limits } from "../../base/limits.ts";
import { type Problem, pointerTo } from "../../base/problem.ts";
import { isRecord } from "../../base/schema/bounds.ts";
import { checkForm } from "../../base/schema/check-form.ts";
import { titleFromId } from "../../base/text.ts";
import type { Pack } from "../model/pack.ts";
import { packFolder } from "../pack-paths.ts";
import { beyondProblem, type FormProblems, formProblems } from "../read/form-problems.ts";
import type { SourceFile } from "../read/source.ts";
import { type PackFragmentSource, type PackSource, packFragmentSchema, packSchema } from "../schema/pack-schema.ts";
import { artSections, withArtIn } from "./art-paths.ts";
import type { Ordered } from "./order-packs.ts";
import type { PackFiles } from "./pack-files.ts";

/** A pack that has the right form. */
export interface ReadPack extends Ordered {
  readonly pack: Pack;
  readonly over: string;
  readonly files: readonly PackFile[];
}

interface PackFile {
  readonly file: string;
  readonly content: PackSource | PackFragmentSource;
}

/** A file of a pack, with the pack. */
export interface PackedFile extends SourceFile, PackFile {
  readonly pack: string;
  readonly content: PackSource | PackFragmentSource;
}

/** Reads the files of a pack. @param number - its place among those that were handed in, by which one without a right id is called. */
export function readPack(
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
  const contents = [{ file: `${folder}pack.json`, content: source }, ...others];
  const problems = [...found.flatMap((each) => each.problems), ...contents.flatMap(changesBeyondLimits)];
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

/** What is changed has the form of whatever is there, which is known only once it is laid; that it is JSON is known before. */
function changesBeyondLimits({
  file,
  content,
}: {
  readonly file: string;
  readonly content: unknown;
}): readonly Problem[] {
  const reason = beyondLimits(Object(content).changes ?? {}, limits.catalogLength);
  return reason === undefined ? [] : [beyondProblem(file, pointerTo("changes"), reason)];
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
