import { css } from "lit";

/** How cards look. */
export const cardsStyle = css`
  :host {
    background: none;
    min-height: 0;
    overflow: auto;
    display: flex;
    flex-direction: column;
    scrollbar-color: var(--line) transparent;
    padding: 3px;
  }
  [role="listbox"] {
    position: relative;
    flex: none;
    margin-block: var(--margin-of-cards, 0);
  }
  [role="option"] {
    position: absolute;
    display: flex;
    flex-direction: column;
    align-items: center;
    padding: 3px;
    border: 1px solid var(--line);
    border-radius: 2px;
    background: var(--surface);
    font-size: 14px;
    line-height: 16px;
    text-align: center;
    cursor: pointer;
    overflow: hidden;
    user-select: none;
  }
  [role="option"]:hover {
    background: var(--surface-low);
  }
  [aria-selected="true"] {
    border-color: var(--accent);
    box-shadow: inset 0 0 0 2px var(--accent);
  }
  canvas {
    flex: none;
  }
  canvas.smooth {
    image-rendering: auto;
  }
  .blocked canvas,
  .locked canvas {
    opacity: 0.45;
  }
  /* Three lines: of a title that takes two, the note has one. */
  .words {
    max-width: 100%;
    display: -webkit-box;
    -webkit-line-clamp: 3;
    -webkit-box-orient: vertical;
    overflow: hidden;
  }
  .words > span {
    display: block;
  }
  .note {
    font-size: 13px;
    line-height: 14px;
    color: var(--text-soft);
  }
  .chosen .note {
    color: var(--accent-text);
  }
  .blocked .note {
    color: var(--danger);
  }
  .does {
    display: flex;
    flex: none;
    flex-direction: column;
    justify-content: center;
    gap: 4px;
    margin: 0;
    padding: 0;
    list-style: none;
    overflow: hidden;
    font-size: 16px;
    line-height: 20px;
  }
  .strip {
    display: flex;
    align-self: stretch;
    margin-inline: 8px;
    height: 10px;
    border: 1px solid var(--text);
    margin-bottom: 2px;
  }
  .strip i {
    flex: 1;
  }
  .marks {
    position: absolute;
    inset: 4px 4px auto;
    display: flex;
    flex-wrap: wrap;
    gap: 4px;
  }
  .marks b {
    min-width: 26px;
    padding: 3px 6px;
    border: 1px solid var(--text);
    background: var(--surface-high);
    font-size: 15px;
    line-height: 18px;
  }
  .marks .picked {
    background: var(--text);
    color: var(--surface);
  }
`;
