/** Repairs one character, and prints how long that took in a program that repaired none before: `ours` or `theirs`. */
import { repairLoadout } from "zealous-mantle/solver";
import { makeSource, randomBelow, readSource } from "./catalogs.ts";
import { broke, fewestChanges } from "./fewest-changes.ts";
import { charactersOf20 } from "./rows/check.ts";

const source = makeSource({ slots: 40, parts: 240, tags: 60, rules: 120 });
const catalog = readSource(source);
const [character] = charactersOf20(catalog, 1);
if (character === undefined) throw new Error("There is no character");
const broken = broke(catalog, character, randomBelow(5));
const start = performance.now();
const changes = process.argv[2] === "ours" ? repairLoadout(catalog, broken).changes : fewestChanges(source, broken);
console.log(JSON.stringify({ changes, took: performance.now() - start }));
