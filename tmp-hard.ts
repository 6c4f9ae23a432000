import { repairLoadout, checkLoadout, applyEdit } from "./src/core/index.ts";
import { hardCases } from "./bench/hard-catalogs.ts";
import { readSource, wearing } from "./bench/catalogs.ts";
for (const { name, source, loadout } of hardCases()) {
  if (process.argv[2] && !process.argv[2].split(",").includes(name)) continue;
  const catalog: any = readSource(source as any);
  const character = wearing(catalog, loadout);
  const start = performance.now();
  const log: string[] = [];
  const r = repairLoadout(catalog, character, { budget: Number(process.argv[3] ?? 2_000_000), report: (s: any) => log.push(`${Math.round(performance.now() - start)}ms:${s.changes}/${s.least}`) } as any);
  const took = performance.now() - start;
  let c: any = character; for (const e of r.edits ?? []) c = applyEdit(catalog, c, e).character;
  console.log(name, `${took.toFixed(0)} ms`, "changes", r.edits && r.changes, "least", r.least, "complete", r.complete, "valid", r.edits && checkLoadout(catalog, c).length === 0, log.slice(-6).join(" "));
}
