import { execFileSync } from "node:child_process";
import { cp, mkdtemp, readFile, rm, symlink, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, test } from "@jest/globals";
import { openSession } from "zealous-mantle";
import { fileStore } from "zealous-mantle/node";
import { decodePng } from "zealous-mantle/raster";
import { demo } from "./demo-catalog.ts";

test("the lines of the README do the job, run against the built package", async () => {
  const readme = await readFile("README.md", "utf8");
  const lines = /## Install\n.*?```js\n(.*?)```/s.exec(readme)?.[1] ?? "";
  const folder = await mkdtemp(join(tmpdir(), "mantle-readme-"));
  try {
    await cp("package.json", join(folder, "package.json"));
    for (const each of ["demo", "dist", "node_modules"]) await symlink(join(process.cwd(), each), join(folder, each));
    await writeFile(join(folder, "lines.mjs"), lines);
    execFileSync(process.execPath, ["lines.mjs"], { cwd: folder });
    const sheet = decodePng(await readFile(join(folder, "wren-walk.png")));
    expect([sheet.width, sheet.height]).toEqual([512, 320]);
    const session = await openSession({ catalog: demo, store: fileStore(join(folder, "saves")) });
    expect(session.seat(1).character).toMatchObject({ name: "Wren", loadout: { neck: "hood-up" }, bag: {} });
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
});

test("every picture the README shows is there, and every one that is there is shown", async () => {
  const readme = await readFile("README.md", "utf8");
  const { readdir } = await import("node:fs/promises");
  const shown = new Set([...readme.matchAll(/docs\/screenshots\/([\w-]+\.png)/g)].map(([, name]) => name));
  expect([...shown].sort()).toEqual((await readdir("docs/screenshots")).sort());
});
