import { MantleError } from "../base/problem.ts";

/** The error about a mesh that does not fit the skeleton it is put on. */
export function lacksJoint(file: string, joint: string): MantleError {
  return new MantleError(
    "other-skeleton",
    `${file} follows a joint "${joint}", which the skeleton does not have. Ask mantle check about it.`,
  );
}
