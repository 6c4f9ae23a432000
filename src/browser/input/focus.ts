import type { Direction } from "./intent.ts";

const focusable = "button, input, select, textarea, a[href], [tabindex]";

/** What has the focus, looked for through every open shadow root. */
export function focusedElement(): HTMLElement | undefined {
  let element = document.activeElement;
  while (element?.shadowRoot?.activeElement) element = element.shadowRoot.activeElement;
  return element instanceof HTMLElement && element !== document.body ? element : undefined;
}

/** Everything inside that can take the focus by Tab, in the order of the page, through every open shadow root. */
export function tabbableIn(root: Element | ShadowRoot): readonly HTMLElement[] {
  const found: HTMLElement[] = [];
  const visit = (element: Element) => {
    if (element instanceof HTMLSlotElement && element.assignedElements().length > 0) {
      for (const each of element.assignedElements()) visit(each);
      return;
    }
    if (element instanceof HTMLElement && element.matches(focusable) && element.tabIndex >= 0 && isUsable(element)) {
      found.push(element);
    }
    for (const child of element.shadowRoot?.children ?? element.children) visit(child);
  };
  for (const child of root instanceof Element ? (root.shadowRoot?.children ?? root.children) : root.children)
    visit(child);
  return found;
}

function isUsable(element: HTMLElement): boolean {
  return !element.matches(":disabled") && element.checkVisibility();
}

/** Whether an element is another, or lies in it, through shadow roots. */
export function isWithin(root: Element, element: Node | null | undefined): boolean {
  for (let node: Node | null = element ?? null; node; node = above(node)) if (node === root) return true;
  return false;
}

function above(node: Node): Node | null {
  return node instanceof ShadowRoot ? node.host : node.parentNode;
}

/** Moves the focus to the nearest control that way, preferring those of the same group; `false` where there is none. */
export function moveFocus(root: Element, way: Direction): boolean {
  const focused = focusedElement();
  const all = tabbableIn(root);
  if (focused === undefined || !all.includes(focused)) return focusOn(all[0]);
  const group = groupOf(focused);
  const from = focused.getBoundingClientRect();
  const candidates = all.filter((each) => each !== focused);
  const own = candidates.filter((each) => groupOf(each) === group);
  return focusOn(nearest(from, own, way) ?? nearest(from, candidates, way));
}

/** Moves the focus to the first control of the next group, or of the one before; wraps. */
export function moveToGroup(root: Element, by: 1 | -1): boolean {
  const all = tabbableIn(root);
  const groups = [...new Set(all.map(groupOf))];
  const focused = focusedElement();
  const at = focused === undefined ? -1 : groups.indexOf(groupOf(focused));
  const next = groups[at < 0 ? 0 : (at + by + groups.length) % groups.length];
  return focusOn(all.find((each) => groupOf(each) === next));
}

function focusOn(element: HTMLElement | undefined): boolean {
  element?.focus();
  return element !== undefined;
}

/** The focus group an element belongs to: the nearest `data-group` around it. */
function groupOf(element: Element): Element | undefined {
  for (let node: Node | null = element; node; node = above(node)) {
    if (node instanceof HTMLElement && node.dataset["group"] !== undefined) return node;
  }
  return undefined;
}

/** The nearest that way: how far along it, and twice as much for how far aside. */
function nearest(from: DOMRect, elements: readonly HTMLElement[], way: Direction): HTMLElement | undefined {
  let best: { element: HTMLElement; cost: number } | undefined;
  for (const element of elements) {
    const cost = costOf(from, element.getBoundingClientRect(), way);
    if (cost !== undefined && (best === undefined || cost < best.cost)) best = { element, cost };
  }
  return best?.element;
}

function costOf(from: DOMRect, to: DOMRect, way: Direction): number | undefined {
  const isAcross = way === "left" || way === "right";
  const middle = (rect: DOMRect, across: boolean) => (across ? rect.left + rect.width / 2 : rect.top + rect.height / 2);
  const sign = way === "right" || way === "down" ? 1 : -1;
  const along = (middle(to, isAcross) - middle(from, isAcross)) * sign;
  const isBeyond = isAcross
    ? sign * (sign > 0 ? to.left - from.right : to.right - from.left) > -4
    : sign * (sign > 0 ? to.top - from.bottom : to.bottom - from.top) > -4;
  if (along <= 0 || !isBeyond) return undefined;
  const [start, end, otherStart, otherEnd] = isAcross
    ? [from.top, from.bottom, to.top, to.bottom]
    : [from.left, from.right, to.left, to.right];
  const aside = Math.max(0, otherStart - end, start - otherEnd);
  const off = Math.abs(middle(to, !isAcross) - middle(from, !isAcross));
  return along + 2 * aside + off / 8;
}
