/** Replaces what is in an element; who had the focus gives it to what stands in the same place. */
export function replaceKeepingFocus(element: HTMLElement, ...nodes: readonly Node[]): void {
  const focusable = () => [...element.querySelectorAll<HTMLElement>("button, select, [tabindex]")];
  const at = focusable().indexOf(document.activeElement as HTMLElement);
  element.replaceChildren(...nodes);
  if (at >= 0) focusable()[at]?.focus({ preventScroll: true });
}
