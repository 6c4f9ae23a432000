import { TypedElement } from "./typed-element.ts";
import "./stage.ts";
import { html, type PropertyDeclarations } from "lit";
import type { ImageLoader } from "../browser/image-loader.ts";
import { focusedElement, isWithin, tabbableIn } from "../browser/input/focus.ts";
import type { Intent } from "../browser/input/intent.ts";
import { type Input, openInput } from "../browser/input/open-input.ts";
import { format } from "../core/base/format.ts";
import type { Message, Messages } from "../core/base/message.ts";
import { englishLoadouts } from "../core/base/messages/english-loadouts.ts";
import { formatNumber } from "../core/base/number-words.ts";
import { type Text, textIn } from "../core/base/text.ts";
import type { Catalog } from "../core/catalog/model/catalog.ts";
import { catalogTitles } from "../core/catalog/titles.ts";
import type { LoadoutProblem } from "../core/character/edit.ts";
import type { Look } from "../core/look/look.ts";
import type { DrawCard } from "./card.ts";
import { type Notice, noNotice, noticeOf, type Press } from "./notice.ts";
import { ShowEvent } from "./show-event.ts";
import type { Backdrop, MantleStage } from "./stage.ts";
import { fillText, localeOf, type ScreenText, type ScreenTexts } from "./texts.ts";

/**
 * What all screens have in common: words, language, and the input, which is given back whatever way the screen ends.
 *
 * @typeParam Name - the texts that it says.
 */
export abstract class ScreenElement<
  Events extends object = object,
  Name extends ScreenText = ScreenText,
> extends TypedElement<Events> {
  static override properties: PropertyDeclarations = {
    texts: { attribute: false },
    messages: { attribute: false },
    language: { type: String },
    modal: { type: Boolean, reflect: true },
    loader: { attribute: false },
    backdrop: { attribute: false },
    drawCard: { attribute: false },
    heading: { type: String },
    noCancel: { type: Boolean, attribute: "no-cancel" },
    notice: { state: true },
    revision: { state: true },
  };

  /** Texts of the game's own, by name; what is left out is in English. */
  declare texts: ScreenTexts;
  /** Sentences of the game's own about what cannot be worn, and what would change that; what is left out is in English. */
  declare messages: Partial<Messages>;
  /** BCP 47 tag of the language in which titles are shown. @defaultValue that of the page, or else English */
  declare language: string | undefined;
  /** Takes the input from the game while the screen is on the page. */
  declare modal: boolean;

  /** Fetches the pictures. */
  declare loader: ImageLoader | undefined;
  /** Paints what is behind the figure. */
  declare backdrop: Backdrop | undefined;
  /** Draws the pictures of cards, where the game does that, such as in three dimensions; pictures of the loader when left out. */
  declare drawCard: DrawCard | undefined;
  /** What stands above what can be done. */
  declare heading: string;
  /** Cannot be given up: there is no button for it, and Escape leads no further than to the beginning. */
  declare noCancel: boolean;
  /** The message to the player. */
  declare protected notice: Notice;
  /** Grows with every change of what the screen is about. */
  declare protected revision: number;

  #input: Input | undefined;
  #staged: Look | undefined;
  #announced: string | undefined;
  /** The name that was given to a modal screen by its heading. */
  #name: string | null = null;
  #stop: (() => void) | undefined;

  constructor() {
    super();
    this.texts = {};
    this.messages = {};
    this.language = undefined;
    this.modal = false;
    this.heading = "";
    this.noCancel = false;
    this.notice = noNotice;
    this.revision = 0;
    this.addEventListener("mantle-intent", (event) => {
      if (!event.defaultPrevented && this.onIntent(event.intent)) event.preventDefault();
    });
  }

  /** Subscribes to what the screen is about. Returns what stops it. */
  protected abstract follow(): (() => void) | undefined;

  /** Follows what the screen is about, now that it changed, or the screen is on the page again. */
  protected resubscribe(): void {
    this.#stop?.();
    this.#stop = this.isConnected ? this.follow() : undefined;
  }

  /** Takes care of an intent that nothing inside took. Whether it did. */
  protected onIntent(intent: Intent): boolean {
    if (intent.kind !== "turn") return false;
    this.renderRoot.querySelector<MantleStage>("mantle-stage")?.turn(intent.by);
    return true;
  }

  /** Whether all gamepads move one focus; not where each is a player's of its own. */
  protected get hearsPads(): boolean {
    return true;
  }

  /** What leaving means here: Escape, or the pad's second button. */
  protected abstract leave(): void;

  override connectedCallback(): void {
    super.connectedCallback();
    this.resubscribe();
    if (this.modal && this.role === null) {
      this.role = "dialog";
      this.ariaModal = "true";
    }
    this.toggleAttribute("placed", ["fixed", "absolute"].includes(getComputedStyle(this).position));
    this.#input?.close();
    this.#input = openInput(this, { exclusive: this.modal, pads: this.hearsPads, onLeave: () => this.leave() });
    if (!this.modal) return;
    void this.updateComplete.then(() => {
      if (this.isConnected && !isWithin(this, focusedElement())) this.takeFocus();
    });
  }

  override disconnectedCallback(): void {
    this.#stop?.();
    this.#stop = undefined;
    this.#input?.close();
    super.disconnectedCallback();
  }

  /** A screen that fails to draw gives the input back before it reports that. */
  protected override performUpdate(): void {
    const focused = focusedElement();
    const wasInside = isWithin(this, focused);
    try {
      super.performUpdate();
      this.#announce();
      this.#nameDialog();
    } catch (error) {
      this.#input?.close();
      throw error;
    }
    // What had the focus may be gone, or out of use: whoever works by keys must not have to begin from the top of the page.
    if (wasInside && (focused?.isConnected !== true || focused.matches(":disabled"))) this.focusLost(focused?.id ?? "");
  }

  /** Brings the focus back when what had it is gone: to what bears its id now, or else to the first control. */
  protected focusLost(id: string): void {
    const same = id === "" ? null : this.renderRoot.querySelector<HTMLElement>(`#${CSS.escape(id)}:not(:disabled)`);
    (same ?? tabbableIn(this)[0])?.focus();
  }

  /** The stage with a figure, or the one that the game put in the slot `stage`, to which `mantle-show` says what to show. */
  protected renderStage(look: Look | undefined, name: string) {
    this.#staged = look;
    if (this.querySelector(':scope > [slot="stage"]') !== null) return html`<slot name="stage"></slot>`;
    return html`<mantle-stage
      part="stage"
      exportparts="controls"
      .look=${look}
      .loader=${this.loader}
      .backdrop=${this.backdrop}
      .texts=${this.texts}
      .language=${this.locale}
      .name=${name}
    ></mantle-stage>`;
  }

  #announce(): void {
    if (this.#staged?.key === this.#announced) return;
    this.#announced = this.#staged?.key;
    this.dispatchEvent(new ShowEvent(this.#staged));
  }

  /** What it says, in English. */
  protected abstract readonly english: Readonly<Partial<Record<Name, string>>>;

  /** Returns a text of the screen. */
  say(name: Name, words?: Readonly<Record<string, string | number>>): string {
    return fillText(this.texts[name] ?? this.english[name] ?? name, words, this.language);
  }

  /** The tag of the language titles are shown in. */
  get locale(): string {
    return localeOf(this.language);
  }

  /** The notice of problems, in the language of the screen. */
  protected noticeOf(catalog: Catalog, problems: readonly LoadoutProblem[], mends?: readonly Press[]): Notice {
    return noticeOf(problems, this.sentencesOf(catalog), mends);
  }

  /** A title, in the language of the screen. */
  titled(text: Text | undefined): string {
    return text === undefined ? "" : textIn(text, this.locale);
  }

  /** What players call something of a catalog. */
  titleOf(catalog: Catalog, kind: "parts" | "bodies" | "slots" | "stats" | "outfits" | "ramps", id: string): string {
    return this.titled(catalog[kind].get(id)?.title ?? id);
  }

  /** Returns what puts findings about a catalog into the words of this screen. */
  sentencesOf(catalog: Catalog): (message: Message) => string {
    const messages = { ...englishLoadouts, ...this.messages };
    const titles = catalogTitles(catalog, this.locale);
    return (message) => format(message, messages, titles);
  }

  /** A few things in a row, as its language joins them. @param type - `"unit"` for no word before the last. */
  joined(items: readonly string[], type: "conjunction" | "unit" = "conjunction"): string {
    return new Intl.ListFormat(this.locale, { type }).format(items);
  }

  /** A number as its language writes it. */
  number(value: number, options?: { readonly signed?: boolean }): string {
    return formatNumber(value, this.locale, options);
  }

  /** Where the focus goes when a modal screen opens. */
  protected takeFocus(): void {
    tabbableIn(this)[0]?.focus();
  }

  /** Calls a modal screen by its heading, where the page has given it no name. */
  #nameDialog(): void {
    if (this.role !== "dialog" || this.ariaLabel !== this.#name) return;
    this.#name = this.renderRoot.querySelector("h1")?.textContent ?? "";
    this.ariaLabel = this.#name;
  }
}
