import { html, nothing, type PropertyDeclarations, type PropertyValues } from "lit";
import { format } from "../core/base/format.ts";
import type { Message } from "../core/base/message.ts";
import { english as englishAlone } from "../core/base/messages/english.ts";
import { englishArt } from "../core/base/messages/english-art.ts";
import { MantleError } from "../core/base/problem.ts";
import { textIn } from "../core/base/text.ts";
import type { Catalog } from "../core/catalog/model/catalog.ts";
import { catalogTitles } from "../core/catalog/titles.ts";
import type { Character } from "../core/character/character.ts";
import type { Moment } from "../core/look/look.ts";
import { frameAt } from "../core/look/moments.ts";
import {
  type ExplainedForm,
  type ExplainedLayer,
  type ExplainedLook,
  type ExplainedMesh,
  type ExplainOptions,
  explainLook,
} from "../core/survey/explain-look.ts";
import { inspectStyle } from "./inspect-style.ts";
import { theme } from "./theme.ts";
import { TypedElement } from "./typed-element.ts";

const english = { ...englishAlone, ...englishArt };

/** A figure on the page, and what it shows now. */
export interface Inspected extends ExplainOptions {
  readonly catalog: Catalog;
  readonly character: Character;
  readonly moment: Moment;
}

/** One points at a layer in the list; at none when `layer` is `undefined`. */
export class LayerEvent extends Event {
  readonly layer: ExplainedLayer | undefined;

  constructor(layer: ExplainedLayer | undefined) {
    super("mantle-layer", { bubbles: true, composed: true });
    this.layer = layer;
  }
}

/** Milliseconds between two looks at a figure that is asked for. */
const interval = 200;

/**
 * `<mantle-inspect>`: for those who make the game, why a figure looks as it does now. Its layers with their depths and colors, and the reason where one does not show;
 * its points, its forms and their signals, and the rules that what it wears has to do with.
 *
 * It lies over the page and is opened and closed by its button; with `docked` it stands where it is written. It speaks English.
 *
 * @fires mantle-layer - a `LayerEvent`, when one points at a layer in its list.
 * @example
 * inspect.figure = () => ({ catalog, character: seat.character, moment: { animation: "walk", facing: "west", time }, signals })
 */
export class MantleInspect extends TypedElement<{ readonly "mantle-layer": LayerEvent }> {
  static override properties: PropertyDeclarations = {
    figure: { attribute: false },
    open: { type: Boolean, reflect: true },
    docked: { type: Boolean, reflect: true },
    explained: { state: true },
    failure: { state: true },
  };

  static override styles = [theme, inspectStyle];

  /** The figure, or what returns it whenever it is looked at. */
  declare figure: Inspected | (() => Inspected | undefined) | undefined;
  /** Whether the explanation is unfolded. */
  declare open: boolean;
  /** Stands in the page instead of over it, and is always open. */
  declare docked: boolean;
  declare protected explained: ExplainedLook | undefined;
  declare protected failure: string;

  #shown: Inspected | undefined;
  #seen = "";
  #timer: ReturnType<typeof setInterval> | undefined;

  constructor() {
    super();
    this.figure = undefined;
    this.open = false;
    this.docked = false;
    this.failure = "";
  }

  override connectedCallback(): void {
    super.connectedCallback();
    this.#timer = setInterval(() => this.refresh(), interval);
  }

  override disconnectedCallback(): void {
    clearInterval(this.#timer);
    super.disconnectedCallback();
  }

  protected override willUpdate(changed: PropertyValues): void {
    if (changed.has("figure") || changed.has("open")) this.refresh();
  }

  /** Looks at the figure again, at once. */
  refresh(): void {
    if (!this.open && !this.docked) return;
    const shown = typeof this.figure === "function" ? this.figure() : this.figure;
    const seen = shown === undefined ? "" : keyOf(shown);
    if (seen === this.#seen && shown?.catalog === this.#shown?.catalog) return;
    this.#seen = seen;
    this.#shown = shown;
    try {
      this.explained = shown && explainLook(shown.catalog, shown.character, shown.moment, shown);
      this.failure = "";
    } catch (error) {
      if (!(error instanceof MantleError)) throw error;
      this.explained = undefined;
      this.failure = error.message;
    }
  }

  protected override render() {
    if (!this.open && !this.docked)
      return html`<button type="button" class="opener" aria-expanded="false" @click=${() => this.#turn(true)}>Why does it look so?</button>`;
    return html`<section class="panel" aria-label="Why the figure looks as it does">
      ${
        this.docked
          ? nothing
          : html`<button type="button" class="opener" aria-expanded="true" @click=${() => this.#turn(false)}>Close</button>`
      }
      ${this.failure === "" ? nothing : html`<p class="wrong">${this.failure}</p>`}
      ${this.explained === undefined || this.#shown === undefined ? nothing : this.#body(this.explained, this.#shown)}
    </section>`;
  }

  #body(explained: ExplainedLook, { catalog, character, moment }: Inspected) {
    const { look, layers, meshes, points, forms, rules } = explained;
    const animation = look.rig.animations.get(moment.animation);
    const frame = animation === undefined ? 0 : frameAt(animation, moment.time);
    const hidden = layers.filter(({ because }) => because !== undefined).length;
    return html`
      <h2>${character.name || textIn(catalog.bodies.get(character.body)?.title ?? character.body)}</h2>
      <p class="soft">${character.body}: ${moment.animation}, ${moment.facing}, frame ${frame + 1} of ${animation?.frames ?? 1}</p>
      ${meshes.length === 0 ? nothing : html`<h3>Meshes</h3><ol class="layers">${meshes.map((mesh) => this.#mesh(mesh))}</ol>`}
      ${layers.length === 0 ? nothing : html`<h3>Layers, front to back <span class="soft">${layers.length - hidden} shown, ${hidden} not</span></h3>`}
      <ol class="layers" @pointerleave=${() => this.#point(undefined)}>
        ${[...layers.filter(({ because }) => because === undefined)].reverse().map((layer) => this.#layer(layer))}
        ${layers.filter(({ because }) => because !== undefined).map((layer) => this.#layer(layer))}
      </ol>
      ${forms.length === 0 ? nothing : html`<h3>Forms</h3><ul>${forms.map(formLine)}</ul>`}
      ${
        rules.length === 0
          ? nothing
          : html`<h3>Rules about what is worn</h3>
              <ul>${rules.map(
                ({ state, messages, message: say }) =>
                  html`<li class=${state}>${state === "broken" ? "✗ broken: " : "✓ "}${say === undefined ? messages.map((each) => this.#say(each)).join(" ") : textIn(say)}<span class="soft">${say === undefined ? "" : ` ${messages.map((each) => this.#say(each)).join(" ")}`}</span></li>`,
              )}</ul>`
      }
      ${
        points.size === 0
          ? nothing
          : html`<h3>Points</h3>
              <ul class="points">${[...points].map(([name, at]) => html`<li>${name} <b>${at === undefined ? "not seen" : `${at.x}, ${at.y}`}</b></li>`)}</ul>`
      }
    `;
  }

  #layer(layer: ExplainedLayer) {
    const { part, slot, group, image, depth, color, because } = layer;
    const owner = part === undefined ? "the body" : part;
    const place = [slot, group].filter(Boolean).join("/");
    return html`<li class=${because === undefined ? "shows" : "away"} tabindex="0" @pointerenter=${() => this.#point(layer)} @focus=${() => this.#point(layer)} @blur=${() => this.#point(undefined)}>
      <span class="depth">${depth ?? "–"}</span>
      <span><b>${owner}</b>${place === "" ? "" : ` ${place}`}${color === undefined ? "" : html` <i>${color.channel}: ${color.ramp}</i>`}<br /><span class="soft">${image}</span>${because === undefined ? nothing : html`<br /><em>${this.#say(because)}</em>`}</span>
    </li>`;
  }

  #mesh({ part, slot, group, file, node, because }: ExplainedMesh) {
    const place = [slot, group].filter(Boolean).join("/");
    return html`<li class=${because === undefined ? "shows" : "away"}>
      <span class="depth">${because === undefined ? "✓" : "–"}</span>
      <span><b>${part ?? "the body"}</b>${place === "" ? "" : ` ${place}`}<br /><span class="soft">${file}${node === undefined ? "" : `: ${node}`}</span>${because === undefined ? nothing : html`<br /><em>${this.#say(because)}</em>`}</span>
    </li>`;
  }

  #say(message: Message): string {
    const catalog = this.#shown?.catalog;
    return format(message, english, catalog && catalogTitles(catalog, "en"));
  }

  #turn(open: boolean): void {
    this.open = open;
  }

  #point(layer: ExplainedLayer | undefined): void {
    this.dispatchEvent(new LayerEvent(layer));
  }
}

/** The same for what is explained in the same way. */
function keyOf({ catalog, character, moment, signals, form, context }: Inspected): string {
  const animation = catalog.bodies.get(character.body)?.rig.animations.get(moment.animation);
  const frame = animation === undefined ? 0 : frameAt(animation, moment.time);
  return JSON.stringify([character, moment.animation, moment.facing, frame, signals, form, context]);
}

function formLine({ id, state, signals }: ExplainedForm) {
  const words = { shown: "is shown", active: "is active, and another one comes first", off: "is off" };
  const now = Object.entries(signals).map(
    ([name, value]) => `${name} is ${value === undefined ? "not set" : String(value)}`,
  );
  return html`<li class=${state}><b>${id}</b> ${words[state]} <span class="soft">${now.join(", ")}</span></li>`;
}

customElements.define("mantle-inspect", MantleInspect);

declare global {
  interface HTMLElementTagNameMap {
    "mantle-inspect": MantleInspect;
  }
}
