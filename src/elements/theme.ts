import { css } from "lit";

/**
 * What every screen shares. A page themes the screens by setting the custom properties; the values here are a ledger's: paper,
 * tide ink, brass for what is chosen, madder for what is wrong.
 */
export const theme = css`
  :host {
    --surface: var(--mantle-surface, #f4ecdc);
    --surface-low: var(--mantle-surface-low, #e9dec7);
    --surface-high: var(--mantle-surface-high, #fffaf0);
    --text: var(--mantle-text, #16323a);
    --text-soft: var(--mantle-text-soft, #4b626a);
    --line: var(--mantle-line, #cbbd9f);
    --accent: var(--mantle-accent, #b98a2f);
    --accent-text: var(--mantle-accent-text, #74520f);
    --danger: var(--mantle-danger, #9c3b2e);
    --title-font: var(--mantle-title-font, Alegreya, Georgia, serif);
    --text-font: var(--mantle-text-font, "Atkinson Hyperlegible", system-ui, sans-serif);
    display: block;
    box-sizing: border-box;
    overflow-wrap: anywhere;
    hyphens: auto;
    color: var(--text);
    background: var(--surface);
    font: 16px / 24px var(--text-font);
  }
  :host([hidden]) {
    display: none;
  }
  * {
    box-sizing: border-box;
  }
  h1,
  h2 {
    margin: 0;
    font-family: var(--title-font);
  }
  h1 {
    font-size: 32px;
    line-height: 40px;
  }
  h2 {
    font-size: 22px;
    line-height: 32px;
  }
  canvas {
    image-rendering: pixelated;
  }
  button,
  input,
  select {
    font: inherit;
    color: inherit;
    background: transparent;
    border: 1px solid var(--line);
    border-radius: 2px;
    min-height: 44px;
    min-width: 44px;
    padding: 0 12px;
  }
  input,
  select {
    background: var(--surface-high);
  }
  button {
    cursor: pointer;
  }
  button:hover:not(:disabled) {
    background: var(--surface-low);
  }
  button:disabled {
    color: var(--text-soft);
    border-style: dashed;
    cursor: default;
  }
  button.main {
    background: var(--text);
    border-color: var(--text);
    color: var(--surface);
  }
  button.main:disabled {
    background: transparent;
    border-color: var(--line);
    color: var(--text-soft);
  }
  button.main:hover:not(:disabled) {
    background: var(--text-soft);
  }
  :focus-visible {
    outline: 3px solid var(--accent);
    outline-offset: 2px;
  }
  .row {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: center;
  }
  .arrow {
    font-size: 20px;
  }
  .spread {
    justify-content: space-between;
  }
  .soft {
    color: var(--text-soft);
  }
  .wrong {
    color: var(--danger);
  }
`;

/** What is read out and not seen. */
export const unseenStyle = css`
  .unseen {
    position: absolute;
    width: 1px;
    height: 1px;
    overflow: hidden;
    clip-path: inset(50%);
    white-space: nowrap;
  }
`;

/** A screen of two leaves: the figure, and beside it, or below on a narrow page, what can be done. */
export const screenLayout = css`
  :host {
    height: 100%;
    min-height: 0;
    overflow: auto;
    container-type: inline-size;
  }
  /* What the page places by its edges is as high as they say. */
  :host([placed]) {
    height: auto;
  }
  .screen {
    display: grid;
    grid-template-columns: clamp(280px, 32cqi, 400px) minmax(0, 1fr);
    gap: 24px;
    height: 100%;
    padding: 16px 24px;
    max-width: 1440px;
    margin: 0 auto;
  }
  .figure,
  .ledger {
    display: flex;
    flex-direction: column;
    gap: 12px;
    min-height: 0;
    min-width: 0;
  }
  .figure mantle-stage,
  ::slotted([slot="stage"]) {
    flex: 1;
    min-height: 0;
  }
  .ledger > header {
    border-bottom: 1px solid var(--text);
    padding-bottom: 8px;
  }
  .name input {
    flex: 1;
    min-width: 0;
  }
  .ends {
    flex-wrap: nowrap;
  }
  .ends > button {
    flex: 1;
  }
  @container (max-width: 900px) {
    .screen {
      grid-template-columns: minmax(0, 1fr);
      height: auto;
      padding: 8px 16px 0;
      gap: 16px;
    }
    .figure {
      display: contents;
    }
    .figure mantle-stage,
    ::slotted([slot="stage"]) {
      order: -1;
      flex: none;
      height: clamp(200px, 36vh, 344px);
    }
    .name,
    .figure .ends {
      order: 1;
    }
    /* What ends the screen stays in sight, whatever is scrolled. */
    .ends {
      position: sticky;
      bottom: 0;
      z-index: 1;
      padding-block: 8px;
      background: var(--surface);
      border-top: 1px solid var(--line);
    }
    h1 {
      font-size: 26px;
      line-height: 32px;
    }
  }
`;
