import { css } from "lit";

/** How the screen is laid out, besides what all screens share. */
export const fittingStyle = css`
  .leaves {
    display: grid;
    grid-template-columns: 300px minmax(0, 1fr);
    gap: 24px;
    flex: 1;
    min-height: 0;
  }
  .index {
    overflow: auto;
    padding: 3px;
  }
  .index .group {
    margin: 6px 0 0;
    font-family: var(--title-font);
    font-style: italic;
    font-weight: 700;
    color: var(--text-soft);
  }
  .entries {
    display: grid;
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
  .entries button {
    display: grid;
    padding: 2px 8px;
    text-align: start;
    border-color: transparent;
    border-bottom-color: var(--line);
    border-radius: 0;
    line-height: 18px;
  }
  .entries small {
    font-size: 13px;
    line-height: 16px;
    color: var(--text-soft);
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .entries [aria-current="page"] {
    border-color: var(--accent);
    box-shadow: inset 4px 0 0 var(--accent);
  }
  .page {
    display: flex;
    flex-direction: column;
    gap: 8px;
    min-width: 0;
    min-height: 0;
  }
  .page mantle-cards {
    flex: 1;
  }
  /* As high whatever it says, so that no card moves away from under the pointer. */
  .below {
    flex: none;
    height: clamp(104px, 24vh, 200px);
    overflow: auto;
    display: flex;
    flex-direction: column;
    gap: 8px;
    border-top: 1px solid var(--line);
    padding-top: 8px;
  }
  .below > * {
    flex: none;
  }
  .below .notice {
    min-height: 0;
  }
  @container (max-width: 1180px) {
    h1 {
      font-size: 26px;
      line-height: 32px;
    }
    .leaves {
      grid-template-columns: 150px minmax(0, 1fr);
      gap: 16px;
    }
    .entries {
      grid-template-columns: minmax(0, 1fr);
    }
  }
  @container (max-width: 900px) {
    .leaves {
      display: flex;
      flex-direction: column;
      gap: 8px;
    }
    .index,
    .entries {
      display: flex;
    }
    .index .group,
    .entries small {
      display: none;
    }
    .entries button {
      align-content: center;
      white-space: nowrap;
    }
    .page mantle-cards {
      flex: none;
      height: 430px;
    }
    .below {
      height: 216px;
    }
  }
`;
