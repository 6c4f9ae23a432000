import "./option-cards.ts";
import "./stage.ts";
import { html, type PropertyDeclarations, type PropertyValues } from "lit";
import type { Intent } from "../browser/input/intent.ts";
import { getOrInsert } from "../core/base/get-or-insert.ts";
import type { Edit, LoadoutProblem } from "../core/character/edit.ts";
import { makeName } from "../core/character/make-name.ts";
import type { Fitting, FittingChange } from "../core/create/fitting.ts";
import type { Option } from "../core/loadout/options-for.ts";
import { resolveLook } from "../core/look/resolve-look.ts";
import { wornParts } from "../core/rules/worn.ts";
import { blankCard, type Card, type CardEvent } from "./card.ts";
import { type CardView, findView } from "./card-view.ts";
import { CharacterEvent, type EndEvents } from "./character-event.ts";
import { cardOf, noticeOfDone, sayEdits, wantedOf } from "./fitting-cards.ts";
import { renderIndex } from "./fitting-index.ts";
import { type Offer, offersOn, type Page, pagesOf, slotOf } from "./fitting-pages.ts";
import { fittingStyle } from "./fitting-style.ts";
import { giveSolver, giveSolverToMend } from "./load-solver.ts";
import { type Notice, needsName, noNotice, noticeStyle, renderNotice } from "./notice.ts";
import type { MantleCards } from "./option-cards.ts";
import { ResultEvent, type ResultEvents } from "./result-event.ts";
import { ScreenElement } from "./screen-element.ts";
import type { ShowEvents } from "./show-event.ts";
import type { PickEvent } from "./stage.ts";
import { renderStats, statsStyle } from "./stats-strip.ts";
import { renderSwatches, shownChannels, swatchStyle } from "./swatches.ts";
import { choosingTexts, commonTexts, endingTexts, fittingTexts, wearingTexts } from "./texts.ts";
import { screenLayout, theme } from "./theme.ts";
import { renderUndo } from "./undo-buttons.ts";

/** A player would like to have parts that are not theirs: one that is locked, or those that an outfit lacks. */
export class RequestEvent extends Event {
  readonly parts: readonly string[];

  constructor(parts: readonly string[]) {
    super("mantle-request", { bubbles: true, composed: true });
    this.parts = parts;
  }
}

/** What it says, in English. */
const english = { ...commonTexts, ...endingTexts, ...choosingTexts, ...wearingTexts, ...fittingTexts };

/**
 * `<mantle-fitting>`: the fitting as a whole screen. Builds, outfits and the parts of every slot, each drawn on this very character;
 * ramps, stats before and after, what stands in the way and what would mend it, undo and redo, a name.
 *
 * @fires mantle-finish - a `CharacterEvent` with the finished character.
 * @fires mantle-leave - a `CharacterEvent` with the character as it was.
 * @fires mantle-show - a `ShowEvent` with the look of the figure, whenever another is shown.
 * @slot stage - a stage of the game's own, in place of the one that shows pictures; a `PickEvent` of it turns to the page of the part.
 * @fires mantle-result - a `ResultEvent`, when something was done or refused: for sounds.
 * @fires mantle-request - a `RequestEvent`, when a part is pressed that is not the player's, or an outfit with such parts.
 * @example
 * const screen = document.querySelector("mantle-fitting")
 * screen.loader = loader
 * screen.fitting = openFitting(catalog, wren)
 */
export class MantleFitting extends ScreenElement<
  EndEvents & ShowEvents & ResultEvents & { readonly "mantle-request": RequestEvent },
  keyof typeof english
> {
  static override properties: PropertyDeclarations = {
    ...ScreenElement.properties,
    fitting: { attribute: false },
    noName: { type: Boolean, attribute: "no-name" },
    page: { type: String, reflect: true },
    view: { state: true },
    reason: { state: true },
    waiting: { state: true },
  };

  protected override readonly english = english;

  static override styles = [theme, screenLayout, noticeStyle, statsStyle, swatchStyle, fittingStyle];

  /** The open fitting that the screen edits. */
  declare fitting: Fitting | undefined;
  /** Does without a name. */
  declare noName: boolean;
  /** The page that is open. */
  declare page: Page;
  /** How the cards of the page show the figure. */
  declare protected view: CardView | undefined;
  /** Why what is looked at cannot be worn. */
  declare protected reason: string;
  /** Whether the search is being loaded. */
  declare waiting: boolean;

  #isLeaving = false;
  /** The notice of what was refused last, until something else is done. */
  #refusal: Notice | undefined;
  /** What the cards of the page as it is now are made of, as far as they were asked for. */
  #offers: readonly Offer[] = [];
  readonly #cards = new Map<number, Card>();
  /** A new identity forces a re-render; it changes when the cards change. */
  #cardAt = (number: number): Card => this.#makeCard(number);

  constructor() {
    super();
    this.noName = false;
    this.page = "build";
    this.reason = "";
    this.waiting = false;
  }

  protected override focusLost(id: string): void {
    if (id === "give-up" || id === "go-on") this.renderRoot.querySelector<HTMLElement>("#cancel")?.focus();
    else super.focusLost(id);
  }

  protected override leave(): void {
    const { fitting } = this;
    if (fitting === undefined || this.noCancel) return;
    if (!fitting.canUndo || this.#isLeaving) {
      this.#giveUp();
      return;
    }
    this.#isLeaving = true;
    this.requestUpdate();
    void this.updateComplete.then(() => this.renderRoot.querySelector<HTMLButtonElement>("#go-on")?.focus());
  }

  protected override willUpdate(changed: PropertyValues): void {
    if (changed.has("fitting")) this.resubscribe();
    const { fitting } = this;
    if (fitting === undefined) return;
    if (changed.has("fitting") || changed.has("page")) {
      const { whole, looks, gear } = pagesOf(fitting.catalog);
      const pages = [...whole, ...looks, ...gear];
      if (!pages.includes(this.page)) this.page = pages[0] ?? this.page;
    }
    if (["fitting", "page", "revision", "language", "texts", "view"].some((each) => changed.has(each))) {
      this.#offers = offersOn(fitting, this.page);
      this.#cards.clear();
      this.#cardAt = (number) => this.#makeCard(number);
    }
    if (changed.has("fitting") || changed.has("page") || changed.has("loader")) this.#chooseView();
  }

  protected override updated(changed: PropertyValues): void {
    if (changed.has("fitting")) void giveSolverToMend(this.fitting);
    if (!changed.has("page")) return;
    this.renderRoot.querySelector('.index [aria-current="page"]')?.scrollIntoView({ block: "nearest" });
    const chosen = this.#offers.findIndex(({ isChosen }) => isChosen);
    this.renderRoot.querySelector<MantleCards>("mantle-cards")?.show(Math.max(0, chosen));
  }

  protected override render() {
    const { fitting } = this;
    if (fitting === undefined) return html``;
    return html`<div class="screen">
      <section class="figure" part="figure" @mantle-pick=${this.#pick}>
        ${this.renderStage(resolveLook(fitting.catalog, fitting.shown), fitting.character.name)}
        ${this.noName ? "" : this.#renderName(fitting)} ${this.#renderEnds()}
      </section>
      <section class="ledger" part="ledger">
        ${this.#renderHeader(fitting)}
        <div class="leaves">${renderIndex(this, fitting, (page) => this.#turnTo(page))} ${this.#renderPage(fitting)}</div>
      </section>
    </div>`;
  }

  #renderHeader(fitting: Fitting) {
    return html`<header class="row spread" part="header">
      <h1>${this.heading || this.titled(fitting.catalog.title)}</h1>
      <div class="row" data-group>
        <span class="waiting" aria-live="polite">${this.waiting ? this.say("searching") : ""}</span>
        <button type="button" id="roll" @click=${() => this.#roll(fitting)}>${this.say("roll")}</button>
        ${renderUndo(this, fitting)}
      </div>
    </header>`;
  }

  #renderName(fitting: Fitting) {
    return html`<form class="row name" data-group @submit=${(event: Event) => event.preventDefault()}>
      <label for="name">${this.say("name")}</label>
      <input id="name" autocomplete="off" spellcheck="false" .value=${fitting.character.name} @change=${this.#rename} />
      ${
        fitting.catalog.names === undefined
          ? ""
          : html`<button type="button" id="make-name" @click=${() => this.#makeName(fitting)}>${this.say("make-name")}</button>`
      }
    </form>`;
  }

  #renderEnds() {
    if (this.#isLeaving) {
      return html`<div class="row ends" role="alertdialog" aria-label=${this.say("give-up")} data-group>
        <span class="wrong">${this.say("give-up")}</span>
        <button type="button" id="give-up" @click=${() => this.#giveUp()}>${this.say("cancel")}</button>
        <button type="button" id="go-on" class="main" @click=${() => this.#stay()}>${this.say("go-on")}</button>
      </div>`;
    }
    return html`<div class="row ends" part="ends" data-group>
      ${this.noCancel ? "" : html`<button type="button" id="cancel" @click=${() => this.leave()}>${this.say("cancel")}</button>`}
      <button type="button" id="finish" class="main" @click=${this.#finish}>${this.say("finish")}</button>
    </div>`;
  }

  #renderNotice(fitting: Fitting) {
    const standing = this.notice === noNotice ? this.noticeOf(fitting.catalog, fitting.problems) : this.notice;
    // What a card has no room for is said in full while it is looked at.
    const notice = this.reason === "" ? standing : { says: [this.reason], isWrong: false, fixes: [] };
    return renderNotice(notice, (edits) => this.#do(edits.length === 1 && edits[0] ? edits[0] : { together: edits }));
  }

  #renderPage(fitting: Fitting) {
    const { catalog, character } = fitting;
    const slot = slotOf(catalog, this.page);
    const title = slot === undefined ? this.say(this.page as "build") : this.titled(slot.title);
    const worn = wornParts(catalog, character).find((each) => each.slot === slot?.id)?.part.id;
    const isMeant = (part: string | undefined) =>
      slot === undefined ? this.page !== "build" || part === undefined : worn !== undefined && part === worn;
    const look = resolveLook(catalog, character);
    return html`<section class="page" aria-label=${title}>
      <h2>${title}</h2>
      <mantle-cards
          part="cards"
        .count=${this.#offers.length}
        .card=${this.#cardAt}
        .view=${this.view?.frame}
        .loader=${this.loader}
        .draw=${this.drawCard}
        .slotShown=${slot?.id}
        .label=${title}
        @mantle-choose=${this.#choose}
        @mantle-highlight=${this.#consider}
      ></mantle-cards>
      <div class="below">${renderSwatches({
        catalog,
        look,
        channels: shownChannels(catalog, look, isMeant),
        titleOf: (channel) => this.titled(channel.title),
        label: (channel, ramp) =>
          ramp === undefined
            ? this.say("own-color", { channel: this.titled(channel.title) })
            : this.say("color", { channel: this.titled(channel.title), ramp: this.titleOf(catalog, "ramps", ramp) }),
        paint: (channel, ramp) => this.#do({ paint: channel, ramp }),
        preview: (channel, ramp) => fitting.preview(ramp === undefined ? undefined : { paint: channel, ramp }),
      })}
      ${this.#renderNotice(fitting)}
      ${renderStats(this, {
        catalog,
        before: character,
        after: fitting.shown,
        context: fitting.context,
      })}</div>
    </section>`;
  }

  #makeCard(number: number): Card {
    const offer = this.#offers[number];
    if (offer === undefined || this.fitting === undefined) return blankCard;
    const { fitting } = this;
    return getOrInsert(this.#cards, number, () => cardOf(this, fitting, offer, this.view?.without));
  }

  /** Decides how closely the cards of the page show the figure. */
  #chooseView(): void {
    const { fitting, loader, page } = this;
    if (fitting === undefined || loader === undefined) return;
    const { catalog, character } = fitting;
    const parts = this.#offers.flatMap(({ option }) => option?.part.id ?? []);
    const asked = { catalog, character, slot: slotOf(catalog, page)?.id, parts, loader };
    findView(asked, (view) => {
      if (this.page === page && this.fitting === fitting) this.view = view;
    });
  }

  protected override follow(): (() => void) | undefined {
    return this.fitting?.on("change", (change) => this.#changed(change));
  }

  protected override onIntent(intent: Intent): boolean {
    if (intent.kind === "undo") this.fitting?.undo();
    else if (intent.kind === "redo") this.fitting?.redo();
    else return super.onIntent(intent);
    return true;
  }

  #changed({ kind }: FittingChange): void {
    if (kind === "preview") this.requestUpdate();
    else this.revision += 1;
    if (kind !== "update" && kind !== "preview") this.#refusal = undefined;
    if (kind === "undo" || kind === "redo" || kind === "revert" || kind === "update") this.notice = noNotice;
  }

  #turnTo(page: Page): void {
    this.reason = "";
    this.#refusal = undefined;
    this.notice = noNotice;
    this.fitting?.preview();
    this.page = page;
  }

  #pick({ part }: PickEvent): void {
    const { fitting } = this;
    if (fitting === undefined) return;
    const slot = wornParts(fitting.catalog, fitting.shown).find((worn) => worn.part.id === part)?.slot;
    this.#turnTo(slot === undefined ? "build" : `slot:${slot}`);
  }

  #consider({ number }: CardEvent): void {
    const offer = this.#offers[number ?? -1];
    const isShown = offer !== undefined && offer.option?.state !== "locked";
    const card = number === undefined ? blankCard : this.#cardAt(number);
    this.reason = card.state === "blocked" ? card.note : "";
    this.fitting?.preview(isShown ? offer.edit : undefined);
  }

  #choose({ number }: CardEvent): void {
    const { fitting } = this;
    const offer = this.#offers[number ?? -1];
    if (offer === undefined || fitting === undefined) return;
    this.reason = "";
    if (offer.option?.state === "locked") {
      this.notice = this.noticeOf(fitting.catalog, offer.option.problems);
      this.dispatchEvent(new RequestEvent([offer.option.part.id]));
      return;
    }
    this.#do(offer.edit, offer);
  }

  /** Does an edit, and shows what came of it. */
  #do(edit: Edit, offer?: Offer): void {
    const { fitting } = this;
    if (fitting === undefined) return;
    this.#isLeaving = false;
    const before = fitting.character;
    const result = fitting.apply(edit);
    this.dispatchEvent(new ResultEvent(result, edit));
    if (result.ok) {
      this.notice = noticeOfDone(this, fitting.catalog, before, result);
      return;
    }
    void this.#refuse(fitting, result.problems, offer?.option);
    const wanted = wantedOf(result);
    if (wanted.length > 0) this.dispatchEvent(new RequestEvent(wanted));
  }

  /** Shows why an edit is refused, and then, once the search is there, the fewest edits that lead to an option. */
  async #refuse(fitting: Fitting, problems: readonly LoadoutProblem[], option: Option | undefined): Promise<void> {
    const shown = this.noticeOf(fitting.catalog, problems);
    this.notice = shown;
    this.#refusal = shown;
    if (option === undefined) return;
    const isGiven = await giveSolver(fitting, this);
    if (this.#refusal !== shown) return;
    if (!isGiven) return this.#showNotLoaded();
    const edits = fitting.options(option.slot).find(({ part }) => part === option.part)?.editsToWear;
    if (edits === undefined) return;
    this.notice = this.noticeOf(fitting.catalog, problems, [{ label: sayEdits(this, fitting, edits), edits }]);
  }

  #showNotLoaded(): void {
    this.notice = { ...this.notice, says: [...this.notice.says, this.say("not-loaded")], isWrong: true };
  }

  async #roll(fitting: Fitting): Promise<void> {
    this.notice = noNotice;
    const isGiven = await giveSolver(fitting, this);
    if (this.fitting !== fitting) return;
    if (!isGiven) return this.#showNotLoaded();
    const result = fitting.roll({ seed: Math.floor(Math.random() * 2 ** 31), keep: { body: true } });
    this.dispatchEvent(new ResultEvent(result));
    this.notice = result.ok ? noNotice : this.noticeOf(fitting.catalog, result.problems);
  }

  /** Takes the name that is written; what is refused stays written. Whether it was taken. */
  #rename(): boolean {
    const { fitting } = this;
    const input = this.renderRoot.querySelector<HTMLInputElement>("#name");
    if (fitting === undefined || input === null) return true;
    const result = fitting.rename(input.value);
    this.notice = result.ok ? noNotice : this.noticeOf(fitting.catalog, result.problems);
    if (result.ok) input.value = fitting.character.name;
    return result.ok;
  }

  #makeName(fitting: Fitting): void {
    const { names } = fitting.context;
    const made = makeName(fitting.catalog, { seed: Math.floor(Math.random() * 2 ** 31), ...names });
    if (made !== undefined) this.#do({ rename: made });
  }

  #finish(): void {
    const { fitting } = this;
    if (fitting === undefined) return;
    if (!this.noName && !this.#rename()) return;
    if (!this.noName && fitting.character.name === "") {
      this.notice = needsName(this, fitting.catalog);
      this.renderRoot.querySelector<HTMLInputElement>("#name")?.focus();
      return;
    }
    const { problems } = fitting;
    if (problems.length > 0) this.notice = this.noticeOf(fitting.catalog, problems);
    else this.dispatchEvent(new CharacterEvent("mantle-finish", fitting.finish()));
  }

  #giveUp(): void {
    this.#stay();
    if (this.fitting !== undefined) this.dispatchEvent(new CharacterEvent("mantle-leave", this.fitting.cancel()));
  }

  #stay(): void {
    this.#isLeaving = false;
    this.notice = noNotice;
    this.requestUpdate();
  }
}

customElements.define("mantle-fitting", MantleFitting);

declare global {
  interface HTMLElementTagNameMap {
    "mantle-fitting": MantleFitting;
  }
}
