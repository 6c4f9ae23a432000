import { readdir } from "node:fs/promises";
import { join, relative, resolve, sep } from "node:path";
import { fileURLToPath } from "node:url";
import { nameId } from "../core/art/name-id.ts";
import { MantleError } from "../core/base/problem.ts";
import { titleFromId } from "../core/base/text.ts";
import { encodePng } from "../core/raster/png/encode-png.ts";
import { writeFiles } from "../node/write-files.ts";
import { drawFirst } from "./first-art.ts";
import { counted, type DefineCommand } from "./output.ts";

/** `mantle new`: a small catalog that passes and draws, to begin from. */
export const defineNew: DefineCommand = (command, terminal) => {
  command
    .argument("<folder>", "folder to make; nothing that is in it is touched")
    .option("--json", "print data for programs")
    .addHelpText("after", "\nExample:\n  $ mantle new keepers\n  Written: keepers, 7 files. Try: mantle check keepers")
    .action(async (folder: string, options: { readonly json?: boolean }) => {
      if (folder.trim() === "") throw new MantleError("bad-call", "Name a folder to make, like keepers.");
      const present = await readdir(folder).catch((): readonly string[] => []);
      if (present.includes("catalog.json"))
        throw new MantleError("file-taken", `There is a catalog in ${folder} already. Name another folder.`);
      const files = filesOf(nameId(folder.split(/[\\/]/).at(-1) ?? "") ?? "catalog", schemasFor(folder));
      await writeFiles(folder, files);
      const names = files.map(({ path }) => join(folder, path));
      const roll = `mantle roll ${typed(folder)} --seed 1 --out ${typed(join(folder, "rolled"))}`;
      const rolled = typed(join(folder, "rolled", "rolled-1.json"));
      const draw = `mantle draw ${typed(folder)} ${rolled} --scale 8 --out rolled-1.png`;
      terminal.answer(
        {
          lines: [
            `Written: ${folder}, ${counted(files.length, "file")}. Try: mantle check ${typed(folder)}`,
            "Then, somebody of it, and their picture:",
            `  ${roll}`,
            `  ${draw}`,
          ],
          data: { folder, files: names },
        },
        options,
      );
    });
};

/** A path as it is typed in a shell. */
function typed(path: string): string {
  return /\s/.test(path) ? `"${path}"` : path;
}

/** The way from a new folder to the schemas that editors check its files with: those of the package, where the game has it beside its own code. */
function schemasFor(folder: string): string | undefined {
  const schemas = fileURLToPath(new URL("../../schema/", import.meta.url));
  const way = relative(resolve(folder), schemas).split(sep).join("/");
  return /^(\.\.\/)+node_modules\/[^/]+\/schema$/.test(way) ? way : undefined;
}

function filesOf(id: string, schemas: string | undefined) {
  const named = (name: string) => (schemas === undefined ? {} : { $schema: `${schemas}/${name}.schema.json` });

  const pictures = drawFirst();
  const art = Object.entries(pictures).map(([name, image]) => ({ path: `art/${name}.png`, content: encodePng(image) }));
  const json = (value: object) => `${JSON.stringify(value, null, 2)}\n`;
  return [
    { path: "catalog.json", content: json({ ...named("catalog"), ...catalogOf(id), title: titleFromId(id) }) },
    { path: "parts/clothes.json", content: json({ ...named("included"), parts }) },
    ...art,
  ];
}

/** Two facings, two animations of two frames each: a row for each facing and animation. */
function catalogOf(id: string): object {
  return {
    mantle: "catalog/1",
    id,
    version: "0.1.0",
    include: ["parts/*.json"],
    rigs: {
      person: {
        frame: { width: 16, height: 24 },
        origin: [8, 22],
        facings: ["south", "west", { id: "east", mirror: "west" }],
        animations: { idle: { frames: 2, fps: 2 }, walk: { frames: 2, fps: 6 } },
        crops: { portrait: { animation: "idle", facing: "south", rect: [2, 0, 12, 13] } },
      },
    },
    ramps: {
      sand: ["#5a3422", "#a8683e", "#d99a66"],
      umber: ["#2c1810", "#5c3824", "#8a5a3c"],
      sea: ["#16324a", "#2c6a8a", "#6ab0c4"],
      moss: ["#26381c", "#4c7034", "#8cac5c"],
      brick: ["#541c18", "#983a2c", "#cc6c50"],
    },
    channels: {
      skin: { ramps: ["sand", "umber"], default: "sand", key: ["#5a3422", "#a8683e", "#d99a66"] },
      cloth: { ramps: ["sea", "moss", "brick"], default: "sea", key: ["#16324a", "#2c6a8a", "#6ab0c4"] },
    },
    slots: { hat: { kind: "gear" }, coat: { kind: "gear", required: true, default: "shirt" } },
    bodies: { person: { rig: "person", art: [{ image: "art/body.png", depth: 0, channel: "skin" }] } },
    stats: { warmth: {} },
    rules: [
      {
        never: ["part:hood", "part:shirt"],
        message: "A hood needs something to be sewn to.",
      },
    ],
    outfits: { walk: { title: "For a walk", parts: ["cloak", "hood"] } },
  };
}

const layer = (name: string, depth: number) => [{ image: `art/${name}.png`, depth, channel: "cloth" }];

const parts = {
  shirt: { slot: "coat", layers: layer("shirt", 10) },
  cloak: { slot: "coat", layers: layer("cloak", 10), gives: { warmth: 2 } },
  cap: { slot: "hat", layers: layer("cap", 20) },
  hood: { slot: "hat", layers: layer("hood", 20), gives: { warmth: 1 } },
};
