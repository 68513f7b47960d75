import type { Page } from './pages';
import { archivedPage, redirectOf } from './past-pages';
import { Random } from './random';
import { DAY, type Span, stateAt, type World, type WorldDomain } from './world';

export const ARCHIVE_HOST = 'valearchive.net';

interface Capture {
  at: number;
  span: Span;
}

/** When the archive came by: every few months while something answered. */
export function capturesOf(domain: WorldDomain, now: number): Capture[] {
  const random = new Random(`captures ${domain.name}`);
  const captures: Capture[] = [];
  if (domain.role === 'listed' && random.chance(0.5)) return captures;
  for (const span of domain.spans) {
    if (span.use === 'bare') continue;
    let at = span.from + random.whole(5, 200) * DAY;
    while (at < now && at < (span.until ?? now)) {
      captures.push({ at: Math.floor(at / 1000) * 1000, span });
      at += random.whole(40, 260) * DAY;
    }
  }
  return captures.filter(({ at }) => stateAt(domain, at).span !== null);
}

const stamp = (at: number) => new Date(at).toISOString().replace(/[-:T]|\.\d+Z/g, '');

/** TimeMaps and mementos (RFC 7089). */
export function archiveAnswer(world: World, path: string, now: number): Page {
  const missing: Page = { status: 404, headers: { 'content-type': 'text/plain' }, body: 'never captured' };
  const odd = oddMap(path);
  if (odd) return odd;
  const map = /^\/timemap\/link\/(https?:\/\/([^/]+)\/?.*)$/.exec(path);
  if (map) {
    const domain = world.domains.get(map[2].replace(/^www\./, ''));
    const captures = domain ? capturesOf(domain, now) : [];
    if (captures.length === 0) return missing;
    const original = map[1];
    const lines = [
      `<${original}>; rel="original"`,
      `<http://${ARCHIVE_HOST}${path}>; rel="self"; type="application/link-format"`,
      ...captures.map(
        ({ at }, index) =>
          `<http://${ARCHIVE_HOST}/web/${stamp(at)}/${original}>; rel="${index === 0 ? 'first ' : ''}memento"; datetime="${new Date(at).toUTCString()}"`,
      ),
    ];
    return { status: 200, headers: { 'content-type': 'application/link-format' }, body: `${lines.join(',\n ')}\n` };
  }
  const broken = brokenCapture(path);
  if (broken) return broken;
  const memento = /^\/web\/(\d{14})\/https?:\/\/([^/]+)\//.exec(path);
  const domain = memento && world.domains.get(memento[2].replace(/^www\./, ''));
  const capture = domain && capturesOf(domain, now).find(({ at }) => stamp(at) === memento[1]);
  if (!capture) return missing;
  const headers = {
    'content-type': 'text/html; charset=utf-8',
    'memento-datetime': new Date(capture.at).toUTCString(),
  };
  const target = redirectOf(capture.span);
  if (target !== null)
    return {
      status: 302,
      headers: { ...headers, location: `http://${ARCHIVE_HOST}/web/${memento[1]}/http://${target}/` },
      body: '',
    };
  return { status: 200, headers, body: archivedPage(domain, capture.span, capture.at) };
}

/** Captures in encodings that lie, with bytes that are none, and characters that turn lines. */
function brokenCapture(path: string): Page | null {
  const found = /^\/web\/(\d{14})\/http:\/\/broken\.example\//.exec(path);
  if (!found) return null;
  const at = Date.UTC(+found[1].slice(0, 4), 0, 1);
  const text = `<title>&#8238;Caf\u00e9 <b>na\u00efve</title><p>${'hives and honey, a queen and her brood, '.repeat(8)}`;
  const bytes = [
    Buffer.from(`${text}\u00e9`, 'latin1'),
    Buffer.from([0, 1, 255, 254, 60, 112, 62, 192, 128]),
    Buffer.from('<p>\ud800 \u2066 end'),
  ];
  return {
    status: 200,
    headers: { 'content-type': 'text/html; charset=utf-8', 'memento-datetime': new Date(at).toUTCString() },
    body: Buffer.concat(bytes),
  };
}

/** Lists that no site can have: of more captures than anybody reads, and one that names a next page for ever. */
function oddMap(path: string): Page | null {
  const found = /^\/timemap\/(?:link|page)\/(?:(\d+)\/)?http:\/\/(endless|countless|broken)\.example\//.exec(path);
  if (!found) return null;
  const [, page = '0', kind] = found;
  const original = `http://${kind}.example/`;
  const entry = (at: number) =>
    `<http://${ARCHIVE_HOST}/web/${stamp(at)}/${original}>; rel="memento"; datetime="${new Date(at).toUTCString()}"`;
  const start = Date.UTC(2005, 0, 1);
  const lines =
    kind === 'broken'
      ? [2008, 2011, 2015].map((year) => entry(Date.UTC(year, 0, 1)))
      : kind === 'countless'
        ? Array.from({ length: 200_000 }, (_, n) => entry(start + n * 3_000_000))
        : [
            entry(start + Number(page) * DAY),
            `<http://${ARCHIVE_HOST}/timemap/page/${Number(page) + 1}/${original}>; rel="next"; type="application/link-format"`,
          ];
  return { status: 200, headers: { 'content-type': 'application/link-format' }, body: lines.join(',\n') };
}
