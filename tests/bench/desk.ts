import { dragLayer, MOVES } from './dragging';
import type { Budget } from './bench';

/** Records frames and long tasks in the page until it is told to stop. */
const RECORD = `
  window.__frames = []; window.__long = []; window.__go = true;
  new PerformanceObserver((list) => { for (const entry of list.getEntries()) window.__long.push(entry.duration); }).observe({ entryTypes: ['longtask'] });
  let last = performance.now();
  const tick = (now) => { window.__frames.push(now - last); last = now; if (window.__go) requestAnimationFrame(tick); };
  requestAnimationFrame(tick);`;

const bench: Budget = {
  name: 'desk',
  async measure() {
    let before = 0;
    return dragLayer(
      async (page) => {
        await page.browser.driver.executeScript(RECORD);
        before = await page.worked();
      },
      async (page) => {
        const busy = (await page.worked()) - before;
        const { frames, long } = await page.browser.driver.executeScript<{ frames: number[]; long: number[] }>(
          'window.__go = false; return { frames: window.__frames, long: window.__long };',
        );
        const sorted = frames.slice(1).sort((a, b) => a - b);
        const at = (share: number) =>
          sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))]!.toFixed(1);
        const longest = Math.max(0, ...long);
        return `16.7 ms a frame, 33 ms at the 95th percentile, no task over 50 ms (work ${(busy / sorted.length).toFixed(1)} ms a frame on average, frames come every ${at(0.5)} ms, 95th ${at(0.95)} ms, longest task ${longest < 50 ? 'under 50' : longest.toFixed(0)} ms, ${sorted.length} frames of ${MOVES} moves, ten layers)`;
      },
    );
  },
};

export default bench;
