import type { CrawlSample } from '../../contracts/crawl';

export interface Pace extends CrawlSample {
  /** Minutes of reading since the first sample; long gaps between samples are pauses and do not count. */
  minutes: number;
  pagesPerSecond: number;
  /** Over the samples of late, so that the line does not jump with every find; null while they hold too few pages. */
  findsPer1000: number | null;
}

const PAUSE_MS = 30_000;
const WINDOW = 6;
const FEW_PAGES = 20;

/** Turns totals into what happened of late. */
export function paceOf(samples: CrawlSample[]): Pace[] {
  let readMs = 0;
  return samples.map((sample, index) => {
    const before = samples[index - 1];
    const step = before ? sample.at - before.at : 0;
    if (step < PAUSE_MS) readMs += step;
    const since = samples[Math.max(0, index - WINDOW)];
    const pages = sample.pages - since.pages;
    return {
      ...sample,
      minutes: readMs / 60_000,
      pagesPerSecond: before && step > 0 && step < PAUSE_MS ? ((sample.pages - before.pages) / step) * 1000 : 0,
      findsPer1000: pages >= FEW_PAGES ? ((sample.finds - since.finds) / pages) * 1000 : null,
    };
  });
}
