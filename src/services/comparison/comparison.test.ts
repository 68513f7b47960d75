import { beforeEach, describe, expect, it } from 'vitest';
import type { Store } from '../../store/base/database';
import { freshStore } from '../../store/base/testing';
import { briefOfTest, domainOfTest, linkOfTest } from '../../store/testing';
import { compareDomains, MOST_COMPARED } from './comparison';

const YEAR = 365 * 86_400_000;
let store: Store;
let brief: number;

beforeEach(async () => {
  store = await freshStore();
  brief = briefOfTest(store).id;
});

const factOf = async (names: readonly string[], title: string) => {
  const { facts } = await compareDomains(store, names, brief);
  const found = facts.find((fact) => fact.title === title);
  if (!found) throw new Error(`there is no fact ${title}`);
  return found;
};

describe('domains side by side', () => {
  it('are four at most, and say which names are not known', async () => {
    for (const name of ['tarnhives.org', 'wexcombe.org']) domainOfTest(store, name);
    const names = ['tarnhives.org', 'nowhere.org', 'wexcombe.org', 'elsewhere.org', 'tarnhives.org'];
    const { domains, missing } = await compareDomains(store, names, brief);
    expect(MOST_COMPARED).toBe(4);
    expect(domains.map(({ name }) => name)).toEqual(['tarnhives.org', 'wexcombe.org']);
    expect(missing).toEqual(['nowhere.org', 'elsewhere.org']);
  });

  it('show which is best where one way is better, and where none is', async () => {
    domainOfTest(store, 'tarnhives.org', { strength: 40, spam_risk: 12, registered_at: store.now() - 20 * YEAR });
    domainOfTest(store, 'wexcombe.org', { strength: 61.2, spam_risk: 12, registered_at: store.now() - 3 * YEAR });
    const names = ['tarnhives.org', 'wexcombe.org'];
    expect(await factOf(names, 'Strength')).toMatchObject({
      group: 'Links',
      shown: ['40', '61'],
      best: 1,
      differs: true,
    });
    // as good as each other
    expect(await factOf(names, 'Spam risk')).toMatchObject({ best: null, differs: false });
    // the older one
    expect(await factOf(names, 'Registered')).toMatchObject({ best: 0 });
    expect(await factOf(names, 'Length')).toMatchObject({ shown: ['9', '8'], best: 1 });
  });

  it('leave a gap where something is not known, which is no difference', async () => {
    domainOfTest(store, 'tarnhives.org', { strength: 40 });
    domainOfTest(store, 'wexcombe.org');
    expect(await factOf(['tarnhives.org', 'wexcombe.org'], 'Strength')).toMatchObject({
      shown: ['40', null],
      differs: false,
      best: null,
    });
  });

  it('stand in groups, each with its facts together', async () => {
    domainOfTest(store, 'tarnhives.org');
    const { facts } = await compareDomains(store, ['tarnhives.org'], brief);
    const groups = facts.map(({ group }) => group);
    expect([...new Set(groups)]).toEqual(['Offer', 'Links', 'Past', 'Name', 'Verdict', 'Record']);
    expect(groups).toEqual(
      [...groups].sort((a, b) => [...new Set(groups)].indexOf(a) - [...new Set(groups)].indexOf(b)),
    );
  });

  it('tell who links to all of them, the strongest first, and how many link to one alone', async () => {
    for (const [name, strength] of [['quillmere.org', 30], ['ossenmere.org', 70], ['saltmarsh.org', 50]] as const)
      domainOfTest(store, name, { strength }); // biome-ignore format: a site a cell
    for (const from of ['quillmere.org', 'ossenmere.org', 'saltmarsh.org']) linkOfTest(store, from, 'tarnhives.org');
    for (const from of ['quillmere.org', 'ossenmere.org']) linkOfTest(store, from, 'wexcombe.org');
    const { shared } = await compareDomains(store, ['tarnhives.org', 'wexcombe.org'], brief);
    expect(shared).toEqual({ all: 2, strongest: ['ossenmere.org', 'quillmere.org'], alone: [1, 0] });
    // of one domain alone nothing is shared
    const { shared: none } = await compareDomains(store, ['tarnhives.org'], brief);
    expect(none).toMatchObject({ all: 0, alone: [3] });
  });
});
