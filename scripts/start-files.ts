import { readFile } from "node:fs/promises";

/** The files that `docs/start.md` has one write, by path: each as often as it stands there. */
export async function startFiles(): Promise<ReadonlyMap<string, readonly string[]>> {
  const page = await readFile("docs/start.md", "utf8");
  const files = new Map<string, readonly string[]>();
  const block = /```(?:js|json|html)\n(?:\/\/ |<!-- )([\w./]+)(?: -->)?\n([\s\S]*?)```/g;
  for (const [, path = "", content = ""] of page.matchAll(block))
    files.set(path, [...(files.get(path) ?? []), content]);
  return files;
}
