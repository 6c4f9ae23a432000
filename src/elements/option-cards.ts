import { html, type PropertyDeclarations, type PropertyValues } from "lit";
import { repeat } from "lit/directives/repeat.js";
import type { ImageLoader } from "../browser/image-loader.ts";
import type { Direction, IntentEvent } from "../browser/input/intent.ts";
import type { Rectangle } from "../core/catalog/model/catalog.ts";
import type { Look } from "../core/look/look.ts";
import { firstMoment } from "../core/look/moments.ts";
import { blankCard, type Card, CardEvent, type CardEvents, type DrawCard } from "./card.ts";
import { pictureHeight, pictureWidth } from "./card-view.ts";
import { cardsStyle } from "./cards-style.ts";
import { areLoaded, loadLooks } from "./load-looks.ts";
import { contextOf, painterOf } from "./painter-of.ts";
import { theme } from "./theme.ts";
import { TypedElement } from "./typed-element.ts";

/** How many times as large as usual cards are, where they all fit: the largest first. */
const sizes = [3, 2.75, 2.5, 2.25, 2, 1.75, 1.5, 1.25, 1] as const;
/** What of a card is not picture: the frame, and below a line for the title and two for the note. */
const frame = { width: 16, height: 58 };
const gap = 8;
/** How large pixels are drawn at most. */
const closest = 12;

function pitchOf(size: number): { readonly x: number; readonly y: number } {
  return { x: pictureWidth * size + frame.width + gap, y: pictureHeight * size + frame.height + gap };
}

/**
 * `<mantle-cards>`: things to choose, each drawn on the figure. Only the cards in view are made and drawn, however many there are.
 *
 * @fires mantle-choose - a `CardEvent`, when a card is pressed.
 * @fires mantle-highlight - a `CardEvent`, when a card is pointed at or has the focus.
 */
export class MantleCards extends TypedElement<CardEvents> {
  static override properties: PropertyDeclarations = {
    count: { type: Number },
    card: { attribute: false },
    view: { attribute: false },
    loader: { attribute: false },
    draw: { attribute: false },
    slotShown: { attribute: false },
    label: { type: String },
    wraps: { type: Boolean },
    active: { state: true },
    from: { state: true },
    until: { state: true },
    columns: { state: true },
    size: { state: true },
  };

  static override styles = [theme, cardsStyle];

  /** How many cards there are. */
  declare count: number;
  /** Gives the card of a number; called for cards in view only. */
  declare card: (number: number) => Card;
  /** The part of the frame that is shown, in its pixels; the whole frame when left out. */
  declare view: Rectangle | undefined;
  /** Fetches the pictures of looks. */
  declare loader: ImageLoader | undefined;
  /** Draws the pictures, in place of the loader's. */
  declare draw: DrawCard | undefined;
  /** The slot whose parts are shown; `undefined` for whole figures. */
  declare slotShown: string | undefined;
  /** What is chosen here, for screen readers. */
  declare label: string;
  /** Beyond the last card comes the first; other controls are reached by Tab, or by the pad's shoulders. */
  declare wraps: boolean;
  declare protected active: number;
  declare protected from: number;
  declare protected until: number;
  /** How many stand in a row, as wide as the list is now. */
  declare columns: number;
  declare protected size: number;

  readonly #drawn = new WeakMap<HTMLCanvasElement, string>();
  readonly #resized = new ResizeObserver(() => this.#measure());

  constructor() {
    super();
    this.count = 0;
    this.card = () => blankCard;
    this.label = "";
    this.wraps = false;
    this.active = 0;
    this.from = 0;
    this.until = 0;
    this.columns = 1;
    this.size = 1;
    this.addEventListener("scroll", () => this.#measure(), { passive: true });
    this.addEventListener("mantle-intent", (event) => this.#onIntent(event));
    this.addEventListener("pointerleave", () => this.#consider(undefined));
    this.addEventListener("focusout", ({ relatedTarget }) => {
      if (!(relatedTarget instanceof Node && this.renderRoot.contains(relatedTarget))) this.#consider(undefined);
    });
  }

  override connectedCallback(): void {
    super.connectedCallback();
    this.#resized.observe(this);
  }

  override disconnectedCallback(): void {
    this.#resized.disconnect();
    super.disconnectedCallback();
  }

  protected override willUpdate(changed: PropertyValues): void {
    if (changed.has("count") || !this.hasUpdated) this.#measure();
    this.active = Math.max(0, Math.min(this.active, this.count - 1));
  }

  protected override render() {
    const rows = Math.ceil(this.count / this.columns);
    const numbers = this.#numbers();
    const height = Math.max(0, rows * this.#pitch.y - gap);
    return html`<div role="listbox" aria-label=${this.label} data-group style="height: ${height}px">
      ${repeat(
        numbers,
        (number) => number,
        (number) => this.#renderCard(number, this.card(number)),
      )}
    </div>`;
  }

  protected override updated(): void {
    for (const canvas of this.renderRoot.querySelectorAll("canvas")) {
      const number = Number(canvas.dataset["number"]);
      if (number >= this.from && number < this.until) void this.#draw(canvas, this.card(number).look);
    }
  }

  /** Scrolls to a card and makes it the one that Tab comes to. */
  show(number: number): void {
    this.active = number;
    const top = Math.floor(number / this.columns) * this.#pitch.y;
    if (top < this.scrollTop || top + this.#pitch.y - gap > this.scrollTop + this.clientHeight) this.scrollTop = top;
  }

  /** The numbers of the cards in view, and of the one that has the focus. */
  #numbers(): readonly number[] {
    const numbers: number[] = [];
    for (let number = this.from; number < this.until; number += 1) numbers.push(number);
    if (this.count > 0 && (this.active < this.from || this.active >= this.until)) numbers.push(this.active);
    return numbers;
  }

  #renderCard(number: number, card: Card) {
    const { x, y } = this.#pitch;
    const at = `inset-inline-start: ${(number % this.columns) * x}px; top: ${Math.floor(number / this.columns) * y}px`;
    const picture = `width: ${pictureWidth * this.size}px; height: ${pictureHeight * this.size}px`;
    return html`<div
      role="option"
      class=${card.isForSale === true ? "for-sale" : card.state}
      style="${at}; width: ${x - gap}px; height: ${y - gap}px"
      data-card=${card.id}
      tabindex=${number === this.active ? 0 : -1}
      aria-selected=${card.state === "chosen"}
      aria-setsize=${this.count}
      aria-posinset=${number + 1}
      @click=${() => this.#choose(number)}
      @keydown=${(event: KeyboardEvent) => this.#press(event, number)}
      @focus=${() => this.#consider(number)}
      @pointerenter=${(event: PointerEvent) => event.pointerType === "mouse" && this.#consider(number)}
    >
      ${
        card.marks &&
        html`<span class="marks">${card.marks.map(({ seat, picked, says }) => html`<b class=${picked ? "picked" : ""} data-seat=${seat} title=${says}>${seat}${picked ? " ✓" : ""}</b>`)}</span>`
      }
      ${
        card.does === undefined
          ? html`<canvas style=${picture} data-number=${number} width="1" height="1" aria-hidden="true"></canvas>`
          : html`<ul class="does" style=${picture}>${card.does.map((line) => html`<li>${line}</li>`)}</ul>`
      }
      ${card.colors && html`<span class="strip">${card.colors.map((color) => html`<i style="background: ${color}"></i>`)}</span>`}
      <span class="words"><span>${card.title}</span><span class="note">${card.note}</span></span>
    </div>`;
  }

  #measure(): void {
    this.size = sizes.find((size) => this.#fits(size)) ?? 1;
    const columns = this.#columnsOf(this.size);
    const row = this.#pitch.y;
    const first = Math.max(0, Math.floor(this.scrollTop / row));
    const last = Math.ceil((this.scrollTop + Math.max(this.clientHeight, 1)) / row);
    this.columns = columns;
    this.from = Math.min(this.count, first * columns);
    this.until = Math.min(this.count, last * columns);
  }

  /** From one card to the next, in CSS pixels. */
  get #pitch(): { readonly x: number; readonly y: number } {
    return pitchOf(this.size);
  }

  #columnsOf(size: number): number {
    return Math.max(1, Math.floor((this.clientWidth - 6 + gap) / pitchOf(size).x));
  }

  /** Whether all cards can be seen at once at a size. */
  #fits(size: number): boolean {
    return Math.ceil(this.count / this.#columnsOf(size)) * pitchOf(size).y - gap + 6 <= this.clientHeight;
  }

  #choose(number: number): void {
    this.active = number;
    this.dispatchEvent(new CardEvent("mantle-choose", number));
  }

  #press(event: KeyboardEvent, number: number): void {
    if (event.key !== "Enter" && event.key !== " ") return;
    event.preventDefault();
    if (event.target instanceof HTMLElement) event.target.click();
    else this.#choose(number);
  }

  #consider(number: number | undefined): void {
    this.dispatchEvent(new CardEvent("mantle-highlight", number));
  }

  #onIntent(event: IntentEvent): void {
    if (event.intent.kind !== "go" || this.renderRoot instanceof HTMLElement) return;
    const next = this.#neighbor(event.intent.way);
    if (next === undefined) return;
    event.preventDefault();
    this.show(next);
    this.#measure();
    void this.updateComplete.then(() => {
      this.renderRoot.querySelector<HTMLElement>('[role="option"][tabindex="0"]')?.focus({ preventScroll: true });
    });
  }

  /** The card that way; `undefined` at the edge, where the focus goes on to what lies beyond. */
  #neighbor(way: Direction): number | undefined {
    const { active, columns, count } = this;
    const isMirrored = getComputedStyle(this).direction === "rtl";
    const column = active % columns;
    const steps = { left: isMirrored ? 1 : -1, right: isMirrored ? -1 : 1, up: -columns, down: columns };
    const step = steps[way];
    if (this.wraps) return this.#around(step);
    if (step === -1 && column === 0) return undefined;
    if (step === 1 && column === columns - 1) return undefined;
    const next = active + step;
    if (way === "down" && next >= count && Math.floor(active / columns) < Math.floor((count - 1) / columns))
      return count - 1;
    return next < 0 || next >= count ? undefined : next;
  }

  /** The card a step away, around the ends. */
  #around(step: number): number {
    const { active, columns, count } = this;
    if (Math.abs(step) === 1) return (active + step + count) % count;
    const rows = Math.ceil((count - (active % columns)) / columns);
    const row = (Math.floor(active / columns) + Math.sign(step) + rows) % rows;
    return row * columns + (active % columns);
  }

  async #draw(canvas: HTMLCanvasElement, look: Look | undefined): Promise<void> {
    const { loader, draw } = this;
    if (look !== undefined && draw !== undefined) {
      await this.#drawBy(draw, canvas, look);
      return;
    }
    if (look === undefined || loader === undefined) return;
    const view = this.view ?? { x: 0, y: 0, ...look.rig.frame };
    const key = `${loader.version ?? 0} ${look.key} ${this.size} ${view.x} ${view.y} ${view.width} ${view.height}`;
    if (this.#drawn.get(canvas) === key) return;
    this.#drawn.set(canvas, key);
    if (!areLoaded(loader.images, look.layers)) {
      const areThere = await loadLooks(loader, [look]);
      if (!areThere || this.#drawn.get(canvas) !== key) return;
    }
    const [across, down] = [pictureWidth * this.size, pictureHeight * this.size];
    const scale = Math.max(1, Math.min(closest, Math.floor(Math.min(across / view.width, down / view.height))));
    const width = Math.floor(across / scale);
    const height = Math.floor(down / scale);
    Object.assign(canvas, { width, height });
    const { origin } = look.rig;
    const x = origin.x - view.x + Math.floor((width - view.width) / 2);
    const y = origin.y - view.y + Math.floor((height - view.height) / 2);
    painterOf(loader).paint(contextOf(canvas), look, firstMoment(look), { x, y });
  }

  /** Shows what the game draws. */
  async #drawBy(draw: DrawCard, canvas: HTMLCanvasElement, look: Look): Promise<void> {
    const density = this.size * Math.max(1, devicePixelRatio);
    const [width, height] = [Math.round(pictureWidth * density), Math.round(pictureHeight * density)];
    const key = [look.key, this.slotShown, width, height].join(" ");
    if (this.#drawn.get(canvas) === key) return;
    this.#drawn.set(canvas, key);
    const picture = await draw(look, { slot: this.slotShown, width, height });
    if (this.#drawn.get(canvas) !== key) return;
    Object.assign(canvas, { width, height });
    canvas.classList.add("smooth");
    contextOf(canvas).drawImage(picture, 0, 0, width, height);
  }
}

customElements.define("mantle-cards", MantleCards);

declare global {
  interface HTMLElementTagNameMap {
    "mantle-cards": MantleCards;
  }
}
