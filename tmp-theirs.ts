import { hardCases } from "./bench/hard-catalogs.ts";
import { linearModel } from "./bench/linear.ts";
import { byHighs, byZ3 } from "./bench/solvers.ts";
for (const { name, source, loadout } of hardCases()) {
  if (process.argv[2] && !process.argv[2].split(",").includes(name)) continue;
  const m = linearModel(source, loadout);
  for (const [who, f] of [["highs", byHighs], ["z3", byZ3]] as const) {
    if (process.argv[3] && process.argv[3] !== who) continue;
    try { const v = await f(m, 60); console.log(name, who, v.least, v.milliseconds.toFixed(0), "ms", m.rows.length, "rows"); } catch (e: any) { console.log(name, who, "ERR", String(e).slice(0, 200)); }
  }
}
process.exit(0);
