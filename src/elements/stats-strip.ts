import { css, html } from "lit";
import { getOwn } from "../core/base/record.ts";
import type { Catalog } from "../core/catalog/model/catalog.ts";
import type { Character } from "../core/character/character.ts";
import type { Context } from "../core/character/context.ts";
import { statsOf } from "../core/rules/stats.ts";
import type { ScreenElement } from "./screen-element.ts";
import type { WearingText } from "./texts.ts";

/** What a strip of stats is made of. */
export interface StatsShown {
  readonly catalog: Catalog;
  readonly before: Character;
  /** The character as it would be. */
  readonly after: Character;
  readonly context: Context;
}

/** Every stat that is something, before and after; a change is shown by an arrow, not by color alone. */
export function renderStats(
  screen: ScreenElement<object, WearingText>,
  { catalog, before, after, context }: StatsShown,
) {
  const now = statsOf(catalog, before, context);
  const then = statsOf(catalog, after, context);
  const shown = [...catalog.stats.keys()].filter(
    (stat) => (getOwn(now, stat) ?? 0) !== 0 || (getOwn(then, stat) ?? 0) !== 0,
  );
  return html`<dl class="stats" aria-label=${screen.say("stats")}>
    ${shown.map((stat) => {
      const [is, will] = [getOwn(now, stat) ?? 0, getOwn(then, stat) ?? 0];
      const way = will > is ? "more" : will < is ? "less" : "";
      return html`<div class=${way}>
          <dt>${screen.titleOf(catalog, "stats", stat)}</dt>
          <dd>${screen.number(is)}${way === "" ? "" : html` <b>${way === "more" ? "▲" : "▼"} ${screen.number(will)}</b>`}</dd>
        </div>`;
    })}
  </dl>`;
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
