import robotsParser, { type Robot } from 'robots-parser';
import { NetError } from '../../net/errors';
import type { HttpClient } from '../../net/http';

export interface RobotsVerdict {
  allowed: boolean;
  /** Crawl-delay, which is no standard but a wish that is easy to grant; at most half a minute. */
  crawlDelayMs: number | null;
}

const MAX_DELAY_MS = 30_000;
/** RFC 9309 2.5: at least the first 500 KiB are read. */
const MAX_ROBOTS_BYTES = 512 * 1024;
const MAX_REDIRECTS = 5;

/**
 * robots.txt (RFC 9309) by host, fetched once per crawl. Missing (4xx): all is allowed. Server error (5xx): all is
 * forbidden. No answer at all: `ask` throws, and the page is not fetched either.
 */
export class RobotsCache {
  private readonly byHost = new Map<string, Promise<Robot>>();

  constructor(
    private readonly http: HttpClient,
    private readonly userAgent: string,
  ) {}

  /** @throws NetError */
  async ask(url: string, signal: AbortSignal): Promise<RobotsVerdict> {
    const { origin } = new URL(url);
    let rules = this.byHost.get(origin);
    if (!rules) {
      rules = this.load(origin, signal);
      rules.catch(() => this.byHost.delete(origin));
      this.byHost.set(origin, rules);
    }
    const robot = await rules;
    const delay = robot.getCrawlDelay(this.userAgent);
    return {
      allowed: robot.isAllowed(url, this.userAgent) ?? true,
      crawlDelayMs: delay === undefined ? null : Math.min(MAX_DELAY_MS, delay * 1000),
    };
  }

  private async load(origin: string, signal: AbortSignal): Promise<Robot> {
    const address = `${origin}/robots.txt`;
    let url = address;
    try {
      for (let hop = 0; hop <= MAX_REDIRECTS; hop++) {
        const answer = await this.http.get(url, { accept: 'text/plain', signal, maxBodyBytes: MAX_ROBOTS_BYTES });
        if (answer.status >= 300 && answer.status < 400 && answer.headers.location) {
          url = new URL(answer.headers.location, url).href;
          continue;
        }
        if (answer.status >= 500) return robotsParser(address, 'User-agent: *\nDisallow: /');
        return robotsParser(address, answer.status === 200 ? answer.body.toString('utf8') : '');
      }
      return robotsParser(address, '');
    } catch (error) {
      // a robots.txt beyond all size is taken as a no; any other failure is the page's failure too, and is said there
      if (error instanceof NetError && error.code === 'too-large')
        return robotsParser(address, 'User-agent: *\nDisallow: /');
      throw error;
    }
  }
}
