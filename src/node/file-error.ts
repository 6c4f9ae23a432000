/** Why a file could not be read or written, in words for people; the system's own message where there are none. */
export function reasonOf(error: unknown): string {
  const { code, message }: { readonly code?: unknown; readonly message?: unknown } = Object(error);
  return reasons.get(String(code)) ?? String(message ?? error);
}

/** By the codes of POSIX.1-2017, `errno.h`. */
const reasons: ReadonlyMap<string, string> = new Map([
  ["ENOENT", "there is no such file or folder"],
  ["ENOTDIR", "part of the path is a file, not a folder"],
  ["EISDIR", "it is a folder"],
  ["EACCES", "this user may not open it"],
  ["EIO", "the disk fails"],
  ["ELOOP", "its links lead in a circle"],
  ["ENAMETOOLONG", "its name is too long"],
  ["EPERM", "this user may not do that"],
  ["EROFS", "the disk is read-only"],
  ["ENOSPC", "the disk is full"],
]);
