import type { Packs } from "../../catalog/packs/merge-packs.ts";
import { gatherSources, mapSections, type SourceFile } from "../../catalog/read/source.ts";

/**
 * The files of a catalog as one, with what packs make of it, for `compareSources`: so that what a pack changes can be read.
 *
 * @param files - the contents of its files, the main one first; each has its form.
 * @example
 * compareSources([main], mergedSources([main], mergePacks([pack])))
 */
export function mergedSources(files: readonly unknown[], packs: Packs | undefined): readonly unknown[] {
  const [main] = files;
  const named = files.map((content, at) => ({ file: String(at), content }) as SourceFile);
  const { sources } = packs === undefined ? gatherSources(named) : packs.lay(String(Object(main).id), named);
  const maps = mapSections.map((section) => {
    const entries = [...sources[section]].map(([id, entry]): [string, unknown] => [id, entry.value]);
    return [section, Object.fromEntries(entries)] as const;
  });
  const lists = { rules: sources.rules.map(({ value }) => value), cues: sources.cues.map(({ value }) => value) };
  const ones = [sources.creation, sources.names].flatMap((entry) =>
    entry === undefined ? [] : [[entry.id, entry.value]],
  );
  return [{ ...Object(main), ...Object.fromEntries(maps), ...lists, ...Object.fromEntries(ones) }];
}
