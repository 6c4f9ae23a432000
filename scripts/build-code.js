/** Builds the code of the package into `dist`, a file for each of the sources, with source maps. Types are what `npm run build` adds. */
import { mkdir, rm, writeFile } from "node:fs/promises";
import { basename, dirname, join, relative } from "node:path";
import { transformFile } from "@swc/core";
import { glob } from "tinyglobby";

/** @param {string} source - a file of `src`. */
async function buildFile(source) {
  const target = source.replace(/^src/, "dist").replace(/\.ts$/, ".js");
  const { code, map = "{}" } = await transformFile(source, {
    swcrc: false,
    configFile: false,
    jsc: { parser: { syntax: "typescript" }, target: "es2023", rewriteRelativeImportExtensions: true },
    module: { type: "es6" },
    sourceMaps: true,
  });
  const name = basename(target);
  const fromTarget = { ...JSON.parse(map), file: name, sources: [relative(dirname(target), source)] };
  delete fromTarget.sourcesContent;
  await mkdir(dirname(target), { recursive: true });
  await writeFile(target, `${code}//# sourceMappingURL=${name}.map\n`);
  await writeFile(join(dirname(target), `${name}.map`), JSON.stringify(fromTarget));
}

await rm("dist", { recursive: true, force: true });
await Promise.all((await glob("src/**/*.ts")).map(buildFile));
