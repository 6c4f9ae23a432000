import { execFile } from "node:child_process";
import { existsSync } from "node:fs";
import { cp, mkdir, mkdtemp, readdir, readFile, rm, symlink, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { promisify } from "node:util";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { mantle } from "./run-mantle.ts";

const pages = ["start", "art", "catalog", "creation", "screens", "play", "saves", "rules", "packs", "tools"];

let folder = "";

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "mantle-docs-"));
  await cp("package.json", join(folder, "package.json"));
  for (const each of ["demo", "dist", "node_modules", "schema"])
    await symlink(join(process.cwd(), each), join(folder, each));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const blocksOn = async (page: string, language: string) =>
  [
    ...(await readFile(`docs/${page}.md`, "utf8")).matchAll(new RegExp(`\`\`\`${language}\\n([\\s\\S]*?)\`\`\``, "g")),
  ].map(([, block = ""]) => block);

/** A line that says what comes of it: `steps.step.id; // → "build"`. */
const told = /^(?<call>\S.*); \/\/ → (?<says>.*)$/;

describe("the guide", () => {
  test("every error has a line on the page of troubleshooting, and no line is of another", async () => {
    const [, union = ""] = /export type ErrorCode =\s+\| ProblemCode([^;]*);/.exec(
      await readFile("src/core/base/problem.ts", "utf8"),
    ) ?? [""];
    const codes = [...union.matchAll(/"([a-z-]+)"/g)].map(([, code]) => code);
    const [, errors = ""] = (await readFile("docs/troubleshooting.md", "utf8")).split("## Errors");
    const lines = [...errors.matchAll(/^\| `([a-z-]+)` \| [^|]{9,} \| [^|]{4,} \|$/gm)].map(([, code]) => code);
    expect(codes.length).toBeGreaterThan(40);
    expect(lines.toSorted()).toEqual(codes.toSorted());
  });

  // One program runs them all: loading the library takes longer than what they do.
  test("what the pages show comes of it", async () => {
    const shown: Record<string, readonly string[]> = {};
    for (const page of ["catalog", "creation", "screens", "play", "engines", "saves", "server", "rules"]) {
      const lines = (await blocksOn(page, "js")).join("\n").split("\n");
      const expected = lines.flatMap((line) => told.exec(line)?.groups?.["says"] ?? []);
      expect([page, expected.length > 2]).toEqual([page, true]);
      shown[page] = expected;
      const program = lines.map((line) => {
        const { call } = told.exec(line)?.groups ?? {};
        if (call === undefined) return line;
        const [, declared, value] = /^const (\w+) = (.*)$/.exec(call) ?? [];
        return declared === undefined ? `came(${call});` : `const ${declared} = ${value}; came(${declared});`;
      });
      const head = `const came = (value) => globalThis.came("${page}", value);\n`;
      await writeFile(join(folder, `${page}.mjs`), head + program.join("\n"));
    }
    const pages = Object.keys(shown);
    const program = `
      const all = Object.fromEntries(${JSON.stringify(pages)}.map((page) => [page, []]));
      globalThis.came = (page, value) => all[page].push(JSON.stringify(value));
      for (const page of ${JSON.stringify(pages)}) await import(\`./\${page}.mjs\`);
      console.log(JSON.stringify(all));`;
    await writeFile(join(folder, "all.mjs"), program);
    const { stdout } = await promisify(execFile)(process.execPath, ["all.mjs"], { cwd: folder });
    expect(JSON.parse(stdout.trimEnd().split("\n").at(-1) ?? "")).toEqual(shown);
  });

  test.each([
    ["tools", ["keepers", "rolled", "seven.png", "sheets", "keepers.ts", "couriers"]],
    ["art", ["keepers", "Felt Hat.png", "seen"]],
    ["engines", ["rolled", "sheets", "packed"]],
    ["packs", ["fair", "four.png"]],
  ])("the commands of %s.md do what they say", async (page, expected) => {
    const place = join(folder, `of-${page}`);
    await mkdir(place);
    await symlink(join(folder, "demo"), join(place, "demo"));
    const lines = (await blocksOn(page, "sh")).join("").trim().split("\n");
    const before = process.cwd();
    process.chdir(place);
    try {
      for (const line of lines) {
        const [command = "", ...words] = [...line.matchAll(/"([^"]*)"|(\S+)/g)].map(
          ([, quoted, word]) => quoted ?? word,
        );
        if (command === "cp") await cp(words[0] ?? "", words[1] ?? "");
        else {
          expect([line, command]).toEqual([line, "mantle"]);
          expect([line, await mantle(...(words as string[]))]).toEqual([line, expect.objectContaining({ status: 0 })]);
        }
      }
    } finally {
      process.chdir(before);
    }
    expect(await readdir(place)).toEqual(expect.arrayContaining(expected));
  });

  test("every page is one of the list, shows a picture, and leads only to what is there", async () => {
    const contents = await readFile("docs/README.md", "utf8");
    const { files }: { readonly files: readonly string[] } = JSON.parse(await readFile("package.json", "utf8"));
    const packed = [...files, "README.md", "LICENSE"];
    const listed = [...contents.matchAll(/^\| \d+ \| \[\w+\]\((\w+)\.md\)/gm)].map(([, page]) => page);
    expect(listed).toEqual(pages);
    for (const file of (await readdir("docs")).filter((name) => name.endsWith(".md"))) {
      const text = await readFile(join("docs", file), "utf8");
      const page = file.slice(0, -".md".length);
      if (pages.includes(page)) expect([page, /!\[[^\]]+\]\([\w/-]+\.png\)/.test(text)]).toEqual([page, true]);
      if (page !== "README") expect([contents.includes(`(${file})`), file]).toEqual([true, file]);
      const links = [...text.matchAll(/\]\((?!https?:)([^)#]+)(?:#[^)]*)?\)/g)].map(([, link = ""]) => link);
      expect([file, links.filter((link) => !existsSync(join(dirname(join("docs", file)), link)))]).toEqual([file, []]);
      // Whoever reads the pages in the package has what they lead to.
      const leading = links.map((link) => join("docs", link).split("/")[0] ?? "");
      expect([file, leading.filter((place) => !packed.includes(place))]).toEqual([file, []]);
    }
  });

  test("the glossary has the words of the library, each once", async () => {
    const words = [...(await readFile("docs/glossary.md", "utf8")).matchAll(/^\| ([\w ]+) \| (.{8,}) \|$/gm)];
    const named = words.map(([, word]) => word).filter((word) => word !== "word");
    expect(named).toEqual([...new Set(named)].sort());
    const needed =
      "catalog rig body slot part layer channel ramp outfit rule loadout holdings bag character edit fitting step signal form look moment cel roster seat cue session save problem";
    for (const word of needed.split(" ")) expect(named).toContain(word);
  });
});
