import { cp, mkdir, mkdtemp, readdir, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";
import { pathToFileURL } from "node:url";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import {
  createFromPreset,
  decodeSave,
  encodeSave,
  type Json,
  openSession,
  readSave,
  removeSave,
  writeSave,
} from "zealous-mantle";
import { fileStore } from "zealous-mantle/node";
import { openDatabase, postgresStore } from "zealous-mantle/server";
import { demo, demoFolder } from "../demo-catalog.ts";
import { mantle, mantleProcess } from "../run-mantle.ts";
import { isLong } from "../runs.ts";
import { newDatabaseFolder } from "../server/databases.ts";
import { newPostgresDatabase } from "../server/shared-postgres.ts";

let folder = "";
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "mantle-care-"));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const wren = createFromPreset(demo, "first-watch", { id: "wren", name: "Wren" });
let places = 0;

/** A folder with a courier, a profile and a journal of the oldest form. */
async function saved(): Promise<string> {
  places += 1;
  const place = join(folder, `saves-${places}`);
  const session = await openSession({ catalog: demo, store: fileStore(place) });
  session.add(wren);
  await session.close();
  await writeSave(fileStore(place), "journal", "journal", { mantle: "journal/1", text: "Two letters." });
  return place;
}
const damage = async (place: string, key: string, revision: number) => {
  const file = join(place, key, `${revision}.save.json`);
  await writeFile(file, (await readFile(file, "utf8")).replace("Wren", "Wrex"));
};
const migrations = ["--migrations", "tests/forms/migrations.js"];

describe("mantle saves", () => {
  test("shows a save with all its generations", async () => {
    const place = await saved();
    await damage(place, "character-wren", 2);
    const { status, stdout } = await mantle("saves", place, "show", "character-wren");
    expect(status).toBe(1);
    expect(stdout).toContain("     2  Its seal does not match");
    expect(stdout).toContain("     1  whole");
    expect(stdout).toContain('  "name": "Wren"');
    expect((await mantle("saves", place, "show", "nobody")).stderr).toContain('There is no save "nobody"');
    expect((await mantle("saves", place, "sweep")).stderr).toContain(
      'There is no "sweep" for saves. There are: list, show,',
    );
  });

  test("verifies every generation, and every character by its catalog", async () => {
    const place = await saved();
    expect((await mantle("saves", place, "verify")).stdout).toBe("3 saves, 6 generations: all whole.\n");
    await damage(place, "character-wren", 1);
    const forged = { ...wren, loadout: { ...wren.loadout, vest: "cork-vest" } };
    await writeSave(fileStore(place), "character-owl", "character", { ...forged, id: "owl" } as unknown as Json);
    const { status, stdout } = await mantle("saves", place, "verify", "--catalog", demoFolder);
    expect([status, stdout]).toEqual([1, expect.stringMatching(/^character-wren 1 {2}Its seal does not match/)]);
    expect(stdout).toContain("character-owl /loadout/coat");
    expect(stdout).toContain("4 saves, 8 generations: 1 damaged generation, 1 problem.");
  });

  test("recovers what has a whole generation, shows its plan first, and says what is lost", async () => {
    const place = await saved();
    await damage(place, "character-wren", 2);
    await writeFile(join(place, "profile", "3.save.json"), "{");
    await writeFile(join(place, "profile", "2.save.json"), "{");
    await rm(join(place, "journal", "2.save.json"));
    const plan = await mantle("saves", place, "recover");
    expect([plan.status, plan.stdout]).toEqual([
      1,
      expect.stringContaining(
        "character-wren  1 is stored again as 3\njournal  1 is stored again as 2\nprofile  cannot be recovered",
      ),
    ]);
    expect(await readdir(join(place, "character-wren"))).toEqual(["1.save.json", "2.save.json"]);
    await mantle("saves", place, "recover", "--write");
    const { content, problems, revision } = await readSave(fileStore(place), "character-wren", "character");
    expect([content, problems, revision]).toEqual([wren, [], 3]);
    expect((await readSave(fileStore(place), "journal", "journal")).problems).toEqual([]);
    expect((await mantle("saves", place, "recover")).stdout).not.toContain("stored again");
  });

  test("migrates saves of older forms, and keeps the older generation behind", async () => {
    const place = await saved();
    expect((await mantle("saves", place, "migrate", ...migrations)).stdout).toBe(
      "journal  journal/1 becomes journal/3\nNothing was written. Run again with --write to migrate it.\n",
    );
    await mantle("saves", place, "migrate", ...migrations, "--write");
    const forms = (await fileStore(place).read("journal")).map(({ text }) => JSON.parse(text ?? "{}").content);
    expect(forms).toEqual([
      { mantle: "journal/3", entries: [{ day: 1, line: "Two letters." }] },
      { mantle: "journal/1", text: "Two letters." },
    ]);
    expect((await mantle("saves", place, "migrate", ...migrations)).stdout).toBe("There is nothing to migrate.\n");
    expect((await mantle("saves", place, "migrate", "--migrations", "nowhere.js")).status).toBe(2);
  });

  test("carries saves from a folder to a database and back, and replaces nothing unasked", async () => {
    const place = await saved();
    const file = join(folder, "all.json");
    await mantle("saves", place, "export", file);
    const database = await newPostgresDatabase();
    await (await openDatabase({ url: database })).close();
    const within = [database, "import", file, "--player", "ann"] as const;
    expect((await mantle("saves", database, "list")).stderr).toContain("Name one with --player");
    expect((await mantle("saves", ...within)).stdout).toContain("Run again with --write to store them.");
    expect((await mantle("saves", ...within, "--write")).stdout).toContain("character-wren  is stored\n");
    expect((await mantle("saves", database, "list", "--player", "ann")).stdout).toContain("3 saves, all whole.");
    expect((await mantle("saves", database, "list", "--player", "bob")).stdout).toBe("No saves.\n");
    const opened = await openDatabase({ url: database });
    await writeSave(postgresStore(opened, "ann"), "character-wren", "character", {
      ...wren,
      name: "Wrenna",
    } as unknown as Json);
    await opened.close();
    const kept = await mantle("saves", ...within, "--write");
    expect([kept.status, kept.stdout]).toEqual([
      1,
      expect.stringContaining("is there with other content: that is kept"),
    ]);
    await mantle("saves", ...within, "--overwrite", "--write");
    const back = join(folder, "back.json");
    await mantle("saves", database, "export", back, "--player", "ann");
    const { saves } = JSON.parse(await readFile(back, "utf8"));
    const names = saves["character-wren"].map(({ text }: { text: string }) => JSON.parse(text).content.name);
    expect(names).toEqual(["Wren", "Wrenna"]);
  });

  test("carries along that a save was removed, and renews a database that was put back", async () => {
    const place = await saved();
    await removeSave(fileStore(place), "character-wren");
    expect((await mantle("saves", place)).stdout).toContain("character-wren  removed\n");
    expect((await mantle("saves", place, "verify")).stdout).toBe("3 saves, 5 generations: all whole.\n");
    const file = join(folder, "removed.json");
    await mantle("saves", place, "export", file);
    const database = await newPostgresDatabase();
    const opened = await openDatabase({ url: database });
    const store = postgresStore(opened, "ann");
    await mantle("saves", database, "import", file, "--player", "ann", "--write");
    expect((await readSave(store, "character-wren")).kind).toBe("removed");
    const { epoch } = await store.list();
    expect((await mantle("saves", database, "renew")).stdout).toContain("Run again with --write to renew it.");
    expect((await store.list()).epoch).toBe(epoch);
    const renewed = await mantle("saves", database, "renew", "--write", "--json");
    expect(JSON.parse(renewed.stdout)).toMatchObject({ epoch: (await store.list()).epoch, written: true });
    expect((await store.list()).epoch).not.toBe(epoch);
    await opened.close();
    expect((await mantle("saves", place, "renew")).stderr).toContain("is no database");
  });

  test("knows the folder of a database within a program, too", async () => {
    const database = await newDatabaseFolder();
    const stored = [database, "import", join(folder, "all.json"), "--player", "ann", "--write"];
    // As processes, in which a database starts three times as fast as in here.
    expect(mantleProcess(["saves", ...stored]).stdout).toContain("character-wren  is stored\n");
    if (isLong)
      expect(mantleProcess(["saves", database, "list", "--player", "ann"]).stdout).toContain("3 saves, all whole.");
    await rm(database, { recursive: true });
  });
});

test("saves of every form that ever was are opened, and become the newest", async () => {
  const place = join(folder, "forms");
  const { migrations: chain } = await import(pathToFileURL(resolve("tests/forms/migrations.js")).href);
  const files = (await readdir("tests/forms")).filter((name) => name.endsWith(".save.json"));
  expect(files.length).toBeGreaterThan(4);
  for (const file of files) {
    const text = (await readFile(join("tests/forms", file), "utf8")).trim();
    const opened = decodeSave(text, undefined, chain);
    expect([file, opened.ok]).toEqual([file, true]);
    if (!opened.ok) continue;
    const key = opened.address?.key ?? "";
    const own = join(place, file, key);
    await mkdir(own, { recursive: true });
    await cp(join("tests/forms", file), join(own, "7.save.json"));
    expect((await readSave(fileStore(join(place, file)), key, opened.kind, { migrations: chain })).content).toEqual(
      opened.content,
    );
  }
  const session = await openSession({ catalog: demo, store: fileStore(join(place, "character-1.save.json")) });
  expect(session.characters[0]).toMatchObject({ name: "Wren", bag: { flares: [20, 3], "rain-cape": [1] } });
});

test("a chain of migrations with a gap, or one that gives another form, is an error of whoever wrote it", () => {
  const text = encodeSave("journal", { mantle: "journal/1" });
  const gap = [{ kind: "journal", from: 2, migrate: (content: Json) => content }];
  expect(() => decodeSave(text, "journal", gap)).toThrow('The migration from "journal/1" to "journal/2" is missing.');
  const wrong = [{ kind: "journal", from: 1, migrate: (content: Json) => content }];
  expect(() => decodeSave(text, "journal", wrong)).toThrow('gives no "journal/2"');
  expect(decodeSave(text.replace("journal/1", "journal/9"), "journal", wrong).ok).toBe(false);
});
