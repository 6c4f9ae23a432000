import type { PackFiles } from "zealous-mantle";
import type { ServedPack } from "zealous-mantle/browser";

/** A main file that is served, and the others with sections, parsed. */
export interface Contents {
  readonly main: unknown;
  readonly included: Readonly<Record<string, unknown>>;
}

/** Fetches the JSON files of a served folder that hold sections. @param main - the name of the main one. */
export async function contentsOf(url: string, files: readonly string[], main: string): Promise<Contents> {
  const names = files.filter(
    (file) => file.endsWith(".json") && file !== main && !/\.(marks|frames)\.json$/.test(file),
  );
  const json = async (file: string): Promise<unknown> => (await fetch(new URL(file, url))).json();
  const included = await Promise.all(names.map(async (file) => [file, await json(file)] as const));
  return { main: await json(main), included: Object.fromEntries(included) };
}

/** The files of packs that are served. */
export function packsAt(packs: readonly ServedPack[]): Promise<readonly PackFiles[]> {
  return Promise.all(
    packs.map(async ({ url, files = [] }) => {
      const { main: source, included } = await contentsOf(url, files, "pack.json");
      return { source, included };
    }),
  );
}
