import { beforeAll, describe, expect, it } from 'vitest';
import type { Store } from '../base/database';
import { freshStore } from '../base/testing';
import { putPageLook } from '../crawl/pages';
import { findDomain, putDomain } from '../domains/domains';
import { addSource } from '../sources/sources';
import { addHoldings, holdingOf } from './holdings';
import { answerBuyer, inquiriesOf, noteInquiry, waitingInquiries } from './inquiries';
import {
  addProspects,
  changeProspect,
  chooseStandIn,
  contactOf,
  dropProspect,
  lapsedTargets,
  linksToTarget,
  listProspects,
  mentionsOf,
  restoreProspect,
} from './prospects';
import { changeSteps, readersByAddress, rebuildSteps } from './rebuild';
import { readResale } from './resale-rows';
import { offerResale, takeNews } from './resales';

const TARGET = 'http://waxwinghives.org/plans';
let store: Store;
let hives: number;
let source: number;

beforeAll(async () => {
  store = await freshStore();
  source = addSource(store, 'crawl', 'crawl', {});
  hives = putDomain(store, { name: 'waxwinghives.org', ending: 'org' }, true, 1).id;
  const look = (
    url: string,
    contact: string | null,
    readers: number | null,
    links: { url: string; anchor: string }[],
  ) =>
    putPageLook(
      store,
      source,
      { url, title: `Title of ${url}`, contact, readers },
      links.map((link) => ({
        ...link,
        nofollow: false,
        before: '',
        after: '',
        domain: 'waxwinghives.org',
        state: 'dead',
        gone: 'domain',
        status: null,
      })),
    );
  look('http://umberleymarket.com/links.html', null, 400, [{ url: TARGET, anchor: 'hive plans' }]);
  look('http://umberleymarket.com/contact.html', 'mailto:desk@umberleymarket.com', null, []);
  look('http://tollbinders.org/old', 'mailto:club@tollbinders.org', 900, [
    { url: TARGET, anchor: 'plans' },
    { url: 'http://waxwinghives.org/', anchor: 'the hives' },
  ]);
});

describe('pages that link to what is gone', () => {
  it('are found with how to reach whoever runs them, by their own page or another of the site', () => {
    const links = linksToTarget(store, TARGET, 'waxwinghives.org', 10);
    expect(links.map(({ page, contact }) => [page, contact])).toEqual(
      expect.arrayContaining([
        ['http://umberleymarket.com/links.html', null],
        ['http://tollbinders.org/old', 'mailto:club@tollbinders.org'],
      ]),
    );
    expect(contactOf(store, source, 'http://umberleymarket.com/links.html')).toEqual({
      contact: 'mailto:desk@umberleymarket.com',
      at: 'http://umberleymarket.com/contact.html',
    });
    // a host that begins alike is another host
    expect(contactOf(store, source, 'http://umberleymarket.co/links.html').contact).toBeNull();
    expect(lapsedTargets(store, [hives], 10)[0]).toMatchObject({ url: TARGET, pages: 2, domains: 2 });
  });

  it('of a domain come with the most read first', () => {
    expect(mentionsOf(store, hives, 10).map(({ page, readers }) => [page, readers])).toEqual([
      ['http://tollbinders.org/old', 900],
      ['http://umberleymarket.com/links.html', 400],
    ]);
    expect(readersByAddress(store, hives)).toEqual(
      expect.arrayContaining([
        { url: TARGET, readers: 1300 },
        { url: 'http://waxwinghives.org/', readers: 900 },
      ]),
    );
  });

  it('stand on the outreach list once, and keep what was said of them', () => {
    const links = linksToTarget(store, TARGET, 'waxwinghives.org', 10);
    const target = { target: TARGET, domain: 'waxwinghives.org' };
    expect(addProspects(store, target, links)).toHaveLength(2);
    const [{ page }] = links;
    const before = changeProspect(store, TARGET, page, { state: 'written', note: 'to the desk' });
    expect(before).toMatchObject({ state: 'to write', writtenAt: null });
    expect(addProspects(store, target, links)).toEqual([]);
    const row = () => listProspects(store).find((one) => one.page === page);
    expect(row()).toMatchObject({ state: 'written', note: 'to the desk', standIn: null });
    expect(row()?.writtenAt).not.toBeNull();
    if (before) restoreProspect(store, TARGET, page, before);
    expect(row()).toMatchObject({ state: 'to write', note: '', writtenAt: null });
    expect(chooseStandIn(store, TARGET, 'https://umberleybooks.org/hives')).toBeNull();
    expect(row()?.standIn).toBe('https://umberleybooks.org/hives');
    expect(chooseStandIn(store, TARGET, null)).toBe('https://umberleybooks.org/hives');
    expect(dropProspect(store, TARGET, page)).toBe(true);
    expect(changeProspect(store, TARGET, page, { note: 'x' })).toBeNull();
  });
});

describe('steps of a rebuild', () => {
  it('are decided, added, and taken back as they were', () => {
    expect(
      changeSteps(store, hives, [
        { key: 'step:owner', state: 'done' },
        { key: 'own:1', state: 'wanted', words: 'Ask the club' },
      ]),
    ).toEqual([
      { key: 'step:owner', state: null, words: null },
      { key: 'own:1', state: null, words: null },
    ]);
    // the words of an own step stay when it is done
    const before = changeSteps(store, hives, [{ key: 'own:1', state: 'done' }]);
    expect(rebuildSteps(store, hives).find(({ key }) => key === 'own:1')).toMatchObject({
      state: 'done',
      words: 'Ask the club',
    });
    changeSteps(store, hives, before);
    expect(rebuildSteps(store, hives).find(({ key }) => key === 'own:1')?.state).toBe('wanted');
    changeSteps(store, hives, [{ key: 'own:1', state: null }]);
    expect(rebuildSteps(store, hives).map(({ key }) => key)).toEqual(['step:owner']);
  });
});

describe('a sale by hand', () => {
  it('notes who asked, what was answered, and what came in', () => {
    addHoldings(store, [
      { line: 2, name: 'tollcombs.org', ending: 'org', boughtAt: null, costMinor: 900, currency: 'EUR', renewsAt: null, renewalMinor: null, seller: 'x' },
    ]); // biome-ignore format: a line of a list
    const id = findDomain(store, 'tollcombs.org')?.id ?? 0;
    const input = { domainId: id, venue: 'a fair', askMinor: 9000, floorMinor: 5000, currency: 'EUR', text: 't' };
    const sale = offerResale(store, { ...input, state: 'by hand' });
    noteInquiry(store, sale.id, { buyer: 'Hale', words: 'asks', offerMinor: 4000 });
    const [inquiry] = inquiriesOf(store, sale.id);
    expect(waitingInquiries(store)).toMatchObject([{ name: 'tollcombs.org', buyer: 'Hale' }]);
    expect(() => answerBuyer(store, sale.id, { inquiry: inquiry.inquiry, act: 'accept', amountMinor: null })).toThrow(
      'under the floor',
    );
    answerBuyer(store, sale.id, { inquiry: inquiry.inquiry, act: 'counter', amountMinor: 7000 });
    expect(inquiriesOf(store, sale.id)).toMatchObject([{ state: 'countered', askedMinor: 7000 }]);
    noteInquiry(store, sale.id, { buyer: 'Hale', words: 'comes up', offerMinor: 6500 });
    expect(inquiriesOf(store, sale.id)).toMatchObject([{ state: 'open', offerMinor: 6500, askedMinor: 7000 }]);
    const news = { state: 'sold' as const, finalMinor: 6500, feesMinor: 0, reason: null, inquiries: [] };
    takeNews(store, sale.id, news, 'you');
    expect(holdingOf(store, id)?.status).toBe('sold');
    expect(takeNews(store, sale.id, { ...news, state: 'withdrawn' }, 'you')).toBeNull();
    expect(readResale(store, sale.id)).toMatchObject({ state: 'sold', finalMinor: 6500 });
    expect(() => offerResale(store, { ...input, state: 'by hand' })).toThrow('It is sold.');
  });
});
