import { spawn } from "node:child_process";
import { once } from "node:events";
import { cp, mkdtemp, readFile, rm, symlink, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import { createCharacter, type Edit, encodeSave, memoryStore, openSession, readSave } from "zealous-mantle";
import { autosync, httpStore } from "zealous-mantle/browser";
import { mergeSaved, syncedStore } from "zealous-mantle/sync";
import { databaseTemplate } from "../../scripts/database-template.ts";
import { demo } from "../demo-catalog.ts";
import { edited } from "../edited.ts";

let folder = "";
let url = "";
let server: ReturnType<typeof spawn> | undefined;

/** The server of the docs, as it stands there. */
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "mantle-plain-server-"));
  const [, program = ""] = /```mjs\n([\s\S]*?)```/.exec(await readFile("docs/server.md", "utf8")) ?? [];
  expect(program.split("\n").length).toBeLessThan(38);
  await writeFile(join(folder, "server.mjs"), program);
  await cp("package.json", join(folder, "package.json"));
  for (const each of ["demo", "dist", "node_modules", "schema"])
    await symlink(join(process.cwd(), each), join(folder, each));
  await cp(await databaseTemplate(), join(folder, "saves"), { recursive: true });
  server = spawn(process.execPath, ["server.mjs"], {
    cwd: folder,
    env: { ...process.env, PORT: "0" },
    stdio: ["ignore", "pipe", "inherit"],
  });
  for (let said = ""; url === ""; ) {
    const [piece] = await once(server.stdout ?? process.stdin, "data");
    said += piece;
    url = /http:\S+/.exec(said)?.[0] ?? "";
  }
});
afterAll(async () => {
  server?.kill();
  await rm(folder, { recursive: true, force: true });
});

const device = () =>
  syncedStore({ near: memoryStore(), far: httpStore({ url, token: "token-of-ada" }), merge: mergeSaved(demo) });

test("what one device stores is on the other; what is not owned is refused with the reason, and stays where it was made", async () => {
  const [here, there] = [device(), device()];
  const session = await openSession({ catalog: demo, store: here });
  const worn: readonly Edit[] = [{ wear: "lamp-crown" }];
  session.add(edited(demo, createCharacter(demo, { body: "reed", id: "wren", name: "Wren" }), ...worn));
  const states: string[] = [];
  // In a program without pages.
  const stop = autosync(session, here, { onState: (state) => states.push(state) });
  await session.flush();
  for (let tries = 0; tries < 100 && !states.includes("agreed"); tries += 1)
    await new Promise((resolve) => setTimeout(resolve, 50));
  stop();
  expect(states).toContain("agreed");
  expect((await there.sync()).received).toEqual(["character-wren", "profile"]);
  expect((await readSave(there, "character-wren")).content).toMatchObject({
    name: "Wren",
    loadout: { hat: "lamp-crown" },
  });
  const cheat = {
    ...createCharacter(demo, { body: "reed", id: "tern", name: "Tern" }),
    loadout: { hat: "festival-crown" },
  };
  await here.write(
    "character-tern",
    { revision: 1, text: encodeSave("character", cheat as never, { key: "character-tern", revision: 1 }) },
    [],
  );
  const { refused } = await here.sync();
  expect(refused.map(({ key, error }) => [key, error.code])).toEqual([["character-tern", "refused"]]);
  expect(refused[0]?.error.message).toContain("unknown-part");
  expect((await readSave(here, "character-tern")).content).toMatchObject({ name: "Tern" });
});

test("whoever has no token learns nothing, and what is no save is not taken", async () => {
  await expect(httpStore({ url, token: "of nobody" }).list()).rejects.toMatchObject({ code: "not-allowed" });
  const store = httpStore({ url, token: "token-of-ada" });
  for (const [key, text] of [
    ["character-heron", "{"],
    ["anything", encodeSave("profile", {}, { key: "anything", revision: 1 })],
    ["profile", encodeSave("profile", {}, { key: "profile", revision: 2 })],
    [
      "character-heron",
      encodeSave("character", createCharacter(demo, { body: "reed", id: "egret" }) as never, {
        key: "character-heron",
        revision: 1,
      }),
    ],
  ] as const)
    await expect(store.write(key, { revision: 1, text }, [])).rejects.toMatchObject({ code: "refused" });
  await expect(store.read("character-heron")).resolves.toEqual([]);
});
