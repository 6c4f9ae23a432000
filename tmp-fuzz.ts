import { checkLoadout, createCharacter, repairLoadout, rollCharacter, applyEdit, completeLoadout } from "./src/core/index.ts";
import { pool, loadoutIn } from "./tests/core/generated-worlds.ts";
import { randomFrom } from "./src/core/base/random.ts";
const random = randomFrom(Number(process.argv[2] ?? 1));
const distance = (one: any, other: any, defaults: any) =>
  [...new Set([...Object.keys(one), ...Object.keys(other)])].filter((s) => (one[s] ?? defaults[s]) !== (other[s] ?? defaults[s])).length;
let bad = 0; let n = 0;
for (const { world, catalog, valid } of pool) {
  const defaults: any = Object.fromEntries(Object.entries(world.slots).flatMap(([s, x]: any) => x.required && x.default ? [[s, x.default]] : []));
  for (let t = 0; t < 12; t += 1) {
    const picks = [0, 1, 2, 3].map(() => Math.floor(random.next() * 12));
    const body = random.pick(["plain", "tall"])!;
    const facts: any = random.pick([{}, { trade: "pilot" }, { trade: "smith" }]);
    const loadout = loadoutIn(world, picks);
    const character = { ...createCharacter(catalog, { body }), loadout, facts };
    const sizes = valid(body, facts, loadout).map((each) => distance(loadout, each, defaults));
    const best = Math.min(...sizes);
    n += 1;
    let r: any; let mended: any = character; let why = "";
    try {
      r = repairLoadout(catalog, character);
      for (const e of r.edits ?? []) { const x = applyEdit(catalog, mended, e); if (!x.ok) why = "refused " + JSON.stringify(e) + x.problems.map((p) => p.code); mended = x.character; }
      if (!why && r.edits && checkLoadout(catalog, mended).length) why = "still broken " + checkLoadout(catalog, mended).map((p) => p.code);
      if (!why && (r.edits === undefined ? Infinity : r.changes) !== best) why = `changes ${r.changes} best ${best} edits ${JSON.stringify(r.edits)}`;
      if (!why && !r.complete) why = "not complete";
    } catch (e: any) { why = e.stack.slice(0, 400); }
    if (why) { bad += 1; if (bad < 4) console.log(why, JSON.stringify({ world, loadout, body, facts }).slice(0, 2500), "\n"); }
  }
}
console.log("repairs", n, "bad", bad);
