import { beforeEach, describe, expect, it } from 'vitest';
import type { Listing } from '../core/listings/listing';
import { type Store, write } from '../store/base/database';
import { freshStore } from '../store/base/testing';
import { putDomain } from '../store/domains/domains';
import { putVerdict } from '../store/lifecycle/verdicts';
import { updateBestListing } from '../store/offers/best-listing';
import { putListing } from '../store/offers/listings';
import type { Order } from '../store/orders/order-rows';
import { happen, placeOrder } from '../store/orders/orders';
import { addEntry } from '../store/portfolio/holdings';
import { noteInquiry } from '../store/portfolio/inquiries';
import { offerResale } from '../store/portfolio/resales';
import { listBriefs, saveBrief } from '../store/shortlist/briefs';
import { addToShortlist, changeShortlist } from '../store/shortlist/shortlist';
import { addSource } from '../store/sources/sources';
import { briefFile, takeBriefFile } from './briefs/brief-file';
import { learningOf } from './learning/learning';
import { engineOfTest } from './testing';
import { decisionsFor, runningFor } from './today/today';

const HOUR = 3_600_000;
const VENUE = 'Saltmarch Exchange';
let store: Store;
let brief: number;
let source: number;
let count = 0;

beforeEach(async () => {
  store = await freshStore();
  brief = saveBrief(store, {
    name: 'Hives',
    purpose: 'resell',
    subjectWords: ['hive'],
    trustedSites: [],
    excludedEndings: [],
    budgetMinor: null,
    currency: 'EUR',
  });
  source = addSource(store, 'venue', VENUE, {});
});

const domain = () => putDomain(store, { name: `pellgate${count++}.org`, ending: 'org' }, true, 1).id;
const listed = (id: number, part: Partial<Listing>) =>
  write(store, () => {
    const listing: Listing = {
      kind: 'auction', venue: VENUE, state: 'open', priceMinor: 1000, currency: 'EUR', reserve: null, bids: 1, closingAt: null, steps: [], url: null,
      ...part,
    }; // biome-ignore format: one listing
    putListing(store, id, source, listing, store.now());
    updateBestListing(store, id, store.now(), { home: 'EUR', worth: {} });
  });
const ordered = (domainId: number, more: Partial<Parameters<typeof placeOrder>[1]> = {}): Order => {
  const order = placeOrder(store, {
    briefId: brief, domainId, venue: VENUE, url: null, kind: 'bid', amountMinor: 5000, currency: 'EUR', ratePpm: 1_000_000, feesMinor: 0,
    closesAt: null, sendAt: null, way: 'send', ...more,
  }); // biome-ignore format: one order
  happen(store, order.id, { kind: 'send' }, 'test', null, { sentAt: store.now() });
  return order;
};
const answer = (order: Order, state: 'leading' | 'outbid' | 'won' | 'lost' | 'refused', news = {}) =>
  happen(store, order.id, { kind: 'answer', state }, VENUE, null, news);
const decisions = () => decisionsFor(store, listBriefs(store), store.now());

describe('what waits for a decision', () => {
  it('is what was outbid or refused, what is to be acted on, and what closes within a day without an order', () => {
    const soon = domain();
    const late = domain();
    const falling = domain();
    const act = domain();
    addToShortlist(store, brief, [soon, late, falling, act]);
    listed(soon, { closingAt: store.now() + 3 * HOUR });
    listed(late, { closingAt: store.now() + 90 * HOUR });
    const steps = [-1, 2].map((hours) => ({ at: store.now() + hours * HOUR, priceMinor: 4000 }));
    listed(falling, { kind: 'falling', bids: null, steps, closingAt: store.now() + 60 * HOUR });
    changeShortlist(store, brief, act, { stage: 'to act on', maximumBidMinor: 4200 });
    const outbid = ordered(domain(), { closesAt: store.now() + HOUR });
    answer(outbid, 'outbid', { priceMinor: 5100 });
    const refused = ordered(domain());
    answer(refused, 'refused', { reason: 'the payment was declined' });
    expect(decisions().map(({ words, label }) => [words, label])).toEqual([
      ['outbid at 51 EUR', 'Bid again'],
      ['its price falls', 'Order'],
      ['closes without an order of yours', 'Order'],
      ['refused: the payment was declined', 'Order again'],
      ['to be acted on', 'Order'],
    ]);
  });

  it('is not what is ordered, had or let go; a refusal that was followed up is done with', () => {
    const one = domain();
    addToShortlist(store, brief, [one]);
    listed(one, { closingAt: store.now() + HOUR });
    const order = ordered(one);
    expect(decisions()).toEqual([]);
    expect(runningFor(store).map(({ id }) => id)).toEqual([order.id]);
    answer(order, 'refused', { reason: 'below the least bid' });
    expect(decisions()).toMatchObject([{ label: 'Order again' }]);
    answer(ordered(one), 'leading', { priceMinor: 1100 });
    expect(decisions()).toEqual([]);
  });
});

describe('outcomes', () => {
  it('are held against what was thought of each order, and speak for other assumptions', async () => {
    for (let n = 0; n < 12; n++) {
      const estimates = { winChance: 0.8, worthLowMinor: 4000, worthHighMinor: 6000 };
      const order = ordered(domain(), { estimates });
      answer(order, n % 3 === 0 ? 'won' : 'lost', { finalMinor: n % 2 === 0 ? 5000 : 8000 + 200 * n });
    }
    for (let n = 0; n < 8; n++)
      answer(ordered(domain(), { kind: 'buy', estimates: { winChance: 0.9 } }), n < 2 ? 'won' : 'lost');
    const { wins, worth, worthByPurpose, suggestions } = await learningOf(store, engineOfTest(), listBriefs(store)[0]);
    expect(wins.count).toBe(20);
    expect(worth).toMatchObject({ count: 12, within: 6, above: 6 });
    expect(worthByPurpose).toMatchObject([{ key: 'resell, at auction' }]);
    expect(suggestions.find(({ key }) => key === 'buyNow')).toMatchObject({
      now: '90%',
      suggested: '53%',
      effect: 'over these the Brier score would have been 0.266, not 0.610',
    });
    const range = suggestions.find(({ key }) => key === 'rangeFactor');
    expect(Number(range?.suggested)).toBeGreaterThan(1);
    expect(range?.effect).toMatch(/^(8|9|1\d) of them would have held$/);
  });

  it('teach the chance to be the first by what was lost or gone, whatever words a venue has for it', async () => {
    for (let n = 0; n < 8; n++)
      answer(ordered(domain(), { kind: 'buy' }), 'refused', {
        reason: 'the card of another paid first',
        refusedFor: 'gone',
      });
    const { suggestions } = await learningOf(store, engineOfTest(), listBriefs(store)[0]);
    expect(suggestions).toMatchObject([{ key: 'buyNow', evidence: expect.stringContaining('0 of 8') }]);
  });

  it('say nothing of speed where a card was turned down, and count what was sold on', async () => {
    for (let n = 0; n < 8; n++)
      answer(ordered(domain(), { kind: 'buy' }), 'refused', {
        reason: 'the payment was declined',
        refusedFor: 'payment',
      });
    const sold = domain();
    addToShortlist(store, brief, [sold]);
    changeShortlist(store, brief, sold, { worthLowMinor: 1000, worthHighMinor: 2000 });
    answer(ordered(sold), 'won', { finalMinor: 500 });
    addEntry(store, sold, { at: store.now(), kind: 'sale', amountMinor: 1500, currency: 'EUR', words: '' });
    const { suggestions, worthByPurpose } = await learningOf(store, engineOfTest(), listBriefs(store)[0]);
    expect(suggestions).toEqual([]);
    expect(worthByPurpose).toMatchObject([{ key: 'resell, sold on', record: { within: 1, count: 1 } }]);
  });
});

describe('a brief file', () => {
  it('comes in as it left, under another name where that is taken, and says what it could not take', () => {
    const id = domain();
    addToShortlist(store, brief, [id]);
    changeShortlist(store, brief, id, { stage: 'wanted', note: 'mine', maximumBidMinor: 900 });
    const file = briefFile(store, brief);
    if (!file) throw new Error('no file');
    const broken = { ...file, shortlist: [...file.shortlist, { ...file.shortlist[0], name: 'nothing' }] };
    const taken = takeBriefFile(store, broken);
    expect(taken.problems).toEqual(['"nothing" is no registrable domain']);
    const again = briefFile(store, taken.id);
    expect(again?.brief).toEqual({ ...file.brief, name: 'Hives (2)' });
    expect(again?.shortlist).toEqual(file.shortlist);
    expect(briefFile(store, 999)).toBeNull();
  });
});

describe('what comes after a purchase', () => {
  it('wants an answer where a buyer asked, before it waits no longer', () => {
    const id = domain();
    answer(ordered(id), 'won', { finalMinor: 500 });
    const sale = { domainId: id, venue: 'a fair', askMinor: 9000, floorMinor: 5000, currency: 'EUR', text: 't' };
    noteInquiry(store, offerResale(store, { ...sale, state: 'by hand' }).id, {
      buyer: 'Hale',
      words: 'asks',
      offerMinor: 4000,
    });
    expect(decisions()).toMatchObject([{ action: 'sale', words: 'Hale asks, 40 EUR', label: 'Answer' }]);
  });

  it('holds a limit against marks, and says what it would have changed', async () => {
    for (let n = 0; n < 24; n++)
      store.raw
        .prepare(`UPDATE domains SET spam_risk = ?, judged = ? WHERE id = ?`)
        .run(n * 4, n < 12 ? 'clean' : 'spam', domain());
    const of = listBriefs(store)[0];
    const { suggestions } = await learningOf(store, engineOfTest(), {
      ...of,
      limits: { mostSpamRisk: 80, noDigits: true },
    });
    expect(suggestions).toMatchObject([
      {
        key: 'mostSpamRisk',
        now: '80',
        suggested: '45',
        evidence: 'of 24 marks of yours it contradicts 9',
        effect: 'it would have contradicted 0',
        of: 'brief',
        brief: of.id,
        change: { limits: { mostSpamRisk: 45, noDigits: true } },
        back: { limits: { mostSpamRisk: 80, noDigits: true } },
      },
    ]);
  });

  it('holds drop windows against drops', async () => {
    const id = domain();
    const at = store.now();
    store.raw
      .prepare('UPDATE domains SET drop_from = ?, drop_to = ?, drop_conditional = 0, phase = ? WHERE id = ?')
      .run(at - 1000, at + 1000, 'pending-delete', id);
    write(store, () =>
      putVerdict(store, id, at, [], { phase: 'free', confidence: 1, reason: '', contradictions: [] } as never, null, {
        window: null,
        askAt: null,
        failures: 0,
        events: [{ kind: 'dropped', words: 'Dropped' }],
        isNewPhase: true,
        lastSeenBefore: null,
      }),
    );
    const { windowsAll, windows } = await learningOf(store, engineOfTest(), listBriefs(store)[0]);
    expect(windowsAll).toMatchObject({ count: 1, inside: 1, widthMs: 2000 });
    expect(windows).toMatchObject([{ key: 'org' }]);
  });
});
