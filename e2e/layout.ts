import { expect, type Page } from '@playwright/test';

const widths = [
  { width: 1280, height: 800 },
  { width: 800, height: 1100 },
  { width: 390, height: 844 },
];

/**
 * At desk, tablet and phone width: nothing wider than the page, no text cut off by what holds it, no
 * text over text. What lies in a scrolling box is judged as far as it shows.
 */
export async function expectTidy(
  page: Page,
  name: string,
  { at = widths, patience = 8_000 } = {},
): Promise<void> {
  const before = page.viewportSize()!;
  for (const size of at) {
    await page.setViewportSize(size);
    // Charts follow the width a moment later.
    await expect
      .poll(async () => (await layoutFaults(page)).map((f) => `${name}, ${size.width} px: ${f}`), {
        timeout: patience,
      })
      .toEqual([]);
  }
  await page.setViewportSize(before);
}

const layoutFaults = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    interface Piece {
      text: string;
      element: Element;
      x: number;
      y: number;
      right: number;
      bottom: number;
    }
    const faults: string[] = [];
    const over = document.documentElement.scrollWidth - window.innerWidth;
    if (over > 0) faults.push(`the page is ${over} px too wide`);
    const pieces: Piece[] = [];
    const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
    for (let node = walker.nextNode(); node; node = walker.nextNode()) {
      const element = node.parentElement!;
      const text = node.textContent!.trim();
      if (!text || element.closest('script, style, noscript, [aria-hidden="true"]')) continue;
      if (!element.checkVisibility({ opacityProperty: true, visibilityProperty: true })) continue;
      const range = document.createRange();
      range.selectNodeContents(node);
      for (const r of range.getClientRects()) {
        let [x, y, right, bottom] = [r.left, r.top, r.right, r.bottom];
        let hidden = right - x < 2 || bottom - y < 2;
        let cut: string | null = null;
        for (let box: Element | null = element; box && box !== document.body; box = box.parentElement) {
          const style = getComputedStyle(box);
          // Said to readers only, or out of the way until it is reached.
          if (style.clip === 'rect(0px, 0px, 0px, 0px)' || style.clipPath.startsWith('inset(50%'))
            hidden = true;
          if (style.overflowX === 'visible' || style.display === 'inline' || box instanceof SVGElement)
            continue;
          const b = box.getBoundingClientRect();
          if (
            /hidden|clip/.test(style.overflowX) &&
            style.textOverflow !== 'ellipsis' &&
            right > b.right + 2 &&
            x < b.right
          )
            cut = box.className.toString().slice(0, 40);
          [x, y, right, bottom] = [
            Math.max(x, b.left),
            Math.max(y, b.top),
            Math.min(right, b.right),
            Math.min(bottom, b.bottom),
          ];
        }
        if (hidden || right - x < 2 || bottom - y < 2 || right < 0) continue;
        if (cut !== null) faults.push(`"${text.slice(0, 40)}" is cut off (${cut})`);
        pieces.push({ text, element, x, y, right, bottom });
      }
    }
    pieces.sort((a, b) => a.y - b.y);
    pieces.forEach((a, i) => {
      for (let j = i + 1; j < pieces.length && pieces[j]!.y < a.bottom; j++) {
        const b = pieces[j]!;
        const [w, h] = [Math.min(a.right, b.right) - Math.max(a.x, b.x), Math.min(a.bottom, b.bottom) - b.y];
        // Lines of one paragraph and their ascenders touch a little.
        if (
          w > 3 &&
          h > 5 &&
          a.element !== b.element &&
          !a.element.contains(b.element) &&
          !b.element.contains(a.element)
        )
          faults.push(`"${a.text.slice(0, 30)}" lies over "${b.text.slice(0, 30)}"`);
      }
    });
    return [...new Set(faults)].slice(0, 12);
  });
