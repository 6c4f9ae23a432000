import { readFile } from "node:fs/promises";

/** The files that a page of the docs has one write, by path: each as often as it stands there. Their paths are in the first line of each block. */
export async function filesOnPage(page: string): Promise<ReadonlyMap<string, readonly string[]>> {
  const text = await readFile(page, "utf8");
  const files = new Map<string, readonly string[]>();
  const block = /```(?:js|jsx|json|html|vue|svelte)\n(?:\/\/ |<!-- )([\w./-]+)(?: -->)?\n([\s\S]*?)```/g;
  for (const [, path = "", content = ""] of text.matchAll(block))
    files.set(path, [...(files.get(path) ?? []), content]);
  return files;
}
