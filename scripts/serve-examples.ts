import { readFile } from "node:fs/promises";
import type { ServerResponse } from "node:http";
import { fileURLToPath } from "node:url";
import { build, type Connect, preview } from "vite";

import { createImage, encodePng } from "zealous-mantle/raster";
import { bundlePage } from "./bundle-page.ts";
import { blankArtHeader, blankPath, programPath } from "./test-site.ts";

/**
 * Builds the examples and serves them on this machine.
 *
 * @param programs - TypeScript files of the project that become programs for pages, by name.
 * @returns where, and what stops it.
 */
export async function serveExamples(
  programs: Readonly<Record<string, string>> = {},
): Promise<{ readonly url: string; readonly close: () => Promise<void> }> {
  const configFile = fileURLToPath(new URL("../examples/vite.config.ts", import.meta.url));
  // Nobody loads these from afar: they need not be small.
  await build({ configFile, logLevel: "warn", build: { minify: false, reportCompressedSize: false } });
  const files = new Map<string, readonly [type: string, content: string | Uint8Array]>([
    [
      blankPath,
      [
        "text/html; charset=utf-8",
        '<!doctype html><html lang="en"><meta charset="utf-8"><link rel="icon" href="data:,"><title>Blank</title>',
      ],
    ],
  ]);
  for (const [name, entry] of Object.entries(programs))
    files.set(programPath(name), [
      "text/javascript; charset=utf-8",
      await bundlePage(fileURLToPath(new URL(`../${entry}`, import.meta.url)), olderEngines[name]),
    ]);
  const answer: Connect.NextHandleFunction = (request, response, next) => {
    const path = request.url ?? "";
    const demo = inDemo.exec(path)?.[1];
    if (demo !== undefined) return void sendDemo(demo, response);
    const isBlank = request.headers[blankArtHeader] !== undefined && path.endsWith(".png") && !marksPoints.test(path);
    const [type, content] = (isBlank ? blankPicture : files.get(path)) ?? [];
    if (type === undefined) return next();
    response.setHeader("content-type", type);
    response.end(content);
  };
  const server = await preview({
    configFile,
    logLevel: "warn",
    // So that a page that is opened again asks for nothing that it has.
    preview: { port: 0, host: "127.0.0.1", headers: { "cache-control": "max-age=3600" } },
    plugins: [{ name: "for-tests", configurePreviewServer: ({ middlewares }) => void middlewares.use(answer) }],
  });
  const address = server.httpServer.address();
  if (address === null || typeof address === "string") throw new Error("The examples could not be served");
  return { url: `http://127.0.0.1:${address.port}`, close: () => server.close() };
}

/** Files of the demo catalog, served as a game would serve its own; no path leads out of its folder. */
const inDemo = /^\/saltmarsh\/((?:[\w-][\w.-]*\/)*[\w-][\w.-]*)$/;

async function sendDemo(path: string, response: ServerResponse): Promise<void> {
  try {
    const content = await readFile(fileURLToPath(new URL(`../demo/saltmarsh/${path}`, import.meta.url)));
    response.setHeader("content-type", path.endsWith(".png") ? "image/png" : "application/json");
    response.end(content);
  } catch {
    response.statusCode = 404;
    response.end();
  }
}

/** What stands for a package in a program, where it is tried with an older version of it. */
const olderEngines: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  "engines/phaser-3.80": { phaser: "phaser3" },
};

const blankPicture = ["image/png", encodePng(createImage(1, 1))] as const;

/** Pictures that mark points are no art: without them the catalog has none. */
const marksPoints = /\/points-[^/]*$/;
