import { css } from "lit";

/** How the screen is laid out, besides what all screens share. */
export const seatsStyle = css`
  :host {
    height: 100%;
    min-height: 0;
    overflow: auto;
    container-type: inline-size;
  }
  :host([placed]) {
    height: auto;
  }
  .screen {
    display: grid;
    grid-template-rows: auto minmax(206px, 1fr) minmax(0, 1.6fr);
    gap: 12px;
    height: 100%;
    padding: 16px 24px;
    max-width: 1440px;
    margin: 0 auto;
  }
  header {
    border-bottom: 1px solid var(--text);
    padding-bottom: 8px;
  }
  .clock {
    margin: 0;
    font-family: var(--title-font);
    font-size: 22px;
  }
  .nobody {
    display: grid;
    place-items: center;
    font-size: 20px;
  }
  /* Until somebody has joined, the seats are a strip, and the cards have the room. */
  .screen:not(:has(.seat:not(.empty))) {
    grid-template-rows: auto minmax(206px, 1fr) auto;
  }
  .seats {
    display: flex;
    gap: 16px;
    min-height: 0;
    margin: 0;
    padding: 3px;
    list-style: none;
    overflow: auto;
  }
  .seat {
    flex: 3 1 200px;
    display: flex;
    flex-direction: column;
    gap: 8px;
    min-width: 0;
    min-height: 0;
    padding: 8px;
    border: 1px solid var(--line);
  }
  .seat.empty {
    flex: 1 1 120px;
    min-height: 96px;
    border-style: dashed;
    align-items: center;
    justify-content: center;
    text-align: center;
  }
  .seat.ready {
    border-color: var(--accent);
    box-shadow: inset 0 0 0 2px var(--accent);
  }
  .seat > .row {
    flex-wrap: nowrap;
  }
  .seat h2 {
    font-size: 20px;
    line-height: 24px;
  }
  .seat small,
  .seat .state {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .seat mantle-stage {
    flex: 1;
    min-height: 96px;
  }
  .seat mantle-stage::part(controls) {
    display: none;
  }
  .seat .row button {
    flex: 1;
  }
  /** More than four stand beside their words, so that they are still drawn large. */
  .many {
    display: grid;
    grid-template-columns: repeat(4, minmax(0, 1fr));
    grid-auto-rows: minmax(0, 1fr);
    gap: 8px;
  }
  .many .seat:not(.empty) {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(0, 1.2fr);
    grid-template-rows: auto auto 1fr;
    align-items: start;
  }
  .many mantle-stage {
    grid-row: 1 / span 3;
    height: 100%;
  }
  .many .seat > .row {
    grid-column: 2;
    flex-wrap: wrap;
  }
  .many .seat > .spread {
    flex-direction: column;
    align-items: start;
    gap: 4px;
  }
  .many .seat h2 {
    flex-basis: 100%;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  .number {
    display: inline-grid;
    place-items: center;
    flex: none;
    width: 32px;
    height: 32px;
    border: 1px solid var(--text);
    background: var(--surface-high);
    font-weight: 700;
  }
  .ready .number {
    background: var(--text);
    color: var(--surface);
  }
  @container (max-width: 900px) {
    .screen {
      display: flex;
      flex-direction: column;
      height: auto;
      padding: 8px 16px 24px;
    }
    .screen > mantle-cards {
      height: 410px;
    }
    .seats {
      display: grid;
      grid-template-columns: repeat(2, minmax(0, 1fr));
      gap: 8px;
      overflow: visible;
    }
    .seat:not(.empty) {
      min-height: 256px;
    }
    .seat mantle-stage {
      min-height: 160px;
    }
    .seat > .row {
      flex-wrap: wrap;
      gap: 4px;
    }
    .seat .row button {
      padding: 0 4px;
    }
    .many {
      grid-auto-rows: auto;
    }
    .many .seat:not(.empty) {
      min-height: 208px;
    }
  }
`;
