import { beforeEach, describe, expect, it } from 'vitest';
import { type Store, write } from '../../store/base/database';
import { changeSettings } from '../../store/base/settings';
import { freshStore } from '../../store/base/testing';
import { putInspection } from '../../store/links/inspections';
import { addEntry, addHoldings } from '../../store/portfolio/holdings';
import { answerBuyer, noteInquiry } from '../../store/portfolio/inquiries';
import { offerResale } from '../../store/portfolio/resales';
import type { Brief } from '../../store/shortlist/briefs';
import { briefOfTest, domainOfTest } from '../../store/testing';
import { engineOfTest } from '../testing';
import { salePlan, saleView } from './selling';

const NAME = 'tarnhives.org';
const YEAR = 365 * 86_400_000;
let store: Store;
let brief: Brief;

beforeEach(async () => {
  store = await freshStore();
  brief = briefOfTest(store, { marginPercent: 20 });
  const bought = {
    boughtAt: null,
    costMinor: 10_000,
    currency: 'EUR',
    renewsAt: null,
    renewalMinor: 1200,
    seller: 'Quill Auctions',
  };
  addHoldings(store, [{ line: 1, name: NAME, ending: 'org', ...bought }]);
});

const row = () => domainOfTest(store, NAME);
const near = (n: number) => ({
  sale: { name: `soldhive${n}.org`, priceMinor: 20_000 + n, at: 5, ending: 'org' },
  distance: 0.1 * n,
  adjustedMinor: 21_000,
});
const worth = { lowMinor: 30_000, highMinor: 60_000, near: [1, 2, 3, 4, 5, 6, 7].map(near) };
const engine = engineOfTest({ resaleWorth: async () => [worth] as never });
async function plan(of = engine) {
  const found = await salePlan(store, of, brief, row());
  if (!found) throw new Error('there is no such domain');
  return found;
}
const offered = () =>
  offerResale(store, {
    domainId: row().id,
    venue: 'a fair',
    askMinor: 60_000,
    floorMinor: 30_000,
    currency: 'EUR',
    text: 't',
    state: 'by hand',
  });

describe('what to ask', () => {
  it('is reckoned from what names like it brought, and from what it cost', async () => {
    const { price, inputs, near: told, currency } = await plan();
    expect(currency).toBe('EUR');
    expect(inputs).toMatchObject({ lowMinor: 30_000, highMinor: 60_000, costMinor: 10_000, marginPercent: 20 });
    expect(price?.floorMinor).toBeGreaterThanOrEqual(30_000);
    expect(price?.askMinor).toBeGreaterThan(price?.floorMinor as number);
    expect(told.map(({ name }) => name)).toEqual([1, 2, 3, 4, 5].map((n) => `soldhive${n}.org`));
  });

  it('comes from the costs alone while the engine starts, and says so', async () => {
    const { price, inputs, near: told } = await plan(engineOfTest());
    expect(inputs).toMatchObject({ lowMinor: null, highMinor: null });
    // 100.00 and a fifth, over nine tenths
    expect(price?.floorMinor).toBeGreaterThanOrEqual(13_300);
    expect(price?.warnings).toContain('Nothing says what it is worth: both figures come from what it cost.');
    expect(told).toEqual([]);
  });

  it('counts everything it cost since', async () => {
    addEntry(store, row().id, { at: store.now(), kind: 'renewal', amountMinor: 1200, currency: 'EUR', words: '' });
    expect((await plan()).inputs.costMinor).toBe(11_200);
  });
});

describe('what may be said of it', () => {
  it('is only what was measured or read', async () => {
    const bare = (await plan()).sentences.map(({ words }) => words).join(' ');
    expect(bare).not.toMatch(/registered|refer/i);
    domainOfTest(store, NAME, {
      registered_at: store.now() - 12 * YEAR, record_at: store.now(), referring_domains: 40, links_at: store.now(),
    }); // biome-ignore format: one look
    write(store, () => putInspection(store, row().id, { effective: 22, referrers_at: store.now() }));
    const told = (await plan()).sentences.map(({ words }) => words).join(' ');
    expect(told).toMatch(/registered/i);
    expect(told).toMatch(/22/);
  });

  it('takes a year of registration from a record, not from a list', async () => {
    domainOfTest(store, NAME, { registered_at: store.now() - 12 * YEAR });
    expect((await plan()).sentences.some(({ words }) => /registered/i.test(words))).toBe(false);
  });
});

describe('where it can be offered', () => {
  it('is at the venues of settings but the registrar, with what one’s own currency is there', async () => {
    const account = (venue: string, currency: string) => ({
      venue,
      address: 'https://127.0.0.1:9/',
      key: 'k',
      currency,
    });
    changeSettings(store, {
      rates: { GBP: 1.25 },
      accounts: [
        account('Saltmarsh Exchange', 'GBP'),
        account('Quill Auctions', 'NOK'),
        account('Pinchbeck Names', 'EUR'),
      ],
      registrarAccount: 'Pinchbeck Names',
    });
    expect((await plan()).venues).toEqual([
      { venue: 'Saltmarsh Exchange', currency: 'GBP', perHome: 800_000 },
      // no rate is set
      { venue: 'Quill Auctions', currency: 'NOK', perHome: null },
    ]);
  });

  it('is none of a domain that is not known', async () => {
    const other = { ...row(), name: 'nowhere.org' };
    expect(await salePlan(store, engine, brief, other)).toBeNull();
  });
});

describe('a sale', () => {
  it('tells who asked and what to answer, until it is answered', async () => {
    const sale = offered();
    noteInquiry(store, sale.id, { buyer: 'Hale', words: 'asks', offerMinor: 25_000 });
    const open = saleView(store, sale);
    expect(open.inquiries[0]).toMatchObject({ buyer: 'Hale', offerMinor: 25_000, state: 'open', isAnswering: false });
    expect(open.inquiries[0].advice).not.toBeNull();
    expect(open).not.toHaveProperty('key');
    answerBuyer(store, sale.id, { inquiry: open.inquiries[0].inquiry, act: 'decline', amountMinor: null });
    const after = saleView(store, sale);
    expect(after.inquiries[0].advice).toBeNull();
    expect(after.log.length).toBeGreaterThan(open.log.length);
  });

  it('stands in the plan of its domain', async () => {
    offered();
    const { sales, holding } = await plan();
    expect(sales).toMatchObject([{ venue: 'a fair', askMinor: 60_000, state: 'by hand' }]);
    expect(holding).toMatchObject({ seller: 'Quill Auctions' });
  });
});
