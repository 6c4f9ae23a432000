import "./option-cards.ts";
import "./stage.ts";
import { html, type PropertyDeclarations, type PropertyValues } from "lit";
import { getOrInsert } from "../core/base/get-or-insert.ts";
import type { Catalog, Step } from "../core/catalog/model/catalog.ts";
import type { Character } from "../core/character/character.ts";
import { makeName } from "../core/character/make-name.ts";
import type { Choice } from "../core/create/choices.ts";
import type { Answer, DroppedAnswer, StepsResult } from "../core/create/progress.ts";
import type { Steps } from "../core/create/steps.ts";
import { resolveLook } from "../core/look/resolve-look.ts";
import { blankCard, type Card, type CardEvent } from "./card.ts";
import { type CardView, findView } from "./card-view.ts";
import { CharacterEvent, type EndEvents } from "./character-event.ts";
import { bared } from "./covers.ts";
import { needsName, noNotice, noticeStyle, renderNotice } from "./notice.ts";
import type { MantleCards } from "./option-cards.ts";
import { ResultEvent, type ResultEvents } from "./result-event.ts";
import { ScreenElement } from "./screen-element.ts";
import type { ShowEvents } from "./show-event.ts";
import { stepsStyle } from "./steps-style.ts";
import { cssColor } from "./swatches.ts";
import { choosingTexts, commonTexts, endingTexts, stepsTexts } from "./texts.ts";
import { screenLayout, theme, unseenStyle } from "./theme.ts";

/** What it says, in English. */
const english = { ...commonTexts, ...endingTexts, ...choosingTexts, ...stepsTexts };

/**
 * `<mantle-steps>`: a creation flow as a whole screen, one question at a time. Every choice is drawn on the figure as it would be.
 *
 * @fires mantle-finish - a `CharacterEvent` with the finished character.
 * @fires mantle-show - a `ShowEvent` with the look of the figure, whenever another is shown.
 * @fires mantle-result - a `ResultEvent`, when an answer was taken or refused: for sounds.
 * @slot stage - a stage of the game's own, in place of the one that shows pictures.
 * @fires mantle-leave - a `CharacterEvent` with the character as it is, for whoever wants to keep it.
 * @example
 * const screen = document.querySelector("mantle-steps")
 * screen.loader = loader
 * screen.steps = openSteps(catalog, createCharacter(catalog, { body: "reed" }))
 */
export class MantleSteps extends ScreenElement<EndEvents & ShowEvents & ResultEvents, keyof typeof english> {
  static override properties: PropertyDeclarations = {
    ...ScreenElement.properties,
    steps: { attribute: false },
    view: { state: true },
    considered: { state: true },
  };

  protected override readonly english = english;

  static override styles = [theme, unseenStyle, screenLayout, noticeStyle, stepsStyle];

  /** The open creation that the screen asks. */
  declare steps: Steps | undefined;
  /** How the cards of the question show the figure. */
  declare protected view: CardView | undefined;
  /** The character with the choice that is looked at. */
  declare protected considered: Character | undefined;

  #asked: string | undefined;
  #choices: readonly Choice[] = [];
  readonly #cards = new Map<number, Card>();
  #cardAt = (number: number): Card => this.#cardOf(number);

  protected override focusLost(): void {
    void this.#focusQuestion();
  }

  /** One step back; out of the first, the creation is given up. */
  protected override leave(): void {
    if (this.steps?.back() === false && !this.noCancel) this.#cancel();
  }

  protected override willUpdate(changed: PropertyValues): void {
    if (changed.has("steps")) this.resubscribe();
    const { steps } = this;
    if (steps === undefined) return;
    if (["steps", "revision", "language", "texts", "view"].some((each) => changed.has(each))) {
      this.#choices = steps.choices;
      this.#cards.clear();
      this.#cardAt = (number) => getOrInsert(this.#cards, number, () => this.#cardOf(number));
      this.considered = undefined;
      if (steps.step?.id !== this.#asked || changed.has("steps")) this.#chooseView(steps);
    }
  }

  protected override updated(): void {
    const { steps } = this;
    const asked = steps?.confirming === true ? `${steps.step?.id} back` : (steps?.step?.id ?? "end");
    if (this.#asked === asked) return;
    const isFirst = this.#asked === undefined;
    this.#asked = asked;
    const at = this.#choices.findIndex(({ answer }) => answer === steps?.answered);
    this.renderRoot.querySelector<MantleCards>("mantle-cards")?.show(Math.max(0, at));
    if (!isFirst) void this.#focusQuestion();
  }

  protected override render() {
    const { steps } = this;
    if (steps === undefined) return html``;
    // What is asked about is seen, also where something else lies over it.
    const shown = bared(this.considered ?? steps.character, this.view?.without ?? []);
    return html`<div class="screen">
      <section class="figure" part="figure">
        ${this.renderStage(resolveLook(steps.catalog, shown), steps.character.name)}
      </section>
      <section class="ledger" part="ledger">
        <header class="row spread" part="header">
          <h1>${this.heading || this.titled(steps.catalog.title)}</h1>
          ${this.noCancel ? "" : html`<button type="button" id="cancel" @click=${() => this.#cancel()}>${this.say("cancel")}</button>`}
        </header>
        ${this.#renderWay(steps)}
        <section class="question" aria-live="polite">${this.#renderQuestion(steps)}</section>
        ${renderNotice(this.notice, () => undefined)}
        ${this.#renderEnds(steps)}
      </section>
    </div>`;
  }

  /** The steps there are, those behind and those ahead. */
  #renderWay(steps: Steps) {
    const { path } = steps;
    return html`<nav aria-label=${this.say("steps")} data-group><ol class="way">
      ${path.map(({ step, state }) => {
        const isNow = state === "now";
        const mark = state === "answered" ? "✓" : state === "later" ? "…" : "";
        const said = state === "later" ? this.say("left-open") : "";
        return html`<li>
          <button type="button" data-step=${step.id} class=${state} aria-current=${isNow ? "step" : "false"} ?disabled=${!isNow && state === "open"} @click=${() => this.#goTo(step)}>
            <span aria-hidden="true">${mark}</span> ${this.titled(step.title)}<span class="unseen">${said}</span>
          </button>
        </li>`;
      })}
    </ol></nav>`;
  }

  #renderQuestion(steps: Steps) {
    const { step } = steps;
    if (step === undefined)
      return html`<h2 id="question" tabindex="-1">${this.say("all-asked")}</h2> ${this.#renderAnswers(steps)}`;
    if (steps.confirming) {
      const answer = this.#titleOfAnswer(steps.answered);
      return html`<h2 id="question" tabindex="-1">${this.say("confirm", { answer })}</h2>
        ${this.#renderAnswers(steps)}`;
    }
    const question = this.titled(step.say) || this.titled(step.title);
    if (step.asks.kind === "name") return this.#renderName(steps, question);
    return html`<h2 id="question" tabindex="-1">${question}</h2>
      <mantle-cards
          part="cards"
        .count=${this.#choices.length}
        .card=${this.#cardAt}
        .view=${this.view?.frame}
        .loader=${this.loader}
        .draw=${this.drawCard}
        .slotShown=${step?.asks.kind === "part" ? step.asks.slot : undefined}
        .label=${question}
        @mantle-choose=${this.#choose}
        @mantle-highlight=${this.#consider}
      ></mantle-cards>`;
  }

  /** What was answered so far, each to be changed by a press. */
  #renderAnswers({ catalog, path, progress }: Steps) {
    const answerTo = (step: Step) =>
      progress.later.includes(step.id)
        ? this.say("left-open")
        : this.#titleOf(catalog, step, progress.answers[step.id]);
    const answered = path.filter(({ state }) => state === "answered" || state === "later");
    return html`<ul class="answers" data-group>
        ${answered.map(
          ({ step }) => html`<li>
            <button type="button" data-answer=${step.id} @click=${() => this.#goTo(step)}>
              <span class="soft">${this.titled(step.title)}</span> ${answerTo(step)}
            </button>
          </li>`,
        )}
      </ul>`;
  }

  #renderName(steps: Steps, question: string) {
    const answer = steps.answered ?? "";
    return html`<h2 id="question" tabindex="-1"><label for="name">${question}</label></h2>
      <form class="row" data-group @submit=${this.#submit}>
        <input id="name" autocomplete="off" spellcheck="false" .value=${answer} @change=${this.#rename} />
        ${
          steps.catalog.names === undefined
            ? ""
            : html`<button type="button" id="make-name" @click=${() => this.#makeName(steps)}>${this.say("make-name")}</button>`
        }
      </form>
      ${this.#renderAnswers(steps)}`;
  }

  #renderEnds(steps: Steps) {
    const isFirst = !steps.confirming && steps.path[0]?.state === "now";
    const back = html`<button type="button" id="back" ?disabled=${isFirst} @click=${() => this.leave()}>
      ${steps.confirming ? this.say("choose-again") : this.say("back")}
    </button>`;
    if (steps.step === undefined) {
      return html`<div class="row ends" part="ends" data-group>
        ${back}<button type="button" id="finish" class="main" @click=${this.#finish}>${this.say("finish")}</button>
      </div>`;
    }
    const canWait = steps.step.canWait && !steps.confirming;
    return html`<div class="row ends" part="ends" data-group>
      ${back}
      ${canWait ? html`<button type="button" id="later" @click=${() => steps.later()}>${this.say("later")}</button>` : ""}
      <button type="button" id="next" class="main" @click=${() => this.#next()}>
        ${steps.confirming ? this.say("keep") : this.say("next")}
      </button>
    </div>`;
  }

  #cardOf(number: number): Card {
    const { steps } = this;
    const choice = this.#choices[number];
    if (steps?.step === undefined || choice === undefined) return blankCard;
    const isChosen = choice.answer === steps.answered;
    const ramp = steps.step.asks.kind === "color" ? steps.catalog.ramps.get(choice.answer ?? "") : undefined;
    return {
      id: choice.answer ?? "nothing",
      title: choice.title === undefined ? this.say("nothing") : this.titled(choice.title),
      note: this.#noteOn(choice),
      state: isChosen ? "chosen" : choice.state,
      look: resolveLook(steps.catalog, bared(choice.shows, this.view?.without ?? [])),
      ...(ramp === undefined ? {} : { colors: ramp.colors.map(cssColor) }),
    };
  }

  #noteOn(choice: Choice): string {
    const [first] = choice.problems;
    const sentence = this.steps && first && this.sentencesOf(this.steps.catalog)(first);
    if (choice.state === "blocked") return this.say("not-now", { because: sentence ?? "" });
    if (choice.state === "locked") return this.say("is-locked");
    return this.titled(choice.say);
  }

  #titleOfAnswer(answer: Answer | undefined): string {
    const choice = this.#choices.find((each) => each.answer === answer);
    return this.titled(choice?.title) || (answer ?? this.say("nothing"));
  }

  protected override follow(): (() => void) | undefined {
    return this.steps?.on("change", () => this.#changed());
  }

  #changed(): void {
    this.revision += 1;
    this.notice = noNotice;
  }

  #consider({ number }: CardEvent): void {
    const choice = this.#choices[number ?? -1];
    this.considered = choice === undefined || choice.state === "locked" ? undefined : choice.shows;
  }

  #choose({ number }: CardEvent): void {
    const choice = this.#choices[number ?? -1];
    if (choice !== undefined && this.steps !== undefined) this.#report(this.steps, this.steps.answer(choice.answer));
  }

  #goTo(step: Step): void {
    this.steps?.goTo(step.id);
  }

  #next(): void {
    const { steps } = this;
    const input = this.renderRoot.querySelector<HTMLInputElement>("#name");
    if (steps === undefined) return;
    if (input !== null && input.value.trim() === "") {
      this.notice = needsName(this, steps.catalog);
      input.focus();
      return;
    }
    if (input !== null && input.value !== (steps.answered ?? "") && !this.#report(steps, steps.answer(input.value)))
      return;
    this.#report(steps, steps.next());
  }

  #submit(event: Event): void {
    event.preventDefault();
    this.#next();
  }

  #rename({ target }: Event): void {
    if (target instanceof HTMLInputElement && this.steps !== undefined)
      this.#report(this.steps, this.steps.answer(target.value));
  }

  #makeName(steps: Steps): void {
    const { names } = steps.context;
    const made = makeName(steps.catalog, { seed: Math.floor(Math.random() * 2 ** 31), ...names });
    if (made !== undefined) this.#report(steps, steps.answer(made));
  }

  /** Shows what an answer came to; whether it was taken. */
  #report(steps: Steps, result: StepsResult): boolean {
    this.dispatchEvent(new ResultEvent(result));
    if (!result.ok) this.notice = this.noticeOf(steps.catalog, result.problems);
    else if (result.dropped.length > 0) {
      this.notice = { says: result.dropped.map((each) => this.#sayFallen(each)), isWrong: false, fixes: [] };
    }
    return result.ok;
  }

  #sayFallen({ step, answer }: DroppedAnswer): string {
    const { catalog } = this.steps ?? {};
    const said = catalog === undefined ? "" : this.#titleOf(catalog, step, answer);
    return this.say("fell-away", { step: this.titled(step.title), answer: said });
  }

  /** An answer as the player knows it. */
  #titleOf({ parts, bodies, ramps, outfits, presets }: Catalog, { asks }: Step, answer: Answer | undefined): string {
    const kinds = { body: bodies, part: parts, color: ramps, outfit: outfits, preset: presets };
    const found =
      asks.kind === "fact"
        ? asks.from.find(({ id }) => id === answer)
        : asks.kind === "name"
          ? undefined
          : kinds[asks.kind].get(answer ?? "");
    return this.titled(found?.title) || (answer ?? this.say("nothing"));
  }

  #finish(): void {
    const { steps } = this;
    if (steps === undefined) return;
    if (steps.problems.length > 0) this.notice = this.noticeOf(steps.catalog, steps.problems);
    else this.dispatchEvent(new CharacterEvent("mantle-finish", steps.finish()));
  }

  #cancel(): void {
    if (this.steps !== undefined) this.dispatchEvent(new CharacterEvent("mantle-leave", this.steps.character));
  }

  /** Brings the focus to the new question's choice, name or heading. */
  async #focusQuestion(): Promise<void> {
    const cards = this.renderRoot.querySelector<MantleCards>("mantle-cards");
    await cards?.updateComplete;
    const option = cards?.renderRoot.querySelector<HTMLElement>('[tabindex="0"]');
    const target =
      option ??
      this.renderRoot.querySelector<HTMLElement>("#name") ??
      this.renderRoot.querySelector<HTMLElement>("#next, #finish");
    target?.focus();
  }

  /** Decides how closely the cards show the figure. */
  #chooseView(steps: Steps): void {
    const { loader } = this;
    const { step, catalog, character } = steps;
    if (step === undefined || loader === undefined) return;
    const { asks } = step;
    const [slot, parts] = asks.kind === "part" ? [asks.slot, asks.from] : [undefined, []];
    const asked = { catalog, character, slot, parts, loader };
    findView(asked, (view) => {
      if (steps.step === step) this.view = view;
    });
  }
}

customElements.define("mantle-steps", MantleSteps);

declare global {
  interface HTMLElementTagNameMap {
    "mantle-steps": MantleSteps;
  }
}
