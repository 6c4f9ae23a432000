import "./option-cards.ts";
import "./stage.ts";
import { html, type PropertyDeclarations, type PropertyValues } from "lit";
import { focusedElement } from "../browser/input/focus.ts";
import type { Rectangle } from "../core/catalog/model/catalog.ts";
import type { Character } from "../core/character/character.ts";
import { checkLoadout } from "../core/loadout/check-loadout.ts";
import { resolveLook } from "../core/look/resolve-look.ts";
import type { Session } from "../core/play/session.ts";
import { blankCard, type Card, type CardEvent } from "./card.ts";
import { findView } from "./card-view.ts";
import { CharacterEvent } from "./character-event.ts";
import { noNotice, noticeStyle, renderNotice } from "./notice.ts";
import { rosterStyle } from "./roster-style.ts";
import { ScreenElement } from "./screen-element.ts";
import type { ShowEvents } from "./show-event.ts";
import { commonTexts, peopleTexts, rosterTexts } from "./texts.ts";
import { screenLayout, theme } from "./theme.ts";

type Page = "here" | "retired";

/** The events of a roster. */
interface RosterEvents extends ShowEvents {
  readonly "mantle-finish": CharacterEvent;
  readonly "mantle-edit": CharacterEvent;
  readonly "mantle-add": Event;
  readonly "mantle-close": Event;
}

/** What it says, in English. */
const english = { ...commonTexts, ...peopleTexts, ...rosterTexts };

/**
 * `<mantle-roster>`: who plays. The characters of a session, each as they look; the highlighted one stands on the stage. Pressed once
 * it is highlighted, pressed again it is chosen, exactly once. Besides, characters are renamed, copied, moved, retired and brought back.
 *
 * @fires mantle-finish - a `CharacterEvent` with the chosen character, who sits in the seat then.
 * @fires mantle-edit - a `CharacterEvent` with the character that is to be changed, for the page to open a fitting.
 * @fires mantle-add - an `Event`, when a new character is asked for.
 * @fires mantle-show - a `ShowEvent` with the look of who stands on the stage, whenever that changes.
 * @slot stage - a stage of the game's own, in place of the one that shows pictures.
 * @fires mantle-close - an `Event`, when the player wants out without choosing.
 * @example
 * screen.session = session
 * screen.addEventListener("mantle-finish", ({ character }) => play(character))
 */
export class MantleRoster extends ScreenElement<RosterEvents, keyof typeof english> {
  static override properties: PropertyDeclarations = {
    ...ScreenElement.properties,
    session: { attribute: false },
    seat: { type: Number },
    readonly: { type: Boolean },
    page: { state: true },
    at: { state: true },
    considered: { state: true },
    renaming: { state: true },
    view: { state: true },
  };

  protected override readonly english = english;

  static override styles = [theme, screenLayout, noticeStyle, rosterStyle];

  /** The open session whose characters are shown. */
  declare session: Session | undefined;
  /** Whose character is chosen. */
  declare seat: number;
  /** The roster can be chosen from, and not changed. */
  declare readonly: boolean;
  declare protected page: Page;
  /** The character that is highlighted. */
  declare protected at: string | undefined;
  /** The character that is pointed at. */
  declare protected considered: string | undefined;
  declare protected renaming: boolean;
  declare protected view: Rectangle | undefined;

  #isConfirmed = false;
  /** What was highlighted when a press of a pointer began. */
  #before: string | undefined;
  #isPointed = false;

  constructor() {
    super();
    this.seat = 1;
    this.readonly = false;
    this.page = "here";
    this.renaming = false;
    this.addEventListener("pointerdown", () => {
      this.#before = this.at;
      this.#isPointed = true;
    });
  }

  protected override leave(): void {
    if (this.renaming) this.renaming = false;
    else this.dispatchEvent(new Event("mantle-close", { bubbles: true, composed: true }));
  }

  protected override willUpdate(changed: PropertyValues): void {
    if (changed.has("session")) {
      this.at = this.session?.seat(this.seat).character?.id;
      this.resubscribe();
    }
    const { session } = this;
    if (session === undefined) return;
    if (!this.#listed.some(({ id }) => id === this.at)) this.at = this.#listed[0]?.id;
    const first = this.#listed[0];
    if (this.loader === undefined || this.view !== undefined || first === undefined) return;
    const asked = { catalog: session.catalog, character: first, slot: undefined, parts: [], loader: this.loader };
    findView(asked, (view) => {
      this.view = view.frame;
    });
  }

  protected override render() {
    const { session } = this;
    if (session === undefined) return html``;
    const shown = this.#find(this.considered) ?? this.#find(this.at);
    const chosen = this.#find(this.at);
    return html`<div class="screen">
      <section class="figure" part="figure">
        ${this.renderStage(shown && resolveLook(session.catalog, shown), shown === undefined ? "" : this.#nameOf(shown))}
        <div class="row ends" part="ends" data-group>
          <button type="button" id="back" @click=${() => this.leave()}>${this.say("back")}</button>
          <button type="button" id="finish" class="main" ?disabled=${chosen === undefined || this.page === "retired" || this.#isTaken(chosen.id)} @click=${() => this.#finish()}>
            ${this.say("go-with", { name: chosen === undefined ? "…" : this.#nameOf(chosen) })}
          </button>
        </div>
      </section>
      <section class="ledger" part="ledger">
        <header class="row spread" part="header">
          <h1>${this.heading || this.titled(session.catalog.title)}</h1>
          ${this.readonly ? "" : this.#renderPages(session)}
        </header>
        ${this.#renderCards(session)}
        ${renderNotice(this.#noticeOn(chosen), () => undefined)}
        ${this.readonly ? "" : html`<div class="row deeds" data-group role="group" aria-label=${this.say("what-to-do", { name: chosen === undefined ? "…" : this.#nameOf(chosen) })}>${this.#renderDeeds(session, chosen)}</div>`}
      </section>
    </div>`;
  }

  #renderPages(session: Session) {
    const page = (id: Page, count: number) => html`<button
      type="button"
      id="page-${id}"
      aria-pressed=${this.page === id}
      @click=${() => this.#turnTo(id)}
    >
      ${this.say(id === "here" ? "is-here" : "are-retired", { count })}
    </button>`;
    return html`<div class="row pages" data-group>${page("here", session.characters.length)}${page("retired", session.retired.length)}</div>`;
  }

  #renderCards(session: Session) {
    const listed = this.#listed;
    if (listed.length === 0)
      return html`<p class="nobody soft">${this.say(this.page === "here" ? "nobody-here" : "nobody-retired")}</p>`;
    return html`<mantle-cards
      part="cards"
      wraps
      .count=${listed.length}
      .card=${(number: number) => this.#cardOf(listed[number])}
      .view=${this.view}
      .loader=${this.loader}
      .draw=${this.drawCard}
      .label=${this.heading || this.titled(session.catalog.title)}
      @mantle-choose=${this.#press}
      @mantle-highlight=${this.#consider}
    ></mantle-cards>`;
  }

  #renderDeeds(session: Session, character: Character | undefined) {
    const add = html`<button type="button" id="add" ?disabled=${session.isFull} @click=${() => this.dispatchEvent(new Event("mantle-add", { bubbles: true, composed: true }))}>
      ${this.say("add")}
    </button>`;
    if (character === undefined) return this.page === "here" ? add : "";
    const { id } = character;
    if (this.page === "retired")
      return html`<button type="button" id="restore" ?disabled=${session.isFull} @click=${() => this.#restore(session, id)}>${this.say("restore")}</button>`;
    if (this.renaming)
      return html`<form class="row" @submit=${(event: Event) => this.#rename(event, session, id)}>
        <label for="name">${this.say("name")}</label>
        <input id="name" autocomplete="off" spellcheck="false" .value=${character.name} />
        <button type="submit" id="keep-name" class="main">${this.say("rename")}</button>
        <button type="button" id="keep-old" @click=${() => this.leave()}>${this.say("back")}</button>
      </form>`;
    const place = session.characters.indexOf(character);
    return html`${add}
      <button type="button" id="edit" @click=${() => this.dispatchEvent(new CharacterEvent("mantle-edit", character))}>${this.say("change")}</button>
      <button type="button" id="rename" @click=${() => this.#openName()}>${this.say("rename")}</button>
      <button type="button" id="duplicate" ?disabled=${session.isFull} @click=${() => this.#copy(session, character)}>${this.say("duplicate")}</button>
      <button type="button" id="earlier" aria-label=${this.say("move-earlier")} ?disabled=${place === 0} @click=${() => session.move(id, place - 1)}><span class="way">◀</span></button>
      <button type="button" id="later" aria-label=${this.say("move-later")} ?disabled=${place === session.characters.length - 1} @click=${() => session.move(id, place + 1)}><span class="way">▶</span></button>
      <button type="button" id="retire" @click=${() => this.#retire(session, character)}>${this.say("retire")}</button>`;
  }

  #cardOf(character: Character | undefined): Card {
    const { session } = this;
    if (session === undefined || character === undefined) return blankCard;
    const seat = session.seats.find((each) => each.character?.id === character.id)?.number;
    const own = character.id === this.at ? "chosen" : "ready";
    return {
      id: character.id,
      title: this.#nameOf(character),
      note:
        seat === undefined ? this.titleOf(session.catalog, "bodies", character.body) : this.say("sits-in", { seat }),
      state: this.#isTaken(character.id) ? "blocked" : own,
      look: resolveLook(session.catalog, character),
    };
  }

  /** The last message; or else what is wrong with the highlighted one: parts that are missing today. */
  #noticeOn(character: Character | undefined) {
    const { session } = this;
    if (this.notice !== noNotice || session === undefined) return this.notice;
    const full = session.isFull && !this.readonly ? { ...noNotice, says: [this.say("is-full")] } : noNotice;
    const wrong = character === undefined ? [] : checkLoadout(session.catalog, character);
    if (wrong.length === 0) return full;
    // What is to be done about it is not done here.
    return this.noticeOf(
      session.catalog,
      wrong.map((problem) => ({ ...problem, fixes: [] })),
    );
  }

  /** Whether somebody belongs to a different player, and cannot be had twice. Who sits where no player does can be had. */
  #isTaken(id: string): boolean {
    const { session, seat } = this;
    const others = session?.seats.filter(({ number, device }) => number !== seat && device !== undefined) ?? [];
    return session?.exclusive === true && others.some(({ character }) => character?.id === id);
  }

  get #listed(): readonly Character[] {
    return (this.page === "here" ? this.session?.characters : this.session?.retired) ?? [];
  }

  #find(id: string | undefined): Character | undefined {
    return this.#listed.find((each) => each.id === id);
  }

  #nameOf({ name }: Character): string {
    return name || this.say("unnamed");
  }

  protected override follow(): (() => void) | undefined {
    this.#isConfirmed = false;
    return this.session?.on("change", () => {
      this.revision += 1;
    });
  }

  #turnTo(page: Page): void {
    this.page = page;
    this.notice = noNotice;
    this.renaming = false;
    this.considered = undefined;
  }

  #consider({ number }: CardEvent): void {
    const id = this.#listed[number ?? -1]?.id;
    // What has the focus is highlighted; what is only pointed at is looked at.
    if (id !== undefined && focusedElement()?.dataset["card"] === id) this.#highlight(id);
    this.considered = id;
  }

  #highlight(id: string): void {
    if (id === this.at) return;
    this.at = id;
    this.notice = noNotice;
    this.renaming = false;
  }

  #press({ number }: CardEvent): void {
    const id = this.#listed[number ?? -1]?.id;
    const wasHighlighted = !this.#isPointed || this.#before === id;
    this.#isPointed = false;
    if (id === undefined) return;
    this.#highlight(id);
    if (wasHighlighted && this.page === "here") this.#finish();
  }

  #finish(): void {
    const { session, at } = this;
    // Confirmed once it stays confirmed, however often it is pressed while the screen goes.
    if (session === undefined || at === undefined || this.#isConfirmed || this.#isTaken(at)) return;
    this.#isConfirmed = true;
    if (session.exclusive) {
      for (const other of session.seats) if (other.number !== this.seat && other.character?.id === at) other.leave();
    }
    session.seat(this.seat).take(at);
    const character = this.#find(at);
    if (character !== undefined) this.dispatchEvent(new CharacterEvent("mantle-finish", character));
  }

  #openName(): void {
    this.renaming = true;
    void this.updateComplete.then(() => this.renderRoot.querySelector<HTMLInputElement>("#name")?.select());
  }

  #rename(event: Event, session: Session, id: string): void {
    event.preventDefault();
    const name = this.renderRoot.querySelector<HTMLInputElement>("#name")?.value ?? "";
    const result = session.edit(id, { rename: name });
    this.notice = result.ok ? noNotice : this.noticeOf(session.catalog, result.problems);
    this.renaming = !result.ok;
  }

  #copy(session: Session, character: Character): void {
    const copy = session.duplicate(character.id);
    this.#highlight(copy.id);
    const words = { name: this.#nameOf(copy), other: this.#nameOf(character) };
    this.notice = { ...noNotice, says: [this.say("was-copied", words)] };
  }

  #retire(session: Session, character: Character): void {
    session.retire(character.id);
    this.notice = { ...noNotice, says: [this.say("was-retired", { name: this.#nameOf(character) })] };
  }

  #restore(session: Session, id: string): void {
    session.restore(id);
    this.#turnTo(session.retired.length > 0 ? "retired" : "here");
    if (this.page === "here") this.at = id;
  }
}

customElements.define("mantle-roster", MantleRoster);

declare global {
  interface HTMLElementTagNameMap {
    "mantle-roster": MantleRoster;
  }
}
