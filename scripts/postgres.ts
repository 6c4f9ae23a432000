/** Debian's PostgreSQL: where it is, how it is installed, and one of one's own that is begun in a temporary folder. */
import { type ChildProcess, spawn, spawnSync } from "node:child_process";
import { existsSync, readdirSync, renameSync, rmSync } from "node:fs";
import { chown, mkdir, mkdtemp, readFile, rm } from "node:fs/promises";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";

/** The folder of its programs, the newest there is; `undefined` where it is not installed. */
export function postgresPrograms(): string | undefined {
  const given = process.env["POSTGRES_BIN"];
  if (given !== undefined) return given;
  const root = "/usr/lib/postgresql";
  const versions = existsSync(root) ? readdirSync(root).map(Number).filter(Boolean) : [];
  const found = versions.sort((one, other) => other - one).map((version) => join(root, String(version), "bin"));
  return found.find((folder) => existsSync(join(folder, "postgres")));
}

/** A PostgreSQL that can be stopped and begun again, with what is in it. */
export interface OwnPostgres {
  readonly url: string;
  readonly port: number;
  start(): Promise<void>;
  /** Ends all connections at once, and comes to rest; `kill` leaves no time for that. */
  stop(how?: "stop" | "kill"): Promise<void>;
  /** Starts another one that takes over everything from this one as it happens, and can be promoted. */
  openStandby(): Promise<OwnPostgres>;
  /** Makes a standby one that stores. */
  promote(): Promise<void>;
  /** Stops it and removes its folder. */
  remove(): Promise<void>;
}

/** A folder with the files of a new PostgreSQL, and who may run it. */
interface NewPostgres {
  readonly programs: string;
  /** The user that its programs run as: never the one who may do everything. */
  readonly as: { readonly uid?: number; readonly gid?: number };
  readonly place: string;
  readonly port: number;
}

/** Makes the files of a PostgreSQL in a folder that is there. */
async function makePostgres(folder: string): Promise<NewPostgres> {
  const programs = postgresPrograms();
  if (programs === undefined) throw new Error("PostgreSQL is not installed. Run: npx tsx scripts/ensure-postgres.ts");
  const as = process.getuid?.() === 0 ? ordinaryUser() : undefined;
  if (as !== undefined) await chown(folder, as.uid, as.gid);
  const place = join(folder, "data");
  // What one run of the tests makes several times is made once, and copied.
  const run = process.env["MANTLE_TEST_RUN"];
  const template = run === undefined ? undefined : join(run, "postgres-files");
  const from = template !== undefined && existsSync(template) ? template : undefined;
  const settings = "--username mantle --auth trust --encoding UTF8 --locale C --no-sync".split(" ");
  const [program, args] =
    from === undefined
      ? [join(programs, "initdb"), ["--pgdata", place, ...settings]]
      : ["cp", ["--recursive", "--preserve=mode", from, place]];
  const made = spawnSync(program, args, { ...as, cwd: folder, encoding: "utf8" });
  if (made.status !== 0) throw new Error(`${program} failed: ${made.stdout}${made.stderr}${made.error ?? ""}`);
  if (template !== undefined && from === undefined) keepAsTemplate(place, template);
  return { programs, as: as ?? {}, place, port: await freePort() };
}

/** Copies files that are new, for the next PostgreSQL of the run. Another program may do the same at once. */
function keepAsTemplate(place: string, template: string): void {
  const draft = `${template}-${process.pid}`;
  const copied = spawnSync("cp", ["--recursive", "--preserve=mode,ownership", place, draft], { encoding: "utf8" });
  if (copied.status !== 0) throw new Error(`cp failed: ${copied.stderr}`);
  try {
    renameSync(draft, template);
  } catch {
    rmSync(draft, { recursive: true });
  }
}

const addressOf = (port: number) => `postgres://mantle@127.0.0.1:${port}/postgres`;

/**
 * Starts a PostgreSQL in a folder, which is made; it runs on when this program ends. It does not wait for the disk: what
 * it holds does not outlive a failure of the machine.
 *
 * @returns its address.
 */
export async function startSharedPostgres(folder: string): Promise<string> {
  await mkdir(folder, { recursive: true });
  const { programs, as, place, port } = await makePostgres(folder);
  const options = `-p ${port} -k ${folder} -c listen_addresses=127.0.0.1 -c fsync=off`;
  const log = join(folder, "postgres.log");
  const started = spawnSync(join(programs, "pg_ctl"), ["start", "--wait", "-D", place, "-l", log, "-o", options], {
    ...as,
    cwd: folder,
    // It keeps what it inherits, and whoever reads it would wait for its end.
    stdio: "ignore",
  });
  if (started.status !== 0) throw new Error(`PostgreSQL does not start: ${await readFile(log, "utf8")}`);
  return addressOf(port);
}

/** Makes a PostgreSQL in a temporary folder, on a free port of this machine alone, and starts it. */
export async function openOwnPostgres(): Promise<OwnPostgres> {
  const folder = await mkdtemp(join(tmpdir(), "mantle-postgres-"));
  return startOwn(folder, await makePostgres(folder));
}

async function startOwn(folder: string, { programs, as, place, port }: NewPostgres): Promise<OwnPostgres> {
  let running: ChildProcess | undefined;
  const call = (program: string, args: readonly string[]) => {
    const { status, stdout, stderr } = spawnSync(join(programs, program), args, {
      ...as,
      cwd: folder,
      encoding: "utf8",
    });
    if (status !== 0) throw new Error(`${program} failed: ${stdout}${stderr}`);
  };
  const own: OwnPostgres = {
    url: addressOf(port),
    port,
    async start() {
      const args = ["-D", place, "-p", String(port), "-k", folder, "-c", "listen_addresses=127.0.0.1"];
      const child = spawn(join(programs, "postgres"), args, {
        ...as,
        cwd: folder,
        stdio: ["ignore", "ignore", "pipe"],
      });
      running = child;
      let printed = "";
      await new Promise<void>((ready, fail) => {
        child.stderr.on("data", (chunk) => {
          printed += String(chunk);
          // A standby says that it takes only what changes nothing.
          if (/ready to accept (read-only )?connections/.test(printed)) ready();
        });
        child.on("exit", () => fail(new Error(`PostgreSQL ended: ${printed}`)));
        child.on("error", fail);
      });
    },
    async stop(how = "stop") {
      const child = running;
      running = undefined;
      if (child === undefined || child.exitCode !== null) return;
      const ended = new Promise((done) => child.once("exit", done));
      // SIGQUIT ends all its processes at once, as a failure of the machine would.
      child.kill(how === "kill" ? "SIGQUIT" : "SIGINT");
      await ended;
    },
    async openStandby() {
      const place = await mkdtemp(join(tmpdir(), "mantle-standby-"));
      if (as.uid !== undefined && as.gid !== undefined) await chown(place, as.uid, as.gid);
      const files = join(place, "data");
      const source = `host=127.0.0.1 port=${port} user=mantle application_name=standby`;
      call("pg_basebackup", ["--pgdata", files, "--dbname", source, "--write-recovery-conf", "--checkpoint=fast"]);
      return startOwn(place, { programs, as, place: files, port: await freePort() });
    },
    promote: async () => call("pg_ctl", ["promote", "--wait", "-D", place]),
    async remove() {
      await own.stop();
      await rm(folder, { recursive: true, force: true });
    },
  };
  await own.start();
  return own;
}

/** The user that PostgreSQL and its pooler run as: they do not run as the one who may do everything. */
export function ordinaryUser(): { readonly uid: number; readonly gid: number } {
  const number = (option: string, name: string) => Number(spawnSync("id", [option, name], { encoding: "utf8" }).stdout);
  const name = ["postgres", "nobody"].find((each) => spawnSync("id", [each]).status === 0) ?? "nobody";
  return { uid: number("-u", name), gid: number("-g", name) };
}

/** A port of this machine that nobody uses. */
export function freePort(): Promise<number> {
  return new Promise((found, fail) => {
    const server = createServer().listen(0, "127.0.0.1", () => {
      const address = server.address();
      server.close(() =>
        typeof address === "object" && address !== null ? found(address.port) : fail(new Error("No port is free")),
      );
    });
    server.on("error", fail);
  });
}
