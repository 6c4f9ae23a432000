import type { Message } from "../base/message.ts";
import type { Edit } from "../character/edit.ts";
import { verbOf } from "./verbs.ts";

/**
 * An edit as a message: `put on "waistcoat" in slot "vest"`.
 *
 * @param worn - parts by slot id, so that what an edit takes off can be named.
 */
export function editMessage(edit: Edit, worn: Readonly<Record<string, string>> = {}): Message {
  return verbOf(edit).describe(edit, worn, (each) => editMessage(each, worn));
}
