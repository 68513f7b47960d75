import { stat } from 'node:fs/promises';
import { readStoredAnswer, type WarcHead } from '../../core/history/warc';
import { registrableDomain } from '../../core/names/domain';
import { plural } from '../../core/wording/format';
import { write } from '../../store/base/database';
import { putWarcCaptures, type WarcCapture, type WarcFile, type WarcRevisit, warcFileAt } from '../../store/links/warc';
import { openWarc, readWarcRecord, warcFilesAt } from '../history/warc-files';
import { type JobContext, JobError, letOthersGo, RateMeter, throwIfStopped } from '../runner/context';

const BATCH = 500;
/** Of an answer the head is enough to know its status. */
const HEAD_BYTES = 16 * 1024;

/**
 * Reads which captures the files hold that Settings name: answers, by domain. Each file is gone on with from the last record on disk; one that
 * is damaged says so and keeps what was read.
 */
export async function runWarc(context: JobContext): Promise<void> {
  const { store, settings } = context;
  if (settings.warcPath === '') throw new JobError('No files of web archives are named.');
  const paths = await warcFilesAt(settings.warcPath).catch((error: Error) => {
    throw new JobError(`The files cannot be read: ${error.message}`);
  });
  if (paths.length === 0)
    throw new JobError(`There is no file that ends in .warc or .warc.gz in ${settings.warcPath}.`);
  const sizes = await Promise.all(paths.map((path) => stat(path)));
  const total = sizes.reduce((sum, { size }) => sum + size, 0);
  const meter = new RateMeter();
  let before = 0;
  let captures = 0;
  let unheld = 0;
  const problems: string[] = [];
  for (const [n, path] of paths.entries()) {
    const { size, mtimeMs } = sizes[n];
    const file = write(store, () => warcFileAt(store, path, size, Math.round(mtimeMs)));
    const report = (readTo: number) => {
      const done = before + readTo;
      const message = `file ${n + 1} of ${paths.length}, ${plural(captures, 'capture')}`;
      context.progress({ done, total, unit: 'bytes', rate: meter.rate(done), message });
    };
    const read = await readFile(context, file, report);
    captures += read.kept;
    unheld += read.unheld;
    if (file.problem) problems.push(`${path}: ${file.problem}`);
    before += size;
  }
  const damaged = problems.length > 0 ? `; not read to their end: ${problems.slice(0, 3).join('; ')}` : '';
  const elsewhere = unheld > 0 ? `; ${plural(unheld, 'revisit')} of what is in none of them left out` : '';
  const message = `${plural(paths.length, 'file')}, ${plural(captures, 'new capture')}${elsewhere}${damaged}`;
  context.progress({ done: total, total, unit: 'bytes', rate: 0, message });
}

/** @returns how many captures were new, and of how many what they found is in no file that was read; what is wrong with the file stands in it. */
async function readFile(
  context: JobContext,
  file: WarcFile,
  report: (readTo: number) => void,
): Promise<{ kept: number; unheld: number }> {
  const { store, signal } = context;
  const handle = await openWarc(file.path);
  let batch: (WarcCapture | WarcRevisit)[] = [];
  let kept = 0;
  let unheld = 0;
  file.problem = null;
  const flush = () => {
    const taken = write(store, () => putWarcCaptures(store, file, batch));
    kept += taken;
    unheld += batch.length - taken;
    batch = [];
    report(file.readTo);
  };
  try {
    for (let records = 1; ; records++) {
      throwIfStopped(signal);
      const record = await readWarcRecord(handle, file.readTo, HEAD_BYTES).catch((error: Error) => {
        file.problem = error.message;
        return null;
      });
      if (record === null) break;
      const capture = captureOf(record.head, record.block, record.offset);
      if (capture) batch.push(capture);
      file.readTo = record.next;
      if (records % BATCH === 0) {
        flush();
        await letOthersGo(store);
      }
    }
    flush();
    return { kept, unheld };
  } finally {
    await handle.close();
  }
}

function captureOf(head: WarcHead, block: Buffer, offset: number): WarcCapture | WarcRevisit | null {
  const { type, uri, at, digest, refersTo } = head;
  if (at === null || !isWebAddress(uri)) return null;
  const domain = registrableDomain(new URL(uri).hostname)?.name;
  if (!domain) return null;
  const answer = readStoredAnswer(block);
  const capture = { domain, at, url: new URL(uri).href, digest };
  if (type === 'response') return answer && { ...capture, status: answer.status, offset };
  if (type !== 'revisit') return null;
  return {
    ...capture,
    // that nothing has changed is what the archive was told, not what the page answers
    status: answer === null || answer.status === 304 ? null : answer.status,
    refersTo: refersTo && { at: refersTo.at, url: isWebAddress(refersTo.uri) ? new URL(refersTo.uri).href : '' },
  };
}

const isWebAddress = (uri: string) => /^https?:/i.test(uri) && URL.canParse(uri);
