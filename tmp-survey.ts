import { surveyRules } from "./src/core/authoring.ts";
import { pool } from "./tests/core/generated-worlds.ts";
import { wornSlowly, isWornSet } from "./tests/oracles/judge-slowly.ts";
let n = 0, bad = 0;
for (const { world, catalog, judged } of pool) {
  n++;
  const fires = new Set<number>(); const worn = new Set<string>();
  for (const body of ["plain", "tall"]) for (const answers of [{}, { trade: "pilot" }, { trade: "smith" }] as any[]) for (const { loadout, placesHold, broken, defaults } of judged(body, answers)) {
    if (!placesHold || defaults.length > 0) continue; const [only] = broken; const all = wornSlowly(world, { body, loadout });
    if (only === undefined) { for (const [, p] of all) worn.add(p); for (const [number, rule] of world.rules.entries()) if (isWornSet(rule, all, world)) fires.add(number); } else if (broken.length === 1) fires.add(only);
  }
  const s = surveyRules(catalog, { raised: [] });
  const d = s.problems.filter((p) => p.code !== "part-never-worn").map((p) => Number(p.place.pointer.split("/")[2])).sort();
  const want = [...world.rules.keys()].filter((k) => !fires.has(k));
  const dp = s.problems.filter((p) => p.code === "part-never-worn").map((p) => p.params.part); const wp = Object.keys(world.parts).filter((p) => !worn.has(p));
  if (d.join() !== want.join() || dp.join() !== wp.join()) { bad++; if (bad < 8) console.log("dead", d.join(), "want", want.join(), "parts", dp.join(), "want", wp.join(), JSON.stringify(world.rules), JSON.stringify(world.bodies)); }
}
console.log(n, bad);
