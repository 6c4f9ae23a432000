import { encodeSave, removedKind } from "../../core/save/seal.ts";
import type { SavesAction } from "./action.ts";
import { planned } from "./action.ts";
import { generationsOf } from "./generations.ts";

/** Saves whose newest generation cannot be used, or that have one generation only, are stored again from the newest whole one. */
export const recoverAction: SavesAction = {
  name: "recover",
  does: "store saves whose newest generation is damaged again, from the newest whole one",
  async run({ store, options: { write = false }, migrations }) {
    const recovered: { key: string; from: number; to: number }[] = [];
    const lost: { key: string; says: string }[] = [];
    for (const key of (await store.list()).keys) {
      const generations = await generationsOf(store, key, migrations);
      const [newest] = generations;
      const isComplete = generations.length > 1 || newest?.kind === removedKind;
      if (newest === undefined || (newest.isWhole && isComplete)) continue;
      const whole = generations.find(({ isWhole }) => isWhole);
      if (whole?.content === undefined || whole.kind === undefined) {
        lost.push({ key, says: newest.says });
        continue;
      }
      const to = newest.revision + 1;
      // The newest one may be whole and only lack the one before it.
      if (write) {
        const text = encodeSave(whole.kind, whole.content, { key, revision: to });
        await store.write(
          key,
          { revision: to, text },
          generations.map(({ revision }) => revision),
        );
      }
      recovered.push({ key, from: whole.revision, to });
    }
    return {
      lines: [
        ...recovered.map(({ key, from, to }) => `${key}  ${from} is stored again as ${to}`),
        ...lost.map(
          ({ key, says }) => `${key}  cannot be recovered: no generation of it is whole. The newest: ${says}`,
        ),
        planned(recovered.length, "recover", write),
      ],
      data: { recovered, lost, written: write },
      exitCode: lost.length > 0 ? 1 : 0,
    };
  },
};
