import { css } from "lit";

/** How the stage looks. */
export const stageStyle = css`
  :host {
    display: flex;
    flex-direction: column;
    background: none;
    min-height: 240px;
  }
  .view {
    position: relative;
    flex: 1;
    min-height: 0;
    overflow: hidden;
    border: 1px solid var(--line);
    background: var(--surface-low);
    touch-action: pan-y;
    cursor: grab;
  }
  canvas {
    position: absolute;
    inset: 0;
    margin: auto;
    display: block;
  }
  .controls {
    direction: ltr;
    display: grid;
    grid-template-columns: 44px 44px minmax(0, 1fr) 44px 44px;
    gap: 8px;
    padding-top: 8px;
  }
  button {
    padding: 0;
  }
  .failure {
    position: absolute;
    inset: auto 8px 8px;
    margin: 0;
    padding: 8px;
    background: var(--surface-high);
  }
`;
