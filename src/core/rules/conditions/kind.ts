import type { Message } from "../../base/message.ts";
import type { ConditionOf } from "../../catalog/conditions/kind.ts";
import type { PlainCondition } from "../../catalog/model/catalog.ts";
import type { Character } from "../../character/character.ts";
import type { Context } from "../../character/context.ts";
import type { Evidence } from "../../character/edit.ts";
import type { Worn } from "../worn-part.ts";

/** Whoever a condition is asked of, whatever is worn. */
export type Asked = Pick<Character, "body" | "facts">;

/** How a kind of condition is judged, and its messages. What authors write is in `core/catalog/conditions`. */
export interface JudgedKind<K extends PlainCondition["kind"]> {
  message(condition: ConditionOf<K>): Message;
  /** Its message where it must not hold. */
  absent(condition: ConditionOf<K>): Message;
  /** What is counted by it, where worn parts are. */
  counted?(condition: ConditionOf<K>): Message;
  /** Whether a worn part makes it hold, where worn parts do. */
  matches?(condition: ConditionOf<K>, worn: Worn): boolean;
  /** Whether it holds and what it looks at, where that has nothing to do with what is worn. */
  readonly given?: {
    holds(condition: ConditionOf<K>, character: Asked, context: Context): boolean;
    evidence(condition: ConditionOf<K>, character: Asked, context: Context): Evidence;
  };
}
