import { promisify } from 'node:util';
import { brotliDecompress, gunzip, inflate, inflateRaw } from 'node:zlib';
import type { Memento } from '../../core/history/timemap';
import { readStoredAnswer } from '../../core/history/warc';
import { registrableDomain } from '../../core/names/domain';
import type { Settings } from '../../core/settings/settings';
import { ArchiveClient, type ArchivedPage } from '../../net/archive';
import { NetError } from '../../net/errors';
import type { HttpClient } from '../../net/http';
import { Pacer } from '../../net/pacer';
import type { Store } from '../../store/base/database';
import { type WarcCapture, warcCapturesOf, warcFiles } from '../../store/links/warc';
import { openWarc, readWarcRecord } from './warc-files';

/** Captures of a name, wherever they are. */
export interface Past {
  mementos: Memento[];
  /** Who has them. */
  server: string;
  partial: boolean;
}

const FILES = 'files of web archives';
const WARC = 'warc:';
const MOST_UNFOLDED = 64 * 2 ** 20;
const LONGEST_PAUSE_MS = 60_000;

/** Reads the past of names from the archive that is set, from files of web archives that were read, or from both. */
export class PastReader {
  private readonly archive: ArchiveClient | null;
  private readonly hasFiles: boolean;

  constructor(
    private readonly store: Store,
    { archiveTimeMap, archiveCapture }: Settings,
    http: HttpClient,
  ) {
    const pacer = new Pacer({ intervalMs: 5, maxIntervalMs: LONGEST_PAUSE_MS });
    this.archive = archiveTimeMap === '' ? null : new ArchiveClient(http, pacer, archiveTimeMap, archiveCapture);
    this.hasFiles = warcFiles(store).some(({ captures }) => captures > 0);
  }

  /** Whether there is anybody to be asked. */
  get isThere(): boolean {
    return this.archive !== null || this.hasFiles;
  }

  /** All captures of a name's front page by the archive, and all of the name in files, in the order of time. @throws NetError */
  async of(name: string, signal?: AbortSignal): Promise<Past> {
    const asked = await this.archive?.timeMap(`http://${name}/`, signal);
    const inFiles = this.hasFiles ? warcCapturesOf(this.store, name).filter(({ url }) => isFront(url)) : [];
    // what an archive handed out as a file is the same capture
    const known = new Set((asked?.mementos ?? []).map(({ at }) => Math.floor(at / 1000)));
    const own = inFiles
      .filter(({ at }) => !known.has(Math.floor(at / 1000)))
      .map(({ at, path, offset }) => ({ at, url: `${WARC}${offset}:${path}` }));
    return {
      mementos: [...(asked?.mementos ?? []), ...own].sort((a, b) => a.at - b.at),
      server: [asked?.server, own.length > 0 || !asked ? FILES : undefined].filter(Boolean).join(' and '),
      partial: asked?.partial ?? false,
    };
  }

  /** One capture. That of a file which leads within its name is followed there. @throws NetError when it cannot be had. */
  async capture(url: string, signal?: AbortSignal): Promise<ArchivedPage> {
    if (isInFile(url)) return this.fromFile(url);
    if (!this.archive) throw new NetError('bad-answer', 'no archive is set');
    return this.archive.capture(url, signal);
  }

  private async fromFile(url: string): Promise<ArchivedPage> {
    const [, offset = '', path = ''] = /^warc:(\d+):(.*)$/s.exec(url) ?? [];
    const first = await readCapture(path, Number(offset));
    if (first.page.location === null || !URL.canParse(first.page.location, first.uri)) return first.page;
    const there = new URL(first.page.location, first.uri).href;
    const name = registrableDomain(new URL(first.uri).hostname)?.name ?? '';
    const next = nearest(warcCapturesOf(this.store, name), there, first.at);
    return next ? (await readCapture(next.path, next.offset)).page : { ...first.page, location: there };
  }
}

/** Whether a capture stands in a file, and is followed by its reader. */
export const isInFile = (url: string): boolean => url.startsWith(WARC);

/** An address without a path: where the past of a name is looked at. */
const isFront = (url: string) => new URL(url).pathname === '/' && new URL(url).search === '';

/** The capture of an address that was taken nearest to a moment, within a day. */
function nearest<Capture extends WarcCapture>(captures: readonly Capture[], url: string, at: number): Capture | null {
  const [best] = captures
    .filter((one) => one.url === url && one.status === 200 && Math.abs(one.at - at) < 86_400_000)
    .sort((a, b) => Math.abs(a.at - at) - Math.abs(b.at - at));
  return best ?? null;
}

/** @throws NetError when the file is not as it was. */
async function readCapture(path: string, offset: number): Promise<{ page: ArchivedPage; uri: string; at: number }> {
  try {
    const file = await openWarc(path);
    try {
      const record = await readWarcRecord(file, offset);
      const answer = record && readStoredAnswer(record.block);
      if (!record || !answer) throw new Error('there is no capture any more');
      const { status, headers, body } = answer;
      const page = {
        status,
        location: headers.location ?? null,
        contentType: headers['content-type'] ?? '',
        body: await unfolded(Buffer.from(body), headers['content-encoding'] ?? ''),
      };
      return { page, uri: record.head.uri, at: record.head.at ?? 0 };
    } finally {
      await file.close();
    }
  } catch (error) {
    throw new NetError('bad-answer', `${path} at byte ${offset}: ${(error as Error).message}`, { cause: error });
  }
}

const UNFOLD: Record<string, ((body: Buffer) => Promise<Buffer>) | undefined> = {
  gzip: (body) => promisify(gunzip)(body, { maxOutputLength: MOST_UNFOLDED }),
  br: (body) => promisify(brotliDecompress)(body, { maxOutputLength: MOST_UNFOLDED }),
  // some servers leave out the head that RFC 1950 wants
  deflate: (body) =>
    promisify(inflate)(body, { maxOutputLength: MOST_UNFOLDED }).catch(() =>
      promisify(inflateRaw)(body, { maxOutputLength: MOST_UNFOLDED }),
    ),
};

/** A body as it reads. Writers that unfolded it before they stored it left the header: then it is as it stands. */
async function unfolded(body: Buffer, encoding: string): Promise<Buffer> {
  const unfold = UNFOLD[encoding.trim().toLowerCase().replace(/^x-/, '')];
  return unfold ? unfold(body).catch(() => body) : body;
}
