import { beforeEach, describe, expect, it } from 'vitest';
import { actingAs } from '../../core/work/actor';
import { type Store, write } from '../../store/base/database';
import { knex, run } from '../../store/base/query';
import { changeSettings } from '../../store/base/settings';
import { freshStore } from '../../store/base/testing';
import { findDomain, putSighting } from '../../store/domains/domains';
import { actOn, beginAction } from '../../store/domains/marks';
import { addTick, ticksOf } from '../../store/domains/notes';
import { addMarkReview, markReviewsOf, putMarkMatches } from '../../store/domains/word-marks';
import { putVerdict } from '../../store/lifecycle/verdicts';
import { putInspection } from '../../store/links/inspections';
import { wantMeasured } from '../../store/links/measure-queue';
import { addToShortlist } from '../../store/shortlist/shortlist';
import { placeScores, putStatement } from '../../store/sources/list-figures';
import { briefOfTest, captureOfTest, domainOfTest, linkOfTest, listingOfTest, sourceOfTest } from '../../store/testing';
import { concernsOf } from './concerns';
import { readDossier } from './dossier';
import { historyOf } from './history';
import { measureView } from './measured';
import { referrersOf } from './referrers';
import { siblingsOf } from './siblings';
import { type EvidenceTable, tableOf } from './tables';

const NAME = 'tarnhives.org';
const MINUTE = 60_000;
const DAY = 86_400_000;
let store: Store;
let brief: number;

beforeEach(async () => {
  store = await freshStore();
  brief = briefOfTest(store).id;
});

const row = () => findDomain(store, NAME) ?? domainOfTest(store, NAME);
async function dossier() {
  const found = await readDossier(store, NAME, brief);
  if (!found) throw new Error('it is not known');
  return found;
}
const table = (name: EvidenceTable, ask: Partial<Parameters<typeof tableOf>[3]> = {}) =>
  tableOf(store, row(), name, { sort: null, descending: false, filter: '', offset: 0, limit: 100, ...ask });

/** Three sites link to it, a strong one twice, and one of them with words that sell. */
function linked(): void {
  for (const [site, strength] of [['quillmere.org', 60], ['ossenmere.org', 20], ['saltmarsh.com', 40]] as const)
    domainOfTest(store, site, { strength, trust: strength / 2 }); // biome-ignore format: a site a cell
  domainOfTest(store, NAME, { links_at: store.now(), referring_domains: 3 });
  linkOfTest(store, 'quillmere.org', NAME, { anchor: 'Tarn Hives', toUrl: `https://${NAME}/queens` });
  linkOfTest(store, 'quillmere.org', NAME, { anchor: 'Tarn Hives', fromUrl: 'https://quillmere.org/links' });
  linkOfTest(store, 'ossenmere.org', NAME, { anchor: 'cheap casino bonus', toUrl: `https://${NAME}/queens` });
  linkOfTest(store, 'saltmarsh.com', NAME, { anchor: '', nofollow: true });
}

describe('a dossier', () => {
  it('shows what lists state beside what was measured, the one that counts first', async () => {
    const { id } = row();
    const state = (source: number, at: number, figures: string) => {
      putSighting(store, id, source, at, null, {});
      putStatement(store, id, source, figures, at);
    };
    const [older, newer] = ['old', 'new'].map((name) => sourceOfTest(store, 'list', name));
    write(store, () => {
      state(older, 1000, '12,340,900,,,85GBP,41');
      state(newer, 2000, ',,70');
    });
    write(store, () => placeScores(store, ['Pull']));
    const { statements, listTraffic, listScore } = await dossier();
    expect([listTraffic, listScore]).toEqual([70, 41]);
    const said = statements.map(({ figure, name, by }) => [figure, name, by.map(({ value, at }) => [value, at])]);
    expect(said).toEqual([
      ['listReferringDomains', null, [[12, 1000]]],
      ['listBacklinks', null, [[340, 1000]]],
      ['listTraffic', null, [[70, 2000], [900, 1000]]],
      ['listCpc', null, [[85, 1000]]],
      ['listScore', 'Pull', [[41, 1000]]],
    ]); // biome-ignore format: a figure a line
    expect(statements[3].by[0].currency).toBe('GBP');
    changeSettings(store, { countRule: 'largest' });
    expect((await dossier()).listTraffic).toBe(900);
  });

  it('is none of what nobody named, and says so little of what was only named', async () => {
    expect(await readDossier(store, 'nowhere.org', brief)).toBeNull();
    domainOfTest(store, NAME);
    const bare = await dossier();
    expect(bare).toMatchObject({ name: NAME, listings: [], ways: [], checks: [], tags: [], shortlist: [], spam: null });
    expect(bare.statements).toEqual([]);
    expect(bare.record).toMatchObject({ registrar: null, statuses: [], at: null });
    expect(bare.weighing).toBeNull();
    expect(bare.past).toBeNull();
  });

  it('says of the registration what a list says, until a record was read', async () => {
    domainOfTest(store, NAME, { registered_at: 1_000_000_000_000, expires_at: 1_800_000_000_000 });
    expect((await dossier()).record).toMatchObject({ registeredAt: 1_000_000_000_000, source: null, at: null });
    run(
      store,
      knex('domains').where({ name: NAME }).update({
        record_at: store.now(),
        record_source: 'rdap rdap.registry.test',
        registrar: 'Pinchbeck Names',
        statuses: '["ok"]',
        name_servers: '["ns1.pinchbeck.test"]',
      }),
    );
    expect((await dossier()).record).toMatchObject({ registrar: 'Pinchbeck Names', statuses: ['ok'] });
  });

  it('puts the offers of all venues side by side, in one’s own currency, and the ways from the cheapest', async () => {
    changeSettings(store, { rates: { GBP: 1.2 } });
    const { id } = domainOfTest(store, NAME);
    listingOfTest(store, id, { venue: 'Saltmarsh Exchange', priceMinor: 5000, currency: 'GBP' });
    listingOfTest(store, id, { venue: 'Quill Auctions', priceMinor: 5500 });
    listingOfTest(store, id, { venue: 'Gone Sales', priceMinor: 100, state: 'sold' });
    const { listings, ways, venue, waysCurrency } = await dossier();
    expect(listings.map(({ venue: at, homeMinor, isOpen }) => [at, homeMinor, isOpen]).sort()).toEqual([
      ['Gone Sales', 100, false],
      ['Quill Auctions', 5500, true],
      ['Saltmarsh Exchange', 6000, true],
    ]);
    expect(venue).toBe('Quill Auctions');
    expect(ways.map(({ venue: at }) => at)).toEqual(['Quill Auctions', 'Saltmarsh Exchange']);
    expect(waysCurrency).toBe('EUR');
  });

  it('weighs who links, strongest first, and draws their profile', async () => {
    linked();
    const { referrers, profile, looked, gone, anchors, oldAddresses } = await dossier();
    expect(referrers.map(({ site, pages }) => [site, pages])).toEqual([['quillmere.org', 2], ['saltmarsh.com', 1], ['ossenmere.org', 1]]); // biome-ignore format: a site a cell
    expect([looked, gone]).toEqual([0, 0]);
    expect(profile.endings[0]).toMatchObject({ key: 'org', domains: 2 });
    expect(anchors.find(({ anchor }) => anchor === 'Tarn Hives')).toMatchObject({ kind: 'name', domains: 1 });
    expect(anchors.find(({ anchor }) => anchor === 'cheap casino bonus')).toMatchObject({ kind: 'money' });
    expect(oldAddresses[0]).toMatchObject({ domains: 2 });
  });

  it('is of the brief that is looked at, and tells every shortlist it is on', async () => {
    const other = briefOfTest(store, { name: 'Apiaries' }).id;
    const { id } = domainOfTest(store, NAME);
    addToShortlist(store, other, [id]);
    expect(await dossier()).toMatchObject({ shortlisted: false, shortlist: [{ briefId: other }] });
    expect(await readDossier(store, NAME, other)).toMatchObject({ shortlisted: true });
  });

  it('takes what was seen within a minute as one look, in the lifeline', async () => {
    const { id } = domainOfTest(store, NAME);
    const at = Math.floor(store.now() / MINUTE) * MINUTE - 10 * MINUTE;
    write(store, () => {
      for (const [n, name] of ['Tidewater Links', 'Sunday drops'].entries())
        putSighting(store, id, sourceOfTest(store, 'list', name), at + 1000 * n, null, {});
      putSighting(store, id, sourceOfTest(store, 'list', 'Later drops'), at + 3 * MINUTE, null, {});
    });
    const observed = (await dossier()).life.spans.filter(({ lane }) => lane === 'observations');
    expect(observed.map(({ detail }) => detail)).toEqual(['in Tidewater Links; in Sunday drops', 'in Later drops']);
  });
});

describe('the mark on a domain', () => {
  it('stands with who gave it last, and with nobody once it is taken back', async () => {
    const { id } = domainOfTest(store, NAME);
    const mark = (judged: 'spam' | 'clean' | 'not-yet') => {
      const action = { kind: 'judge', judged } as const;
      actOn(store, beginAction(store, action), action, [id]);
    };
    expect((await dossier()).judgedBy).toBeNull();
    mark('spam');
    expect((await dossier()).judgedBy).toBe('you');
    actingAs('Mara', () => mark('clean'));
    expect(await dossier()).toMatchObject({ judged: 'clean', judgedBy: 'Mara' });
    mark('not-yet');
    expect((await dossier()).judgedBy).toBeNull();
  });
});

describe('the history of a domain', () => {
  const said = () => ({ sightings: [], ticks: ticksOf(store, row().id), reviews: markReviewsOf(store, row().id) });

  it('tells who said what, in words, the latest first', () => {
    const { id } = domainOfTest(store, NAME, { strength: 20, links_at: 1000 });
    run(store, knex('domains').where({ id }).update({ strength: 31.26, links_at: 2000 }));
    const action = { kind: 'judge', judged: 'keep' } as const;
    actOn(store, beginAction(store, action), action, [id]);
    addTick(store, id, 'marks', 'look', 'a firm in Hull');
    addMarkReview(store, id, 'clear', '');
    listingOfTest(store, id, { venue: 'Quill Auctions' });
    const history = historyOf(store, row(), said());
    expect(history.map(({ what }) => what)).toEqual(
      expect.arrayContaining(['Your mark', 'Offer', 'Due diligence: marks', 'Trademarks']),
    );
    expect(history.find(({ what }) => what === 'Due diligence: marks')).toMatchObject({
      becomes: 'in doubt: a firm in Hull',
      who: 'you',
    });
    expect(history.find(({ what }) => what === 'Strength')).toMatchObject({ was: '20', becomes: '31.3' });
    const times = history.map(({ at }) => at ?? 0);
    expect(times).toEqual([...times].sort((a, b) => b - a));
  });

  it('says in brief what a list said, leaves out what is of no use, and leads to the list', () => {
    domainOfTest(store, NAME);
    const sighting = {
      at: store.now(),
      sourceId: 7,
      sourceName: 'Sunday drops',
      said: { domain: NAME, line: 3, priceMinor: 1250, closingAt: Date.UTC(2026, 11, 3), backlinks: 40, empty: '' },
    } as never;
    const [entry] = historyOf(store, row(), { ...said(), sightings: [sighting] });
    expect(entry).toMatchObject({
      what: 'Named',
      becomes: 'price 12.5, closing 2026-12-03, backlinks 40',
      who: 'Sunday drops',
      href: '/sources/7',
    });
    const [bare] = historyOf(store, row(), { ...said(), sightings: [{ ...(sighting as object), said: {} } as never] });
    expect(bare.becomes).toBe('the name alone');
  });
});

describe('tables of evidence', () => {
  it('are sorted, searched and cut, and say how many there are', () => {
    linked();
    const all = table('referrers');
    expect([all.total, all.found]).toEqual([3, 3]);
    const site = ({ cells }: { cells: unknown[] }) => cells[0];
    expect(table('referrers', { sort: 'site' }).rows.map(site)).toEqual([
      'ossenmere.org',
      'quillmere.org',
      'saltmarsh.com',
    ]);
    expect(table('referrers', { sort: 'trust', descending: true, limit: 1 }).rows.map(site)).toEqual(['quillmere.org']);
    const found = table('referrers', { filter: 'CHEAP bonus' });
    expect([found.total, found.found, found.rows.map(site)]).toEqual([3, 1, ['ossenmere.org']]);
    expect(table('referrers', { offset: 2 }).rows).toHaveLength(1);
  });

  it('say why a link counts for less', () => {
    linked();
    const note = table('referrers').rows.find(({ cells }) => cells[0] === 'saltmarsh.com')?.note;
    expect(note).toMatch(/nofollow/i);
  });

  it('hold anchors, old addresses, captures and looks, each with what it is', () => {
    linked();
    captureOfTest(store, row(), {
      title: 'Tarn Hives',
      language: 'en',
      marks: ['titled Tarn Hives', '40 words', 'a shop'],
    });
    captureOfTest(store, row(), { at: store.now() - DAY, kind: 'redirect', redirectTo: 'wexcombe.org' });
    write(store, () =>
      putVerdict(
        store,
        row().id,
        store.now(),
        [{ step: 'dns', server: '127.0.0.1:53', outcome: 'nxdomain', detail: '', elapsedMs: 4 }],
        { phase: 'free', confidence: 0.9, reason: 'not there', contradictions: [] } as never,
        null,
      ),
    );
    expect(table('anchors').rows.map(({ cells }) => cells.slice(0, 2))).toContainEqual([
      'cheap casino bonus',
      'words that sell',
    ]);
    expect(table('anchors').rows.map(({ cells }) => cells[0])).toContain('no words');
    expect(table('addresses').rows.map(({ cells }) => cells)).toContainEqual([`${NAME}/queens`, 2, 2]);
    const [content, moved] = table('captures', { sort: 'at', descending: true }).rows;
    expect(content.cells.slice(1, 4)).toEqual(['content', 'Tarn Hives', 'English']);
    expect(content.note).toBe('a shop');
    expect(moved.cells[1]).toBe('redirect to wexcombe.org');
    expect(table('checks').rows[0].cells.slice(1)).toEqual(['DNS', '127.0.0.1:53', 'nxdomain', null, 4]);
    addTick(store, row().id, 'marks', 'fine', '');
    expect(table('history').rows.map(({ cells }) => cells[1])).toEqual(['Due diligence: marks']);
  });
});

describe('referring domains', () => {
  it('are kept while nothing of the links changes, and read anew when something does', () => {
    linked();
    const first = referrersOf(store, row());
    expect(referrersOf(store, row())).toBe(first);
    linkOfTest(store, 'wexcombe.org', NAME);
    expect(referrersOf(store, row()).list).toHaveLength(4);
  });

  it('that an index saw last long before its own date are lost', () => {
    linked();
    const source = sourceOfTest(store, 'links', 'Old Index');
    const lastSeenAt = store.now() - 400 * DAY;
    linkOfTest(store, 'wexcombe.org', NAME, { sourceId: source, firstSeenAt: lastSeenAt - 90 * DAY, lastSeenAt });
    linkOfTest(store, 'pinchbeck.org', NAME, {
      sourceId: source,
      firstSeenAt: store.now() - DAY,
      lastSeenAt: store.now(),
    });
    const lost = new Map(referrersOf(store, row()).list.map(({ site, lostAt }) => [site, lostAt]));
    expect(lost.get('wexcombe.org')).toBe(lastSeenAt);
    expect(lost.get('pinchbeck.org')).toBeNull();
    // an index that gives no dates loses nothing
    expect(lost.get('quillmere.org')).toBeNull();
  });
});

describe('the same name elsewhere', () => {
  it('is told under the common endings but its own, and as its twin', () => {
    domainOfTest(store, 'tarnhives.com', { phase: 'active', phase_at: 5 });
    domainOfTest(store, 'tarnhive.org', { phase: 'free', phase_at: 6 });
    const { endings, twin } = siblingsOf(store, NAME, 'org', 'tarnhive');
    expect(endings.map(({ name }) => name)).not.toContain(NAME);
    expect(endings.find(({ name }) => name === 'tarnhives.com')).toMatchObject({ phase: 'active', phaseAt: 5 });
    expect(endings.find(({ name }) => name === 'tarnhives.net')).toMatchObject({ phase: null });
    expect(twin).toMatchObject({ name: 'tarnhive.org', phase: 'free' });
    expect(siblingsOf(store, NAME, 'org', null).twin).toBeNull();
  });
});

describe('what should be known before money moves', () => {
  it('is what breaks one’s own limits, one’s own mark, and where it forwarded to', () => {
    domainOfTest(store, NAME, { spam_risk: 90, judged: 'pass', digits: 2 });
    write(store, () => {
      putInspection(store, row().id, { forward_to: 'wexcombe.org', marks_found: 3 });
      putMarkMatches(store, row().id, [], store.now());
    });
    const concerns = concernsOf(store, row(), { noDigits: true });
    expect(concerns).toEqual(
      expect.arrayContaining(['you marked it pass', 'its spam risk is 90 of 100', 'it forwarded to wexcombe.org']),
    );
    expect(concerns.some((words) => /digit/.test(words))).toBe(true);
  });

  it('says nothing of a risk that one’s own mark overrules', () => {
    domainOfTest(store, NAME, { spam_risk: 90, judged: 'clean' });
    expect(concernsOf(store, row(), { mostSpamRisk: 50 })).toEqual([]);
  });
});

describe('what is measured next', () => {
  it('is what is worth most, with who wants it, under the day’s budget', () => {
    changeSettings(store, { measureBudget: 400 });
    const [plain, strong] = ['wexcombe.org', NAME].map(
      (name) =>
        domainOfTest(store, name, { strength: name === NAME ? 80 : 5, referring_domains: name === NAME ? 90 : 1 }).id,
    );
    write(store, () => {
      wantMeasured(store, [plain, strong], 'Old and clean', false, store.now());
    });
    const view = measureView(store);
    expect(view).toMatchObject({ budget: 400, spent: 0, queued: 2, marks: { spam: 0, clean: 0 }, fit: null });
    expect(view.next.map(({ name }) => name)).toEqual([NAME, 'wexcombe.org']);
    expect(view.next[0].wantedBy).toBe('Old and clean');
  });
});
