import { dragLayer } from './dragging';
import type { Budget } from './bench';

/** Records long tasks of the page, and the proofs that it draws from now on. */
const RECORD = `
  window.__long = [];
  new PerformanceObserver((list) => { for (const entry of list.getEntries()) window.__long.push(entry.duration); }).observe({ entryTypes: ['longtask'] });
  performance.clearMeasures('proof');`;

const bench: Budget = {
  name: 'live-proof',
  async measure() {
    return dragLayer(
      async ({ browser }) => {
        // The first proof brings the shot; what is measured is dragging.
        await browser.until(
          async () => Boolean(await (await browser.find('[data-testid=proof]')).getAttribute('data-revision')),
          'the proof',
        );
        await browser.driver.executeScript(RECORD);
      },
      async ({ browser }) => {
        const { proofs, long, side } = await browser.driver.executeScript<{
          proofs: number[];
          long: number[];
          side: number;
        }>(
          "return { proofs: performance.getEntriesByName('proof').map((e) => e.duration), long: window.__long, side: document.querySelector('[data-testid=proof]').width };",
        );
        const sorted = proofs.sort((a, b) => a - b);
        const at = (share: number) =>
          sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))]!.toFixed(1);
        const longest = Math.max(0, ...long);
        return `33 ms a proof of ${side} × ${side} px while dragging, no task over 50 ms on the main thread (median ${at(0.5)} ms, 95th ${at(0.95)} ms, longest task ${longest < 50 ? 'under 50' : longest.toFixed(0)} ms, ${sorted.length} proofs, ten layers)`;
      },
    );
  },
};

export default bench;
