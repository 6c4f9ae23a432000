import { checkLoadout, createCharacter, applyEdit } from "./src/core/index.ts";
import { everyLoadout } from './tests/oracles/judge-slowly.ts';
import { newlyBroken } from './src/core/rules/newly-broken.ts';
import { wornParts } from './src/core/index.ts';
import { pool, loadoutIn } from "./tests/core/generated-worlds.ts";
import { randomFrom } from "./src/core/base/random.ts";
const random = randomFrom(Number(process.argv[2] ?? 1)); const rounds = Number(process.argv[3] ?? 10);
let findings = 0, fixes = 0, bad = 0, none = 0, missed = 0, possibleNone = 0; const by = new Map<string, number[]>();
const t0 = performance.now();
const key = (p: any) => p.code + JSON.stringify(p.params) + p.place.pointer;
for (const { world, catalog } of pool) for (let t = 0; t < rounds; t += 1) {
  const picks = [0, 1, 2, 3].map(() => Math.floor(random.next() * 12));
  const body = random.pick(["plain", "tall"])!; const facts: any = random.pick([{}, { trade: "pilot" }]);
  const context: any = random.pick([{}, { wardrobe: "bag" }, { holdings: { "a-one": "listed", "b-two": "listed", "c-three": "secret" } }, { stats: { carry: 2 } }, { bagPlaces: 3 }]);
  const character: any = { ...createCharacter(catalog, { body }), loadout: loadoutIn(world, picks), facts, bag: { "b-two": [1], "c-one": [1], "d-one": [1] } };
  const found = checkLoadout(catalog, character, context).filter((p) => p.severity === "error");
  for (const p of found) {
    findings += 1; const row = by.get(p.code) ?? [0, 0]; by.set(p.code, row); row[0]++;
    const withEdits = p.fixes.filter((f) => f.edits); if (withEdits.length) row[1]++; else { none++; if (process.argv[4] && Object.keys(context).length === 0) { const exists = everyLoadout(world as any, character.loadout).find((l) => { const c = { ...character, loadout: l }; return newlyBroken(catalog, character, c, context).length === 0 && checkLoadout(catalog, c, context).filter((q) => key(q).replace(/\d/g, '') === key(p).replace(/\d/g, '')).length === 0 && !checkLoadout(catalog, c, context).some((q) => p.code !== 'never-together' && q.subject.kind === 'rule' && p.subject.kind === 'rule' && q.subject.id === p.subject.id); }); if (exists) { missed++; if (missed < 4) console.log('MISSED', p.code, JSON.stringify(p.params), JSON.stringify(exists), JSON.stringify(world).slice(0, 1400), JSON.stringify(character.loadout), body); } else possibleNone++; } }
    for (const f of withEdits) {
      fixes += 1; let c = character; let why = "";
      for (const e of f.edits!) { const r = applyEdit(catalog, c, e, context); if (!r.ok) why = "refused " + r.problems.map((q) => q.code); c = r.character; }
      const later = checkLoadout(catalog, c, context);
      if (!why && later.some((q) => key(q) === key(p)) && later.filter((q) => key(q) === key(p)).length >= found.filter((q) => key(q) === key(p)).length) why = "remains";
      if (!why && (p.params as any) && later.some((q) => q.code === p.code && ["total-too-high", "total-too-low", "count-too-high", "count-too-low", "needs-missing"].includes(p.code) && (q as any).chain.find((e: any) => e.kind === "rule")?.number === (p as any).chain.find((e: any) => e.kind === "rule")?.number)) why = "rule remains";
      if (why) { bad++; if (bad < 4) console.log(why, p.code, JSON.stringify(f), JSON.stringify(context), JSON.stringify({ world, character }).slice(0, 1500)); }
    }
  }
}
console.log({ findings, fixes, bad, none, missed, possibleNone, ms: Math.round(performance.now() - t0) }, [...by].map(([k, v]) => `${k} ${v[1]}/${v[0]}`).join(", "));
