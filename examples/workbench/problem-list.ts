import { catalogTitles, describeProblem, type Problem } from "zealous-mantle";
import { checkCreation, checkPresets, surveyRules } from "zealous-mantle/authoring";
import { canvasOf } from "zealous-mantle/browser";
import { messages } from "zealous-mantle/locales/en";
import { englishArt } from "zealous-mantle/locales/en/art";
import { make } from "../shared/dom.ts";
import type { Bench } from "./bench.ts";
import { doBeside, type Told } from "./tasks.ts";

type Pixels = Extract<Told, { task: "pixels" }>;

/** Everything that is wrong with the catalog, with pictures of what is seen in pixels. */
export class ProblemList {
  readonly element = make("div", { className: "scroll" });
  readonly #bench: Bench;
  readonly #url: string;
  #warnings: readonly Problem[] = [];
  #pixels: Promise<Pixels> | undefined;

  constructor(bench: Bench, url: string) {
    this.#bench = bench;
    this.#url = url;
  }

  /** The catalog was read anew, with these warnings. */
  read(warnings: readonly Problem[]): void {
    this.#warnings = warnings;
    this.#pixels = undefined;
  }

  async update(): Promise<void> {
    const { catalog } = this.#bench;
    const found: readonly Problem[] = [
      ...this.#warnings,
      ...checkCreation(catalog),
      ...checkPresets(catalog),
      ...surveyRules(catalog).problems,
    ];
    const list = make("ul", { className: "told" }, ...found.map((problem) => this.#item(problem)));
    const lead = make("p", {
      className: "lead",
      textContent: `${found.length === 0 ? "Nothing is wrong" : counted(found.length)} in the data, the rules and the presets.`,
    });
    const more = make("button", { type: "button", textContent: "Look at every pixel, too" });
    more.onclick = () => void this.#look(more, list);
    this.element.replaceChildren(lead, list, more);
    document.body.dataset.problems = String(found.length);
    if (this.#pixels !== undefined) await this.#look(more, list);
  }

  async #look(button: HTMLButtonElement, list: HTMLUListElement): Promise<void> {
    button.disabled = true;
    this.#pixels ??= doBeside("pixels", this.#url, (done, total) => {
      button.textContent = `Looking: ${done} of ${total} parts on bodies`;
    });
    const { problems } = await this.#pixels;
    list.append(
      ...problems.map((problem) =>
        this.#item(problem, problem.seen === undefined ? undefined : canvasOf(problem.seen)),
      ),
    );
    button.replaceWith(
      make("p", {
        textContent:
          problems.length === 0 ? "Nothing is wrong with the pixels." : `${counted(problems.length)} in the pixels.`,
      }),
    );
    document.body.dataset.pixels = String(problems.length);
  }

  #item(problem: Problem, seen?: HTMLCanvasElement): HTMLElement {
    const text = describeProblem(problem, { ...messages, ...englishArt }, catalogTitles(this.#bench.catalog, "en"));
    return make("li", { className: problem.severity }, ...(seen === undefined ? [] : [seen]), text);
  }
}

function counted(count: number): string {
  return count === 1 ? "1 finding" : `${count} findings`;
}
