import { beforeEach, describe, expect, it } from 'vitest';
import { SHIPPED_POINTS, type SpamCard } from '../../core/spam/scorecard';
import { type Store, write } from '../base/database';
import { freshStore } from '../base/testing';
import { findDomain } from '../domains/domains';
import { captureOfTest, domainOfTest, linkOfTest, sourceOfTest } from '../testing';
import { capturePage, capturePageTimes, capturesOf, captureTimes, putCapturePage, putCaptureTimes } from './captures';
import { forwarders, putInspection, readInspection, withoutRanks } from './inspections';
import { eachLinkTotal, edgesAfter, lastLinks, readEdges } from './link-walks.sql';
import { anchorsOf, dropLinks, dropSomeLinks, linkCountsBySource, linkDrops, linkTotalsOf, spamLinksOf } from './links';
import {
  doneMeasured,
  isMeasureDue,
  queuedCandidates,
  queueLength,
  spend,
  spentToday,
  wantMeasured,
} from './measure-queue';
import { addMeasurement, lastMeasurement, putMeasure, putSpamCard, spamCardOf } from './measures';
import {
  linksStamp,
  oldAddresses,
  pagesLinking,
  putLinkLook,
  putSiteFacts,
  referringOf,
  siteLookedAt,
} from './referring';
import {
  activePoints,
  cardsAfter,
  keepFit,
  lastFit,
  markedCards,
  markedRisks,
  marksGiven,
  undoFit,
} from './spam-points';

const NAME = 'tarnhives.org';
let store: Store;

beforeEach(async () => {
  store = await freshStore();
  domainOfTest(store, NAME);
});
const idOf = (name: string) => findDomain(store, name)?.id ?? 0;
const target = () => idOf(NAME);

describe('links', () => {
  it('are counted by page and by domain, each once over all sources', () => {
    linkOfTest(store, 'quillmere.org', NAME, { anchor: 'bees' });
    linkOfTest(store, 'quillmere.org', NAME, {
      anchor: 'bees',
      sourceId: sourceOfTest(store, 'links', 'Second Index'),
    });
    linkOfTest(store, 'quillmere.org', NAME, { fromUrl: 'https://quillmere.org/b', anchor: 'hives', nofollow: true });
    linkOfTest(store, 'ossenmere.org', NAME, { anchor: 'bees' });
    expect(linkTotalsOf(store, [target(), 4711])).toEqual([
      { toId: target(), backlinks: 3, referringDomains: 2 },
      { toId: 4711, backlinks: 0, referringDomains: 0 },
    ]);
    expect([...eachLinkTotal(store)]).toEqual([{ toId: target(), backlinks: 3, referringDomains: 2 }]);
    expect(anchorsOf(store, target(), 10)).toEqual([
      { anchor: 'bees', domains: 2, links: 2 },
      { anchor: 'hives', domains: 1, links: 1 },
    ]);
    const counts = linkCountsBySource(store, target());
    expect(
      counts.map(({ source, backlinks, referringDomains, nofollow }) => [
        source,
        backlinks,
        referringDomains,
        nofollow,
      ]),
    ).toEqual([
      ['Tidewater Links', 3, 2, 1],
      ['Second Index', 1, 1, 0],
    ]);
    expect(
      spamLinksOf(store, target())
        .map(({ fromSite, anchor, nofollow }) => [fromSite, anchor, nofollow])
        .sort(),
    ).toEqual([
      ['ossenmere.org', 'bees', false],
      ['quillmere.org', 'bees', false],
      ['quillmere.org', 'hives', true],
    ]);
    expect(pagesLinking(store, target(), idOf('quillmere.org'), 1)).toHaveLength(1);
  });

  it('are walked in one go and from where one was, each pair of domains once', () => {
    linkOfTest(store, 'quillmere.org', NAME);
    linkOfTest(store, 'ossenmere.org', NAME);
    const { from, to } = readEdges(store);
    expect([...from].sort()).toEqual([idOf('quillmere.org'), idOf('ossenmere.org')].sort());
    expect([...to]).toEqual([target(), target()]);
    const last = lastLinks(store);
    linkOfTest(store, 'saltmarsh.com', NAME);
    const [source] = [...last.keys()];
    const later = edgesAfter(store, source, last.get(source) ?? 0);
    expect(later).toEqual({ edges: [[idOf('saltmarsh.com'), target()]], targets: [target()] });
  });

  it('are forgotten by number or a part at a time, which is told to who walks over them', () => {
    const source = sourceOfTest(store, 'links', 'Tidewater Links');
    for (const n of [1, 2, 3, 4])
      linkOfTest(store, 'quillmere.org', NAME, { fromUrl: `https://quillmere.org/${n}`, seq: n });
    const [drops, stamp] = [linkDrops(store), linksStamp(store, target())];
    write(store, () => dropLinks(store, source, 2, 4));
    expect(linkTotalsOf(store, [target()])[0].backlinks).toBe(2);
    expect(linkDrops(store)).toBe(drops + 1);
    expect(linksStamp(store, target())).not.toBe(stamp);
    write(store, () => dropLinks(store, source, 2, 4));
    expect(linkDrops(store)).toBe(drops + 1);
    expect(write(store, () => dropSomeLinks(store, source, 1))).toBe(1);
    expect(write(store, () => dropSomeLinks(store, source, 10))).toBe(1);
    expect(write(store, () => dropSomeLinks(store, source, 10))).toBe(0);
  });

  it('give the old addresses of a domain by how many domains link to each', () => {
    for (const from of ['quillmere.org', 'ossenmere.org'])
      linkOfTest(store, from, NAME, { toUrl: `https://${NAME}/queens` });
    linkOfTest(store, 'quillmere.org', NAME, { toUrl: `https://${NAME}/honey` });
    expect(oldAddresses(store, target(), 10).map(({ url, domains, links }) => [url, domains, links])).toEqual([
      [`https://${NAME}/queens`, 2, 2],
      [`https://${NAME}/honey`, 1, 1],
    ]);
    expect(oldAddresses(store, target(), 1)).toHaveLength(1);
  });
});

describe('who refers', () => {
  const none = () => 0;

  it('is told once a domain, the strongest first, with what a look at the link found', () => {
    domainOfTest(store, 'ossenmere.org', { strength: 70 });
    domainOfTest(store, 'quillmere.org', { strength: 20 });
    linkOfTest(store, 'quillmere.org', NAME, { anchor: 'bees' });
    linkOfTest(store, 'ossenmere.org', NAME, { anchor: 'hives' });
    linkOfTest(store, 'ossenmere.org', NAME, { fromUrl: 'https://ossenmere.org/b', anchor: 'hives' });
    const look = {
      fromId: idOf('ossenmere.org'), at: 5, url: 'https://ossenmere.org/', standing: 'gone', note: 'status 404', anchor: null, rel: null,
      fingerprint: null, language: null,
    } as const; // biome-ignore format: one look
    write(store, () => putLinkLook(store, target(), look));
    const [first, second, ...more] = referringOf(store, target(), none);
    expect(more).toEqual([]);
    expect(first).toMatchObject({ site: 'ossenmere.org', pages: 2, strength: 70, standing: 'gone', lookedAt: 5 });
    expect(second).toMatchObject({ site: 'quillmere.org', pages: 1, anchor: 'bees', lookedAt: null });
  });

  it('keeps who runs a site, by its last look', () => {
    const site = idOf(NAME);
    expect(siteLookedAt(store, site)).toBeNull();
    write(store, () =>
      putSiteFacts(store, site, { nameServers: ['ns1.a.test'], addressBlock: '127.0.0', trackingIds: [] }, 7),
    );
    write(store, () => putSiteFacts(store, site, { nameServers: [], addressBlock: null, trackingIds: ['x'] }, 9));
    expect(siteLookedAt(store, site)).toBe(9);
  });
});

describe('captures', () => {
  it('come in the order of time, with the words that tell most, and their pages by themselves', () => {
    const row = domainOfTest(store, NAME);
    const terms = new Map(Array.from({ length: 80 }, (_, n) => [`word${n}`, n]));
    captureOfTest(store, row, { at: 2000, title: 'Later', terms });
    captureOfTest(store, row, { at: 1000, title: 'Earlier', kind: 'redirect', redirectTo: 'wexcombe.org' });
    const [first, second] = capturesOf(store, row.id);
    expect([first.title, second.title]).toEqual(['Earlier', 'Later']);
    expect(first).toMatchObject({ kind: 'redirect', redirectTo: 'wexcombe.org' });
    expect(second.terms.size).toBe(60);
    expect(second.terms.has('word79')).toBe(true);
    expect(second.terms.has('word3')).toBe(false);
    expect(capturePage(store, row.id, 2000)).toBeNull();
    const blocks = [{ kind: 'heading' as const, level: 1, text: 'Tarn Hives' }];
    write(store, () => putCapturePage(store, row.id, 2000, blocks));
    expect(capturePage(store, row.id, 2000)).toEqual(blocks);
    expect(capturePageTimes(store, row.id)).toEqual([2000]);
  });

  it('keep their times small, whatever their order', () => {
    const times = [Date.UTC(2004, 1, 1), Date.UTC(2011, 5, 6, 7, 8, 9), Date.UTC(2019, 11, 31)];
    write(store, () => putCaptureTimes(store, target(), times));
    expect(captureTimes(store, target())).toEqual(times);
    expect(captureTimes(store, 4711)).toEqual([]);
  });
});

describe('what was measured', () => {
  it('is written column by column, and tells who forwards and whose rank is missing', () => {
    write(store, () => {
      putInspection(store, target(), { effective: 4.5, referrers_at: 3 });
      putInspection(store, target(), { forward_to: 'wexcombe.org', forward_now: 1 });
      putInspection(store, target(), {});
    });
    expect(readInspection(store, target())).toMatchObject({
      effective: 4.5,
      referrers_at: 3,
      forward_to: 'wexcombe.org',
    });
    expect(forwarders(store)).toMatchObject([{ id: target(), targetId: null }]);
    domainOfTest(store, 'wexcombe.org');
    expect(forwarders(store)).toMatchObject([{ targetId: idOf('wexcombe.org') }]);
    expect(withoutRanks(store)).toEqual([]);
    write(store, () => putInspection(store, target(), { captures_at: 4 }));
    domainOfTest(store, NAME, { links_at: 3, strength: 20 });
    expect(withoutRanks(store)).toEqual([target()]);
  });

  it('keeps the last measurement, and each domain’s card with its time', () => {
    expect(lastMeasurement(store)).toBeNull();
    const measurement = { at: 5, nodes: 4, edges: 10, steps: 12, change: 1e-9, trusted: ['quillmere.org'], floor: 0.1 };
    addMeasurement(store, measurement);
    addMeasurement(store, { ...measurement, at: 6, steps: 3 });
    expect(lastMeasurement(store)).toEqual({ ...measurement, at: 6, steps: 3 });
    const measure = {
      id: target(),
      backlinks: 5,
      referringDomains: 2,
      strength: 40,
      trust: 10,
      trustPath: ['a', 'b'],
      readers: null,
    };
    write(store, () => putMeasure(store, measure, 6));
    expect(findDomain(store, NAME)).toMatchObject({ backlinks: 5, strength: 40, trust: 10, links_at: 6 });
    const card: SpamCard = { risk: 12, results: [] };
    write(store, () => putSpamCard(store, target(), card, 8));
    expect(spamCardOf(store, target())).toEqual({ at: 8, card });
    expect(spamCardOf(store, 4711)).toBeNull();
  });
});

describe('the queue of what is to be measured', () => {
  it('has what a person wants first, then the strongest, and says what was taken when', () => {
    const [weak, strong, wished] = ['weak', 'strong', 'wished'].map(
      (name, n) => domainOfTest(store, `${name}.org`, { strength: [2, 80, 1][n] }).id,
    );
    write(store, () => putInspection(store, strong, { captures_at: 3 }));
    expect(wantMeasured(store, [weak, strong, wished], 'Old and clean', false, 5)).toBe(3);
    expect(wantMeasured(store, [wished], 'you', true, 6)).toBe(0);
    const queue = queuedCandidates(store, 10);
    expect(queue.map(({ name, wantedBy, isByHand }) => [name, wantedBy, isByHand])).toEqual([
      ['wished.org', 'you', true],
      ['strong.org', 'Old and clean', false],
      ['weak.org', 'Old and clean', false],
    ]);
    expect(queue[1].takenAt).toMatchObject({ captures: 3, marks: null });
    write(store, () => doneMeasured(store, wished));
    expect(queueLength(store)).toBe(2);
  });

  it('rests when the day’s budget is spent, but for what a person wants', () => {
    const at = Date.UTC(2026, 10, 30, 12);
    expect(isMeasureDue(store, 100, at)).toBe(false);
    wantMeasured(store, [target()], 'a sieve', false, at);
    write(store, () => {
      spend(store, 60, at);
      spend(store, 40, at);
    });
    expect(spentToday(store, at)).toBe(100);
    expect(isMeasureDue(store, 100, at)).toBe(false);
    expect(isMeasureDue(store, 101, at)).toBe(true);
    // a new day, by UTC
    expect(isMeasureDue(store, 100, at + 13 * 3_600_000)).toBe(true);
    wantMeasured(store, [target()], 'you', true, at);
    expect(isMeasureDue(store, 100, at)).toBe(true);
  });
});

describe('points and marks', () => {
  const fitted = { ...SHIPPED_POINTS, fittedOn: '50 marks' };
  const REPORT = { examples: 50, spam: 20, area: 0.9, falseAlarms: 2, missed: 3 };

  it('that were fitted hold until they are taken back', () => {
    expect(activePoints(store)).toEqual(SHIPPED_POINTS);
    expect(undoFit(store)).toBe(false);
    keepFit(store, fitted, { before: REPORT, after: REPORT, moved: [] });
    keepFit(store, { ...fitted, fittedOn: '60 marks' }, { before: REPORT, after: REPORT, moved: [] });
    expect(activePoints(store).fittedOn).toBe('60 marks');
    expect(undoFit(store)).toBe(true);
    expect(lastFit(store)).toMatchObject({ points: { fittedOn: '50 marks' }, report: { moved: [] } });
    expect(undoFit(store)).toBe(true);
    expect(activePoints(store)).toEqual(SHIPPED_POINTS);
  });

  it('are counted and told by the mark, with the risk that the rules give', () => {
    const cards = [['a', 'spam', 80], ['b', 'clean', 5], ['c', 'keep', 50]] as const; // biome-ignore format: a mark a cell
    for (const [name, judged, risk] of cards) {
      const { id } = domainOfTest(store, `${name}mark.org`, { judged });
      write(store, () => putSpamCard(store, id, { risk, results: [] }, 1));
    }
    expect(marksGiven(store)).toEqual({ spam: 1, clean: 1 });
    expect(markedRisks(store)).toEqual([
      { risk: 80, isSpam: true },
      { risk: 5, isSpam: false },
    ]);
    expect(markedCards(store).map(({ name, mark, card }) => [name, mark, card.risk])).toEqual([
      ['amark.org', 'spam', 80],
      ['bmark.org', 'clean', 5],
    ]);
    expect(cardsAfter(store, idOf('amark.org'), 10).map(({ card }) => card.risk)).toEqual([5, 50]);
  });
});
