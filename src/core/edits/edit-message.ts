import { type Message, message } from "../base/message.ts";
import type { Edit } from "../character/edit.ts";

/**
 * An edit as a message: `put on "waistcoat" in slot "vest"`.
 *
 * @param worn - what is worn, by slot, so that what an edit takes off can be named.
 */
export function editMessage(edit: Edit, worn: Readonly<Record<string, string>> = {}): Message {
  if ("wear" in edit)
    return edit.in === undefined
      ? message("edit-wear", { part: edit.wear })
      : message("edit-wear-in", { part: edit.wear, slot: edit.in });
  if ("remove" in edit) {
    const part = worn[edit.remove];
    return part === undefined ? message("edit-remove", { slot: edit.remove }) : message("edit-take-off", { part });
  }
  if ("cycle" in edit) return message("edit-cycle", { slot: edit.cycle });
  if ("paint" in edit) return message("edit-paint", { channel: edit.paint, ramp: edit.ramp });
  if ("dress" in edit) return message("edit-dress", { outfit: edit.dress });
  if ("body" in edit) return message("edit-body", { body: edit.body });
  if ("grow" in edit) return message("edit-grow");
  if ("rename" in edit) return message("edit-rename", { name: edit.rename });
  if ("fact" in edit)
    return edit.value === null
      ? message("edit-forget", { fact: edit.fact })
      : message("edit-fact", { fact: edit.fact, value: edit.value });
  if ("preset" in edit) return message("edit-preset", { preset: edit.preset });
  if ("resemble" in edit) return message("edit-resemble");
  if ("split" in edit) return message("edit-split", { part: edit.split, count: edit.count });
  if ("merge" in edit) return message("edit-merge", { part: edit.merge });
  return message("edit-together", { of: edit.together.map((each) => editMessage(each, worn)) });
}
