import { dirname } from "node:path";
import { MantleError } from "../core/base/problem.ts";
import { reasonOf } from "../node/file-error.ts";
import { makeFolder, writeFileWhole } from "../node/write-file-whole.ts";

/**
 * Writes a file whole, and makes its folder when missing.
 *
 * @throws MantleError `unwritable-file`, naming the file.
 */
export async function writeOutput(path: string, content: string | Uint8Array): Promise<void> {
  try {
    await makeFolder(dirname(path));
    await writeFileWhole(path, content);
  } catch (error) {
    throw new MantleError(
      "unwritable-file",
      `${path} cannot be written: ${reasonOf(error)}. Name another place with --out.`,
    );
  }
}
