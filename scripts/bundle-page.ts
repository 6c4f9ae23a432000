import { build } from "vite";
import { aliases } from "./entries.js";

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
        ...aliases,
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
