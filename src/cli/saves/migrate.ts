import { formNumber } from "../../core/save/json.ts";
import { newestForm } from "../../core/save/migrations.ts";
import { writeSave } from "../../core/save/saves.ts";
import { planned, type SavesAction } from "./action.ts";
import { generationsOf } from "./generations.ts";

/** Saves of an older form are stored in the newest, with the older generation behind it. */
export const migrateAction: SavesAction = {
  name: "migrate",
  does: "store saves of an older form in the newest; the older generation stays behind it",
  async run({ store, options: { write = false }, migrations }) {
    const migrated: { key: string; from: string; to: string }[] = [];
    for (const key of (await store.list()).keys) {
      const [newest] = await generationsOf(store, key, migrations);
      if (newest?.kind === undefined || newest.content === undefined) continue;
      const { kind, content, revision } = newest;
      const from = await storedForm(await store.read(key), kind);
      const to = newestForm(kind, migrations);
      if (from === undefined || from === to) continue;
      if (write) await writeSave(store, key, kind, content, { after: revision });
      migrated.push({ key, from: `${kind}/${from}`, to: `${kind}/${to}` });
    }
    return {
      lines: [
        ...migrated.map(({ key, from, to }) => `${key}  ${from} becomes ${to}`),
        planned(migrated.length, "migrate", write),
      ],
      data: { migrated, written: write },
    };
  },
};

/** The number of the form in which the newest generation is stored. */
async function storedForm(
  [newest]: readonly { readonly text: string | undefined }[],
  kind: string,
): Promise<number | undefined> {
  if (newest?.text === undefined) return undefined;
  const document: unknown = JSON.parse(newest.text);
  return formNumber(Object(document).content, kind);
}
