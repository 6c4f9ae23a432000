import { repairLoadout, checkLoadout, rollCharacter, allOptions } from "./src/core/index.ts";
import { makeSource, readSource, wearing, randomBelow } from "./bench/catalogs.ts";
import { charactersOf20 } from "./bench/rows/check.ts";
const needy = (source: any, below: any) => ({ ...source, parts: Object.fromEntries(Object.entries<any>(source.parts).map(([id, p]) => [id, below(10) === 0 ? { ...p, requires: { warmth: 1 + below(12) } } : p])) });
for (const n of [20000]) {
  const below = randomBelow(4);
  const source = needy(makeSource({ slots: 40, parts: n, tags: 400, rules: n / 10 }), below);
  const t0 = performance.now(); const catalog: any = readSource(source); console.log(n, "read", (performance.now() - t0).toFixed(0));
  for (let seed = 1; seed <= 5; seed++) { const t = performance.now(); const c = rollCharacter(catalog, { seed }); console.log("roll", (performance.now() - t).toFixed(1), checkLoadout(catalog, c).length, Object.keys(c.loadout).length); }
  const [ch] = charactersOf20(catalog, 1) as any;
  const broken: any = { ...ch, loadout: { ...ch.loadout } };
  const slots = [...catalog.slots.values()] as any[];
  let changed = 0; for (let i = 0; changed < 2 && i < 1e5; i++) { const s = slots[below(40)]; const p = s.parts[below(s.parts.length)]; const next = { ...broken, loadout: { ...broken.loadout, [s.id]: p.id } }; if (checkLoadout(catalog, next).length > checkLoadout(catalog, broken).length) { broken.loadout = next.loadout; changed++; } }
  for (let k = 0; k < 12; k++) { const t = performance.now(); const r = repairLoadout(catalog, broken); console.log("repair", (performance.now() - t).toFixed(1), r.changes, r.complete, r.edits?.length); }
  const bad: any = { ...ch, loadout: Object.fromEntries(slots.map((s) => [s.id, s.parts[below(s.parts.length)].id])) };
  console.log("findings", checkLoadout(catalog, bad).length);
  for (let k = 0; k < 2; k++) { const t = performance.now(); const o = allOptions(catalog, bad); console.log("options", (performance.now() - t).toFixed(0), o.size); }
  const t = performance.now(); const r = repairLoadout(catalog, bad); console.log("repair bad", (performance.now() - t).toFixed(0), r.changes, r.least, r.complete);
}
