import { beforeEach, describe, expect, it } from 'vitest';
import { formatPart, parseView } from '../../core/pool/conditions';
import type { PoolQuery } from '../../core/pool/query';
import type { Store } from '../../store/base/database';
import { changeSettings } from '../../store/base/settings';
import { freshStore } from '../../store/base/testing';
import { lastVisit, tagNamed } from '../../store/domains/marks';
import { changeSieve, listSieves, noteHits, saveSieve } from '../../store/pool/sieves';
import type { Brief } from '../../store/shortlist/briefs';
import { addToShortlist } from '../../store/shortlist/shortlist';
import { addSource } from '../../store/sources/sources';
import { briefOfTest, domainOfTest, listingOfTest } from '../../store/testing';
import { engineOfTest } from '../testing';
import { askPool } from './ask-pool';
import { setChoices } from './pool-sets';
import { sieveFile, viewOfFile } from './sieve-file';
import { domainLine, domainView, viewRules } from './views';

const QUERY: PoolQuery = { parts: [], sorts: [], offset: 0, limit: 50, histograms: [] };
let store: Store;
let brief: Brief;

beforeEach(async () => {
  store = await freshStore();
  brief = briefOfTest(store);
});

/** Answers as the index does for some ids. */
const engineFor = (ids: number[], offers: object = {}) =>
  engineOfTest({
    queryPool: async () =>
      ({
        ids,
        names: ids.map((_, n) => ({ starts: [0, n + 3], matches: [[0, 2]] })),
        said: ids.map((id) => ({ sayability: id, subject: 'Beekeeping' })),
        offers,
        total: ids.length,
      }) as never,
  });

describe('rows of the pool', () => {
  it('come in the order of the index, with what it says of the names, and what is the person’s', async () => {
    const [one, two] = ['tarnhives.org', 'wexcombe.org'].map((name) => domainOfTest(store, name).id);
    addToShortlist(store, brief.id, [two]);
    const sieve = saveSieve(store, 'Old', 'c=age:10..');
    noteHits(store, sieve, [one], store.now(), false);
    const before = lastVisit(store);
    const { rows, total } = await askPool(store, engineFor([two, one]), brief, QUERY);
    expect(total).toBe(2);
    expect(rows.map(({ name, shortlisted, freshIn }) => [name, shortlisted, freshIn])).toEqual([
      ['wexcombe.org', true, []],
      ['tarnhives.org', false, [sieve]],
    ]);
    expect(rows.map(({ starts, sayability, nameSubject }) => [starts, sayability, nameSubject])).toEqual([
      [[0, 3], two, 'Beekeeping'],
      [[0, 4], one, 'Beekeeping'],
    ]);
    expect(lastVisit(store)).toBeGreaterThanOrEqual(before);
  });

  it('show the offer that let a row through, where it is not the best one', async () => {
    changeSettings(store, { rates: { GBP: 2 } });
    const { id } = domainOfTest(store, 'tarnhives.org');
    listingOfTest(store, id, { venue: 'Cheap', priceMinor: 1000 });
    listingOfTest(store, id, { venue: 'Dear', kind: 'auction', priceMinor: 3000, currency: 'GBP', bids: 4 });
    const plain = await askPool(store, engineFor([id]), brief, QUERY);
    expect(plain.rows[0]).toMatchObject({ venue: 'Cheap', priceMinor: 1000 });
    const offers = { [id]: { venue: 'Dear', listing: 'auction' } };
    const { rows } = await askPool(store, engineFor([id], offers), brief, QUERY);
    expect(rows[0]).toMatchObject({ venue: 'Dear', priceMinor: 3000, homeMinor: 6000, bids: 4, listing: 'auction' });
    // it may have gone since the index was asked
    const gone = { [id]: { venue: 'Elsewhere', listing: 'auction' } };
    expect((await askPool(store, engineFor([id], gone), brief, QUERY)).rows[0]).toMatchObject({ venue: 'Cheap' });
  });

  it('do not take for asked what only a list says', () => {
    const row = domainOfTest(store, 'tarnhives.org', { phase: 'pending-delete', phase_source: 'unasked Sunday drops' });
    expect(domainView(row, false, viewRules(store))).toMatchObject({
      isUnasked: true,
      phaseSource: 'Sunday drops',
    });
    const asked = domainOfTest(store, 'wexcombe.org', { phase: 'free', phase_source: 'rdap rdap.test' });
    expect(domainView(asked, true, viewRules(store))).toMatchObject({
      isUnasked: false,
      phaseSource: 'rdap rdap.test',
      shortlisted: true,
    });
  });

  it('are told in a line with what is known', () => {
    const row = domainOfTest(store, 'tarnhives.org', {
      phase: 'pending-delete',
      referring_domains: 12,
      strength: 41.6,
      spam_risk: 3,
    });
    expect(domainLine(row)).toBe('pending delete, 12 referring domains, strength 42, spam risk 3 of 100');
    expect(domainLine(domainOfTest(store, 'wexcombe.org'))).toBe('unknown');
  });
});

describe('what domains can belong to', () => {
  it('is sources but link exports, tags, shortlists, kept sieves, and subjects', () => {
    addSource(store, 'list', 'Sunday drops', {});
    addSource(store, 'links', 'Tidewater Links', {});
    tagNamed(store, 'to ask Mara');
    saveSieve(store, 'Old and clean', 'c=age:10..');
    const choices = setChoices(store, [brief]);
    expect(choices.source.map(({ name }) => name)).toEqual(['Sunday drops']);
    expect(choices.tag.map(({ name }) => name)).toEqual(['to ask Mara']);
    expect(choices.shortlist).toEqual([{ id: brief.id, name: 'Hives' }]);
    expect(choices.fresh.map(({ name }) => name)).toEqual(['Old and clean']);
    expect(choices.subjects).toEqual([...choices.subjects].sort());
  });
});

describe('a sieve that goes to another machine', () => {
  const kept = (view: string) => {
    const id = saveSieve(store, 'Hives of the club', view);
    const sieve = listSieves(store).find((one) => one.id === id);
    if (!sieve) throw new Error('it was not kept');
    return sieve;
  };

  const tagged = (tag: number) => {
    const part = formatPart({ type: 'member', fact: 'tag', values: [tag], not: false });
    return new URLSearchParams([['c', part], ['c', 'age:10..'], ['sort', 'strength:down']]).toString(); // biome-ignore format: a part a cell
  };

  it('names its sets, and finds them again under the numbers that they have there', async () => {
    const tag = tagNamed(store, 'to ask Mara');
    const file = sieveFile(store, kept(tagged(tag)));
    expect(file.names).toEqual({ tag: { [tag]: 'to ask Mara' } });
    expect(file.sort).toBe('strength:down');

    const other = await freshStore();
    for (const name of ['first', 'second', 'to ask Mara']) tagNamed(other, name);
    const { view, problems } = viewOfFile(other, file);
    expect(problems).toEqual([]);
    const { parts } = parseView(new URLSearchParams(view));
    expect(parts.find((part) => part.type === 'member')).toMatchObject({
      fact: 'tag',
      values: [tagNamed(other, 'to ask Mara')],
    });
    expect(parts).toHaveLength(2);
  });

  it('says what is not there, and leaves only that out', async () => {
    const tag = tagNamed(store, 'to ask Mara');
    const file = sieveFile(store, kept(tagged(tag)));
    const other = await freshStore();
    const { view, problems } = viewOfFile(other, file);
    expect(problems).toEqual(['There is no tag "to ask Mara" here, so it is left out']);
    expect(parseView(new URLSearchParams(view)).parts.some((part) => part.type === 'range')).toBe(true);
  });

  it('takes conditions that make no sense as problems, and is empty without any', () => {
    const file = {
      kind: 'sieve',
      version: 1,
      name: 'x',
      conditions: ['nonsense:1'],
      sort: '',
      columns: '',
      names: {},
      lists: {},
    } as const;
    const { problems, isEmpty } = viewOfFile(store, { ...file, conditions: [...file.conditions] });
    expect(problems).toHaveLength(1);
    expect(isEmpty).toBe(true);
    expect(changeSieve(store, kept('c=age:10..').id, { name: 'Other' })).toBeTruthy();
  });
});
