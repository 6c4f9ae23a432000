import { css } from "lit";

/** How the screen is laid out, besides what all screens share. */
export const rosterStyle = css`
  .way {
    display: inline-block;
  }
  :host(:dir(rtl)) .way {
    transform: scaleX(-1);
  }
  .pages {
    gap: 0;
  }
  .pages button {
    border-color: transparent;
    border-bottom: 2px solid var(--line);
    border-radius: 0;
  }
  .pages [aria-pressed="true"] {
    border-bottom-color: var(--accent);
    font-weight: 700;
  }
  .ledger > mantle-cards,
  .nobody {
    flex: 1;
  }
  .nobody {
    display: grid;
    place-items: center;
    font-size: 20px;
  }
  .deeds {
    border-top: 1px solid var(--line);
    padding-top: 12px;
    min-height: 57px;
  }
  .deeds input {
    flex: 1;
    max-width: 320px;
  }
  .ends .main {
    flex: 2;
  }
  @container (max-width: 900px) {
    .ledger > mantle-cards {
      flex: none;
      height: 430px;
    }
  }
`;
