/** A database within a program that has never been used, made once and copied from then on: making one takes seconds. */
import { createHash } from "node:crypto";
import { existsSync, readFileSync } from "node:fs";
import { cp, mkdir, mkdtemp, rename, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { openDatabase } from "../src/server/database.ts";

const { version } = JSON.parse(readFileSync("node_modules/@electric-sql/pglite/package.json", "utf8"));

/** The folder of the template, which is made where it is missing. */
export async function databaseTemplate(): Promise<string> {
  const tables = createHash("sha256").update(readFileSync("schema/saves.sql")).digest("hex").slice(0, 8);
  const template = join("node_modules/.cache", `mantle-database-${version}-${tables}`);
  if (existsSync(template)) return template;
  const made = await mkdtemp(join(tmpdir(), "mantle-template-"));
  await (await openDatabase({ url: "", folder: made })).close();
  await mkdir("node_modules/.cache", { recursive: true });
  const draft = `${template}-${process.pid}`;
  await cp(made, draft, { recursive: true });
  // Another program may have made one meanwhile.
  await rename(draft, template).catch(() => rm(draft, { recursive: true }));
  await rm(made, { recursive: true });
  return template;
}
