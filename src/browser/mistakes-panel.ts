/** What is wrong, by whose it is. */
const mistakes = new Map<string, readonly string[]>();

const style = `
  :host { position: fixed; inset: auto 16px 16px; z-index: 2147483647; max-height: 60vh; overflow: auto; display: block; }
  div { padding: 16px 24px; background: #fffaf0; color: #16323a; border: 2px solid #9c3b2e; font: 15px/22px ui-monospace, monospace; }
  h2 { margin: 0 0 8px; font: 700 18px/24px system-ui, sans-serif; color: #9c3b2e; }
  p { margin: 0 0 8px; overflow-wrap: anywhere; white-space: pre-wrap; }
`;

/**
 * Shows whoever makes the game what is wrong in a catalog, over the page, until it is mended. The page stays as it was.
 *
 * @param owner - whose mistakes they are; none takes back what it said before.
 */
export function showMistakes(owner: string, says: readonly string[]): void {
  if (says.length === 0) mistakes.delete(owner);
  else mistakes.set(owner, says);
  const all = [...mistakes.values()].flat();
  const id = "mantle-mistakes";
  const present = document.getElementById(id);
  if (all.length === 0) {
    present?.remove();
    return;
  }
  const panel = present ?? document.createElement("div");
  panel.id = id;
  panel.setAttribute("role", "alert");
  const root = panel.shadowRoot ?? panel.attachShadow({ mode: "open" });
  const [sheet, box, title] = ["style", "div", "h2"].map((tag) => document.createElement(tag)) as [
    HTMLElement,
    HTMLElement,
    HTMLElement,
  ];
  sheet.textContent = style;
  title.textContent = "The catalog cannot be used as it is. The page shows it as it was.";
  box.append(title, ...all.map((line) => Object.assign(document.createElement("p"), { textContent: line })));
  root.replaceChildren(sheet, box);
  if (present === null) document.documentElement.append(panel);
}
