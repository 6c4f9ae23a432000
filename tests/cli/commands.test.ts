import { spawnSync } from "node:child_process";
import { mkdtemp, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { loadCatalog } from "zealous-mantle/node";
import { mantle, mantleProcess } from "../run-mantle.ts";

let folder = "";
let catalog = "";
let wren = "";

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "mantle-commands-"));
  catalog = join(folder, "keepers");
  await mantle("new", catalog);
  await mantle("roll", catalog, "--seed", "1", "--out", folder);
  wren = join(folder, "rolled-1.json");
});
afterAll(() => rm(folder, { recursive: true, force: true }));

describe("a new catalog", () => {
  test("passes, is drawn by the calls it names, and is not written over", async () => {
    // As a process, since every pixel is looked at.
    expect(mantleProcess(["check", catalog]).stdout).toBe(
      "Keepers 0.1.0: 1 body, 2 slots, 4 parts, 1 outfit, 1 rule. Nothing is wrong.\n",
    );
    const other = join(folder, "Bee Keepers");
    const { stdout } = await mantle("new", other);
    const [roll = "", draw = ""] = stdout.split("\n").flatMap((line) => /^ {2}mantle (.*)/.exec(line)?.[1] ?? []);
    /** As a shell reads them: what stands in quotation marks is one word. */
    const words = (line: string) =>
      [...line.matchAll(/"([^"]*)"|(\S+)/g)].map(([, quoted, plain]) => quoted ?? plain ?? "");
    expect((await mantle(...words(roll))).status).toBe(0);
    const out = join(folder, "rolled.png");
    expect((await mantle(...words(draw).map((word) => (word === "rolled-1.png" ? out : word)))).stdout).toBe(
      `Written: ${out}, 128×192 pixels\n`,
    );
    expect((await loadCatalog(other)).id).toBe("bee-keepers");
    expect((await mantle("new", "")).stderr).toMatch(/Name a folder to make/);
    const again = await mantle("new", catalog);
    expect([again.status, again.stderr]).toEqual([2, expect.stringMatching(/There is a catalog in .* already/)]);
  });
});

describe("answers as data", () => {
  /** The keys that the docs name for each command. */
  const documented = async () => {
    const text = await readFile("docs/tools.md", "utf8");
    return new Map(
      [...text.matchAll(/^\| `(\w+)`([^|]*)\| (.*) \|$/gm)].map(([, command = "", more = "", keys = ""]) => [
        `${command}${more.trimEnd()}`,
        [...keys.matchAll(/`(\w+)`/g)].map(([, key]) => key),
      ]),
    );
  };

  test("have the form that they name, and the keys that the docs name", async () => {
    const out = join(folder, "out.png");
    const calls: Readonly<Record<string, readonly string[]>> = {
      check: ["check", "--quick", catalog],
      "check of a character": ["check", catalog, wren],
      types: ["types", catalog, "--out", join(folder, "ids.ts")],
      roll: ["roll", catalog],
      draw: ["draw", catalog, wren, "--out", out],
      bake: ["bake", catalog, wren, "--out", folder],
      why: ["why", catalog, wren, "cap"],
      share: ["share", catalog, wren],
      saves: ["saves", folder],
      new: ["new", join(folder, "third")],
      completion: ["completion", "fish"],
    };
    const said = await documented();
    for (const [row, call] of Object.entries(calls)) {
      const { stdout } = await mantle(...call, "--json");
      const { mantle: form, command, ...data } = JSON.parse(stdout);
      expect([row, form, command]).toEqual([row, "answer/1", call[0]]);
      const known = said.get(row) ?? [];
      expect([row, Object.keys(data).filter((key) => !known.includes(key))]).toEqual([row, []]);
      expect(Object.keys(data).length).toBeGreaterThan(0);
    }
  });

  test("say what failed, too, for whatever reason", async () => {
    const nowhere = await mantle("check", join(folder, "nowhere"), "--json");
    expect([nowhere.status, JSON.parse(nowhere.stdout)]).toEqual([
      2,
      {
        mantle: "answer/1",
        command: "check",
        error: { code: "unreadable-file", message: expect.stringContaining("no such file"), problems: [] },
      },
    ]);
    const call = await mantle("draw", catalog, wren, "--json");
    expect(JSON.parse(call.stdout).error).toMatchObject({
      code: "bad-call",
      message: expect.stringMatching(/^required option/),
    });
    const broken = join(folder, "third", "catalog.json");
    await writeFile(
      broken,
      (await readFile(broken, "utf8"))
        .replace('"sea", "moss"', '"see", "moss"')
        .replace('"default": "sea"', '"default": "see"'),
    );
    const { error } = JSON.parse((await mantle("roll", join(folder, "third"), "--json")).stdout);
    expect([error.code, error.problems[0]?.place.file]).toEqual(["bad-catalog", "catalog.json"]);
  });
});

describe("a call", () => {
  test("may name the catalog.json of a folder, and options take no more than their own word", async () => {
    const { stdout } = await mantle("check", "--quick", join(catalog, "catalog.json"));
    expect(stdout).toMatch(/^Keepers 0\.1\.0/);
    const baked = await mantle(
      "bake",
      "--animations",
      "walk,idle",
      "--facings",
      "south",
      catalog,
      wren,
      "--out",
      folder,
    );
    expect([baked.status, baked.stderr]).toEqual([0, ""]);
    expect((await mantle("bake", catalog, wren, "--out", folder, "--facings", "south,")).stderr).toMatch(
      /with commas between them/,
    );
    expect((await mantle("import", "a.png", "--to", catalog, "--across", "row")).stderr).toMatch(
      /Allowed are animation, facing, frame/,
    );
  });

  test("is finished by the shell", async () => {
    const script = join(folder, "completion.bash");
    await writeFile(script, (await mantle("completion", "bash")).stdout);
    const complete = (...typed: readonly string[]) => {
      const words = ["mantle", ...typed].map((word) => `"${word}"`).join(" ");
      const call = `. ${script}; COMP_WORDS=(${words}); COMP_CWORD=${typed.length}; _mantle; printf '%s\\n' "\${COMPREPLY[@]}"`;
      return spawnSync("bash", ["-c", call], { cwd: folder, encoding: "utf8" }).stdout.trim().split("\n");
    };
    expect(complete("ch")).toEqual(["check"]);
    expect(complete("roll", "--s")).toEqual(["--seed"]);
    expect(complete("check", "kee")).toEqual(["keepers"]);
    expect((await mantle("completion", "fish")).stdout).toMatch(/-n '__fish_seen_subcommand_from draw' -l facing -d/);
    expect((await mantle("completion", "csh")).stderr).toMatch(/There are: bash, zsh, fish/);
  });
});
