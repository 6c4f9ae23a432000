import { css, html } from "lit";
import type { Catalog, Channel } from "../core/catalog/model/catalog.ts";
import type { Look } from "../core/look/look.ts";

/** What rows of swatches are made of. */
export interface SwatchesShown {
  readonly catalog: Catalog;
  readonly look: Look;
  /** The channels to show a row for. */
  readonly channels: readonly Channel[];
  readonly label: (channel: Channel, ramp: string | undefined) => string;
  readonly titleOf: (channel: Channel) => string;
  readonly paint: (channel: string, ramp: string) => void;
  readonly preview: (channel: string, ramp: string | undefined) => void;
}

/** The color of a ramp that stands for it, as CSS: the one in its middle. */
export function middleColor(colors: readonly number[]): string {
  return cssColor(colors[Math.floor(colors.length / 2)] ?? 0);
}

/** A color `0xRRGGBB` as CSS. */
export function cssColor(color: number): string {
  return `#${color.toString(16).padStart(6, "0")}`;
}

/** The channels that show on a figure, in the order of the catalog: of some layers, or of all. */
export function shownChannels(
  catalog: Catalog,
  look: Look,
  isMeant: (part: string | undefined) => boolean,
): readonly Channel[] {
  const shown = new Set(look.layers.filter(({ part }) => isMeant(part)).map(({ recolor }) => recolor?.channel));
  return [...catalog.channels.values()].filter(({ id }) => shown.has(id));
}

/** A row of ramps for each channel; the one in use is marked by a ring and a tick. */
export function renderSwatches({ catalog, look, channels, label, titleOf, paint, preview }: SwatchesShown) {
  const inUse = new Map(
    look.layers.flatMap(({ recolor }) => (recolor ? [[recolor.channel, recolor.ramp] as const] : [])),
  );
  return html`<div class="swatches">
    ${channels.map((channel) => {
      const current = inUse.get(channel.id);
      return html`<div class="channel" role="group" aria-label=${titleOf(channel)} data-group>
        <span aria-hidden="true">${titleOf(channel)}</span>
        ${channel.ramps.map((id) => {
          const color = middleColor(catalog.ramps.get(id)?.colors ?? []);
          return html`<button
            type="button"
            data-swatch="${channel.id} ${id}"
            aria-pressed=${current === id}
            aria-label=${label(channel, id)}
            title=${label(channel, id)}
            @click=${() => paint(channel.id, id)}
            @pointerenter=${(event: PointerEvent) => event.pointerType === "mouse" && preview(channel.id, id)}
            @pointerleave=${() => preview(channel.id, undefined)}
            @focus=${() => preview(channel.id, id)}
            @blur=${() => preview(channel.id, undefined)}
          ><i style="background: ${color}"></i></button>`;
        })}
        ${
          channel.custom
            ? html`<input type="color" aria-label=${label(channel, undefined)} .value=${current?.startsWith("#") ? current : "#808080"}
              @change=${(event: Event) => event.target instanceof HTMLInputElement && paint(channel.id, event.target.value)} />`
            : ""
        }
      </div>`;
    })}
  </div>`;
}

export const swatchStyle = css`
  .swatches {
    display: flex;
    flex-wrap: wrap;
    gap: 0 24px;
  }
  .channel {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
  }
  .channel > span {
    min-width: 64px;
  }
  .channel button {
    position: relative;
    border: 0;
    padding: 8px;
  }
  .channel i {
    display: block;
    width: 28px;
    height: 28px;
    border: 1px solid var(--text);
  }
  .channel [aria-pressed="true"] i {
    outline: 3px solid var(--accent);
    outline-offset: 1px;
  }
  .channel [aria-pressed="true"]::after {
    content: "✓";
    position: absolute;
    inset: 0;
    display: grid;
    place-items: center;
    color: white;
    text-shadow: 0 0 2px black, 0 0 2px black;
    font-weight: 700;
  }
  input[type="color"] {
    width: 44px;
    padding: 6px;
  }
`;
