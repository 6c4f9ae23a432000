import { type ChildProcess, execFile, spawn } from "node:child_process";
import { mkdir, mkdtemp, readFile, rm, writeFile } from "node:fs/promises";
import { dirname, join, resolve } from "node:path";
import { promisify } from "node:util";

const run = promisify(execFile);

/** A project of somebody else's, who has nothing of ours but the package that is published. */
export interface PackedProject {
  readonly folder: string;
  /** Writes files, by path. */
  write(files: Readonly<Record<string, string | Uint8Array>>): Promise<void>;
  read(path: string): Promise<string>;
  /** Calls `mantle`; what it printed. Rejects where it fails. */
  mantle(...words: readonly string[]): Promise<string>;
  /** Runs a module of the project; what it printed. */
  node(...words: readonly string[]): Promise<string>;
  /** Builds with Vite. Rejects with what it printed where it fails. */
  build(): Promise<string>;
  /** Serves with Vite, as it is being made, or as it was built; the address. */
  serve(how: "dev" | "preview"): Promise<string>;
  /** Ends what is served, and removes all. */
  close(): Promise<void>;
}

/**
 * Makes a project with the built package in its `node_modules`: the files that would be published, without packing them first. The package's
 * dependencies are those of this checkout, which lies around it. That the packed package is whole is tried by `npm run check`.
 */
export async function packedProject(name: string): Promise<PackedProject> {
  await mkdir("out", { recursive: true });
  const folder = await mkdtemp(join(resolve("out"), `${name}-`));
  const installed = join(folder, "node_modules/zealous-mantle");
  await mkdir(installed, { recursive: true });
  const { files }: { readonly files: readonly string[] } = JSON.parse(await readFile("package.json", "utf8"));
  // Linked, which takes no time; none of them is written to.
  await run("cp", ["--recursive", "--link", "package.json", ...files, installed]);
  await writeFile(join(folder, "package.json"), '{ "type": "module", "private": true }');
  const servers: ChildProcess[] = [];
  const inFolder = { cwd: folder };
  const vite = resolve("node_modules/vite/bin/vite.js");
  return {
    folder,
    async write(files) {
      for (const [path, content] of Object.entries(files)) {
        await mkdir(dirname(join(folder, path)), { recursive: true });
        await writeFile(join(folder, path), content);
      }
    },
    read: (path) => readFile(join(folder, path), "utf8"),
    mantle: async (...words) =>
      (await run("node", ["node_modules/zealous-mantle/dist/js/mantle.js", ...words], inFolder)).stdout,
    node: async (...words) => (await run("node", words, inFolder)).stdout,
    build: async () => (await run("node", [vite, "build", "--logLevel", "warn"], inFolder)).stdout,
    async serve(how) {
      const words = how === "dev" ? [] : ["preview"];
      const server = spawn("node", [vite, ...words, "--host", "127.0.0.1", "--port", "0"], {
        ...inFolder,
        env: { ...process.env, NO_COLOR: "1" },
        stdio: ["ignore", "pipe", "pipe"],
      });
      servers.push(server);
      return addressOf(server);
    },
    async close() {
      for (const server of servers) server.kill();
      await rm(folder, { recursive: true, force: true });
    },
  };
}

/** The address that a server prints. */
function addressOf(server: ChildProcess): Promise<string> {
  return new Promise((found, fail) => {
    let printed = "";
    for (const stream of [server.stdout, server.stderr])
      stream?.on("data", (chunk) => {
        printed += String(chunk);
        const [address] = /http:\/\/127\.0\.0\.1:\d+\//.exec(printed) ?? [];
        if (address !== undefined) found(address);
      });
    server.on("exit", () => fail(new Error(printed)));
  });
}
