import { readdir, readFile } from "node:fs/promises";
import { join } from "node:path";
import type { PartSource, RuleSource, World } from "./judge-slowly.ts";

interface BodySource {
  readonly extends?: string;
  readonly stats?: Readonly<Record<string, number>>;
}

/** The world that a catalog's folder describes, read from its files as they are written; without rules on outfits and signals. */
export async function writtenWorld(folder: string): Promise<World> {
  const json = async (file: string) => JSON.parse(await readFile(join(folder, file), "utf8"));
  const { slots, bodies, rules } = await json("catalog.json");
  const files = (await readdir(join(folder, "parts"))).sort();
  const parts: Record<string, PartSource> = {};
  for (const file of files) Object.assign(parts, (await json(join("parts", file))).parts);
  const statsOf = ({ extends: base, stats = {} }: BodySource): Readonly<Record<string, number>> => ({
    ...(base === undefined ? {} : statsOf(bodies[base])),
    ...stats,
  });
  return {
    slots,
    parts,
    rules: rules.filter((rule: RuleSource) => !/"(outfit|signal):/.test(JSON.stringify(rule))),
    bodies: Object.fromEntries(Object.entries<BodySource>(bodies).map(([id, body]) => [id, statsOf(body)])),
  };
}
