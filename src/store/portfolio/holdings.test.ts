import { beforeAll, describe, expect, it } from 'vitest';
import type { IdeaPattern } from '../../core/ideas/pattern';
import type { Store } from '../base/database';
import { changeSettings } from '../base/settings';
import { freshStore } from '../base/testing';
import type { RankedIdea } from '../ideas/ideas';
import { addIdeaRun, listIdeaRuns, putIdeas, putPlaces, readIdeas, readPlaces } from '../ideas/ideas';
import { myDeadlines } from '../lifecycle/deadlines';
import { saveBrief } from '../shortlist/briefs';
import { addEntry, addHoldings, changeHolding, listHoldings, moneyEntries, setEntryRemoved } from './holdings';
import { crawledPages, decideRules, ownSources, putOwnPages, readOwnPages, readRules } from './redirects';

const DAY = 86_400_000;
let store: Store;
let mine: number;

beforeAll(async () => {
  store = await freshStore();
  changeSettings(store, { currency: 'EUR', rates: { GBP: 1.2 } });
  [mine] = addHoldings(store, [
    {
      line: 2,
      name: 'pellgatehives.org',
      ending: 'org',
      boughtAt: store.now() - 400 * DAY,
      costMinor: 10_000,
      currency: 'GBP',
      renewsAt: store.now() + 20 * DAY,
      renewalMinor: 1200,
      seller: 'Coombe Names',
    },
  ]);
});

describe('what is owned', () => {
  it('is taken once, whatever the list says again', () => {
    const [holding] = listHoldings(store);
    expect(holding).toMatchObject({ name: 'pellgatehives.org', costMinor: 10_000, plan: 'undecided', status: 'owned' });
    const again = { line: 2, name: holding.name, ending: 'org', boughtAt: null, costMinor: 1, currency: null };
    expect(addHoldings(store, [{ ...again, renewsAt: null, renewalMinor: null, seller: 'x' }])).toEqual([]);
    expect(listHoldings(store)[0].costMinor).toBe(10_000);
  });

  it('is reminded of its renewal until it is sold or given up', () => {
    const kinds = () => myDeadlines(store, store.now(), false).filter(({ domainId }) => domainId === mine);
    expect(kinds()).toMatchObject([{ kind: 'renewal', words: 'renew it for 12' }]);
    const before = changeHolding(store, mine, { status: 'given up' });
    expect(kinds()).toEqual([]);
    changeHolding(store, mine, before ?? {});
    expect(kinds()).toHaveLength(1);
  });

  it('has sums in one currency, what came in and what went out, and takes entries back', () => {
    const sale = { at: store.now(), kind: 'sale' as const, amountMinor: 50_000, currency: 'EUR', words: 'to a club' };
    const id = addEntry(store, mine, sale);
    addEntry(store, mine, { ...sale, kind: 'renewal', amountMinor: 1000, currency: 'GBP', words: '' });
    expect(moneyEntries(store).map(({ kind, amountMinor }) => [kind, amountMinor])).toEqual([
      ['purchase', -12_000],
      ['sale', 50_000],
      ['renewal', -1200],
    ]);
    setEntryRemoved(store, mine, id, true);
    expect(moneyEntries(store)).toHaveLength(2);
    setEntryRemoved(store, mine, id, false);
    expect(moneyEntries(store)).toHaveLength(3);
    expect(setEntryRemoved(store, mine + 1, id, true)).toBe(false);
  });
});

describe('rules of redirects', () => {
  it('are decided, changed and taken back to what they were', () => {
    expect(
      decideRules(store, mine, [
        { from: '/a', to: 'https://x.org/a' },
        { from: '/b', to: null },
      ]),
    ).toEqual([
      { from: '/a', to: undefined },
      { from: '/b', to: undefined },
    ]);
    const before = decideRules(store, mine, [{ from: '/a' }, { from: '/b', to: 'https://x.org/b' }]);
    expect(readRules(store, mine)).toEqual([{ from: '/b', to: 'https://x.org/b' }]);
    decideRules(store, mine, before);
    expect(readRules(store, mine)).toEqual([
      { from: '/a', to: 'https://x.org/a' },
      { from: '/b', to: null },
    ]);
  });

  it('have own pages by their source, the latest of it', () => {
    const page = (path: string) => ({ url: `https://x.org${path}`, title: '', text: '' });
    putOwnPages(store, [page('/1'), page('/2')], 'sitemap.xml');
    expect(putOwnPages(store, [page('/3')], 'sitemap.xml')).toBe(1);
    expect(readOwnPages(store).map(({ url }) => url)).toEqual(['https://x.org/3']);
    expect(ownSources(store)).toMatchObject([{ source: 'sitemap.xml', pages: 1 }]);
    expect(crawledPages(store, 'never-crawled.org', 10)).toEqual([]);
  });
});

describe('ideas', () => {
  const pattern: IdeaPattern = {
    slots: [{ title: 'own', words: ['bee'], isOptional: false }],
    isAnyOrder: false,
    withTwins: false,
    joints: ['joined'],
    endings: ['org'],
    mostLetters: 20,
  };
  it('are kept by run, the best first, and old runs go', () => {
    const brief = saveBrief(store, {
      name: 'ideas',
      purpose: 'resell',
      subjectWords: [],
      trustedSites: [],
      excludedEndings: [],
      budgetMinor: null,
      currency: 'EUR',
    });
    const runs = Array.from({ length: 14 }, () => addIdeaRun(store, brief, pattern));
    expect(listIdeaRuns(store, brief).map(({ id }) => id)).toEqual(runs.slice(2).reverse());
    const idea = (label: string, score: number): RankedIdea => ({
      label,
      words: [label],
      joint: 'joined',
      score,
      parts: { sayable: 1, short: 1, plain: 1, clear: 1, subject: 0 },
      readsAs: null,
      worthLowMinor: null,
      worthHighMinor: null,
      mark: null,
    });
    putIdeas(store, runs[13], [idea('bee', 90), idea('hive', 80), idea('comb', 70)], 3);
    putIdeas(store, runs[13], [idea('bee', 90), idea('hive', 80)], 2);
    expect(readIdeas(store, runs[13], 1, 10)).toMatchObject({ kept: 2, rows: [{ label: 'hive', rank: 1 }] });
    expect(listIdeaRuns(store, brief)[0]).toMatchObject({ made: 2, pattern });
  });

  it('may say places, of which a later table replaces the earlier', () => {
    const place = (word: string, people: number) => ({ word, title: word, people, growthPercent: null });
    putPlaces(store, [place('a', 5), place('b', 9)], 'towns');
    putPlaces(store, [place('c', 1), place('d', 7)], 'towns');
    expect(readPlaces(store).map(({ word }) => word)).toEqual(['d', 'c']);
  });
});
