/** Makes the figures of the demo catalog in three dimensions: `npm run models`. The same program always writes the same bytes. */
import { execFile } from "node:child_process";
import { mkdir, readdir, readFile, rm, writeFile } from "node:fs/promises";
import { availableParallelism } from "node:os";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import { parseArgs, promisify } from "node:util";
import { builds } from "../art/figure.ts";
import { wardrobe } from "../art/wardrobe.ts";
import { catalogFiles, rampsOf, slotsOf } from "./catalog.ts";
import { Maker } from "./maker.ts";

const folder = fileURLToPath(new URL("../saltmarsh-3d", import.meta.url));
const drawn = fileURLToPath(new URL("../saltmarsh", import.meta.url));
const started = performance.now();
const { values, positionals: only } = parseArgs({
  allowPositionals: true,
  options: { share: { type: "string" }, of: { type: "string", default: "1" } },
});

if (only.length === 0 && values.share === undefined) await makeAll();
else console.log(JSON.stringify(await make()));

/** What was made of a share, for whoever writes the catalog. */
async function make() {
  const [share, shares] = [Number(values.share ?? 0), Number(values.of)];
  const files = await sources();
  const maker = new Maker({
    slots: slotsOf(files),
    ramps: rampsOf(files),
    write: async (path, bytes) => {
      await mkdir(dirname(join(folder, path)), { recursive: true });
      await writeFile(join(folder, path), bytes);
    },
  });
  const mine = <T>(all: readonly T[]) => all.filter((_, at) => at % shares === share);
  for (const build of builds) {
    if (only.length === 0 ? share === builds.indexOf(build) % shares : only.includes("body")) await maker.body(build);
  }
  for (const art of only.length === 0 ? mine(wardrobe) : wardrobe.filter(({ id }) => only.includes(id)))
    await maker.part(art);
  return maker.made;
}

async function makeAll(): Promise<void> {
  const count = availableParallelism();
  const shares = await Promise.all(
    Array.from({ length: count }, async (_, each) => {
      const args = [
        ...process.execArgv,
        fileURLToPath(import.meta.url),
        "--share",
        String(each),
        "--of",
        String(count),
      ];
      const { stdout } = await promisify(execFile)(process.execPath, args, { maxBuffer: 1e8 });
      const made: Maker["made"] = JSON.parse(stdout);
      return made;
    }),
  );
  const made = shares.flat();
  const files = new Set([...made.map(({ path }) => path), ...builds.map(({ id }) => `models/${id}/skeleton.glb`)]);
  for (const file of await readdir(join(folder, "models"), { recursive: true }))
    if (file.endsWith(".glb") && !files.has(`models/${file.replaceAll("\\", "/")}`))
      await rm(join(folder, "models", file));
  for (const [path, content] of catalogFiles(await sources(), made)) {
    await mkdir(dirname(join(folder, path)), { recursive: true });
    await writeFile(join(folder, path), `${JSON.stringify(content, null, 2)}\n`);
  }
  const triangles = made.reduce((sum, each) => sum + each.triangles, 0);
  console.log(`${files.size} models, ${triangles} triangles, ${((performance.now() - started) / 1000).toFixed(1)} s`);
}

/** The catalog of the pictures, file by file. */
async function sources(): Promise<ReadonlyMap<string, Record<string, unknown>>> {
  const parts = (await readdir(join(drawn, "parts"))).toSorted().map((file) => `parts/${file}`);
  const files = ["catalog.json", "creation.json", "cues.json", ...parts];
  const read = async (file: string) => [file, JSON.parse(await readFile(join(drawn, file), "utf8"))] as const;
  return new Map(await Promise.all(files.map(read)));
}
