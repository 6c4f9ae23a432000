import { mkdir, mkdtemp, open, rename, rm } from "node:fs/promises";
import { join } from "node:path";
import { decodeSave, encodeSave, writeSave } from "zealous-mantle";
import { fileStore } from "zealous-mantle/node";
import { agree, type Row, sideBySide } from "../measure.ts";

const content = { name: "Wren", notes: "rowed out with the tide ".repeat(100) };

/** One save after another of one character, on the disk that the benchmark lies on. */
export const saveFile: Row = {
  name: "save-file",
  work: "writeSave in a file store: sealed, measured, flushed, numbered, the one before kept",
  against: "a plain write, flushed, renamed, and its folder flushed",
  unit: "ms",
  goal: { atMost: 1.3 },
  async measure() {
    await mkdir("out", { recursive: true });
    const folder = await mkdtemp(join("out", "bench-"));
    try {
      const store = fileStore(join(folder, "ours"));
      let count = 0;
      const ours = async () => {
        count += 1;
        await writeSave(store, "wren", "note", { ...content, count });
      };
      const path = join(folder, "plain.json");
      const theirs = async () => {
        count += 1;
        await writePlainly(path, encodeSave("note", { ...content, count }), folder);
      };
      await ours();
      const [newest] = await store.read("wren");
      const opened = decodeSave(newest?.text ?? "");
      agree(opened.ok && JSON.stringify(opened.content).includes(`"count":${count}`), "what was stored");
      return await sideBySide({ run: ours, times: 5 }, { run: theirs, times: 5 });
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
  },
};

async function writePlainly(path: string, text: string, folder: string): Promise<void> {
  const file = await open(`${path}.new`, "w");
  await file.writeFile(text);
  await file.sync();
  await file.close();
  await rename(`${path}.new`, path);
  const opened = await open(folder, "r");
  await opened.sync();
  await opened.close();
}
