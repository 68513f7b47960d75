import { beforeEach, describe, expect, it } from 'vitest';
import type { Store } from '../../store/base/database';
import { freshStore } from '../../store/base/testing';
import { handSource, putDeadTargets, putPageLook } from '../../store/crawl/pages';
import { addProspects, changeProspect, chooseStandIn } from '../../store/portfolio/prospects';
import { putOwnPages } from '../../store/portfolio/redirects';
import { domainOfTest, linkOfTest } from '../../store/testing';
import { engineOfTest } from '../testing';
import { targetDetail, targetsFor, workList } from './prospects';

const DEAD = 'https://tarnhives.org/queens';
const PAGE = 'https://quillmere.org/links';
const OWN = 'https://apiary-of-ours.org/queens';
let store: Store;

beforeEach(async () => {
  store = await freshStore();
});

/** A page was looked at, and one of its links is dead. */
function looked(): void {
  const link = {
    url: DEAD, anchor: 'raising queens', nofollow: false, before: '', after: '', domain: 'tarnhives.org', state: 'dead', gone: 'page',
    status: 404, detail: 'status 404',
  } as const; // biome-ignore format: one link
  const page = { url: PAGE, title: 'Links of the club', contact: 'mara@quillmere.org', readers: null };
  domainOfTest(store, 'tarnhives.org');
  putPageLook(store, handSource(store), page, [link]);
  putDeadTargets(store, [link]);
}
const engineWith = (ids: number[]) => engineOfTest({ queryPool: async () => ({ ids }) as never });

describe('dead targets', () => {
  it('are dead pages of looks and pages of domains that lapsed, the most linking domains first', async () => {
    looked();
    const lapsed = domainOfTest(store, 'wexcombe.org', { phase: 'free', phase_at: 1 });
    for (const from of ['ossenmere.org', 'saltmarsh.com'])
      linkOfTest(store, from, 'wexcombe.org', { toUrl: 'https://wexcombe.org/bees' });
    addProspects(store, { target: DEAD, domain: 'tarnhives.org' }, [
      { page: PAGE, title: null, anchor: '', contact: null },
    ]);
    const targets = await targetsFor(store, engineWith([lapsed.id]));
    expect(targets.map(({ url, domains, isWholeDomain, onList }) => [url, domains, isWholeDomain, onList])).toEqual([
      ['https://wexcombe.org/bees', 2, true, 0],
      [DEAD, 1, false, 1],
    ]);
    expect(targets[0]).toMatchObject({ outcome: 'the domain lapsed', status: null, checkedAt: null });
    expect(targets[1]).toMatchObject({ status: 404 });
  });

  it('say who links, how to reach them, and what of one’s own could stand in', () => {
    looked();
    linkOfTest(store, 'ossenmere.org', 'tarnhives.org', {
      toUrl: DEAD,
      fromUrl: 'https://ossenmere.org/a',
      anchor: 'queens',
    });
    putOwnPages(store, [{ url: OWN, title: 'Raising queens', text: 'how we raise queens' }], 'by hand');
    addProspects(store, { target: DEAD, domain: 'tarnhives.org' }, [
      { page: PAGE, title: null, anchor: '', contact: null },
    ]);
    const { links, candidates, standIn, hasOwnPages } = targetDetail(store, DEAD, 'tarnhives.org');
    expect(links.map(({ page, contact, isListed }) => [page, contact, isListed]).sort()).toEqual([
      ['https://ossenmere.org/a', null, false],
      [PAGE, 'mara@quillmere.org', true],
    ]);
    expect(candidates[0].url).toBe(OWN);
    expect([standIn, hasOwnPages]).toEqual([null, true]);
    chooseStandIn(store, DEAD, OWN);
    expect(targetDetail(store, DEAD, 'tarnhives.org').standIn).toBe(OWN);
  });
});

describe('the work list', () => {
  const add = () =>
    addProspects(store, { target: DEAD, domain: 'tarnhives.org' }, [
      { page: PAGE, title: 'Links of the club', anchor: 'raising queens', contact: 'mara@quillmere.org' },
    ]);

  it('has a letter once something of one’s own stands in, to whoever runs the page', () => {
    looked();
    putOwnPages(store, [{ url: OWN, title: 'Raising queens', text: '' }], 'by hand');
    add();
    expect(workList(store).rows[0]).toMatchObject({ letter: null, mail: null });
    chooseStandIn(store, DEAD, OWN);
    const [row] = workList(store).rows;
    expect(row.letter?.text).toContain(PAGE);
    expect(row.letter?.text).toContain(OWN);
    expect(row.letter?.text).toContain('status 404');
    expect(row.mail).toMatch(/^mailto:mara%40quillmere\.org\?|^mailto:mara@quillmere\.org\?/);
  });

  it('says what is next as it goes on, and counts', () => {
    looked();
    add();
    chooseStandIn(store, DEAD, OWN);
    const first = workList(store);
    changeProspect(store, DEAD, PAGE, { state: 'written' });
    const second = workList(store);
    expect(second.rows[0].writtenAt).not.toBeNull();
    expect(second.rows[0].next).not.toEqual(first.rows[0].next);
    expect(second.tally).not.toEqual(first.tally);
  });

  it('of a domain that lapsed says so in its letter', () => {
    add();
    chooseStandIn(store, DEAD, OWN);
    expect(workList(store).rows[0].letter?.text).toContain('its domain has lapsed');
  });
});
