import type { Browser, Page } from '@playwright/test';
import { type Bench, IS_SMALL, round, sized } from './figure';
import { forget, largePool, startProduct, untilQuiet } from './large-pool';

const SECONDS = sized('BENCH_SCREEN_SECONDS', 4, 1);
const VIEW =
  '/pool?c=length:6..22&c=referringDomains:1..&c=strength:3..&c=spamRisk:..70&c=name:contains=bee,hive&sort=strength:down';

/** How soon a large pool is there after a start, and how smoothly it scrolls and is sifted in the browser. */
export const poolScreen: Bench = async (log) => {
  log('filling the database');
  const folder = await largePool();
  try {
    log('the first start, without a snapshot');
    const first = await startProduct(folder);
    await untilQuiet(folder);
    await first.stop();
    log('a start from the snapshot');
    const again = await startProduct(folder);
    const { chromium } = await import('@playwright/test');
    const browser = await chromium.launch({
      // the one without a window, which tests have, draws no frames to be counted
      executablePath: IS_SMALL ? '/usr/bin/chromium-headless-shell' : '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-gpu'],
    });
    try {
      log('frames');
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, extraHTTPHeaders: again.headers });
      await page.goto(again.url + VIEW);
      await page.locator('#grid[aria-busy=false] [data-domain]').first().waitFor();
      // driven from within, a step each frame: events from outside come less often than frames
      const scrolling = await framesWhile(browser, page, () =>
        page.locator('#grid').evaluate(
          (grid, ms) =>
            new Promise<void>((done) => {
              const until = performance.now() + ms;
              const step = () => {
                grid.scrollTop += 80; // 4,800 px a second at 60 frames, a quick fling
                if (performance.now() < until) requestAnimationFrame(step);
                else done();
              };
              requestAnimationFrame(step);
            }),
          SECONDS * 1000,
        ),
      );
      await page.locator('[data-condition=strength]').getByRole('button', { name: 'Strength', exact: true }).click();
      const handle = page.locator('[data-handle=min]');
      await handle.waitFor();
      const dragging = await framesWhile(browser, page, async () => {
        const box = await handle.boundingBox();
        if (!box) throw new Error('there is no handle');
        const y = box.y + 20;
        await page.mouse.move(box.x + box.width / 2, y);
        await page.mouse.down();
        let step = 0;
        for (const until = Date.now() + SECONDS * 1000; Date.now() < until; )
          await page.mouse.move(40 + 90 * (1 - Math.cos(step++ / 40)), y);
        await page.mouse.up();
      });
      const answered = dragging.answers / SECONDS;
      return [
        { name: 'pool-start', value: round(again.firstRowsMs / 1000, 2), unit: 's to the first rows', baseline: round(first.firstRowsMs / 1000, 2), ratio: round(first.firstRowsMs / again.firstRowsMs), goal: 'at most 3 s; baseline: without a snapshot', met: again.firstRowsMs <= 3000 },
        { name: 'pool-scroll', value: round(scrolling.rate), unit: 'frames/s', baseline: null, ratio: null, goal: 'above 50', met: scrolling.rate > 50 },
        { name: 'pool-drag', value: round(dragging.rate), unit: 'frames/s', baseline: null, ratio: null, goal: 'above 50', met: dragging.rate > 50 },
        { name: 'pool-drag-answers', value: round(answered), unit: 'questions answered a second meanwhile', baseline: null, ratio: null, goal: 'none', met: true },
      ]; // biome-ignore format: a figure a line
    } finally {
      await browser.close();
      await again.stop();
    }
  } finally {
    forget(folder);
  }
};

/** Frames that Chromium drew, by its own tracing, and answers of the pool that came in. */
async function framesWhile(
  browser: Browser,
  page: Page,
  act: () => Promise<void>,
): Promise<{ rate: number; answers: number }> {
  let answers = 0;
  const count = (response: { url(): string }) => {
    if (response.url().endsWith('/pool/columns')) answers++;
  };
  page.on('response', count);
  await browser.startTracing(page, {
    categories: ['devtools.timeline.frame', 'disabled-by-default-devtools.timeline.frame'],
  });
  const started = performance.now();
  await act();
  const seconds = (performance.now() - started) / 1000;
  const trace = JSON.parse((await browser.stopTracing()).toString('utf8')) as { traceEvents: { name: string }[] };
  page.off('response', count);
  const drawn = trace.traceEvents.filter(({ name }) => name === 'DrawFrame').length;
  return { rate: drawn / seconds, answers };
}
