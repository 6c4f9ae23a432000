import { spawnSync } from "node:child_process";
import { agree, type Row, sideBySide } from "../measure.ts";

/** How long one waits for the command line to begin. */
export const cliStart: Row = {
  name: "cli-start",
  work: "mantle --version",
  against: "node -e 0",
  unit: "ms",
  goal: { atMost: 1.6 },
  async measure() {
    const start = (...args: readonly string[]) => spawnSync(process.execPath, args, { encoding: "utf8" });
    const ours = () => start("dist/js/mantle.js", "--version");
    agree(/^\d+\.\d+\.\d+\n$/.test(ours().stdout), "the version is not printed");
    return sideBySide({ run: ours, times: 1 }, { run: () => start("-e", "0"), times: 1 }, 21);
  },
};
