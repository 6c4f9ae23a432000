import { css } from "lit";

/** The panel over a page, or in it. */
export const inspectStyle = css`
  :host {
    position: fixed;
    z-index: 2147483000;
    inset: 0 0 auto auto;
    background: transparent;
    font-size: 14px;
    line-height: 20px;
  }
  :host([docked]) {
    position: static;
  }
  .opener {
    float: right;
    margin: 8px;
    background: var(--surface-high);
    border-color: var(--text);
  }
  .panel {
    width: min(380px, 100vw);
    max-height: 100vh;
    overflow: auto;
    padding: 12px 16px;
    background: var(--surface);
    border-left: 1px solid var(--text);
    border-bottom: 1px solid var(--text);
  }
  :host([docked]) .panel {
    width: auto;
    max-height: none;
    padding: 0;
    border: 0;
    overflow: visible;
  }
  h3 {
    margin: 16px 0 4px;
    font: 700 15px / 20px var(--text-font);
  }
  h3 .soft {
    font-weight: 400;
  }
  p {
    margin: 0;
  }
  ol,
  ul {
    list-style: none;
    margin: 0;
    padding: 0;
  }
  .layers li {
    display: grid;
    grid-template-columns: 44px minmax(0, 1fr);
    gap: 8px;
    padding: 4px 0;
    border-top: 1px solid var(--line);
  }
  .layers li:hover,
  .layers li:focus-visible {
    background: var(--surface-low);
    outline: 2px solid var(--accent);
    outline-offset: -2px;
  }
  .depth {
    font-variant-numeric: tabular-nums;
    text-align: right;
    color: var(--text-soft);
  }
  .away b {
    text-decoration: line-through;
    font-weight: 400;
  }
  em {
    font-style: normal;
    color: var(--danger);
  }
  i {
    font-style: normal;
    color: var(--accent-text);
  }
  .soft {
    color: var(--text-soft);
    overflow-wrap: anywhere;
  }
  .wrong,
  .broken {
    color: var(--danger);
  }
  .shown b {
    color: var(--accent-text);
  }
  .points {
    display: flex;
    flex-wrap: wrap;
    gap: 0 16px;
  }
  .points b {
    font-weight: 400;
    font-variant-numeric: tabular-nums;
  }
`;
