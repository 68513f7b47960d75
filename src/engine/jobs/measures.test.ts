import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import ExcelJS from 'exceljs';
import { beforeEach, describe, expect, it } from 'vitest';
import { buildGraph } from '../../core/links/graph';
import { rankScale, trustRank, walkGraph } from '../../core/links/pagerank';
import { SHIPPED_POINTS } from '../../core/spam/scorecard';
import { type Store, write } from '../../store/base/database';
import { freshStore } from '../../store/base/testing';
import { findDomain, putDomain } from '../../store/domains/domains';
import { anchorsOf, dropSomeLinks, linkCountsBySource } from '../../store/links/links';
import { lastMeasurement, spamCardOf } from '../../store/links/measures';
import { referringOf } from '../../store/links/referring';
import { saveBrief } from '../../store/shortlist/briefs';
import { eachReject, readSource } from '../../store/sources/sources';
import { Stopped } from '../runner/context';
import { runLinks } from './links';
import { runMeasure } from './measure';
import { trial } from './testing';

let store: Store;
beforeEach(async () => {
  store = await freshStore();
});
const trust = (...trustedSites: string[]) =>
  saveBrief(store, {
    name: trustedSites.join(' '),
    purpose: 'rebuild',
    subjectWords: [],
    trustedSites,
    excludedEndings: [],
    budgetMinor: null,
    currency: 'EUR',
  });

async function loadLinks(text: string | Buffer) {
  const path = join(store.folder, `links-${Math.random()}`);
  writeFileSync(path, text);
  const run = trial(store, 'links', { path });
  await runLinks(run.context);
  return { ...run, source: readSource(store, run.sourceId)!, rejects: [...eachReject(store, run.sourceId)] };
}
async function measure() {
  await runMeasure(trial(store, 'list', { ids: [] }).context);
}
const inPool = (name: string) => putDomain(store, { name, ending: name.slice(name.indexOf('.') + 1) }, true, 1).id;

describe('importing a link index', () => {
  it('reads a workbook, with dates as its cells have them', async () => {
    const book = new ExcelJS.Workbook();
    book.addWorksheet('About').addRows([['Exported for Mara']]);
    book.addWorksheet('Links').addRows([
      ['Source URL', 'Target URL', 'Anchor', 'First seen'],
      ['https://a.org/links.html', 'http://www.lapsed.org/x', 'Old friends', new Date(Date.UTC(2011, 4, 4))],
      ['https://b.org/', 'http://lapsed.org/', 'bees', new Date(Date.UTC(2012, 0, 2))],
    ]);
    const { source } = await loadLinks(Buffer.from(await book.xlsx.writeBuffer()));
    expect(source).toMatchObject({ rows_read: 2, rows_taken: 2, rows_set_aside: 0 });
    expect(
      store.raw.prepare('SELECT from_url, anchor, first_seen_at AS at FROM links ORDER BY from_url').all(),
    ).toEqual([
      { from_url: 'https://a.org/links.html', anchor: 'Old friends', at: Date.UTC(2011, 4, 4) },
      { from_url: 'https://b.org/', anchor: 'bees', at: Date.UTC(2012, 0, 2) },
    ]);
  });

  it('reads links with anchor, rel and dates, whatever the order of the columns', async () => {
    const { source } = await loadLinks(
      'Anchor;Target URL;Source URL;Rel;First seen\n"Old ""friends""";http://www.lapsed.org/x;https://a.org/links.html;ugc;2011-05-04\n',
    );
    expect(source).toMatchObject({ rows_read: 1, rows_taken: 1 });
    expect(store.raw.prepare('SELECT * FROM links').get()).toMatchObject({
      from_url: 'https://a.org/links.html',
      to_url: 'http://www.lapsed.org/x',
      anchor: 'Old "friends"',
      nofollow: 1,
      first_seen_at: Date.UTC(2011, 4, 4),
    });
  });

  it('does not put the linking sites into the pool', async () => {
    await loadLinks('from,to\nhttp://a.org/,http://b.org/\n');
    expect(findDomain(store, 'a.org')!.in_pool).toBe(0);
    expect(findDomain(store, 'b.org')!.in_pool).toBe(0);
  });

  it('sets aside what is no link between two domains, with the reason', async () => {
    const { source, rejects } = await loadLinks(
      'from,to\nhttp://a.org/,http://www.a.org/x\nnonsense,http://b.org/\nhttp://a.org/,http://10.0.0.1/\nhttp://a.org/,mailto:x\nhttp://a.org/,http://ok.org/\n',
    );
    expect(source).toMatchObject({ rows_read: 5, rows_taken: 1, rows_set_aside: 4 });
    expect(rejects.map(({ line, reason }) => [line, reason])).toEqual([
      [2, 'the link stays within one domain'],
      [3, '"nonsense" is no address'],
      [4, '"10.0.0.1" is no registrable domain'],
      [5, '"mailto:x" is no address'],
    ]);
  });

  it('says which columns it needs', async () => {
    await expect(loadLinks('page,words\nhttp://a.org/,x\n')).rejects.toThrow('names no column for the linking page');
  });

  it('writes every link once, however often it is stopped', async () => {
    const rows = Array.from(
      { length: 9000 },
      (_, i) => `http://a${i % 300}.org/p${i},http://b${i % 77}.org/,word ${i % 5}`,
    );
    const text = gzipSync(`from,to,anchor\n${rows.join('\n')}\n`);
    const path = join(store.folder, 'links.gz');
    writeFileSync(path, text);
    const first = trial(store, 'links', { path });
    first.context.progress = () => first.stop.abort();
    await expect(runLinks(first.context)).rejects.toThrow(Stopped);
    await runLinks(trial(store, 'links', {}, first).context);
    expect(store.raw.prepare('SELECT count(*) FROM links').pluck().get()).toBe(9000);
    expect(readSource(store, first.sourceId)).toMatchObject({ rows_read: 9000, rows_taken: 9000, rows_repeated: 0 });
  });
});

describe('measuring', () => {
  const LINKS =
    'from,to,anchor,rel\nhttp://t.org/,http://m.org/,M,\nhttp://m.org/1,http://x.org/,best,\nhttp://m.org/2,http://x.org/a,best,\nhttp://s.org/,http://x.org/,casino,\nhttp://n.org/,http://x.org/,x,nofollow\n';

  it('stores the walks over followed links, and their path', async () => {
    trust('t.org');
    inPool('x.org');
    await loadLinks(LINKS);
    await measure();
    // t -> m -> x <- s; the nofollow link is no edge
    const graph = buildGraph(4, Uint32Array.of(0, 1, 3), Uint32Array.of(1, 2, 2));
    const { rank, floor } = walkGraph(graph);
    const trusted = trustRank(graph, [0])!.rank;
    const tenth = (value: number) => Math.round(value * 10) / 10;
    const x = findDomain(store, 'x.org')!;
    expect(x.strength).toBe(tenth(rankScale(rank[2], floor)));
    expect(x.trust).toBe(tenth(rankScale(trusted[2], floor)));
    expect(JSON.parse(x.trust_path!)).toEqual(['t.org', 'm.org', 'x.org']);
    expect(x).toMatchObject({ backlinks: 4, referring_domains: 3 });
    expect(findDomain(store, 'm.org')).toMatchObject({ backlinks: 1, referring_domains: 1, spam_risk: null });
    expect(lastMeasurement(store)).toMatchObject({ nodes: 4, edges: 3, trusted: ['t.org'] });
  });

  it('does not know trust without trusted sites', async () => {
    inPool('x.org');
    await loadLinks(LINKS);
    await measure();
    expect(findDomain(store, 'x.org')).toMatchObject({ trust: null, trust_path: null });
    expect(findDomain(store, 'x.org')!.strength).toBeGreaterThan(0);
  });

  it('keeps the counts of each source apart', async () => {
    inPool('x.org');
    const one = await loadLinks(LINKS);
    const two = await loadLinks('from,to\nhttp://m.org/1,http://x.org/\nhttp://z.org/,http://x.org/\n');
    await measure();
    const { id } = findDomain(store, 'x.org')!;
    const counts = new Map(
      linkCountsBySource(store, id).map((entry) => [entry.sourceId, [entry.backlinks, entry.referringDomains]]),
    );
    expect(counts).toEqual(
      new Map([
        [one.sourceId, [4, 3]],
        [two.sourceId, [2, 2]],
      ]),
    );
    // a page that both sources name is one linking page
    expect(findDomain(store, 'x.org')).toMatchObject({ backlinks: 5, referring_domains: 4 });
  });

  it('lists referrers by strength and anchors by the domains that use them', async () => {
    inPool('x.org');
    await loadLinks(LINKS);
    await measure();
    const { id } = findDomain(store, 'x.org')!;
    expect(referringOf(store, id, () => 0).map(({ site, pages }) => [site, pages])[0]).toEqual(['m.org', 2]);
    expect(anchorsOf(store, id, 10)[0]).toMatchObject({ domains: 1, links: 2, anchor: 'best' });
  });

  it('keeps the spam card with its evidence', async () => {
    const id = inPool('x.org');
    await loadLinks(
      `from,to,anchor\n${Array.from({ length: 12 }, (_, i) => `http://s${i}.org/,http://x.org/,casino bonus`).join('\n')}\n`,
    );
    await measure();
    const card = spamCardOf(store, id)!.card;
    expect(card.risk).toBe(findDomain(store, 'x.org')!.spam_risk);
    expect(card.results.find(({ rule }) => rule === 'money-anchors')).toMatchObject({
      points: SHIPPED_POINTS.points['money-anchors'],
      evidence: ['"casino bonus" from 12 domains'],
    });
  });

  it('has nothing to measure without links, and does not fail', async () => {
    inPool('lonely.org');
    await measure();
    expect(findDomain(store, 'lonely.org')).toMatchObject({ strength: null, spam_risk: null });
  });
});

describe('a backlink file of which a third is rubbish', () => {
  it('takes the links, counts and keeps the rest, and shows nothing that could turn a line', async () => {
    const rubbish = [
      '\u0000\u0001\u0002',
      'http://,http://',
      'ftp://a.org/,http://b.org/',
      'http://[::1]/,http://b.org/,x',
      '"never closed,http://b.org/',
      ',,,,,,',
      'http://a.org/,http://xn--a.org/,\ufffd',
      `http://${'a'.repeat(300)}.org/,http://b.org/`,
    ];
    const rows = Array.from({ length: 900 }, (_, i) =>
      i % 3 === 2
        ? rubbish[i % rubbish.length]
        : `http://a${i}.org/,http://b${i % 7}.org/,"\u202e\u0007anchor ${i} ${'x'.repeat(i === 0 ? 100_000 : 1)}"`,
    );
    const { source, rejects } = await loadLinks(`from,to,anchor\n${rows.join('\n')}\n`);
    // the anchor of 100 KB makes its row longer than any row may be
    expect(source!.rows_taken).toBe(599);
    expect(source!.rows_read).toBe(source!.rows_taken + source!.rows_set_aside + source!.rows_repeated);
    expect(rejects.length).toBe(source!.rows_set_aside);
    const anchors = store.raw.prepare('SELECT anchor FROM links').pluck().all() as string[];
    expect(anchors.every((anchor) => anchor.length <= 200 && !/[\u0000-\u001f\u202a-\u202e]/.test(anchor))).toBe(true);
  });

  it('reads any columns, once somebody said what they mean', async () => {
    const path = join(store.folder, 'odd.csv');
    writeFileSync(path, 'http://b.org/x|word|http://a.org/|nofollow|2012-03-04|2020-01-02\n');
    const columns = ['to', 'anchor', 'from', 'rel', 'first-seen', 'last-seen'];
    await runLinks(trial(store, 'links', { path, columns, delimiter: '|', hasHeader: false }).context);
    expect(store.raw.prepare('SELECT from_url, to_url, anchor, nofollow, first_seen_at FROM links').get()).toEqual({
      from_url: 'http://a.org/',
      to_url: 'http://b.org/x',
      anchor: 'word',
      nofollow: 1,
      first_seen_at: Date.UTC(2012, 2, 4),
    });
  });
});

describe('folding new links in', () => {
  const edges = (from: number, to: number) =>
    Array.from(
      { length: to - from },
      (_, i) => `http://a${(i + from) % 90}.org/${i + from},http://b${((i + from) * 7) % 80}.org/`,
    );
  type Score = { name: string; strength: number; trust: number };
  const all = () =>
    store.raw.prepare('SELECT name, strength, trust FROM domains WHERE strength IS NOT NULL ORDER BY name').all();

  it('gives the scores that walking anew gives', async () => {
    trust('a1.org', 'a2.org');
    inPool('b7.org');
    await loadLinks(`from,to\n${edges(0, 2000).join('\n')}\n`);
    await measure();
    await loadLinks('from,to\nhttp://new.org/,http://b7.org/\nhttp://a5.org/q,http://new.org/\n');
    const run = trial(store, 'list', { ids: [] });
    await runMeasure(run.context);
    expect(run.progress.at(-1)?.message).toContain('folded into the walk');
    const folded = all() as Score[];
    // another trusted site that is in no link: everything is walked anew, with the same outcome
    trust('a1.org', 'a2.org', 'nowhere.org');
    const anew = trial(store, 'list', { ids: [] });
    await runMeasure(anew.context);
    expect(anew.progress.at(-1)?.message).toContain('from one walk');
    const exact = all() as Score[];
    expect(folded.map(({ name }) => name)).toEqual(exact.map(({ name }) => name));
    folded.forEach(({ strength, trust: trusting }, n) => {
      // a tenth may be rounded the other way
      expect(Math.abs(strength - exact[n].strength)).toBeLessThan(0.11);
      expect(Math.abs(trusting - exact[n].trust)).toBeLessThan(0.11);
    });
  });

  it('begins anew when links were forgotten', async () => {
    trust('a1.org');
    const first = await loadLinks(`from,to\n${edges(0, 300).join('\n')}\n`);
    await measure();
    write(store, () => dropSomeLinks(store, first.sourceId, 10));
    const run = trial(store, 'list', { ids: [] });
    await runMeasure(run.context);
    expect(run.progress.at(-1)?.message).toContain('from one walk');
  });

  it('begins anew when the kept walk cannot be read', async () => {
    await loadLinks(`from,to\n${edges(0, 300).join('\n')}\n`);
    await measure();
    writeFileSync(join(store.folder, 'walk.bin'), 'nonsense');
    const run = trial(store, 'list', { ids: [] });
    await runMeasure(run.context);
    expect(run.progress.at(-1)?.message).toContain('from one walk');
  });
});
