import { type Character, catalogTitles, format, type Message, resolveLook, textIn, wornParts } from "zealous-mantle";
import type { Item } from "zealous-mantle/authoring";
import { canvasOf } from "zealous-mantle/browser";
import { messages } from "zealous-mantle/locales/en";
import { make } from "../shared/dom.ts";
import type { Bench } from "./bench.ts";
import { doBeside, type Told } from "./tasks.ts";

type Pairs = Extract<Told, { task: "pairs" }>;

/** Every two parts together on few characters; those that wear the part on the bench stand first, with what it never meets. */
export class PairSheet {
  readonly element = make("div", { className: "scroll" });
  readonly #bench: Bench;
  readonly #url: string;
  readonly #open: () => void;
  #found: Promise<Pairs> | undefined;

  constructor(bench: Bench, url: string, open: () => void) {
    this.#bench = bench;
    this.#url = url;
    this.#open = open;
  }

  /** Forgets what was found: the catalog changed. */
  forget(): void {
    this.#found = undefined;
  }

  async update(): Promise<void> {
    if (this.#found === undefined)
      this.element.replaceChildren(
        make("p", {
          className: "lead",
          textContent: "Looking for the fewest characters that show every two parts together …",
        }),
      );
    this.#found ??= doBeside("pairs", this.#url);
    const found = await this.#found;
    const { catalog, drawer, part } = this.#bench;
    const wears = (character: Character) =>
      part !== undefined && wornParts(catalog, character).some((each) => each.part === part);
    const shown = part === undefined ? found.characters : found.characters.filter(wears);
    const figures = await Promise.all(
      shown.map(async (character) => {
        const look = resolveLook(catalog, character);
        const draw = await drawer.prepare(look);
        const [animation = ""] = look.rig.animations.keys();
        const [facing = ""] = look.rig.facings.keys();
        const button = make(
          "button",
          { type: "button", className: "person" },
          canvasOf(draw({ animation, facing, time: 0 })),
          character.name,
        );
        button.onclick = () => {
          this.#bench.choose({ wearer: character, body: character.body });
          this.#open();
        };
        return button;
      }),
    );
    const title = part === undefined ? undefined : textIn(part.title);
    const lead =
      title === undefined
        ? `${found.pairs.toLocaleString("en")} pairs of parts on ${found.characters.length} characters; ${found.lowerBound} are needed at least. Choose a part to see it with everything it meets.`
        : `${title} with everything it can be worn with, on ${shown.length} of ${found.characters.length} characters.`;
    const apart = found.apart.filter(
      ({ items }) => part === undefined || items.some((item) => item.kind === "part" && item.part === part.id),
    );
    this.element.replaceChildren(
      make("p", { className: "lead", textContent: lead }),
      make("div", { className: "people" }, ...figures),
      ...(apart.length === 0
        ? []
        : [
            make("h2", { textContent: "Never together" }),
            make(
              "ul",
              { className: "told" },
              ...apart.map(({ items, because }) =>
                make(
                  "li",
                  {},
                  make("b", { textContent: items.map((item) => this.#titleOf(item)).join(" and ") }),
                  " ",
                  because.map((each) => this.#say(each)).join(" "),
                ),
              ),
            ),
          ]),
    );
    document.body.dataset.pairs = String(shown.length);
  }

  #titleOf(item: Item): string {
    const { catalog } = this.#bench;
    return item.kind === "part" ? textIn(catalog.parts.get(item.part)?.title ?? item.part) : item.kind;
  }

  #say(message: Message): string {
    return format(message, messages, catalogTitles(this.#bench.catalog, "en"));
  }
}
