import type { Json } from "./check-structure.ts";
import { openContainer } from "./container.ts";

/** The URIs of the files that a glTF file names, in its order; none for one that cannot be read. */
export function externalFiles(bytes: Uint8Array): readonly string[] {
  const opened = openContainer(bytes);
  return "json" in opened ? urisOf(opened.json).filter((uri) => !uri.startsWith("data:")) : [];
}

/** All that a file names, with what it holds itself in such a name. */
export function urisOf(json: Json): readonly string[] {
  return ["buffers", "images"].flatMap((key) =>
    [json[key] ?? []].flat().flatMap((entry) => {
      const uri: unknown = Object(entry).uri;
      return typeof uri === "string" ? [uri] : [];
    }),
  );
}
