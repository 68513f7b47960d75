import { readCdx } from '../core/history/cdx';
import { type Memento, readTimeMap } from '../core/history/timemap';
import { NetError } from './errors';
import type { HttpClient } from './http';
import { type Pacer, retryAfterMs } from './pacer';

export interface ArchiveAnswer {
  /** Those of an index have no address where none is known by which it hands them out. */
  mementos: Memento[];
  server: string;
  /** Whether pages were left unread because there are too many. */
  partial: boolean;
}

/** A capture as an archive hands it out. */
export interface ArchivedPage {
  status: number;
  location: string | null;
  contentType: string;
  body: Buffer;
}

const MAX_PAGES = 20;
const MAX_MEMENTOS = 300_000;
const MAX_PAGE_BYTES = 64 << 20;

/** An archive that speaks Memento (RFC 7089), or answers as an index of captures does (CDX). */
export class ArchiveClient {
  constructor(
    private readonly http: HttpClient,
    private readonly pacer: Pacer,
    /** Address of a TimeMap, or of an index, with `{url}` where the wanted address goes. */
    private readonly template: string,
    /** Address of one capture, with `{timestamp}` and `{url}`, for an index that does not name it; empty: its captures are not read. */
    private readonly captureTemplate = '',
  ) {}

  /** All captures of an address. An archive that never had it answers 404: then there are none. @throws NetError */
  async timeMap(url: string, signal?: AbortSignal): Promise<ArchiveAnswer> {
    const mementos: Memento[] = [];
    const queue = [filled(this.template, url)];
    const server = new URL(queue[0]).host;
    const asked = new Set<string>();
    for (let pages = 0; queue.length > 0; pages++) {
      const address = queue.shift() ?? '';
      if (asked.has(address)) continue;
      asked.add(address);
      if (pages >= MAX_PAGES || mementos.length >= MAX_MEMENTOS) return { mementos, server, partial: true };
      const text = await this.page(address, server, signal);
      const map = readTimeMap(text);
      for (const memento of map.mementos) mementos.push(memento);
      if (text.trim() !== '' && !map.isTimeMap) mementos.push(...this.ofIndex(text, server));
      queue.push(...map.next);
    }
    return { mementos, server, partial: false };
  }

  /** @throws NetError where it is no index either: a page that says something else is no "never captured". */
  private ofIndex(text: string, server: string): Memento[] {
    const { captures, isCdx } = readCdx(text);
    if (!isCdx)
      throw new NetError(
        'bad-answer',
        `${server} answered with something that is neither a TimeMap nor an index of captures`,
      );
    return captures.map(({ at, timestamp, url }) => ({
      at,
      url:
        this.captureTemplate === ''
          ? ''
          : this.captureTemplate.replace('{timestamp}', timestamp).replace('{url}', () => url),
    }));
  }

  /**
   * One capture as it was captured: its status and, for a redirect, where it led. An archive says that it hands a capture out, and not an
   * error of its own, by the Memento-Datetime header (RFC 7089 section 2.1.1).
   *
   * @throws NetError when it does not.
   */
  async capture(url: string, signal?: AbortSignal): Promise<ArchivedPage> {
    const server = new URL(url).host;
    for (let attempt = 1; ; attempt++) {
      await this.pacer.turn(server, signal);
      const { status, headers, body } = await this.http.get(url, { accept: 'text/html, */*', signal });
      if (headers['memento-datetime'] !== undefined) {
        this.pacer.answered(server);
        return { status, location: headers.location ?? null, contentType: headers['content-type'] ?? '', body };
      }
      if (attempt >= 3 || (status !== 429 && status !== 503))
        throw new NetError('bad-answer', `${server} answered ${status} and no capture`);
      this.pacer.refused(server, retryAfterMs(headers['retry-after'], Date.now()));
    }
  }

  private async page(address: string, server: string, signal?: AbortSignal): Promise<string> {
    for (let attempt = 1; ; attempt++) {
      await this.pacer.turn(server, signal);
      const answer = await this.http.get(address, {
        accept: 'application/link-format',
        signal,
        maxBodyBytes: MAX_PAGE_BYTES,
      });
      if (answer.status === 404) return '';
      if (answer.status === 200) {
        this.pacer.answered(server);
        return answer.body.toString('utf8');
      }
      if (attempt >= 4) throw new NetError('bad-answer', `${server} answered ${answer.status}`);
      this.pacer.refused(server, retryAfterMs(answer.headers['retry-after'], Date.now()));
    }
  }
}

/** The address of a question: what stands behind a question mark is escaped. */
function filled(template: string, url: string): string {
  const isParameter = template.slice(0, template.indexOf('{url}')).includes('?');
  return template.replace('{url}', () => (isParameter ? encodeURIComponent(url) : url));
}
