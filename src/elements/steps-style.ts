import { css } from "lit";

/** How the screen is laid out, besides what all screens share. */
export const stepsStyle = css`
  /* The figure has as much room as the question, where there is enough for both. */
  @container (min-width: 1100px) {
    .screen {
      grid-template-columns: minmax(0, 2fr) minmax(0, 3fr);
    }
  }
  .way {
    display: flex;
    flex-wrap: wrap;
    gap: 0 4px;
    margin: 0;
    padding: 0;
    list-style: none;
  }
  .way button {
    border-color: transparent;
    border-bottom: 2px solid var(--line);
    border-radius: 0;
    padding: 0 10px;
  }
  .way .answered {
    border-bottom-color: var(--text);
  }
  .way [aria-current="step"] {
    border-bottom-color: var(--accent);
    font-weight: 700;
  }
  .question {
    display: flex;
    flex-direction: column;
    gap: 12px;
    flex: 1;
    min-height: 0;
  }
  .question h2 {
    outline: none;
    font-size: 26px;
  }
  .question mantle-cards {
    --margin-of-cards: auto;
    flex: 1;
  }
  .question input {
    flex: 1;
    max-width: 320px;
    font-size: 20px;
  }
  .answers {
    margin: 0;
    padding: 0;
    list-style: none;
    overflow: auto;
    border-top: 1px solid var(--line);
  }
  .answers button {
    display: grid;
    grid-template-columns: minmax(96px, 1fr) 3fr;
    align-items: center;
    width: 100%;
    border: 0;
    border-bottom: 1px solid var(--line);
    border-radius: 0;
    text-align: start;
  }
  .ends #next,
  .ends #finish {
    flex: 2;
  }
  @container (max-width: 900px) {
    .question mantle-cards {
      --margin-of-cards: 0;
      flex: none;
      height: 420px;
    }
    .question .notice {
      min-height: 0;
    }
  }
`;
