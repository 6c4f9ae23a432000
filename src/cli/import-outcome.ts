import { basename, join } from "node:path";
import type { Colors } from "picocolors/types.js";
import { nameId } from "../core/art/name-id.ts";
import { CatalogFolder } from "../node/catalog-folder.ts";
import type { NewFile } from "../node/write-files.ts";
import { counted } from "./output.ts";

/** Where the entries of the parts go: a file that the catalog includes, and which parts that holds already. */
export async function placeOf(
  to: string,
  file: string,
): Promise<{ readonly path: string | undefined; readonly holds: ReadonlySet<string> }> {
  const folder = new CatalogFolder(to);
  const read = async (path: string): Promise<Readonly<Record<string, unknown>>> => {
    const bytes = await folder.read(path, { bytes: 16_000_000 });
    return bytes === undefined ? {} : Object(JSON.parse(bytes.toString("utf8")));
  };
  const { include = [] } = await read("catalog.json");
  const pattern = [include].flat().find((each) => typeof each === "string" && /^[^*?]+\/\*\.json$/.test(each));
  if (typeof pattern !== "string") return { path: undefined, holds: new Set() };
  const path = pattern.replace("*", nameId(basename(file)) ?? "imported");
  const { parts, bodies } = await read(path);
  return { path, holds: new Set(Object.keys({ ...Object(parts), ...Object(bodies) })) };
}

export interface Outcome {
  readonly errors: number;
  readonly isWritten: boolean;
  readonly written: readonly NewFile[];
  readonly to: string;
}

export function outcome({ errors, isWritten, written, to }: Outcome, colors: Colors): readonly string[] {
  if (isWritten) return [...written.map(({ path }) => `Written: ${join(to, path)}`)];
  if (errors > 0) return [colors.red(`Nothing was written: ${counted(errors, "error")} found.`)];
  if (written.length === 0) return ["Nothing was found to import."];
  return [`Nothing was written. Run again with --write to write ${counted(written.length, "file")} into ${to}.`];
}
