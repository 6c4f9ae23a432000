import { Pool } from "pg";
import { openDatabase, postgresStore } from "zealous-mantle/server";
import { openOwnPostgres } from "../../scripts/postgres.ts";
import { agree, type Row, sideBySide } from "../measure.ts";

const text = JSON.stringify({ name: "Wren", notes: "rowed out with the tide ".repeat(60) });

const bareWrite = `
  INSERT INTO bare AS held (player, key, revision, content) VALUES ($1, $2, $3, $4)
  ON CONFLICT (player, key) DO UPDATE SET revision = excluded.revision, content = excluded.content, previous = held.content
  WHERE held.revision < excluded.revision`;

/** A save put and got, of one player after the other. */
export const postgresStoreRow: Row = {
  name: "postgres-store",
  work: "a generation put, with the one before it kept, and all got again, in PostgreSQL",
  against: "the bare statements through pg: a row with its revision, content and previous content",
  unit: "ms",
  goal: { atMost: 1.3 },
  async measure() {
    const postgres = await openOwnPostgres();
    const database = await openDatabase({ url: postgres.url });
    const pool = new Pool({ connectionString: postgres.url });
    try {
      await pool.query(
        "CREATE TABLE bare (player text, key text, revision bigint, content text, previous text, PRIMARY KEY (player, key))",
      );
      const store = postgresStore(database, "ann");
      let revision = 0;
      const ours = async () => {
        revision += 1;
        await store.write("wren", { revision, text: text + revision }, revision === 1 ? [] : [revision - 1]);
        return store.read("wren");
      };
      let bare = 0;
      const theirs = async () => {
        bare += 1;
        await pool.query(bareWrite, ["ann", "wren", bare, text + bare]);
        const { rows } = await pool.query(
          "SELECT revision, content, previous FROM bare WHERE player = $1 AND key = $2",
          ["ann", "wren"],
        );
        return rows[0];
      };
      for (let turn = 0; turn < 3; turn += 1) {
        const [[newest, before], row] = [await ours(), await theirs()];
        agree(newest?.text === row.content && Number(row.revision) === newest?.revision, "the newest generation");
        agree((before?.text ?? null) === row.previous, "the one before");
      }
      return await sideBySide({ run: ours, times: 40 }, { run: theirs, times: 40 });
    } finally {
      await pool.end();
      await database.close();
      await postgres.remove();
    }
  },
};
