import "./stage.ts";
import { html, type PropertyDeclarations, type PropertyValues } from "lit";
import { repeat } from "lit/directives/repeat.js";
import { canvasOf } from "../browser/canvas-painter.ts";
import type { Intent } from "../browser/input/intent.ts";
import { MantleError } from "../core/base/problem.ts";
import type { Part, Slot } from "../core/catalog/model/catalog.ts";
import type { Edit } from "../core/character/edit.ts";
import type { Fitting } from "../core/create/fitting.ts";
import { iconLook } from "../core/look/icon-look.ts";
import { resolveLook } from "../core/look/resolve-look.ts";
import { drawIcon } from "../core/raster/draw-icon.ts";
import { wornParts } from "../core/rules/worn.ts";
import { CharacterEvent, type EndEvents } from "./character-event.ts";
import { equipmentStyle } from "./equipment-style.ts";
import { noticeOfDone } from "./fitting-cards.ts";
import { type Carried, followDrag } from "./follow-drag.ts";
import { giveSolverToMend } from "./load-solver.ts";
import { noNotice, noticeStyle, renderNotice } from "./notice.ts";
import { ResultEvent, type ResultEvents } from "./result-event.ts";
import { ScreenElement } from "./screen-element.ts";
import { renderStats, statsStyle } from "./stats-strip.ts";
import { endingTexts, equipmentTexts, wearingTexts } from "./texts.ts";
import { screenLayout, theme, unseenStyle } from "./theme.ts";
import { renderUndo } from "./undo-buttons.ts";

/** What it says, in English. */
const english = { ...endingTexts, ...wearingTexts, ...equipmentTexts };

/**
 * `<mantle-equipment>`: what is worn beside what is in the bag. A press puts a thing on or takes it off; so does dragging it over.
 * Best with a fitting whose wardrobe is the bag.
 *
 * @fires mantle-finish - a `CharacterEvent` with the character as it is then.
 * @fires mantle-leave - a `CharacterEvent` with the character as it was.
 * @fires mantle-result - a `ResultEvent`, when something was put on, taken off or refused: for sounds.
 * @example
 * screen.fitting = openFitting(catalog, wren, { wardrobe: "bag" })
 */
export class MantleEquipment extends ScreenElement<EndEvents & ResultEvents, keyof typeof english> {
  static override properties: PropertyDeclarations = {
    ...ScreenElement.properties,
    fitting: { attribute: false },
    carried: { state: true },
  };

  protected override readonly english = english;

  static override styles = [theme, unseenStyle, screenLayout, noticeStyle, statsStyle, equipmentStyle];

  /** The open fitting that the screen edits. */
  declare fitting: Fitting | undefined;
  /** What is being dragged. */
  declare protected carried: Carried | undefined;

  #wasDragged = false;

  protected override leave(): void {
    if (this.fitting !== undefined && !this.noCancel)
      this.dispatchEvent(new CharacterEvent("mantle-leave", this.fitting.cancel()));
  }

  protected override willUpdate(changed: PropertyValues): void {
    if (changed.has("fitting")) this.resubscribe();
  }

  protected override updated(changed: PropertyValues): void {
    if (changed.has("fitting")) void giveSolverToMend(this.fitting);
    for (const icon of this.renderRoot.querySelectorAll<HTMLElement>(".icon[data-part]")) void this.#draw(icon);
  }

  protected override render() {
    const { fitting } = this;
    if (fitting === undefined) return html``;
    const { catalog, character, shown } = fitting;
    return html`<div class="screen">
      <section class="figure" part="figure">
        <mantle-stage
          part="stage"
          exportparts="controls"
          .look=${resolveLook(catalog, shown)}
          .loader=${this.loader}
          .backdrop=${this.backdrop}
          .texts=${this.texts}
          .language=${this.locale}
          .name=${character.name}
        ></mantle-stage>
        <div class="row ends" part="ends" data-group>
          ${this.noCancel ? "" : html`<button type="button" id="cancel" @click=${() => this.leave()}>${this.say("cancel")}</button>`}
          <button type="button" id="finish" class="main" @click=${this.#finish}>${this.say("finish")}</button>
        </div>
      </section>
      <section class="ledger" part="ledger">
        <header class="row spread" part="header">
          <h1>${this.heading || character.name || this.titled(catalog.title)}</h1>
          <div class="row" data-group>
            ${renderUndo(this, fitting)}
          </div>
        </header>
        <div class="halves">${this.#renderWorn(fitting)} ${this.#renderBag(fitting)}</div>
        ${renderNotice(
          this.notice === noNotice ? this.noticeOf(fitting.catalog, fitting.problems) : this.notice,
          (edits) => this.#do(edits.length === 1 && edits[0] ? edits[0] : { together: edits }),
        )}
        ${renderStats(this, {
          catalog,
          before: character,
          after: shown,
          context: fitting.context,
        })}
      </section>
      ${this.#renderGhost()}
    </div>`;
  }

  #renderWorn({ catalog, character }: Fitting) {
    const worn = new Map(wornParts(catalog, character).map((each) => [each.slot, each]));
    const tile = (slot: Slot) => {
      const there = worn.get(slot.id);
      const isOwn = there !== undefined && !there.issued;
      const takes = this.carried?.slots.includes(slot.id) === true;
      const title = this.titled(there?.part.title) || this.say("slot-empty");
      return html`<button
        type="button"
        class="tile ${isOwn ? "" : "empty"} ${takes ? "takes" : ""}"
        data-slot=${slot.id}
        @pointerdown=${(event: PointerEvent) => isOwn && this.#carry(event, { part: there.part, from: slot.id, slots: [] })}
        @click=${() => isOwn && this.#press({ remove: slot.id })}
      >
        ${this.#renderIcon(there?.part, slot.id)}<span
          >${title}<small>${this.titled(slot.title)}</small>${isOwn ? html`<span class="unseen">${this.say("takes-it-off")}</span>` : ""}</span
        >
      </button>`;
    };
    const slots = [...catalog.slots.values()].filter(({ kind }) => kind === "gear");
    return html`<section class="half" aria-labelledby="worn">
      <h2 id="worn">${this.say("worn")}</h2>
      <div class="tiles" data-group>${repeat(slots, ({ id }) => id, tile)}</div>
    </section>`;
  }

  #renderBag(fitting: Fitting) {
    const { catalog, character } = fitting;
    const parts = Object.keys(character.bag).flatMap((id) => catalog.parts.get(id) ?? []);
    const tile = (part: Part) => {
      const count = (character.bag[part.id] ?? []).reduce((sum, each) => sum + each, 0);
      const title = this.titled(part.title);
      return html`<button
        type="button"
        class="tile"
        data-part=${part.id}
        @pointerdown=${(event: PointerEvent) => this.#carry(event, { part, from: undefined, slots: part.slots })}
        @pointerenter=${(event: PointerEvent) => event.pointerType === "mouse" && fitting.preview({ wear: part.id })}
        @pointerleave=${() => fitting.preview()}
        @focus=${() => fitting.preview({ wear: part.id })}
        @blur=${() => fitting.preview()}
        @click=${() => this.#press({ wear: part.id })}
      >
        ${this.#renderIcon(part, part.slots[0] ?? "")}
        <span>${title}<small>${count > 1 ? this.say("count", { count }) : ""}</small><span class="unseen">${this.say("puts-it-on")}</span></span>
      </button>`;
    };
    return html`<section class="half" aria-labelledby="bag" data-bag>
      <h2 id="bag">${this.say("bag")}</h2>
      ${
        parts.length === 0
          ? html`<p class="soft">${this.say("bag-empty")}</p>`
          : html`<div class="tiles" data-group>${repeat(parts, ({ id }) => id, tile)}</div>`
      }
    </section>`;
  }

  #renderIcon(part: Part | undefined, slot: string) {
    if (part === undefined || part.layers.length === 0) return html`<span class="icon" aria-hidden="true"></span>`;
    return html`<span class="icon" aria-hidden="true" data-part=${part.id} data-in=${slot}></span>`;
  }

  #renderGhost() {
    const { carried } = this;
    if (carried === undefined) return "";
    const place = `left: ${carried.x}px; top: ${carried.y}px`;
    return html`<span class="ghost icon" style=${place} data-part=${carried.part.id} data-in=${carried.from ?? carried.part.slots[0] ?? ""}></span>`;
  }

  async #draw(icon: HTMLElement): Promise<void> {
    const { fitting, loader } = this;
    const { part = "", in: slot = "" } = icon.dataset;
    if (fitting === undefined || loader === undefined) return;
    const look = iconLook(fitting.catalog, fitting.character, part, slot);
    if (icon.dataset["drawn"] === look.key) return;
    icon.dataset["drawn"] = look.key;
    try {
      await loader.load(look);
      if (icon.dataset["drawn"] === look.key)
        icon.replaceChildren(canvasOf(drawIcon(look, loader.images, part, { minSize: 28 })));
    } catch (error) {
      // The stage reports which picture is missing; here the icon stays blank.
      if (!(error instanceof MantleError)) throw error;
    }
  }

  protected override follow(): (() => void) | undefined {
    return this.fitting?.on("change", ({ kind }) => {
      if (kind !== "preview") this.notice = noNotice;
      this.revision += 1;
    });
  }

  protected override onIntent(intent: Intent): boolean {
    if (intent.kind === "undo") this.fitting?.undo();
    else if (intent.kind === "redo") this.fitting?.redo();
    else return super.onIntent(intent);
    return true;
  }

  #carry(event: PointerEvent, thing: Omit<Carried, "x" | "y">): void {
    this.#wasDragged = false;
    followDrag(event, {
      move: (x, y) => {
        this.#wasDragged = true;
        this.fitting?.preview();
        this.carried = { ...thing, x, y };
      },
      drop: (x, y) => {
        this.carried = undefined;
        this.#drop(thing, this.renderRoot instanceof ShadowRoot ? this.renderRoot.elementFromPoint(x, y) : null);
      },
      cancel: () => {
        this.carried = undefined;
      },
    });
  }

  #drop({ part, from }: Omit<Carried, "x" | "y">, onto: Element | null): void {
    const slot = onto?.closest<HTMLElement>("[data-slot]")?.dataset["slot"];
    if (from === undefined && slot !== undefined) this.#do({ wear: part.id, in: slot });
    else if (from !== undefined && slot !== undefined && slot !== from)
      this.#do({ together: [{ remove: from }, { wear: part.id, in: slot }] });
    else if (from !== undefined && onto?.closest("[data-bag]")) this.#do({ remove: from });
  }

  /** A press, unless it is the end of a drag. */
  #press(edit: Edit): void {
    if (!this.#wasDragged) this.#do(edit);
    this.#wasDragged = false;
  }

  #do(edit: Edit): void {
    const { fitting } = this;
    if (fitting === undefined) return;
    const before = fitting.character;
    const result = fitting.apply(edit);
    this.dispatchEvent(new ResultEvent(result, edit));
    if (!result.ok) this.notice = this.noticeOf(fitting.catalog, result.problems);
    else this.notice = noticeOfDone(this, fitting.catalog, before, result);
  }

  #finish(): void {
    const { fitting } = this;
    if (fitting === undefined) return;
    if (fitting.problems.length > 0) this.notice = this.noticeOf(fitting.catalog, fitting.problems);
    else this.dispatchEvent(new CharacterEvent("mantle-finish", fitting.finish()));
  }
}

customElements.define("mantle-equipment", MantleEquipment);

declare global {
  interface HTMLElementTagNameMap {
    "mantle-equipment": MantleEquipment;
  }
}
