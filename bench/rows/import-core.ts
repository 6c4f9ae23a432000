import { spawnSync } from "node:child_process";
import { agree, type Row, sideBySide } from "../measure.ts";

/** How long a program waits for the library. */
export const importCore: Row = {
  name: "import-core",
  work: 'import "zealous-mantle"',
  against: "node -e 0",
  unit: "ms",
  goal: { atMost: 1.8 },
  async measure() {
    const start = (text: string) =>
      spawnSync(process.execPath, ["--input-type=module", "-e", text], { encoding: "utf8" });
    const ours = () => start('import "zealous-mantle"');
    const { stdout } = start('import { readCatalog } from "zealous-mantle"; console.log(typeof readCatalog)');
    agree(stdout === "function\n", "the library is not imported");
    const nothing = () => spawnSync(process.execPath, ["-e", "0"], { encoding: "utf8" });
    return sideBySide({ run: ours, times: 1 }, { run: nothing, times: 1 }, 21);
  },
};
