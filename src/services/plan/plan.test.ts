import { beforeEach, describe, expect, it } from 'vitest';
import { tallyLog } from '../../core/redirects/access-log';
import { type Store, write } from '../../store/base/database';
import { statement } from '../../store/base/statement';
import { freshStore } from '../../store/base/testing';
import { findDomain, putDomain } from '../../store/domains/domains';
import { putCapture, putCapturePage } from '../../store/links/captures';
import { putLink } from '../../store/links/links';
import { addHoldings } from '../../store/portfolio/holdings';
import { addProspects, changeProspect, chooseStandIn, linksToTarget } from '../../store/portfolio/prospects';
import { putRankings } from '../../store/portfolio/rankings';
import { changeSteps } from '../../store/portfolio/rebuild';
import { decideRules, hitsOf, logsOf, putLog, putOwnPages, redirectedDomains } from '../../store/portfolio/redirects';
import { ensureBrief } from '../../store/shortlist/briefs';
import { addSource } from '../../store/sources/sources';
import { targetDetail, workList } from '../prospecting/prospects';
import { rebuildPlan } from '../rebuild/rebuild';
import { redirectPlan } from '../redirects/redirects';

const NAME = 'umberleybees.org';
const DAY = 86_400_000;
let store: Store;
let id: number;
let seq = 0;

/** A site that three others link to, each its own page. */
beforeEach(async () => {
  store = await freshStore();
  ensureBrief(store);
  const source = addSource(store, 'links', 'index', {});
  write(store, () => {
    id = putDomain(store, { name: NAME, ending: 'org' }, true, 1).id;
    const link = (from: string, path: string, anchor: string) => {
      const fromId = putDomain(store, { name: from, ending: 'org' }, false, 1).id;
      putLink(store, {
        toId: id,
        sourceId: source,
        seq: seq++,
        fromId,
        fromUrl: `http://${from}/links`,
        toUrl: `http://${NAME}${path}`,
        anchor,
        nofollow: false,
        indexable: true,
        firstSeenAt: null,
        lastSeenAt: 1,
      });
    };
    link('tollbinders.org', '/swarms.html', 'catching a swarm of bees');
    link('pellgatecombs.org', '/swarms.html', 'swarms');
    link('mirrowmead.org', '/queens.html', 'rearing queens');
  });
});
const row = () => findDomain(store, NAME) as NonNullable<ReturnType<typeof findDomain>>;
const phrase = (words: string, searches: number) => ({ name: NAME, phrase: words, position: 2, searches, clickMinor: 50, currency: 'EUR', competition: 0.2, at: null, line: 1 }); // biome-ignore format: a phrase

describe('a rebuild', () => {
  it('is planned from links, phrases and captures, and what somebody decided', async () => {
    putRankings(
      store,
      [phrase('catch a swarm', 400), phrase('rearing queens', 50), phrase('zeppelins', 10)] as never,
      'Vale Ranks',
    );
    write(store, () => {
      putCapture(store, id, { at: 9 * DAY, url: `http://${NAME}/`, status: 200, kind: 'content', marks: [], title: 'Umberley Bees', language: 'en', subject: null, subjectConfidence: null, terms: new Map(), links: [], redirectTo: null, fingerprint: null } as never, 1); // biome-ignore format: a capture
      putCapturePage(store, id, 9 * DAY, [
        { kind: 'item', level: 1, text: 'Swarms' },
        { kind: 'heading', level: 1, text: 'Umberley Bees' },
        { kind: 'text', level: 0, text: 'We keep bees.' },
      ]);
    });
    const plan = await rebuildPlan(store, row());
    expect(plan.isOwned).toBe(false);
    expect(plan.measures).toEqual(['links', 'visits']);
    expect(plan.pages.map(({ path }) => path)).toEqual(['/swarms.html', '/queens.html', '/']);
    expect(plan.pages[0].phrases.map((one) => one.phrase)).toEqual(['catch a swarm']);
    expect(plan.unplaced.map((one) => one.phrase)).toEqual(['zeppelins']);
    expect(plan.outline).toMatchObject({ title: 'Umberley Bees', parts: ['Swarms'], headings: [{ words: 3 }] });
    expect(plan.subjects[0]).toMatchObject({ title: 'Beekeeping' });
    changeSteps(store, id, [
      { key: 'page:/swarms.html', state: 'done' },
      { key: 'page:/queens.html', state: 'left' },
    ]);
    const after = await rebuildPlan(store, row());
    expect(after.steps.map(({ key }) => key)).not.toContain('page:/queens.html');
    expect(after.progress.done).toBe(1);
  });

  it('says so where nothing is known', async () => {
    write(store, () => putDomain(store, { name: 'umberleyvoid.org', ending: 'org' }, true, 1));
    const plan = await rebuildPlan(store, findDomain(store, 'umberleyvoid.org') as never);
    expect(plan).toMatchObject({ pages: [], outline: null, worth: null, measures: [] });
    expect(plan.steps.length).toBeGreaterThan(4);
  });
});

describe('redirects', () => {
  it('are proposed by words and subject, carried as decided, and held against the log', async () => {
    putOwnPages(
      store,
      [
        { url: 'https://beesofthevale.org/swarm', title: 'Catching swarms', text: '' },
        { url: 'https://beesofthevale.org/type', title: 'Setting lead type', text: '' },
      ],
      'mine',
    );
    const before = await redirectPlan(store, row());
    const [swarms] = before.proposals;
    expect(swarms.old).toMatchObject({ path: '/swarms.html', domains: 2, subject: 'Beekeeping' });
    expect(swarms.candidates[0].url).toBe('https://beesofthevale.org/swarm');
    expect(before.carried.moved).toBe(0);
    expect(before.mentions).toHaveLength(3);
    decideRules(store, id, [
      { from: '/swarms.html', to: 'https://beesofthevale.org/swarm' },
      { from: '/queens.html', to: null },
    ]);
    const { carried } = await redirectPlan(store, row());
    expect(carried.moved / carried.all).toBeCloseTo(2 / 3, 1);
    expect(redirectedDomains(store)).toEqual([{ id, name: NAME }]);

    const line = (path: string) =>
      `198.51.100.7 - - [20/Nov/2026:10:00:00 +0000] "GET ${path} HTTP/1.1" 301 0 "-" "Mozilla/5.0"`;
    putLog(store, id, 'monday', tallyLog([line('/swarms.html'), line('/swarms.html'), line('/x')]));
    putLog(store, id, 'tuesday', tallyLog([line('/x')]));
    expect(hitsOf(store, id)).toEqual(
      new Map([
        ['/swarms.html', 2],
        ['/x', 2],
      ]),
    );
    // the same log again counts once
    putLog(store, id, 'monday', tallyLog([line('/swarms.html')]));
    expect(hitsOf(store, id)).toEqual(
      new Map([
        ['/swarms.html', 1],
        ['/x', 1],
      ]),
    );
    expect(logsOf(store, id).map(({ source }) => source)).toEqual(['monday', 'tuesday']);
  });
});

describe('the work list', () => {
  const target = `http://${NAME}/swarms.html`;

  it('says what is next, and writes a letter once both are known', () => {
    putOwnPages(store, [{ url: 'https://beesofthevale.org/swarm', title: 'Catching swarms', text: '' }], 'mine');
    const detail = targetDetail(store, target, NAME);
    expect(detail.links.map(({ page }) => page).sort()).toEqual([
      'http://pellgatecombs.org/links',
      'http://tollbinders.org/links',
    ]);
    expect(detail.candidates[0].url).toBe('https://beesofthevale.org/swarm');
    addProspects(store, { target, domain: NAME }, linksToTarget(store, target, NAME, 10));
    const next = () => workList(store).rows.map((one) => one.next.words);
    expect(next()).toEqual(['choose the page that stands in', 'choose the page that stands in']);
    expect(workList(store).rows[0].letter).toBeNull();
    chooseStandIn(store, target, 'https://beesofthevale.org/swarm');
    expect(next()).toEqual(['find out how to reach them', 'find out how to reach them']);
    changeProspect(store, target, 'http://tollbinders.org/links', { contact: 'mailto:club@tollbinders.org' });
    const written = workList(store).rows.find(({ page }) => page.includes('tollbinders'));
    expect(written?.next.words).toBe('write');
    expect(written?.letter?.text).toContain('its domain has lapsed');
    expect(written?.mail).toMatch(/^mailto:club@tollbinders\.org/);
    expect(targetDetail(store, target, NAME).links.every(({ isListed }) => isListed)).toBe(true);
  });

  it('says of what is one’s own that it moved', () => {
    addHoldings(store, [{ line: 1, name: NAME, ending: 'org', boughtAt: null, costMinor: 1, currency: null, renewsAt: null, renewalMinor: null, seller: 'x' }]); // biome-ignore format: a line
    addProspects(store, { target, domain: NAME }, linksToTarget(store, target, NAME, 10));
    chooseStandIn(store, target, 'https://beesofthevale.org/swarm');
    expect(workList(store).rows[0].letter?.text).toContain('what stood there has moved');
    expect(statement(store.raw, 'SELECT count(*) FROM prospects').pluck().get()).toBe(2);
  });
});
