import { execFile } from "node:child_process";
import { existsSync } from "node:fs";
import { cp, mkdir, mkdtemp, readdir, readFile, rm, symlink, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { dirname, join, resolve } from "node:path";
import { promisify } from "node:util";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";

const pages = ["start", "art", "catalog", "creation", "screens", "play", "saves", "rules", "packs", "tools"];

let folder = "";

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "mantle-docs-"));
  for (const each of ["saltmarsh", "packs"]) await cp(`demo/${each}`, join(folder, "demo", each), { recursive: true });
  await cp("package.json", join(folder, "package.json"));
  for (const each of ["dist", "node_modules", "schema"]) await symlink(join(process.cwd(), each), join(folder, each));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const blocksOn = async (page: string, language: string) =>
  [
    ...(await readFile(`docs/${page}.md`, "utf8")).matchAll(new RegExp(`\`\`\`${language}\\n([\\s\\S]*?)\`\`\``, "g")),
  ].map(([, block = ""]) => block);

/** A line that says what comes of it: `steps.step.id; // → "build"`. */
const told = /^(?<call>\S.*); \/\/ → (?<says>.*)$/;

describe("the guide", () => {
  test.each(["catalog", "creation", "screens", "play", "engines", "saves", "server", "rules"])(
    "what %s.md shows comes of it",
    async (page) => {
      const lines = (await blocksOn(page, "js")).join("\n").split("\n");
      const expected = lines.flatMap((line) => told.exec(line)?.groups?.["says"] ?? []);
      expect(expected.length).toBeGreaterThan(2);
      const program = lines.map((line) => {
        const { call } = told.exec(line)?.groups ?? {};
        if (call === undefined) return line;
        const [, declared, value] = /^const (\w+) = (.*)$/.exec(call) ?? [];
        return declared === undefined ? `came(${call});` : `const ${declared} = ${value}; came(${declared});`;
      });
      const head = "const came = (value) => console.log(JSON.stringify(value));\n";
      await writeFile(join(folder, `${page}.mjs`), head + program.join("\n"));
      const { stdout } = await promisify(execFile)(process.execPath, [`${page}.mjs`], { cwd: folder });
      expect(stdout.trimEnd().split("\n")).toEqual(expected);
    },
  );

  test.each([
    ["tools", ["keepers", "rolled", "seven.png", "sheets", "keepers.ts", "couriers"]],
    ["art", ["keepers", "Felt Hat.png", "seen"]],
    ["engines", ["rolled", "sheets", "packed"]],
    ["packs", ["fair", "four.png"]],
  ])("the commands of %s.md do what they say", async (page, expected) => {
    const place = join(folder, `of-${page}`);
    await mkdir(place);
    await symlink(join(folder, "demo"), join(place, "demo"));
    const script = (await blocksOn(page, "sh")).join("");
    const mantle = `mantle() { '${process.execPath}' '${resolve("dist/cli/main.js")}' "$@"; }\n`;
    await promisify(execFile)("sh", ["-e", "-c", mantle + script], { cwd: place });
    expect(await readdir(place)).toEqual(expect.arrayContaining(expected));
  });

  test("every page is one of the list, shows a picture, and leads only to what is there", async () => {
    const contents = await readFile("docs/README.md", "utf8");
    const listed = [...contents.matchAll(/^\| \d+ \| \[\w+\]\((\w+)\.md\)/gm)].map(([, page]) => page);
    expect(listed).toEqual(pages);
    for (const file of (await readdir("docs")).filter((name) => name.endsWith(".md"))) {
      const text = await readFile(join("docs", file), "utf8");
      const page = file.slice(0, -".md".length);
      if (pages.includes(page)) expect([page, /!\[[^\]]+\]\([\w/-]+\.png\)/.test(text)]).toEqual([page, true]);
      if (page !== "README") expect([contents.includes(`(${file})`), file]).toEqual([true, file]);
      const links = [...text.matchAll(/\]\((?!https?:)([^)#]+)(?:#[^)]*)?\)/g)].map(([, link = ""]) => link);
      expect([file, links.filter((link) => !existsSync(join(dirname(join("docs", file)), link)))]).toEqual([file, []]);
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
