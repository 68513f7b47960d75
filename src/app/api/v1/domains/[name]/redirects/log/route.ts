import { gunzipSync } from 'node:zlib';
import { domainRow } from '../../../../../../../app/api/domain-row';
import { tallyLog } from '../../../../../../../core/redirects/access-log';
import { putLog } from '../../../../../../../store/portfolio/redirects';
import { answered, Problem, route } from '../../../../../respond';

const MOST_BYTES = 200 * 1024 * 1024;

/** Takes the access log of the server that sends old addresses on (Common Log Format, plain or gzip); one of the same name replaces the one before. */
export const POST = route(
  'POST /domains/{name}/redirects/log',
  async ({ request, query: { name: source }, params: { name } }) => {
    const { store, row } = await domainRow(name);
    const bytes = Buffer.from(await request.arrayBuffer());
    if (bytes.byteLength > MOST_BYTES)
      throw new Problem(413, 'The file is too large', 'A log may have 200 MB.', 'Send it a day at a time.');
    const tally = tallyLog(linesOf(unpacked(bytes)));
    if (tally.moved.size + tally.gone.size === 0)
      throw new Problem(
        400,
        'The file makes no sense',
        tally.aside === tally.lines
          ? 'No line of it is one of an access log (Common Log Format).'
          : 'It has no request that was sent on or told gone.',
        'Send the log of the server that answers for this domain.',
      );
    putLog(store, row.id, source, tally);
    const sum = (hits: ReadonlyMap<string, number>) => [...hits.values()].reduce((total, one) => total + one, 0);
    const { lines, aside, robots } = tally;
    return answered(201, { lines, setAside: aside, robots, moved: sum(tally.moved), gone: sum(tally.gone) });
  },
);

function unpacked(bytes: Buffer): Buffer {
  if (bytes[0] !== 0x1f || bytes[1] !== 0x8b) return bytes;
  try {
    return gunzipSync(bytes, { maxOutputLength: 4 * MOST_BYTES });
  } catch {
    throw new Problem(400, 'The file makes no sense', 'It cannot be unpacked whole, or is too large unpacked.');
  }
}

/** A line at a time, so that a large log is not in memory as text. */
function* linesOf(bytes: Buffer): Generator<string> {
  for (let from = 0; from < bytes.length; ) {
    const end = bytes.indexOf(10, from);
    const to = end < 0 ? bytes.length : end;
    yield bytes.toString('utf8', from, Math.min(to, from + 20_000)).replace(/\r$/, '');
    from = to + 1;
  }
}
