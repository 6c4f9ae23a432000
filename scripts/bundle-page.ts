import { fileURLToPath } from "node:url";
import { build } from "vite";

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

/**
 * A program for a page or a worker in one piece of JavaScript.
 *
 * @param instead - packages that stand for others, by their names.
 */
export async function bundlePage(entry: string, instead: Readonly<Record<string, string>> = {}): Promise<string> {
  const built = await build({
    configFile: false,
    logLevel: "warn",
    resolve: {
      alias: [
        ...Object.entries(instead).map(([find, replacement]) => ({ find: new RegExp(`^${find}$`), replacement })),
        { find: /^zealous-mantle$/, replacement: here("../src/core/index.ts") },
        { find: /^zealous-mantle\/browser$/, replacement: here("../src/browser/index.ts") },
        { find: /^zealous-mantle\/authoring$/, replacement: here("../src/core/authoring.ts") },
        { find: /^zealous-mantle\/english\/art$/, replacement: here("../src/core/base/messages/english-art.ts") },
        { find: /^zealous-mantle\/import$/, replacement: here("../src/core/import.ts") },
        { find: /^zealous-mantle\/judge$/, replacement: here("../src/core/judge.ts") },
        { find: /^zealous-mantle\/atlas$/, replacement: here("../src/core/atlas.ts") },
        { find: /^zealous-mantle\/share$/, replacement: here("../src/core/share.ts") },
        { find: /^zealous-mantle\/english$/, replacement: here("../src/core/base/messages/english.ts") },
        { find: /^zealous-mantle\/testing$/, replacement: here("../src/testing/index.ts") },
        { find: /^zealous-mantle\/model$/, replacement: here("../src/core/model.ts") },
        { find: /^zealous-mantle\/phaser$/, replacement: here("../src/engines/phaser/index.ts") },
        { find: /^zealous-mantle\/pixi$/, replacement: here("../src/engines/pixi/index.ts") },
        { find: /^zealous-mantle\/three$/, replacement: here("../src/engines/three/index.ts") },
        { find: /^zealous-mantle\/elements$/, replacement: here("../src/elements/index.ts") },
      ],
    },
    build: {
      write: false,
      minify: false,
      reportCompressedSize: false,
      target: "es2023",
      lib: { entry, formats: ["iife"], name: "page" },
    },
  });
  const [output] = [built].flat();
  if (output === undefined || !("output" in output)) throw new Error(`${entry} could not be bundled`);
  return output.output[0].code;
}
