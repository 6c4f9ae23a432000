/** The parts of a cluster besides PostgreSQL and the servers: a pooler and a balancer, as Debian has them. */
import { type ChildProcess, spawn } from "node:child_process";
import { chown, mkdtemp, rm, writeFile } from "node:fs/promises";
import { connect } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { setTimeout as pause } from "node:timers/promises";
import { freePort, ordinaryUser } from "../postgres.ts";

/** A program that listens on a port, and can be killed and begun again. */
export interface Part {
  readonly port: number;
  start(): Promise<void>;
  kill(): Promise<void>;
  remove(): Promise<void>;
}

/** pgbouncer in transaction mode, before one PostgreSQL at a time. */
export interface Pooler extends Part {
  readonly url: string;
  /** Sends everybody to another PostgreSQL from now on. */
  pointAt(port: number): Promise<void>;
}

/** Starts pgbouncer before a PostgreSQL. */
export async function openPooler(target: number): Promise<Pooler> {
  const folder = await mkdtemp(join(tmpdir(), "mantle-pooler-"));
  const port = await freePort();
  const user = process.getuid?.() === 0 ? ordinaryUser() : undefined;
  const file = join(folder, "pgbouncer.ini");
  const write = async (database: number) => {
    const settings = `[databases]
game = host=127.0.0.1 port=${database} dbname=postgres user=mantle
[pgbouncer]
listen_addr = 127.0.0.1
listen_port = ${port}
unix_socket_dir =
auth_type = any
pool_mode = transaction
default_pool_size = 12
max_client_conn = 200
server_login_retry = 0.5
query_wait_timeout = 5
logfile =
pidfile =
`;
    await writeFile(file, settings);
  };
  await write(target);
  if (user !== undefined) for (const each of [folder, file]) await chown(each, user.uid, user.gid);
  const program = runProgram("pgbouncer", [file], port, { ...user, cwd: folder });
  await program.start();
  return {
    ...program,
    url: `postgres://mantle@127.0.0.1:${port}/game`,
    async pointAt(database) {
      await write(database);
      program.signal("SIGHUP");
    },
    async remove() {
      await program.kill();
      await rm(folder, { recursive: true, force: true });
    },
  };
}

/** Starts haproxy before servers, which it asks for their health. */
export async function openBalancer(servers: readonly number[]): Promise<Part> {
  const folder = await mkdtemp(join(tmpdir(), "mantle-balancer-"));
  const port = await freePort();
  const file = join(folder, "haproxy.cfg");
  const lines = servers.map((each, number) => `  server server-${number} 127.0.0.1:${each} check`);
  const settings = `global
  maxconn 1000
defaults
  mode http
  timeout connect 1s
  timeout client 30s
  timeout server 20s
  option redispatch
  option forwardfor
  option httpchk GET /health
  default-server inter 500ms fall 2 rise 1
frontend game
  bind 127.0.0.1:${port}
  default_backend servers
backend servers
${lines.join("\n")}
`;
  await writeFile(file, settings);
  const program = runProgram("haproxy", ["-db", "-f", file], port, { cwd: folder });
  await program.start();
  return {
    ...program,
    async remove() {
      await program.kill();
      await rm(folder, { recursive: true, force: true });
    },
  };
}

function runProgram(
  name: string,
  args: readonly string[],
  port: number,
  options: { readonly uid?: number; readonly cwd: string },
) {
  let running: ChildProcess | undefined;
  return {
    port,
    signal: (signal: NodeJS.Signals) => running?.kill(signal),
    async start() {
      const path = `${process.env["PATH"]}:/usr/sbin`;
      const child = spawn(name, args, { ...options, env: { ...process.env, PATH: path }, stdio: "ignore" });
      running = child;
      const ended = new Promise<never>((_, fail) => {
        child.once("error", fail);
        child.once("exit", (status) => fail(new Error(`${name} ended with ${status}.`)));
      });
      // Its end is looked at only until it listens.
      ended.catch(() => undefined);
      await Promise.race([ended, listens(port)]);
    },
    async kill() {
      const child = running;
      running = undefined;
      if (child === undefined || child.exitCode !== null) return;
      const ended = new Promise((done) => child.once("exit", done));
      child.kill("SIGKILL");
      await ended;
    },
  };
}

/** Resolves once something listens on a port. */
async function listens(port: number): Promise<void> {
  for (let isThere = false; !isThere; ) {
    isThere = await new Promise<boolean>((done) => {
      const socket = connect(port, "127.0.0.1");
      socket.once("error", () => done(false));
      socket.once("connect", () => {
        socket.destroy();
        done(true);
      });
    });
    if (!isThere) await pause(50);
  }
}
