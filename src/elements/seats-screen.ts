import "./option-cards.ts";
import "./stage.ts";
import { html, nothing, type PropertyDeclarations, type PropertyValues } from "lit";
import { type Controls, openControls, type Press } from "../browser/input/open-controls.ts";
import type { Rectangle } from "../core/catalog/model/catalog.ts";
import type { Character } from "../core/character/character.ts";
import { resolveLook } from "../core/look/resolve-look.ts";
import { pickSeats, type SeatPicking } from "../core/play/pick-seats.ts";
import type { Picker } from "../core/play/picker.ts";
import type { Session } from "../core/play/session.ts";
import { blankCard, type Card, type CardEvent } from "./card.ts";
import { findView } from "./card-view.ts";
import type { MantleCards } from "./option-cards.ts";
import { ScreenElement } from "./screen-element.ts";
import { seatsStyle } from "./seats-style.ts";
import { commonTexts, peopleTexts, seatsTexts } from "./texts.ts";
import { theme } from "./theme.ts";

/** Everyone has picked, and sits. */
export class StartEvent extends Event {
  /** Who picked whom, by seat: ids of characters. */
  readonly picks: ReadonlyMap<number, string>;

  constructor(picks: ReadonlyMap<number, string>) {
    super("mantle-start", { bubbles: true, composed: true });
    this.picks = picks;
  }
}

/** The device of whoever points and taps, as the session calls it. */
export const pointerDevice = "pointer";

interface SeatsEvents {
  readonly "mantle-start": StartEvent;
  readonly "mantle-close": Event;
}

/** What it says, in English. */
const english = { ...commonTexts, ...peopleTexts, ...seatsTexts };

/**
 * `<mantle-seats>`: several players choose at once. Whoever presses joins, each with a seat and a cursor of their own; what is picked is
 * theirs, and when all have picked, and nobody took it back for a moment, it starts, exactly once.
 *
 * While it is open, characters sit where they were picked, so that those of one look are painted in different ramps at once. Left, or taken off the page,
 * it puts everyone back where they sat.
 *
 * @fires mantle-start - a `StartEvent`, once.
 * @fires mantle-close - an `Event`, when the players want out.
 * @example
 * screen.session = await openSession({ catalog, store, seats: 4, exclusive: true, distinguishBy: "cloth" })
 * screen.addEventListener("mantle-start", () => play())
 */
export class MantleSeats extends ScreenElement<SeatsEvents, keyof typeof english> {
  protected override readonly english = english;

  static override properties: PropertyDeclarations = {
    ...ScreenElement.properties,
    session: { attribute: false },
    controls: { attribute: false },
    limit: { type: Number },
    pause: { type: Number },
    view: { state: true },
  };

  static override styles = [theme, seatsStyle];

  /** The open session whose seats are taken. */
  declare session: Session | undefined;
  /** The players' devices; key sets and gamepads of its own when left out. */
  declare controls: Controls | undefined;
  /** Seconds after which what is highlighted is picked; no limit when left out. Set to another, the picking begins anew. */
  declare limit: number | undefined;
  /** Seconds between the last pick and the start. Set to another, the picking begins anew. */
  declare pause: number;
  declare protected view: Rectangle | undefined;

  #picking: SeatPicking | undefined;
  #own: Controls | undefined;
  #frame = 0;
  #clock = "";

  constructor() {
    super();
    this.limit = undefined;
    this.pause = 3;
    // Arrow keys are a player's here, and move no focus; Tab does.
    this.addEventListener(
      "mantle-intent",
      (event) => {
        if (event.intent.kind !== "go" && event.intent.kind !== "turn") return;
        event.preventDefault();
        event.stopPropagation();
      },
      { capture: true },
    );
    // What is pressed by pointing takes no focus: else the keys of the others would press it again.
    this.addEventListener("mousedown", (event) => {
      event.preventDefault();
      this.takeFocus();
    });
  }

  /** The screen itself takes the focus: the keys of players press no button. */
  protected override takeFocus(): void {
    this.tabIndex = -1;
    this.focus();
  }

  protected override get hearsPads(): boolean {
    return false;
  }

  /** Everyone sits where they sat again. */
  protected override leave(): void {
    if (this.#picking === undefined || this.#picking.hasStarted) return;
    this.#picking.close();
    this.dispatchEvent(new Event("mantle-close", { bubbles: true, composed: true }));
  }

  override disconnectedCallback(): void {
    super.disconnectedCallback();
    this.#own?.close();
    this.#own = undefined;
  }

  protected override willUpdate(changed: PropertyValues): void {
    if (["session", "controls", "limit", "pause"].some((each) => changed.has(each))) this.resubscribe();
    const { session, loader } = this;
    const first = session?.characters[0];
    if (session === undefined || loader === undefined || this.view !== undefined || first === undefined) return;
    const asked = { catalog: session.catalog, character: first, slot: undefined, parts: [], loader };
    findView(asked, (view) => {
      this.view = view.frame;
    });
  }

  protected override render() {
    const { session } = this;
    const picker = this.#picking?.picker;
    if (session === undefined || picker === undefined) return html``;
    const { characters } = session;
    const numbers = Array.from({ length: session.seatCount }, (_, at) => at + 1);
    return html`<div class="screen">
      <header class="row spread" part="header">
        <h1>${this.heading || this.titled(session.catalog.title)}</h1>
        <p class="clock" role="status">${this.#clock || this.say("all-choose")}</p>
        <button type="button" id="back" @click=${() => this.leave()}>${this.say("back")}</button>
      </header>
      ${
        characters.length === 0
          ? html`<p class="nobody soft">${this.say("nobody-here")}</p>`
          : html`<mantle-cards
              part="cards"
              .count=${characters.length}
              .card=${(number: number) => this.#cardOf(characters[number], picker)}
              .view=${this.view}
              .loader=${this.loader}
              .label=${this.heading || this.titled(session.catalog.title)}
              @mantle-choose=${this.#point}
            ></mantle-cards>`
      }
      <ol class="seats ${numbers.length > 4 ? "many" : ""}" part="seats">${numbers.map((number) => this.#renderSeat(session, picker, number))}</ol>
    </div>`;
  }

  #renderSeat(session: Session, picker: Picker, number: number) {
    const cursor = picker.cursors.find(({ seat }) => seat === number);
    const seat = session.seat(number);
    if (cursor === undefined || seat.device === undefined) return this.#renderEmpty(session, number);
    const character = session.characters.find(({ id }) => id === cursor.at);
    const state = cursor.picked ? "is-ready" : character === undefined ? "nothing-left" : "is-choosing";
    const look = cursor.picked ? seat.look : character && resolveLook(session.catalog, character);
    return html`<li class="seat ${cursor.picked ? "ready" : ""}" data-seat=${number} data-state=${state}>
      <div class="row">
        <span class="number" aria-label=${this.say("seat", { seat: number })}>${number}</span>
        <h2>${character?.name || this.say("unnamed")}</h2>
      </div>
      <mantle-stage
        .look=${look}
        .loader=${this.loader}
        .backdrop=${this.backdrop}
        .texts=${this.texts}
        .language=${this.locale}
        .name=${character?.name ?? ""}
      ></mantle-stage>
      <div class="row spread">
        <span class="state">${cursor.picked ? html`<b>✓ ${this.say(state)}</b>` : this.say(state)}</span>
        <small class="soft">${this.#titleOf(seat.device)}</small>
      </div>
      ${
        seat.device === pointerDevice
          ? html`<div class="row" data-group>
              <button type="button" @click=${() => this.#picking?.press(pointerDevice, "back")}>${this.say(cursor.picked ? "take-back" : "leave-seat")}</button>
              <button type="button" class="main" ?disabled=${cursor.picked} @click=${() => this.#picking?.press(pointerDevice, "act")}>${this.say("choose-this")}</button>
            </div>`
          : nothing
      }
    </li>`;
  }

  #renderEmpty(session: Session, number: number) {
    // Whoever joins gets the first seat that is free.
    const joined = new Set(session.seats.flatMap((seat) => (seat.device === undefined ? [] : seat.number)));
    const isNext = Array.from({ length: number - 1 }, (_, at) => at + 1).every((before) => joined.has(before));
    const hasPointer = session.seats.some(({ device }) => device === pointerDevice);
    const sets = Object.entries(this.#devices?.keys ?? {});
    const free = sets.filter(([device]) => !session.seats.some((seat) => seat.device === device));
    const keys = free.map(([, { actTitle }]) => actTitle).join(" · ");
    return html`<li class="seat empty soft" data-seat=${number}>
      <span class="number" aria-hidden="true">${number}</span>
      ${isNext ? html`<span>${this.say(keys === "" ? "join-by-pad" : "join-by", { keys })}</span>` : nothing}
      ${hasPointer || !isNext ? nothing : html`<button type="button" @click=${() => this.#picking?.press(pointerDevice, "act")}>${this.say("join-here")}</button>`}
    </li>`;
  }

  #cardOf(character: Character | undefined, picker: Picker): Card {
    const { session } = this;
    if (session === undefined || character === undefined) return blankCard;
    const here = picker.cursors.filter(({ at }) => at === character.id);
    const isTaken = session.exclusive && here.some(({ picked }) => picked);
    return {
      id: character.id,
      title: character.name || this.say("unnamed"),
      note: this.titleOf(session.catalog, "bodies", character.body),
      state: isTaken ? "chosen" : "ready",
      look: resolveLook(session.catalog, character),
      marks: here.map(({ seat, picked }) => ({ seat, picked, says: this.say("seat", { seat }) })),
    };
  }

  #titleOf(device: string): string {
    return device === pointerDevice ? this.say("pointer") : (this.#devices?.titleOf(device) ?? device);
  }

  get #devices(): Controls | undefined {
    return this.controls ?? this.#own;
  }

  protected override follow(): (() => void) | undefined {
    const { session, limit, pause } = this;
    if (session === undefined) return undefined;
    const given = this.controls;
    // The devices of the game emit nothing while this screen has taken the input.
    if (given === undefined || this.modal)
      this.#own ??= openControls({ screen: this, ...(given && { keys: given.keys }) });
    const picking = pickSeats(session, {
      columns: () => this.renderRoot.querySelector<MantleCards>("mantle-cards")?.columns ?? 1,
      pause,
      ...(limit === undefined ? {} : { limit }),
    });
    this.#picking = picking;
    let isTold = false;
    picking.on("change", () => {
      this.revision += 1;
      if (!picking.hasStarted || isTold) return;
      isTold = true;
      this.dispatchEvent(new StartEvent(picking.picker.picks));
    });
    const press = ({ device, action }: Press) => picking.press(device, action);
    const stops = [given?.on("press", press), this.#own?.on("press", press)];
    let last = performance.now();
    const run = (now: number) => {
      this.#frame = requestAnimationFrame(run);
      picking.tick((now - last) / 1000);
      last = now;
      this.#announceTime(picking.picker);
    };
    this.#frame = requestAnimationFrame(run);
    return () => {
      cancelAnimationFrame(this.#frame);
      for (const stop of stops) stop?.();
      picking.close();
    };
  }

  #announceTime(picker: Picker): void {
    const { remaining } = picker;
    const isSettled = picker.cursors.every(({ picked }) => picked);
    const seconds = Math.ceil(remaining ?? 0);
    const clock = remaining === undefined ? "" : this.say(isSettled ? "starts-in" : "ends-in", { seconds });
    if (clock === this.#clock) return;
    this.#clock = clock;
    this.revision += 1;
  }

  /** Somebody points at a card. */
  #point({ number }: CardEvent): void {
    const id = this.session?.characters[number ?? -1]?.id;
    if (id !== undefined) this.#picking?.point(pointerDevice, id);
  }
}

customElements.define("mantle-seats", MantleSeats);

declare global {
  interface HTMLElementTagNameMap {
    "mantle-seats": MantleSeats;
  }
}
