import { beforeEach, describe, expect, it } from 'vitest';
import type { Store } from '../../store/base/database';
import { freshStore } from '../../store/base/testing';
import { addProspects } from '../../store/portfolio/prospects';
import { decideRules, putOwnPages } from '../../store/portfolio/redirects';
import { captureOfTest, domainOfTest, linkOfTest } from '../../store/testing';
import { oldAddressesOf, redirectPlan } from './redirects';

const NAME = 'tarnhives.org';
let store: Store;

beforeEach(async () => {
  store = await freshStore();
});

const row = () => domainOfTest(store, NAME);
const at = (path: string) => `https://${NAME}${path}`;

describe('old addresses', () => {
  it('come from links and captures, the heaviest first, whatever stands before and behind the path', async () => {
    linkOfTest(store, 'quillmere.org', NAME, { toUrl: at('/queens'), anchor: 'raising queens' });
    linkOfTest(store, 'ossenmere.org', NAME, { toUrl: `http://www.${NAME}/queens`, anchor: 'queen bees' });
    linkOfTest(store, 'saltmarsh.com', NAME, { toUrl: at('/honey'), anchor: '' });
    captureOfTest(store, row(), { url: `http://${NAME}/queens`, title: 'Raising queens' });
    captureOfTest(store, row(), { at: 5, url: `http://${NAME}/wax`, title: 'Wax' });
    captureOfTest(store, row(), { at: 6, url: `http://${NAME}/login`, title: 'Parked', kind: 'parked' });
    const old = await oldAddressesOf(store, row());
    expect(old.map(({ path, domains }) => [path, domains])).toEqual([
      ['/queens', 2],
      ['/honey', 1],
      // nobody links to it, but it was there
      ['/wax', 0],
    ]);
    expect(old[0]).toMatchObject({ title: 'Raising queens' });
    expect([...old[0].anchors].sort()).toEqual(['queen bees', 'raising queens']);
    expect(old[0].weight).toBeGreaterThan(old[1].weight);
  });

  it('count a domain once, however often it links', async () => {
    for (const n of [1, 2, 3])
      linkOfTest(store, 'quillmere.org', NAME, { toUrl: at('/queens'), fromUrl: `https://quillmere.org/${n}` });
    const [address] = await oldAddressesOf(store, row());
    expect(address).toMatchObject({ domains: 1 });
    expect(address.weight).toBeLessThanOrEqual(1);
  });
});

describe('the plan of redirects', () => {
  const own = [
    {
      url: 'https://apiary.example-club.org/queen-rearing',
      title: 'Queen rearing for beginners',
      text: 'raise queens in spring',
    },
    { url: 'https://apiary.example-club.org/honey', title: 'Honey', text: 'our honey and its seasons' },
  ];

  it('proposes own pages for old addresses, and says what decisions carry', async () => {
    putOwnPages(store, own, 'by hand');
    linkOfTest(store, 'quillmere.org', NAME, { toUrl: at('/honey'), anchor: 'honey' });
    linkOfTest(store, 'ossenmere.org', NAME, { toUrl: at('/queens'), anchor: 'rearing queens' });
    const before = await redirectPlan(store, row());
    const honey = before.proposals.find(({ old }) => old.path === '/honey');
    expect(honey?.candidates[0].url).toBe(own[1].url);
    expect(before).toMatchObject({ rules: [], sources: [{ source: 'by hand', pages: 2 }], carried: { moved: 0 } });

    decideRules(store, row().id, [{ from: '/honey', to: own[1].url }]);
    const after = await redirectPlan(store, row());
    expect(after.rules).toEqual([{ from: '/honey', to: own[1].url }]);
    expect(after.carried.moved).toBeGreaterThan(0);
    expect(after.carried.moved).toBeLessThan(after.carried.all);
    expect(after.problems).toEqual([]);
  });

  it('tells a rule that leads back to where it came from', async () => {
    linkOfTest(store, 'quillmere.org', NAME, { toUrl: at('/honey') });
    decideRules(store, row().id, [{ from: '/honey', to: at('/honey') }]);
    expect((await redirectPlan(store, row())).problems.length).toBeGreaterThan(0);
  });

  it('names pages that mention it, the most read first, and which are on the outreach list', async () => {
    linkOfTest(store, 'quillmere.org', NAME, {
      fromUrl: 'https://quillmere.org/a',
      toUrl: at('/honey'),
      anchor: 'honey',
    });
    linkOfTest(store, 'ossenmere.org', NAME, { fromUrl: 'https://ossenmere.org/b', toUrl: at('/honey') });
    const page = { page: 'https://quillmere.org/a', title: null, anchor: 'honey', contact: null };
    addProspects(store, { target: at('/honey'), domain: NAME }, [page]);
    const { mentions } = await redirectPlan(store, row());
    expect(mentions.map(({ page: url, isListed }) => [url, isListed]).sort()).toEqual([
      ['https://ossenmere.org/b', false],
      ['https://quillmere.org/a', true],
    ]);
  });
});
