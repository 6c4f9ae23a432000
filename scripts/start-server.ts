/** The server of the demo as a program of its own, and what it prints. */
import { type ChildProcessWithoutNullStreams, spawn } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync } from "node:fs";
import { mkdir, rename, rm, writeFile } from "node:fs/promises";
import { basename, join } from "node:path";
import { fileURLToPath } from "node:url";
import { build } from "esbuild";

/** A server that listens. */
export interface StartedServer {
  /** What it printed so far. */
  readonly printed: string;
  /** Ends it by a signal. Returns the status it ended with; `null` where it was killed. */
  end(signal: NodeJS.Signals): Promise<number | null>;
}

/** Starts the server with settings of its environment; resolves when it listens. */
export async function startServer(settings: Readonly<Record<string, string>>): Promise<StartedServer> {
  const server: ChildProcessWithoutNullStreams = spawn(process.execPath, [await serverProgram()], {
    env: { ...process.env, ...settings },
  });
  const ended = new Promise<number | null>((done) => server.once("exit", done));
  let printed = "";
  await new Promise<void>((ready, fail) => {
    for (const stream of [server.stdout, server.stderr])
      stream.on("data", (chunk) => {
        printed += String(chunk);
        if (printed.includes("Try it:")) ready();
      });
    server.once("exit", (status) => fail(new Error(`The server ended with ${status}: ${printed}`)));
  });
  return {
    get printed() {
      return printed;
    },
    end(signal) {
      server.kill(signal);
      return ended;
    },
  };
}

let building: Promise<string> | undefined;

/** The server as JavaScript, made once for each state of its source: it starts in a quarter of the time. */
export function serverProgram(): Promise<string> {
  building ??= buildServer();
  return building;
}

async function buildServer(): Promise<string> {
  const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));
  const { outputFiles } = await build({
    entryPoints: {
      main: here("../examples/server/main.ts"),
      thread: here("../examples/server/pictures/draw-picture.ts"),
    },
    outdir: here("../out/server"),
    write: false,
    bundle: true,
    packages: "external",
    platform: "node",
    format: "esm",
    tsconfig: here("../tsconfig.json"),
    logLevel: "warning",
  });
  const hash = createHash("sha256");
  for (const { contents } of outputFiles) hash.update(contents);
  // As deep in the project as its source is, since it names files of the project.
  const folder = here(`../out/server-${hash.digest("hex").slice(0, 16)}`);
  if (existsSync(folder)) return join(folder, "main.js");
  const draft = `${folder}-${process.pid}`;
  await mkdir(draft, { recursive: true });
  for (const { path, contents } of outputFiles) await writeFile(join(draft, basename(path)), contents);
  // Another test may have made it meanwhile.
  await rename(draft, folder).catch(() => rm(draft, { recursive: true }));
  return join(folder, "main.js");
}
