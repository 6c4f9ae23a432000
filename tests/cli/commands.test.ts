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

describe("what is asked of the command line", () => {
  test("of a command that there is not is an error, help or not, with the prefix of all errors", async () => {
    for (const words of [["edti"], ["edti", "--help"], ["help", "edti"]]) {
      const { status, stdout, stderr } = await mantle(...words);
      expect([status, stdout, stderr.split("\n")[0]]).toEqual([2, "", "mantle: unknown command 'edti'"]);
    }
    expect((await mantle("check", catalog, "--hlep")).stderr).toMatch(/^mantle: unknown option '--hlep'/);
    expect(await mantle("help", "check")).toMatchObject({
      status: 0,
      stdout: expect.stringMatching(/^Usage: mantle check/),
    });
  });

  test("reads a character from standard input, and changes none there", async () => {
    const text = await readFile(wren, "utf8");
    expect(mantleProcess(["check", catalog, "-"], {}, text)).toMatchObject({
      status: 0,
      stdout: "rolled-1: Nothing is wrong.\n",
    });
    const { parts } = await loadCatalog(catalog);
    // A hood and a shirt are never worn together there.
    const loadout = Object.fromEntries(["hood", "shirt"].map((id) => [parts.get(id)?.slots[0], id]));
    const fixed = mantleProcess(["fix", catalog, "-", "--write"], {}, JSON.stringify({ ...JSON.parse(text), loadout }));
    expect([fixed.status, fixed.stderr]).toEqual([2, expect.stringContaining("Name a file to change it.")]);
  });

  test("draws a frame by its number, and nothing under a name that is no PNG's", async () => {
    const drawn = async (...words: readonly string[]) => {
      const out = join(folder, "frame.png");
      const { status, stderr } = await mantle("draw", catalog, wren, "--out", out, ...words);
      return status === 0 ? (await readFile(out)).toString("base64") : stderr;
    };
    const [animation] = (await loadCatalog(catalog)).rigs.values().next().value?.animations.values() ?? [];
    const { id = "", ends = [] } = animation ?? {};
    expect(await drawn("--animation", id, "--frame", "1")).toBe(
      await drawn("--animation", id, "--time", String(ends[0])),
    );
    expect(await drawn("--animation", id, "--frame", String(ends.length))).toMatch(/Give --frame a number from 0 to/);
    expect(await drawn("--frame", "1", "--time", "1")).toMatch(/cannot be used with/);
    const other = await mantle("draw", catalog, wren, "--out", join(folder, "frame.gif"));
    expect([other.status, other.stderr]).toEqual([2, expect.stringContaining("End it with .png.")]);
  });

  test("that is strict exits with 1 for warnings", async () => {
    const odd = join(folder, "odd");
    await mantle("new", odd);
    const main = JSON.parse(await readFile(join(odd, "catalog.json"), "utf8"));
    main.slots = { ...main.slots, spare: { kind: "gear", required: true } };
    await writeFile(join(odd, "catalog.json"), JSON.stringify(main));
    const checked = await mantle("check", odd, "--quick");
    expect([checked.status, checked.stdout]).toEqual([0, expect.stringMatching(/\d warnings found/)]);
    expect((await mantle("check", odd, "--quick", "--strict")).status).toBe(1);
  });

  test("names a file that is not JSON, and nothing that it may define", async () => {
    const torn = join(folder, "torn");
    await mantle("new", torn);
    const clothes = join(torn, "parts", "clothes.json");
    await writeFile(clothes, `${await readFile(clothes, "utf8")},`);
    const { status, stdout } = await mantle("check", torn, "--quick");
    expect([status, stdout.split("\n").filter((line) => line.startsWith("error"))]).toEqual([
      1,
      [expect.stringMatching(/clothes\.json.*This is not JSON/)],
    ]);
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
