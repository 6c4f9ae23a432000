/**
 * Looks at the package, once it is built, as a stranger gets it: packs it, and uses every entry point from a folder that has nothing else of ours. With `--whole`, from
 * older compilers and in every resolution.
 */
import { execFile } from "node:child_process";
import { mkdir, mkdtemp, readdir, readFile, rm, symlink, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";
import { promisify } from "node:util";

const run = promisify(execFile);
/** Entry points that stand on engines whose own types do not pass a strict compiler, nor an old one. */
const looseTypes = /phaser|pixi/;
/** What a game writes with the types of its catalog: an id that is not in it does not compile. */
const game = [
  'import { type Catalog, createCharacter, type Fitting, makeName, type Moment, openSession, purchase, type Session, type Store } from "zealous-mantle";',
  'import type { SaltmarshIds } from "./saltmarsh.js";',
  "declare const catalog: Catalog<SaltmarshIds>;",
  "declare const store: Store;",
  "declare const fitting: Fitting<SaltmarshIds>;",
  "declare const session: Session<SaltmarshIds>;",
  'fitting.wear("storm-hat", { in: "hat" });',
  'session.signal({ stamina: 1 }); session.raise("touch:locker");',
  'purchase(catalog, fitting.character, "storm-hat", { holdings: { "storm-hat": "listed" }, balance: 40 });',
  'const name = makeName(catalog, { seed: 4 }); void createCharacter(catalog, { body: "reed", name });',
  'const [outcome] = session.raise("dawn"); if (outcome?.ok === false) outcome.because.code satisfies string;',
  'void openSession({ catalog, store, distinguishBy: ["oilcloth", "cloth"] });',
  '({ animation: "walk", facing: "south", time: 0 }) satisfies Moment<SaltmarshIds>;',
  ...[
    'fitting.wear("strom-hat");',
    'fitting.wear("storm-hat", { in: "head" });',
    "session.signal({ stamnia: 1 });",
    'purchase(catalog, fitting.character, "fezz", { holdings: {}, balance: 40 });',
    'purchase(catalog, fitting.character, "storm-hat", { holdings: { "strom-hat": "owned" }, balance: 40 });',
    'void openSession({ catalog, store, distinguishBy: "oilclot" });',
    '({ animation: "walk", facing: "sout", time: 0 }) satisfies Moment<SaltmarshIds>;',
  ].map((line) => `// @ts-expect-error There is no such id.\n${line}`),
];

/** What a game writes with an engine: what the library adds to it is known to the compiler. */
const scenes = [
  'import { Scene } from "phaser";',
  'import type { Raycaster } from "three";',
  'import { type DrawnFigure } from "zealous-mantle/three";',
  'import "zealous-mantle/phaser";',
  "declare const ray: Raycaster;",
  "declare const somebody: DrawnFigure;",
  "export class Pier extends Scene {",
  '  create() { this.figures.add(160, 90, { facing: "east" }).play("walk"); }',
  "}",
  "ray.intersectObject(somebody)[0]?.pixel?.x satisfies number | undefined;",
  "// @ts-expect-error A hit has no such place.",
  "ray.intersectObject(somebody)[0]?.pixle;",
];

/** The elements as React takes them. */
const page = [
  'import type { Fitting } from "zealous-mantle";',
  'import type { ImageLoader } from "zealous-mantle/browser";',
  'import { listeners } from "zealous-mantle/jsx/react";',
  "declare const fitting: Fitting;",
  "declare const loader: ImageLoader;",
  'const keep = listeners("mantle-fitting", { "mantle-finish": ({ character }) => character.id });',
  'export const screen = <mantle-fitting className="wardrobe" onClick={() => 0} aria-label="Wardrobe" style={{ height: 600 }} fitting={fitting} loader={loader} onmantle-leave={({ character }) => character.id} {...keep} />;',
  "// @ts-expect-error An event that it does not have.",
  'listeners("mantle-fitting", { "mantle-finsh": () => 0 });',
  "// @ts-expect-error A property of another type.",
  "export const mistaken = <mantle-fitting fitting={4} />;",
];

const isWhole = process.argv.includes("--whole");
const folder = await mkdtemp(join(tmpdir(), "mantle-package-"));
const bin = join(folder, "node_modules/zealous-mantle/dist/js/mantle.js");
try {
  const { stdout } = await run("npm", ["pack", "--json", "--ignore-scripts", "--pack-destination", folder]);
  const [packed]: readonly { filename: string }[] = JSON.parse(stdout);
  const tarball = join(folder, packed?.filename ?? "");
  await unpackInto(join(folder, "node_modules"), tarball);
  const looks = await useAll();
  looks.push(
    () => tell("publint", run("node_modules/.bin/publint", [tarball, "--strict"])),
    () =>
      tell(
        "types of the package",
        run("node_modules/.bin/attw", [tarball, "--profile", "esm-only", "--format", "ascii"]),
      ),
  );
  // Two at a time, since each takes a core.
  const next = async (): Promise<void> => {
    for (let look = looks.pop(); look !== undefined; look = looks.pop()) await look();
  };
  await Promise.all([next(), next()]);
} finally {
  await rm(folder, { recursive: true, force: true });
}

/** The package from the tarball, and what it stands on from this project. */
async function unpackInto(modules: string, tarball: string): Promise<void> {
  const own = join(modules, "zealous-mantle");
  await mkdir(own, { recursive: true });
  await run("tar", ["xzf", tarball, "-C", own, "--strip-components", "1"]);
  for (const name of await readdir("node_modules")) {
    if (name.startsWith(".") || name === "zealous-mantle") continue;
    await symlink(resolve("node_modules", name), join(modules, name));
  }
}

/** Imports every entry point: once as types, in each resolution and with the oldest compiler and ours, and once for real. */
async function useAll(): Promise<(() => Promise<void>)[]> {
  const looks: (() => Promise<void>)[] = [];
  const { exports } = JSON.parse(await readFile(join(folder, "node_modules/zealous-mantle/package.json"), "utf8"));
  const entries = Object.keys(exports).filter((key) => !key.endsWith(".json"));
  const importing = (keys: readonly string[]) => {
    const lines = keys.map((key, at) => `import * as entry${at} from "zealous-mantle${key.slice(1)}";`);
    return [
      ...lines,
      `console.log([${keys.map((_, at) => `entry${at}`).join(", ")}].map((each) => Object.keys(each).length));`,
    ];
  };
  const hidden = [
    'declare const catalog: import("zealous-mantle").Catalog;',
    "// @ts-expect-error What is compiled of a catalog is private.",
    "void catalog.compiled;",
  ];
  const [strictly, loosely] = [false, true].map((isLoose) => entries.filter((key) => looseTypes.test(key) === isLoose));
  await writeFile(join(folder, "consumer.ts"), `${[...importing(strictly ?? []), ...hidden].join("\n")}\n`);
  await writeFile(join(folder, "game.ts"), `${game.join("\n")}\n`);
  await run(process.execPath, [bin, "types", "demo/saltmarsh", "--out", join(folder, "saltmarsh.ts")]);
  await writeFile(join(folder, "engines.ts"), `${importing(loosely ?? []).join("\n")}\n`);
  // Vite and PostgreSQL bring the types of Node themselves.
  const plain = entries.filter((key) => !looseTypes.test(key) && !/vite|server|testing/.test(key));
  await writeFile(join(folder, "plain.ts"), `${importing(plain).join("\n")}\n`);
  await writeFile(join(folder, "scenes.ts"), `${scenes.join("\n")}\n`);
  await writeFile(join(folder, "page.tsx"), `${page.join("\n")}\n`);
  await writeFile(join(folder, "package.json"), '{ "type": "module" }');
  const compilers = isWhole ? ["typescript-native", "typescript", "typescript-5.5"] : ["typescript-native"];
  for (const compiler of compilers) {
    for (const module of isWhole ? ["NodeNext", "Bundler"] : ["NodeNext"]) {
      const settings = ["--module", module === "Bundler" ? "ESNext" : module, "--moduleResolution", module];
      const strict = [
        "--strict",
        "--noEmit",
        "--target",
        "ES2022",
        "--exactOptionalPropertyTypes",
        "--noUncheckedIndexedAccess",
        "--jsx",
        "react-jsx",
        "--lib",
        "ES2023,DOM,DOM.Iterable",
      ];
      const name = `${compiler}, ${module}`;
      const compile = (isLoose: boolean, types: "node" | "trusted-types", ...files: readonly string[]) =>
        run(
          process.execPath,
          [
            resolve("node_modules", compiler, "bin/tsc"),
            ...settings,
            ...strict,
            "--skipLibCheck",
            `${isLoose}`,
            "--types",
            types,
            ...files,
          ],
          {
            cwd: folder,
          },
        );
      looks.push(() => tell(name, compile(false, "node", "consumer.ts", "game.ts", "page.tsx")));
      looks.push(() => tell(`${name}, without the types of Node`, compile(false, "trusted-types", "plain.ts")));
      if (!compiler.includes("5.5"))
        looks.push(() => tell(`${name}, engines`, compile(true, "node", "engines.ts", "scenes.ts")));
    }
  }
  const inNode = entries
    .filter((key) => !/elements|browser|phaser|pixi/.test(key))
    .map((key) => `zealous-mantle${key.slice(1)}`);
  // Those for frameworks are types alone.
  const script = `for (const name of ${JSON.stringify(inNode)}) if (Object.keys(await import(name)).length === 0 && !/types|react|vue|svelte/.test(name)) throw new Error(name);`;
  await writeFile(join(folder, "consumer.mjs"), script);
  looks.push(() => tell("in Node", run(process.execPath, ["consumer.mjs"], { cwd: folder })));
  looks.push(() =>
    tell("every pixel of the demo, by the command line", run(process.execPath, [bin, "check", "demo/saltmarsh"])),
  );
  return looks;
}

async function tell(what: string, work: Promise<unknown>): Promise<void> {
  try {
    await work;
    console.log(`${what}: fine`);
  } catch (error) {
    const { stdout = "", stderr = "", message = "" } = Object(error);
    console.error(`${what}: ${message}\n${stdout}${stderr}`.slice(0, 4_000));
    process.exitCode = 1;
  }
}
