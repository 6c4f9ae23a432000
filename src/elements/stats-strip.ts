import { css, html } from "lit";
import { repeat } from "lit/directives/repeat.js";
import { getOwn } from "../core/base/record.ts";
import type { Catalog } from "../core/catalog/model/catalog.ts";
import type { Character } from "../core/character/character.ts";
import type { Context } from "../core/character/context.ts";
import { statsOf } from "../core/rules/stats.ts";

/** What a strip of stats is made of. */
export interface StatsShown {
  readonly catalog: Catalog;
  readonly before: Character;
  /** The character as it would be. */
  readonly after: Character;
  readonly context: Context;
  readonly label: string;
  readonly titleOf: (stat: string) => string;
}

/** Every stat that is something, before and after; a change is shown by an arrow, not by color alone. */
export function renderStats({ catalog, before, after, context, label, titleOf }: StatsShown) {
  const now = statsOf(catalog, before, context);
  const then = statsOf(catalog, after, context);
  const shown = [...catalog.stats.keys()].filter(
    (stat) => (getOwn(now, stat) ?? 0) !== 0 || (getOwn(then, stat) ?? 0) !== 0,
  );
  return html`<dl class="stats" aria-label=${label}>
    ${repeat(
      shown,
      (stat) => stat,
      (stat) => {
        const [is, will] = [getOwn(now, stat) ?? 0, getOwn(then, stat) ?? 0];
        const way = will > is ? "more" : will < is ? "less" : "";
        return html`<div class=${way}>
          <dt>${titleOf(stat)}</dt>
          <dd>${rounded(is)}${way === "" ? "" : html` <b>${way === "more" ? "▲" : "▼"} ${rounded(will)}</b>`}</dd>
        </div>`;
      },
    )}
  </dl>`;
}

function rounded(value: number): string {
  return String(Math.round(value * 100) / 100);
}

export const statsStyle = css`
  .stats {
    display: flex;
    flex-wrap: wrap;
    gap: 0 20px;
    margin: 0;
    min-height: 48px;
    align-content: flex-start;
    font-size: 15px;
  }
  .stats div {
    display: flex;
    gap: 6px;
  }
  .stats dt {
    color: var(--text-soft);
  }
  .stats dd {
    margin: 0;
    font-variant-numeric: tabular-nums;
  }
  .more b {
    color: var(--accent-text);
  }
  .less b {
    color: var(--danger);
  }
`;
