/** A text as it stands in a page, or in quotes in a tag of it. */
export function escapeHtml(text: string): string {
  return text.replace(/[&<>"']/g, (letter) => `&#${letter.charCodeAt(0)};`);
}
