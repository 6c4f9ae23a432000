import { readFile } from "node:fs/promises";
import { relative } from "node:path";
import { pathToFileURL } from "node:url";
import { expect, test } from "@jest/globals";
import { glob } from "tinyglobby";
import * as main from "zealous-mantle";
import * as authoring from "zealous-mantle/authoring";
import * as locale from "zealous-mantle/locales/en";
import * as raster from "zealous-mantle/raster";
import * as solver from "zealous-mantle/solver";
import * as sync from "zealous-mantle/sync";
import { demo } from "./demo-catalog.ts";
import { edited } from "./edited.ts";

const wren = main.createFromPreset(demo, "first-watch", { id: "wren", name: "Wren" });
const bare = main.createCharacter(demo, { body: "reed", id: "wren", name: "Wren" });
const together = { ...bare, loadout: { ...bare.loadout, neck: "hood-up", hat: "storm-hat" } };
const problems = main.checkLoadout(demo, together);
const entry = (price: number) => ({ mantle: "catalog/1", id: "c", parts: { "storm-hat": { slot: "hat", price } } });
const image = raster.decodePng(await readFile("demo/saltmarsh/art/reed/breeches.png"));

/** What examples take for granted, unless one needs it to be otherwise. */
const usual = {
  ...{ ...main, ...authoring, ...locale, ...raster, ...solver, ...sync },
  ...{ catalog: demo, wren, problems, problem: problems[0], image, rig: demo.rigs.get("courier"), table: {} },
  look: main.resolveLook(demo, wren),
};

/** By file of the sources: what its examples take for granted besides. */
const given: Readonly<Record<string, object>> = {
  "core/character/bag/purchase.ts": { holdings: { "lamp-crown": "secret" } },
  "core/character/changes.ts": { wren: bare, hatted: edited(demo, bare, { wear: "storm-hat" }) },
  "core/edits/concealed-gear.ts": { wren: edited(demo, bare, { wear: "mail-pack" }, { dress: "lamp-festival" }) },
  "core/edits/apply-edit.ts": { wren: edited(demo, bare, { wear: "storm-hat" }) },
  "core/loadout/options-for.ts": { wren: edited(demo, bare, { wear: "storm-hat" }) },
  "core/look/forms.ts": { reed: demo.bodies.get("reed") },
  "core/look/distinguish.ts": { heron: { ...wren, id: "heron" }, tern: { ...wren, id: "tern" } },
  "core/play/picker.ts": {
    session: { characters: ["wren", "heron", "tern", "bittern", "rail"].map((id) => ({ ...wren, id })) },
  },
  "core/save/merge/merge-characters.ts": {
    hatted: edited(demo, wren, { wear: "reed-cap" }),
    painted: edited(demo, wren, { paint: "oilcloth", ramp: "moss" }),
  },
  "core/solver/repair-loadout.ts": { wren: together, holdings: { "storm-hat": "owned", "hood-up": "owned" } },
  "core/survey/explain-look.ts": {
    wren: edited(demo, { ...bare, loadout: { ...bare.loadout, hair: "curls" } }, { wear: "storm-hat" }),
  },
  "core/survey/compare/compare-sources.ts": { before: entry(30), after: entry(35) },
};

/** Their examples need a figure of a model that nothing here makes: they are not run. */
const notRun = ["core/model/fit-skeleton.ts", "core/model/plan-model.ts"];

/** Any value: what an example leaves out. */
const left = Symbol("left out");
const rest = "…";

/** What comes of it as an example writes it, in which `…` stands for what is left out. */
function readShown(text: string): unknown {
  const whole = text
    .replaceAll("[…]", "left")
    .replaceAll(/, …(?=[\]}])/g, ", [rest]: left")
    .replaceAll(/, \[rest\]: left\]/g, ", left, rest]")
    .replaceAll(/, … (?=\})/g, ", [rest]: left ")
    .replaceAll(/\{ …, /g, "{ [rest]: left, ")
    .replaceAll(
      /^Map \{(.*)\}$/g,
      (_, pairs: string) => `new Map([${pairs.replaceAll(/(\S+) => /g, "[$1, ").trim()}]])`,
    );
  return new Function("left", "rest", "character", "layer", "holdings", `return (${whole});`)(
    left,
    rest,
    left,
    left,
    {},
  );
}

/** Whether something is as an example shows it. */
function agrees(shown: unknown, value: unknown): boolean {
  if (shown === left) return true;
  if (typeof shown === "string" && shown.endsWith(rest)) return String(value).startsWith(shown.slice(0, -1));
  if (Array.isArray(shown)) {
    const isPart = shown.at(-1) === rest;
    const items = isPart ? shown.slice(0, -2) : shown;
    if (!Array.isArray(value) || (isPart ? value.length < items.length : value.length !== items.length)) return false;
    return items.every((item, at) => agrees(item, value[at]));
  }
  if (shown instanceof Map) return value instanceof Map && agrees([...shown], [...value]);
  if (typeof shown !== "object" || shown === null) return Object.is(shown, value);
  if (typeof value !== "object" || value === null) return false;
  const keys = Object.keys(shown).filter((key) => key !== rest);
  const isWhole = rest in shown || Object.keys(value).length === keys.length;
  return isWhole && keys.every((key) => agrees(shown[key as never], value[key as never]));
}

test("what the examples of doc comments show comes of it", async () => {
  const run = Object.getPrototypeOf(async () => {}).constructor;
  const wrong: string[] = [];
  let count = 0;
  for (const file of (await glob("src/**/*.ts")).sort()) {
    const name = relative("src", file);
    if (notRun.includes(name)) continue;
    const source = await readFile(file, "utf8");
    for (const [, body = ""] of source.matchAll(/\/\*\*(?:(?!\*\/)[\s\S])*?@example\n((?:(?!\*\/)[\s\S])*?)\*\//g)) {
      if (!body.includes("// → ")) continue;
      const lines = body.split("\n").map((line) => line.replace(/^\s*\* ?/, ""));
      const known = { ...usual, ...given[name] };
      // Only a few are about what no entry exports.
      const isPublic = [...body.matchAll(/(?<![.\w])(\w+)\(/g)].every(([, call = ""]) => call in known);
      const scope = isPublic ? known : { ...known, ...(await own(file)) };
      const came: { value: unknown; shown: string }[] = [];
      const program = lines.map((line, at) => {
        const [, call = line, shown = /^\/\/ → (.*)$/.exec(lines[at + 1] ?? "")?.[1]] =
          /^(.*\S)\s+\/\/ → (.*)$/.exec(line) ?? [];
        if (shown === undefined || call.startsWith("//")) return line;
        return `came(${call}, ${JSON.stringify(shown)});`;
      });
      const names = Object.keys(scope);
      const note = (value: unknown, shown: string) => came.push({ value, shown });
      try {
        await new run("came", ...names, program.join("\n"))(note, ...Object.values(scope));
        if (came.length === 0) throw new Error("Nothing came of it");
        for (const { value, shown } of came) {
          count += 1;
          if (!agrees(readShown(shown), value)) throw new Error(`${shown} is shown, and it is ${inWords(value)}`);
        }
      } catch (error) {
        wrong.push(`${name}: ${error}\n${program.join("\n")}`);
      }
    }
  }
  expect(wrong.join("\n\n")).toBe("");
  expect(count).toBeGreaterThan(35);
});

/** What a file of the sources exports that no entry does. */
async function own(file: string): Promise<object> {
  return import(pathToFileURL(file).href);
}

function inWords(value: unknown): string {
  return (
    JSON.stringify(value, (_, each) =>
      each instanceof Map ? [...each] : typeof each === "bigint" ? `${each}n` : each,
    )?.slice(0, 600) ?? "undefined"
  );
}
