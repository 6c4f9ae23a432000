import { message } from "../base/message.ts";
import { nearestId } from "../base/nearest-id.ts";
import type { Problem } from "../base/problem.ts";
import type { Rig } from "../catalog/model/catalog.ts";
import { artFinding } from "./found.ts";

/** What the name of a frame says; what it leaves out is the same for all. */
export interface NameParts {
  readonly part: string | undefined;
  readonly animation: string | undefined;
  readonly facing: string | undefined;
  /** As it is written: whether numbers begin with 0 or 1 is seen from all of them. */
  readonly frame: number | undefined;
}

/** What names of frames look like where nothing else is said. */
export const defaultPattern = "{part}_{animation}_{facing}_{frame}";

/** How names of frames are to be understood. */
export interface NameOptions {
  /** What the names look like: `"{animation}_{facing}_{frame}"`; `{part}` distinguishes parts, `{any}` is anything. */
  readonly pattern: string;
  /** What words in the names stand for, beyond the ids of the rig themselves and what they begin with: `{ "S": "south" }`. */
  readonly names?: Readonly<Record<string, string>>;
}

/** Reads names of frames by a pattern, and says of each why it cannot be read. */
export class NamePattern {
  readonly #form: RegExp;
  readonly #pattern: string;
  readonly #names: ReadonlyMap<string, string>;
  readonly #rig: Rig;

  constructor(rig: Rig, { pattern, names = {} }: NameOptions) {
    this.#rig = rig;
    this.#pattern = pattern;
    this.#names = new Map(Object.entries(names).map(([word, id]) => [word.toLowerCase(), id]));
    const source = pattern
      .split(/(\{[a-z]+\})/)
      .map((piece) => markForms[piece] ?? piece.replace(/[.*+?^${}()|[\]\\]/g, "\\$&"))
      .join("");
    this.#form = new RegExp(`^${source}$`, "i");
  }

  /** What a name says, or a problem. */
  read(name: string): NameParts | Problem {
    const groups = this.#form.exec(name)?.groups;
    if (groups === undefined)
      return artFinding(
        name,
        "warning",
        message("name-without-pattern", { name, pattern: this.#pattern }),
        message("mend-name-without-pattern"),
      );
    const animation = this.#idOf(groups["animation"], this.#rig.animations);
    const facing = this.#idOf(groups["facing"], this.#rig.facings);
    if (animation === false) return this.#unknown(name, "animation", groups["animation"] ?? "");
    if (facing === false) return this.#unknown(name, "facing", groups["facing"] ?? "");
    const number = groups["frame"];
    return { part: groups["part"], animation, facing, frame: number === undefined ? undefined : Number(number) };
  }

  /** The id that a word stands for: said, or the id itself, or the only one that begins so; `false` for none. */
  #idOf(word: string | undefined, all: ReadonlyMap<string, unknown>): string | undefined | false {
    if (word === undefined) return undefined;
    const plain = word.toLowerCase().replace(/[^a-z0-9]+/g, "-");
    const said = this.#names.get(word.toLowerCase());
    if (said !== undefined) return all.has(said) ? said : false;
    if (all.has(plain)) return plain;
    const begin = [...all.keys()].filter((id) => id.startsWith(plain));
    return begin.length === 1 && plain !== "" ? (begin[0] ?? false) : false;
  }

  #unknown(name: string, noun: "animation" | "facing", word: string): Problem {
    const all = noun === "animation" ? this.#rig.animations : this.#rig.facings;
    const meant = nearestId(word.toLowerCase(), [...all.keys()]);
    const advice = meant === undefined ? message("say-names", { word }) : message("meant-id", { meant });
    return artFinding(name, "error", message("name-unknown", { name, word, noun }), advice);
  }
}

const markForms: Readonly<Record<string, string>> = {
  "{part}": "(?<part>.+?)",
  "{animation}": "(?<animation>.+?)",
  "{facing}": "(?<facing>.+?)",
  "{frame}": "(?<frame>\\d{1,9})",
  "{any}": ".*?",
};

/** Whether a reading is a problem. */
export function isProblem(reading: NameParts | Problem): reading is Problem {
  return "code" in reading;
}
