import { randomUUID } from "node:crypto";
import { existsSync } from "node:fs";
import { mkdir, readFile, rename, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { openDatabase } from "zealous-mantle/server";
import { startSharedPostgres } from "../../scripts/postgres.ts";

/** A folder of this run of the tests, which all test files see. */
const runFolder = process.env["MANTLE_TEST_RUN"] ?? "";

/**
 * A database that nobody has used, in the one PostgreSQL of a run of the tests, which the first test file that asks for it starts. What stops or
 * kills PostgreSQL needs one of its own.
 */
export async function newPostgresDatabase(): Promise<string> {
  const url = new URL(await sharedPostgres());
  const name = `mantle_${randomUUID().replaceAll("-", "")}`;
  const postgres = await openDatabase({ url: url.href, connections: 1 });
  await postgres.query(`CREATE DATABASE ${name}`);
  await postgres.close();
  url.pathname = name;
  return url.href;
}

async function sharedPostgres(): Promise<string> {
  const address = join(runFolder, "postgres.url");
  const isFirst = await mkdir(join(runFolder, "postgres.lock")).then(
    () => true,
    () => false,
  );
  if (isFirst) {
    await writeFile(`${address}.draft`, await startSharedPostgres(join(runFolder, "postgres")));
    await rename(`${address}.draft`, address);
  }
  for (let tries = 0; !existsSync(address); tries += 1) {
    if (tries > 800) throw new Error("PostgreSQL does not start; the test file that began first says why.");
    await new Promise((done) => setTimeout(done, 50));
  }
  return readFile(address, "utf8");
}
