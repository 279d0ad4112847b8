import type { Browser } from './browser';

/**
 * Runs in the page: what scrolls sideways, is cut, is off to the right, is covered by something else, or is too small to hit. Wide grids that
 * scroll by design are marked `data-wide`. Sizes of targets as WCAG 2.2, 2.5.8: 24 × 24 px, or smaller with so much room around that a
 * circle of 24 px at its middle meets no other target; links in a line of text are left out.
 */
function measure(): string[] {
  const told = new Set<string>();
  const shown = (e: Element): boolean => {
    const r = e.getBoundingClientRect();
    // What is folded away has a size, and nobody sees it.
    const seen = e.checkVisibility() && getComputedStyle(e).visibility !== 'hidden' && !e.closest('.sr-only');
    return seen && r.width > 0 && r.height > 0;
  };
  const name = (e: Element): string =>
    `${e.tagName.toLowerCase()} “${(e.getAttribute('aria-label') ?? e.textContent ?? '').trim().replace(/\s+/g, ' ').slice(0, 40)}”`;
  const dialog = document.querySelector('[role=dialog]');
  const root = dialog ?? document.body;
  const scrolls = (e: Element) => /(auto|scroll)/.test(getComputedStyle(e).overflowX);
  for (const e of root.querySelectorAll('*')) {
    if (!shown(e) || e.closest('svg, [data-wide]')) continue;
    if (scrolls(e) && e.scrollWidth > e.clientWidth + 1)
      told.add(`scrolls sideways, ${e.scrollWidth} in ${e.clientWidth}: ${name(e)}`);
  }
  if (document.documentElement.scrollWidth > innerWidth + 1) told.add('the page scrolls sideways');
  const targets = [...root.querySelectorAll('button, a[href], input, select, textarea, [role=tab]')].filter(
    (e) => shown(e) && (e as HTMLInputElement).type !== 'file' && !(e as HTMLButtonElement).disabled,
  );
  const boxOf = (e: Element): DOMRect => {
    const label = e.closest('label') ?? (e as HTMLInputElement).labels?.[0];
    const own = e.getBoundingClientRect();
    const around = label?.contains(e) ? label.getBoundingClientRect() : own;
    return around.width * around.height > own.width * own.height ? around : own;
  };
  const boxes = targets.map(boxOf);
  targets.forEach((e, i) => {
    const r = boxes[i]!;
    if (r.right > innerWidth + 1 && !e.closest('[data-wide]'))
      told.add(`off to the right, ${Math.round(r.right)}: ${name(e)}`);
    const inline = getComputedStyle(e).display === 'inline' && e.tagName === 'A';
    if (!inline && (r.width < 23.5 || r.height < 23.5)) {
      const [x, y] = [r.left + r.width / 2, r.top + r.height / 2];
      const near = boxes.some(
        (q, j) =>
          j !== i &&
          !targets[j]!.contains(e) &&
          Math.hypot(Math.max(q.left - x, 0, x - q.right), Math.max(q.top - y, 0, y - q.bottom)) < 12,
      );
      if (near) told.add(`too small, ${Math.round(r.width)} × ${Math.round(r.height)}: ${name(e)}`);
    }
    const own = e.getBoundingClientRect();
    const [x, y] = [own.left + own.width / 2, own.top + own.height / 2];
    let visible = x > 0 && y > 0 && x < innerWidth && y < innerHeight;
    for (let p = e.parentElement; p && visible; p = p.parentElement) {
      const q = p.getBoundingClientRect();
      if (getComputedStyle(p).overflow !== 'visible' && (x < q.left || x > q.right || y < q.top || y > q.bottom))
        visible = false;
    }
    const top = visible ? document.elementFromPoint(x, y) : null;
    if (
      top &&
      !e.contains(top) &&
      !top.contains(e) &&
      !top.closest('label')?.contains(e) &&
      !top.closest('[data-sticky]')
    )
      told.add(`covered by ${name(top)}: ${name(e)}`);
  });
  return [...told];
}

/** What is wrong with the size of the page, or of the dialog that lies over it, just now. */
export const misfits = (browser: Browser): Promise<string[]> =>
  browser.driver.executeScript<string[]>(`return (${measure.toString()})()`);
