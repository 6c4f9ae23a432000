import { spawn, spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { chmod, mkdir, mkdtemp, readdir, readFile, rm, symlink, truncate, utimes, writeFile } from "node:fs/promises";
import { hostname, tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "@jest/globals";
import {
  createCharacter,
  memoryStore,
  openSession,
  readSave,
  type Session,
  type Store,
  writeSave,
} from "zealous-mantle";
import { fileStore } from "zealous-mantle/node";
import { demo } from "../demo-catalog.ts";
import { inWords } from "../in-words.ts";
import { isLong } from "../runs.ts";

let base = "";
let folder = "";
beforeAll(async () => {
  base = await mkdtemp(join(tmpdir(), "mantle-store-"));
});
beforeEach(async () => {
  folder = await mkdtemp(join(base, "saves-"));
});
afterAll(() => rm(base, { recursive: true, force: true }));

const wren = createCharacter(demo, { body: "reed", name: "Wren", id: "wren" });
const heron = createCharacter(demo, { body: "oak", name: "Heron", id: "heron" });
const newestOfWren = () => join(folder, "character-wren/3.save.json");

/** Stores Wren twice and Heron once, as a game would. */
async function play(store: Store): Promise<void> {
  const session = await openSession({ catalog: demo, store });
  session.add(wren);
  session.add(heron);
  session.seat(1).take("wren");
  await session.flush();
  session.edit("wren", { rename: "Kite" });
  await session.close();
}

function reopen(): Promise<Session> {
  return openSession({ catalog: demo, store: fileStore(folder) });
}

/** What is found when a session is opened: who is there, and what was wrong. */
async function found() {
  const { characters, problems } = await reopen();
  return {
    names: characters.map(({ name }) => name),
    problems: problems.map((problem) => `${problem.code} ${problem.place.file}: ${inWords(problem)}`),
  };
}

describe("a file that cannot be read takes nothing else along", () => {
  const obstacles: readonly (readonly [string, (path: string) => unknown, RegExp])[] = [
    ["a folder", (path) => mkdir(path), /it is a folder/],
    ["a link out of the folder", (path) => symlink("/etc/hostname", path), /it is a link/],
    ["a circle of links", (path) => symlink(path, path), /it is a link/],
    ["a pipe that nobody writes to", (path) => spawnSync("mkfifo", [path]), /not a regular file/],
    ["600 MB", (path) => writeFile(path, "").then(() => truncate(path, 600e6)), /it has 600000000 bytes; the limit is/],
  ];
  test.each(obstacles)("%s in place of the newest save", async (_what, put, words) => {
    await play(fileStore(folder));
    await rm(newestOfWren());
    await put(newestOfWren());
    const { names, problems } = await found();
    expect(names).toEqual(["Wren", "Heron"]);
    expect(problems).toEqual([expect.stringMatching(/^unreadable-save character-wren: Generation 3 /)]);
    expect(problems[0]).toMatch(words);
    // Whatever it is, it is still there after more was stored.
    const session = await reopen();
    for (const name of ["Tern", "Rail", "Knot"]) {
      session.edit("wren", { rename: name });
      await session.flush();
    }
    expect((await readdir(join(folder, "character-wren"))).sort()).toEqual([
      "3.save.json",
      "5.save.json",
      "6.save.json",
    ]);
  });

  test("nor does one that this user may not read", async () => {
    await play(fileStore(folder));
    await chmod(newestOfWren(), 0o000);
    await chmod(base, 0o755);
    await chmod(folder, 0o755);
    // The system lets its administrator read everything, so this is done by a program that gives that right away.
    const script = `
      import { fileStore } from ${JSON.stringify(join(process.cwd(), "dist/js/node.js"))};
      if (process.getuid() === 0) process.seteuid(65534);
      console.log(JSON.stringify(await fileStore(${JSON.stringify(folder)}).read("character-wren")));
    `;
    const { stdout } = spawnSync(process.execPath, ["--input-type=module", "--eval", script], { encoding: "utf8" });
    expect(JSON.parse(stdout)).toEqual([
      { revision: 3, because: "this user may not open it" },
      { revision: 2, text: expect.stringContaining("Wren") },
    ]);
  });

  test("names that are no keys are reported, and left alone", async () => {
    await play(fileStore(folder));
    await mkdir(join(folder, "%zz"));
    await writeFile(join(folder, "notes.txt"), "mine");
    await writeFile(join(folder, ".hidden"), "the system's");
    const { names, problems } = await found();
    expect(names).toEqual(["Kite", "Heron"]);
    expect(problems).toEqual([
      expect.stringMatching(/^unknown-entry %zz: "%zz" is among the saves/),
      expect.stringMatching(/^unknown-entry notes.txt/),
    ]);
  });

  test("a store that fails for one key gives all others", async () => {
    const kept = memoryStore();
    await play(kept);
    const read: Store["read"] = (key) =>
      key === "character-heron" ? Promise.reject(new Error("the cable is out")) : kept.read(key);
    const { characters, problems } = await openSession({ catalog: demo, store: { ...kept, read } });
    expect(characters.map(({ name }) => name)).toEqual(["Kite"]);
    expect(problems).toMatchObject([{ code: "store-failed", params: { reason: "the cable is out" } }]);
  });
});

describe("nothing goes back silently", () => {
  test("a copy of an older generation under another key, or another number, is not used", async () => {
    await play(fileStore(folder));
    const older = await readFile(join(folder, "character-wren/2.save.json"));
    await mkdir(join(folder, "character-aaa"));
    await writeFile(join(folder, "character-aaa/2.save.json"), older);
    await writeFile(join(folder, "character-wren/9.save.json"), older);
    const { names, problems } = await found();
    expect(names).toEqual(["Kite", "Heron"]);
    expect(problems).toEqual([
      expect.stringMatching(/^misplaced-save character-aaa: .* It is generation 2 of "character-wren"/),
      expect.stringMatching(/^misplaced-save character-wren: Generation 9 /),
    ]);
  });

  test("a newest generation that was removed is reported", async () => {
    await play(fileStore(folder));
    await rm(newestOfWren());
    const { names, problems } = await found();
    expect(names).toEqual(["Wren", "Heron"]);
    expect(problems).toEqual([expect.stringMatching(/^missing-generation character-wren: .* only generation 2/)]);
  });

  test("a character that the profile names and that is gone is reported", async () => {
    await play(fileStore(folder));
    await rm(join(folder, "character-wren"), { recursive: true });
    const { names, problems } = await found();
    expect(names).toEqual(["Heron"]);
    expect(problems).toEqual([expect.stringMatching(/^missing-character profile: .* "wren"/)]);
  });

  test.each([
    ["a save of a newer form", '{"mantle":"save/2","any":"thing"}'],
    ["a character of a newer form", undefined],
  ])("%s is reported, and stays whatever is stored after it", async (_what, text) => {
    const store = fileStore(folder);
    await play(store);
    if (text === undefined) await writeSave(store, "character-wren", "character", { mantle: "character/2", wings: 2 });
    else await writeFile(join(folder, "character-wren/4.save.json"), text);
    const newer = await readFile(join(folder, "character-wren/4.save.json"), "utf8");
    const { names, problems } = await found();
    expect(names).toEqual(["Kite", "Heron"]);
    expect(problems).toEqual([expect.stringMatching(/^newer-save character-wren: .* which a newer version wrote/)]);
    const session = await reopen();
    for (const name of ["Tern", "Rail", "Knot"]) {
      session.edit("wren", { rename: name });
      await session.flush();
    }
    expect(await readFile(join(folder, "character-wren/4.save.json"), "utf8")).toBe(newer);
  });
});

describe("two writers on one folder", () => {
  test("the second is refused, and nothing is replaced until it asks for that", async () => {
    await play(fileStore(folder));
    const [one, other] = [await reopen(), await reopen()];
    one.edit("wren", { rename: "Tern" });
    one.edit("heron", { rename: "Rail" });
    await one.flush();
    other.edit("wren", { rename: "Knot" });
    other.seat(2).take("heron");
    await expect(other.flush()).rejects.toMatchObject({ code: "changed-elsewhere" });
    // What nobody else changed is stored all the same.
    const { characters, seats } = await reopen();
    expect(characters.map(({ name }) => name)).toEqual(["Tern", "Rail"]);
    expect(seats.map(({ character }) => character?.name)).toEqual(["Tern", "Rail"]);
    await expect(other.close()).rejects.toMatchObject({ code: "changed-elsewhere" });
    await other.flush({ overwrite: true });
    expect((await reopen()).characters.map(({ name }) => name)).toEqual(["Knot", "Rail"]);
    await expect(one.flush()).resolves.toBeUndefined();
    one.edit("wren", { rename: "Dunlin" });
    await expect(one.flush()).rejects.toMatchObject({ code: "changed-elsewhere" });
    await one.close({ discard: true });
    expect((await reopen()).characters.map(({ name }) => name)).toEqual(["Knot", "Rail"]);
  });

  test("a store has no key without a letter, which would be the folder itself", async () => {
    await play(fileStore(folder));
    await expect(fileStore(folder).read("")).rejects.toMatchObject({ code: "bad-key" });
    expect((await found()).names).toEqual(["Kite", "Heron"]);
  });

  test("writers who want the same are both content", async () => {
    await play(fileStore(folder));
    const sessions = [await reopen(), await reopen()];
    for (const session of sessions) session.edit("wren", { rename: "Tern" });
    await Promise.all(sessions.map((session) => session.flush()));
    expect((await readdir(join(folder, "character-wren"))).sort()).toEqual(["3.save.json", "4.save.json"]);
  });
});

describe("a program that is killed", () => {
  /** Stores one count after another, and says which are stored. */
  const writer = `
    import { writeSave } from ${JSON.stringify(join(process.cwd(), "dist/js/index.js"))};
    import { fileStore } from ${JSON.stringify(join(process.cwd(), "dist/js/node.js"))};
    const store = fileStore(process.argv[1]);
    for (let count = Number(process.argv[2]); ; count += 1) {
      await writeSave(store, "count", "number", { count, much: "x".repeat(200_000) });
      process.stdout.write(count + "\\n");
    }
  `;

  test("loses nothing that it said was stored, and its drafts are removed at the next storing", async () => {
    let stored = 0;
    let drafts = 0;
    for (let kill = 0; kill < (isLong ? 200 : 3); kill += 1) {
      // Milliseconds that reach over all of a storing: its draft is written late in it.
      const delay = (kill * 7) % 24;
      stored = await lastBeforeKill(writer, folder, { first: stored + 1, after: 1 + (kill % 5), delay });
      const found = await readSave(fileStore(folder), "count", "number");
      const { count } = found.content as { count: number };
      // One more may have been stored before it could be said.
      expect([found.problems, count === stored || count === stored + 1]).toEqual([[], true]);
      stored = count;
      drafts += (await readdir(join(folder, "count"))).filter((name) => name.endsWith(".draft")).length;
      await writeSave(fileStore(folder), "count", "number", { count });
      const left = await readdir(join(folder, "count"));
      expect(left.filter((name) => !/^\d+\.save\.json$/.test(name))).toEqual([]);
    }
    if (isLong) expect(drafts).toBeGreaterThan(0);
  });

  test("leaves drafts that are removed by whoever stores next, while those of others stay", async () => {
    await play(fileStore(folder));
    const { pid: dead } = spawnSync("true");
    const here = createHash("sha256").update(hostname()).digest("hex").slice(0, 6);
    const draft = (machine: string, pid: number, letter: string) =>
      join(folder, `character-wren/4.save.json.${machine}-${pid}-${letter.repeat(12)}.draft`);
    const drafts = [draft(here, dead, "a"), draft(here, process.pid, "b"), draft("abcdef", dead, "c")];
    const old = draft("abcdef", dead, "d");
    for (const path of [...drafts, old]) await writeFile(path, "half of a sa");
    await utimes(old, 1, 1);
    const session = await reopen();
    session.edit("wren", { rename: "Tern" });
    await session.flush();
    const left = (await readdir(join(folder, "character-wren"))).filter((name) => name.endsWith(".draft"));
    expect(left.map((name) => name.slice(-18)).sort()).toEqual(["bbbbbbbbbbbb.draft", "cccccccccccc.draft"]);
  });
});

/** Runs a program that stores counts, kills it so many milliseconds after so many, and returns the last that it said. */
function lastBeforeKill(
  program: string,
  place: string,
  { first, after, delay }: { readonly first: number; readonly after: number; readonly delay: number },
): Promise<number> {
  return new Promise((resolve, reject) => {
    const child = spawn(process.execPath, ["--input-type=module", "--eval", program, place, String(first)]);
    let said = "";
    let isDoomed = false;
    child.stdout.on("data", (text) => {
      said += text;
      // Several lines can come at once.
      if (isDoomed || said.trim().split("\n").length < after) return;
      isDoomed = true;
      setTimeout(() => child.kill("SIGKILL"), delay);
    });
    child.stderr.on("data", (text) => {
      child.kill("SIGKILL");
      reject(new Error(String(text)));
    });
    child.on("close", () => resolve(Number(said.trim().split("\n").at(-1))));
  });
}
