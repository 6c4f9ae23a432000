import { css } from "lit";

/** How the screen is laid out, besides what all screens share. */
export const equipmentStyle = css`
  .halves {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
    gap: 24px;
    flex: 1;
    min-height: 0;
  }
  .half {
    overflow: auto;
    padding: 3px;
  }
  .tiles {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(160px, 1fr));
    gap: 8px;
  }
  .tile {
    display: grid;
    grid-template-columns: 56px minmax(0, 1fr);
    gap: 8px;
    align-items: center;
    padding: 3px;
    min-height: 64px;
    text-align: start;
    line-height: 18px;
    touch-action: none;
    background: var(--surface);
  }
  .tile .icon {
    width: 56px;
    height: 56px;
    display: grid;
    place-items: center;
    background: var(--surface-low);
    overflow: hidden;
  }
  .icon canvas {
    width: 100%;
    height: 100%;
  }
  /* A bag has fewer things than a body has slots: on a desk they are drawn twice as large. */
  @container (min-width: 1100px) {
    [data-bag] .tile {
      grid-template-columns: 112px minmax(0, 1fr);
    }
    [data-bag] .icon {
      width: 112px;
      height: 112px;
    }
    .tile {
      min-height: 72px;
    }
  }
  .tile small {
    display: block;
    color: var(--text-soft);
    font-size: 13px;
  }
  .empty {
    border-style: dashed;
  }
  .takes {
    border-color: var(--accent);
    box-shadow: inset 0 0 0 2px var(--accent);
  }
  .ghost {
    position: fixed;
    z-index: 1;
    pointer-events: none;
    width: 56px;
    height: 56px;
    margin: -28px 0 0 -28px;
    border: 1px solid var(--accent);
    background: var(--surface-high);
  }
  @container (max-width: 900px) {
    .halves {
      grid-template-columns: minmax(0, 1fr);
    }
  }
`;
