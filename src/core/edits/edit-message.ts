import { type Message, type MessageCode, message, type Param } from "../base/message.ts";
import { getOwn } from "../base/record.ts";
import { type EditValue, shapeOf, verbIn } from "../catalog/model/edit-shapes.ts";
import type { Edit } from "../character/edit.ts";

/**
 * An edit as a message: `put on "waistcoat" in slot "vest"`. Its sentence is that of its verb, and speaks of what the edit names.
 *
 * @param worn - parts by slot id, so that what an edit takes off can be named.
 */
export function editMessage(edit: Edit, worn: Readonly<Record<string, string>> = {}): Message {
  if (edit.together !== undefined)
    return { code: "edit-together", params: { of: edit.together.map((each) => editMessage(each, worn)) } };
  const off = edit.remove === undefined ? undefined : getOwn(worn, edit.remove);
  if (off !== undefined && edit.remove !== undefined) return takeOffMessage(off, edit.remove, worn);
  if (edit.fact !== undefined) {
    const { fact, value } = edit;
    return value === null ? message("edit-forget", { fact }) : message("edit-fact", { fact, answer: value });
  }
  const verb = verbIn(edit);
  const values: Readonly<Record<string, unknown>> = edit;
  const given = shapeOf(verb).filter(({ key }) => values[key] !== undefined);
  const params = given.map(({ key, holds }) => [nouns.has(holds) ? holds : key, values[key] as Param]);
  // What may be left out makes another sentence where it is there.
  const extra = given.flatMap(({ key, isOptional }) => (isOptional ? [`-${key}`] : []));
  // Each verb has its sentence: the compiler asks for it here.
  const plain: MessageCode = `edit-${verb}` as const;
  return { code: `${plain}${extra.join("")}` as MessageCode, params: Object.fromEntries(params) };
}

/** A part that is worn in two places is called by its slot as well. */
function takeOffMessage(part: string, slot: string, worn: Readonly<Record<string, string>>): Message {
  const isOnce = Object.values(worn).filter((each) => each === part).length < 2;
  return isOnce ? message("edit-take-off", { part }) : message("edit-take-off-from", { part, slot });
}

const nouns: ReadonlySet<EditValue> = new Set(["part", "slot", "channel", "outfit", "body", "preset"]);
