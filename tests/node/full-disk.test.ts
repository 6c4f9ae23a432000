import { spawnSync } from "node:child_process";
import { mkdtemp, readdir, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { createCharacter, decodeSave } from "zealous-mantle";
import { demo, demoFolder } from "../demo-catalog.ts";

let folder = "";
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "mantle-full-"));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

/** Runs Node where no file can grow beyond 8 kB: what does not fit is written in part, as on a full disk. */
function withLittleRoom(...args: readonly string[]) {
  const limited = `trap "" XFSZ; ulimit -f 8; exec "$0" "$@"`;
  return spawnSync("bash", ["-c", limited, process.execPath, ...args], {
    encoding: "utf8",
    env: { ...process.env, NO_COLOR: "1" },
  });
}

describe("where a file cannot be written whole", () => {
  test("mantle fix says so, and the file it would mend is as it was", async () => {
    const file = join(folder, "wren.json");
    const wren = createCharacter(demo, { body: "reed", name: "Wren", id: "wren" });
    const bag = Object.fromEntries(Array.from({ length: 1_500 }, (_, at) => [`pebble-${at}`, [1]]));
    await writeFile(file, JSON.stringify({ ...wren, loadout: { chain: "watch-chain" }, bag }));
    const before = await readFile(file, "utf8");
    const { status, stdout, stderr } = withLittleRoom("dist/js/mantle.js", "fix", demoFolder, file, "--write");
    expect([status, stdout, stderr]).toEqual([2, "", expect.stringContaining("wren.json cannot be written")]);
    expect(await readFile(file, "utf8")).toBe(before);
    expect(await readdir(folder)).toEqual(["wren.json"]);
  });

  test("a store rejects, and both generations are as they were", async () => {
    const place = join(folder, "saves");
    const script = `
      import { writeSave } from ${JSON.stringify(join(process.cwd(), "dist/js/index.js"))};
      import { fileStore } from ${JSON.stringify(join(process.cwd(), "dist/js/node.js"))};
      const store = fileStore(${JSON.stringify(place)});
      await writeSave(store, "wren", "text", "first");
      await writeSave(store, "wren", "text", "second");
      await writeSave(store, "wren", "text", "third ".repeat(5_000)).then(
        () => console.log("stored"),
        () => console.log("refused"),
      );
      await writeSave(store, "wren", "text", "fourth");
    `;
    const { stdout, stderr } = withLittleRoom("--input-type=module", "--eval", script);
    expect([stdout, stderr]).toEqual(["refused\n", ""]);
    expect((await readdir(join(place, "wren"))).sort()).toEqual(["3.save.json", "4.save.json"]);
    const contents = await Promise.all(
      [4, 3].map(async (number) => decodeSave(await readFile(join(place, `wren/${number}.save.json`), "utf8"))),
    );
    expect(contents).toMatchObject([{ content: "fourth" }, { content: "second" }]);
  });
});
