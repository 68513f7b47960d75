import { type Memento, readTimeMap } from '../core/history/timemap';
import { NetError } from './errors';
import type { HttpClient } from './http';
import { type Pacer, retryAfterMs } from './pacer';

export interface ArchiveAnswer {
  mementos: Memento[];
  server: string;
  /** Whether pages were left unread because there are too many. */
  partial: boolean;
}

const MAX_PAGES = 20;
const MAX_MEMENTOS = 50_000;

/** An archive that speaks Memento (RFC 7089). */
export class ArchiveClient {
  constructor(
    private readonly http: HttpClient,
    private readonly pacer: Pacer,
    /** Address of a TimeMap with `{url}` where the wanted address goes. */
    private readonly template: string,
  ) {}

  /** All captures of an address. An archive that never had it answers 404: then there are none. @throws NetError */
  async timeMap(url: string, signal?: AbortSignal): Promise<ArchiveAnswer> {
    const mementos: Memento[] = [];
    const queue = [this.template.replace('{url}', url)];
    const server = new URL(queue[0]).host;
    const asked = new Set<string>();
    for (let pages = 0; queue.length > 0; pages++) {
      const address = queue.shift() ?? '';
      if (asked.has(address)) continue;
      asked.add(address);
      if (pages >= MAX_PAGES || mementos.length >= MAX_MEMENTOS) return { mementos, server, partial: true };
      const map = readTimeMap(await this.page(address, server, signal));
      for (const memento of map.mementos) mementos.push(memento);
      queue.push(...map.next);
    }
    return { mementos, server, partial: false };
  }

  private async page(address: string, server: string, signal?: AbortSignal): Promise<string> {
    for (let attempt = 1; ; attempt++) {
      await this.pacer.turn(server, signal);
      const answer = await this.http.get(address, {
        accept: 'application/link-format',
        signal,
        maxBodyBytes: 16 << 20,
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
