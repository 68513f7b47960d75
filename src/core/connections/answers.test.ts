import { describe, expect, it } from 'vitest';
import { readAnswer } from './answer';
import { Description } from './connection';
import { repeatedElements } from './html-answer';
import {
  availabilityOf,
  errorIn,
  FieldReader,
  listColumns,
  listRows,
  listTitles,
  readAvailability,
  readFoundMarks,
  readPages,
} from './meanings';
import { formatOf, leavesOf, placeOfPick, proposed, seriesIn } from './pick';
import type { Tree } from './tree';

const HERE = 'https://api.saltmarch.example/v1/check?page=2';
const NEEDS = { registrar: '{domain}', search: '{words}', marks: '{words}', listings: '', figures: '{domain}' };
type Use = keyof typeof NEEDS;
const described = (use: Use, rest: object) =>
  Description.parse({ title: 'Salt', use, address: `https://a.test/${NEEDS[use]}`, format: 'json', ...rest });
const at = (places: Record<string, string>) =>
  Object.fromEntries(Object.entries(places).map(([field, place]) => [field, { in: 'entry', at: place }]));
const answerOf = (description: Description, text: string) =>
  readAnswer(text, description.format, description.entries, HERE);

describe('answers of registrars', () => {
  const reply = (description: Description, text: string, name = 'tarnhives.org') =>
    readAvailability(description, answerOf(description, text), name);

  it('as one object with a flag, an amount and its currency', () => {
    const description = described('registrar', {
      fields: at({ availability: '/available', price: '/price', currency: '/currency', domain: '/domain' }),
    });
    const text = '{"available":true,"currency":"USD","definitive":true,"domain":"tarnhives.org","price":12.99}';
    expect(reply(description, text)).toEqual({
      availability: 'available',
      priceMinor: 1299,
      renewalMinor: null,
      currency: 'USD',
    });
    expect(reply(description, text.replace('true', 'false')).availability).toBe('taken');
    expect(() => reply(description, text, 'other.org')).toThrow('the answer is about tarnhives.org');
  });

  it('as a list of several names, of which one is meant', () => {
    const description = described('registrar', {
      entries: '/results',
      fields: at({ domain: '/domainName', availability: '/purchasable', premium: '/premium', price: '/purchasePrice' }),
      currency: 'EUR',
    });
    const text = JSON.stringify({
      results: [
        { domainName: 'tarnhives.com', purchasable: false },
        { domainName: 'TarnHives.org', purchasable: true, premium: true, purchasePrice: 2400 },
      ],
    });
    expect(reply(description, text)).toMatchObject({
      availability: 'premium',
      priceMinor: 240_000,
      currency: 'EUR',
    });
  });

  it('with names as the keys of an object', () => {
    const description = described('registrar', {
      entries: '/data/*',
      fields: at({ domain: '#', availability: '/status' }),
    });
    const text = '{"data":{"tarnhives.org":{"status":"regthroughothers"},"tarnhives.net":{"status":"available"}}}';
    expect(reply(description, text, 'tarnhives.net').availability).toBe('available');
    // a word that nobody knows is no availability
    expect(() => reply(description, text)).toThrow('“regthroughothers” is no word of availability that is known');
    const own = { ...description, words: { taken: 'RegThroughOthers, regthroughus' } };
    expect(reply(own, text).availability).toBe('taken');
  });

  it('in XML, with what they say in attributes', () => {
    const description = described('registrar', {
      format: 'xml',
      entries: '/ApiResponse/CommandResponse/DomainCheckResult',
      fields: at({ domain: '/@Domain', availability: '/@Available', premium: '/@IsPremiumName', price: '/@PremiumRegistrationPrice' }),
    }); // biome-ignore format: one place a field
    const text = `<?xml version="1.0"?><ApiResponse Status="OK" xmlns="http://a.test/x"><CommandResponse Type="check">
      <DomainCheckResult Domain="tarnhives.org" Available="true" IsPremiumName="false" PremiumRegistrationPrice="0"/>
      <DomainCheckResult Domain="tarn.org" Available="true" IsPremiumName="true" PremiumRegistrationPrice="1,200.00"/>
    </CommandResponse></ApiResponse>`;
    expect(reply(description, text).availability).toBe('available');
    expect(reply(description, text, 'tarn.org')).toMatchObject({ availability: 'premium', priceMinor: 120_000 });
    // of one element it makes no list
    const one = text.replace(/<DomainCheckResult Domain="tarn\.org".*\/>/, '');
    expect(reply(description, one).availability).toBe('available');
  });

  it('in EPP words, prices in cents, and names that cannot be had', () => {
    const description = described('registrar', {
      fields: at({ availability: '/avail', price: '/fee' }),
      isMinor: true,
      currency: 'GBP',
    });
    expect(reply(description, '{"avail":"1","fee":899}')).toMatchObject({ availability: 'available', priceMinor: 899 });
    expect(reply(description, '{"avail":"0"}')).toMatchObject({
      availability: 'taken',
      priceMinor: null,
      currency: null,
    });
    expect(reply(description, '{"avail":"Reserved"}').availability).toBe('reserved');
  });

  it('that say nothing are none', () => {
    const description = described('registrar', { entries: '/r', fields: at({ availability: '/a' }) });
    for (const text of ['{}', '{"r":[]}', '{"r":null}', '{"r":{"b":true}}', '{"r":{"a":null}}', '{"r":{"a":"maybe"}}'])
      expect(() => reply(description, text), text).toThrow();
    for (const text of ['', 'not json', '<html>']) expect(() => reply(description, text), text).toThrow(/JSON|empty/);
  });

  it('know the usual words, and no others', () => {
    const usual = (text: string) => availabilityOf(text, {});
    expect(['Available', 'FREE', 'true', '1', 'not_registered'].map(usual)).toEqual(Array(5).fill('available'));
    expect(['taken', 'REGISTERED', 'not available', 'false', '0'].map(usual)).toEqual(Array(5).fill('taken'));
    expect(['', 'unknown', 'pending', 'error', 'available soon', '2'].map(usual)).toEqual(Array(6).fill(null));
    // a service may call taken what others call free
    expect(availabilityOf('true', { taken: 'true', available: 'false' })).toBe('taken');
  });
});

describe('answers of searches', () => {
  const FIELDS = { url: '/url', title: '/name', summary: '/snippet' };

  it('in JSON, with how many there are in all', () => {
    const description = described('search', {
      entries: '/webPages/value',
      fields: { ...at(FIELDS), total: { in: 'answer', at: '/webPages/totalEstimatedMatches' } },
    });
    const text = JSON.stringify({
      webPages: {
        totalEstimatedMatches: 12400,
        value: [
          { name: 'Hives', url: 'https://tarnhives.org/a b', snippet: 'About\n hives' },
          { name: 'Nowhere', url: 'javascript:alert(1)' },
        ],
      },
    });
    expect(readPages(description, answerOf(description, text))).toEqual({
      pages: [{ url: 'https://tarnhives.org/a%20b', title: 'Hives', summary: 'About hives' }],
      total: 12_400,
      aside: 1,
    });
  });

  it('as a page, by selectors, with addresses made whole', () => {
    const description = described('search', {
      format: 'html',
      entries: 'div.result',
      fields: { ...at({ url: 'a.result-link@href', title: 'a.result-link', summary: '.snippet' }), total: { in: 'answer', at: '#count' } },
    }); // biome-ignore format: one place a field
    const page = `<html><body><p id="count">About 1,240 results</p>
      <div class="result odd"><h3><a class="result-link" href="/go?to=1">Tarn <b>Hives</b></a></h3><p class="snippet">Bees &amp; wax</p></div>
      <div class="result"><a class="result-link" href="https://pellgatecombs.org/">Combs</a></div>
      <div class="advert"><a href="http://elsewhere.test/">no</a></div></body></html>`;
    expect(readPages(description, answerOf(description, page))).toEqual({
      pages: [
        { url: 'https://api.saltmarch.example/go?to=1', title: 'Tarn Hives', summary: 'Bees & wax' },
        { url: 'https://pellgatecombs.org/', title: 'Combs', summary: '' },
      ],
      total: 1240,
      aside: 0,
    });
    const broken = { ...description, entries: 'div[' };
    expect(() => answerOf(broken, page)).toThrow('“div[” is no selector');
  });

  it('as Atom and as RSS, with nothing picked', () => {
    const description = described('search', { format: 'feed' });
    const atom = `<feed xmlns="http://www.w3.org/2005/Atom"><entry><title>A</title>
      <link rel="self" href="http://a.test/self"/><link href="http://a.test/a"/><summary>s</summary></entry></feed>`;
    const rss = `<rss version="2.0"><channel><title>x</title><item><title>B</title><link>http://a.test/b</link>
      <description>&lt;p&gt;d</description></item></channel></rss>`;
    expect(readPages(description, answerOf(description, atom)).pages).toEqual([
      { url: 'http://a.test/a', title: 'A', summary: 's' },
    ]);
    expect(readPages(description, answerOf(description, rss)).pages[0]).toMatchObject({
      url: 'http://a.test/b',
      title: 'B',
    });
    expect(() => answerOf(description, '<html/>')).toThrow('no feed');
    expect(() => answerOf(description, '{}')).toThrow('no XML');
  });
});

describe('other answers', () => {
  it('of a register: marks with their classes', () => {
    const description = described('marks', {
      entries: '/trademarks',
      fields: at({ mark: '/wordMark', number: '/serial', owner: '/owner/name', classes: '/niceClasses', status: '/state' }),
    }); // biome-ignore format: one place a field
    const text = JSON.stringify({
      trademarks: [
        { wordMark: 'TARN', serial: 88, owner: { name: 'Tarn Ltd' }, niceClasses: [29, 30], state: 'LIVE' },
        { wordMark: null, serial: 89 },
      ],
    });
    expect(readFoundMarks(description, answerOf(description, text))).toEqual([
      { mark: 'TARN', number: '88', owner: 'Tarn Ltd', classes: '29, 30', status: 'LIVE' },
    ]);
  });

  it('of a venue: rows of a list, in CSV, with what is always the same', () => {
    const description = described('listings', {
      format: 'csv',
      fields: {
        ...at({ domain: '/Domain Name', price: '/Current Bid', closing: '/Ends' }),
        kind: { in: 'fixed', at: 'auction' },
      },
    });
    const csv = 'Domain Name;Current Bid;Ends\r\ntarnhives.org;"1.250,00 €";2026-12-04 15:00\r\n';
    const columns = listColumns(description);
    expect(columns).toEqual(['domain', 'price', 'kind', 'closing']);
    expect(listRows(new FieldReader(description, answerOf(description, csv)), columns)).toEqual([
      ['tarnhives.org', '1.250,00 €', 'auction', '2026-12-04 15:00'],
    ]);
    expect(listTitles(description, columns)).toEqual(['domain', 'price', 'kind of listing', 'closes']);
  });

  it('of an index: a score goes by the name that it has there', () => {
    const description = described('figures', { fields: at({ score: '/metrics/domain_rank', backlinks: '/b' }) });
    expect(listTitles(description, listColumns(description))).toEqual(['backlinks', 'domain rank']);
  });

  it('say what is wrong where they say so', () => {
    const error = (errors: { at: string; is?: string }[], text: string) =>
      errorIn(described('registrar', { errors }), readAnswer(text, 'json', '', HERE));
    expect(error([{ at: '/error/message' }], '{"error":{"message":"quota\\nused up"}}')).toBe('quota used up');
    expect(error([{ at: '/error/message' }], '{"error":null}')).toBeNull();
    expect(error([{ at: '/failed' }], '{"failed":false}')).toBeNull();
    expect(error([{ at: '/status', is: 'fail' }], '{"status":"ok"}')).toBeNull();
    expect(error([{ at: '/status', is: 'fail' }], '{"status":"FAIL"}')).toBe('FAIL');
  });
});

describe('picking', () => {
  const LOTS: Tree = {
    meta: { currency: 'GBP', next: 'p2' },
    lots: [
      { name: 'a.org', bid: { amount: 12 } },
      { name: 'b.org', bid: { amount: 13 } },
    ],
  };

  it('a text of a list makes the list the entries, and its place one within them', () => {
    expect(placeOfPick(LOTS, ['lots', '1', 'bid', 'amount'], '')).toEqual({
      entries: '/lots',
      place: { in: 'entry', at: '/bid/amount' },
    });
  });

  it('a text beside a list that is known stands once in the answer', () => {
    expect(placeOfPick(LOTS, ['meta', 'currency'], '/lots')).toEqual({
      entries: '/lots',
      place: { in: 'answer', at: '/meta/currency' },
    });
    expect(placeOfPick(LOTS, ['lots', '0', 'name'], '/lots').place).toEqual({ in: 'entry', at: '/name' });
  });

  it('without a list all of it is one entry', () => {
    expect(placeOfPick({ a: { b: 'x' } }, ['a', 'b'], '')).toEqual({ entries: '', place: { in: 'entry', at: '/a/b' } });
    expect(placeOfPick({ a: { b: 'x' } }, ['a', 'b'], '/a').place).toEqual({ in: 'entry', at: '/b' });
    const named = { r: { 'a.org': { s: 'x' } } };
    expect(placeOfPick(named, ['r', 'a.org', 's'], '/r/*').place).toEqual({ in: 'entry', at: '/s' });
  });

  it('shows the first of each list, and says that there are more', () => {
    const many = { l: Array.from({ length: 9 }, (_, n) => ({ n })) };
    expect(leavesOf(many)).toEqual({ leaves: [0, 1, 2].map((n) => ({ parts: ['l', String(n), 'n'], text: String(n) })), isCut: true }); // biome-ignore format: one line
    expect(seriesIn({ a: [1], b: { c: [1, 2] } })).toEqual([
      { at: '/b/c', count: 2 },
      { at: '/a', count: 1 },
    ]);
  });

  it('proposes what an answer means, by its names', () => {
    const check = {
      results: [{ domain: 'a.org', status: 'AVAILABLE', price: 12, currency: 'USD', is_premium: false }],
    };
    expect(proposed(check, 'registrar')).toEqual({
      entries: '/results',
      fields: at({ availability: '/status', domain: '/domain', price: '/price', currency: '/currency', premium: '/is_premium' }),
    }); // biome-ignore format: one place a field
    expect(proposed(LOTS, 'listings')).toMatchObject({
      entries: '/lots',
      fields: {
        domain: { at: '/name' },
        price: { at: '/bid/amount' },
        currency: { in: 'answer', at: '/meta/currency' },
      },
    });
    expect(proposed({ 'a.org': { available: true }, 'b.org': { available: false } }, 'registrar')).toEqual({
      entries: '/*',
      fields: at({ availability: '/available', domain: '#' }),
    });
    const bids = { lots: [{ domain: 'a.org', current_bid: 3, ends_at: 'x', renewal_price: 2 }] };
    expect(proposed(bids, 'listings').fields).toEqual(
      at({ domain: '/domain', price: '/current_bid', closing: '/ends_at' }),
    );
    // how the question went is no availability
    const wrapped = { status: true, code: 1, data: { domain: 'a.org', available: false } };
    expect(proposed(wrapped, 'registrar').fields.availability).toEqual({ in: 'entry', at: '/data/available' });
    const prices = { renewal_price: 14, registration_price: 9, available: true };
    expect(proposed(prices, 'registrar').fields).toEqual(
      at({ availability: '/available', price: '/registration_price', renewal: '/renewal_price' }),
    );
    expect(proposed(['a.org', 'b.org'], 'listings').fields).toEqual(at({ domain: '' }));
    expect(proposed({ links: { domains: 4, total: 9 } }, 'figures').fields).toMatchObject({
      backlinks: { at: '/links/total' },
    });
  });

  it('tells how an answer is written', () => {
    expect(formatOf('  [1]', 'text/plain')).toBe('json');
    expect(formatOf('<?xml version="1.0"?><rss version="2.0">', 'text/xml')).toBe('feed');
    expect(formatOf('<?xml version="1.0"?><a/>', 'text/xml')).toBe('xml');
    expect(formatOf('<!DOCTYPE html><html>', '')).toBe('html');
    expect(formatOf('domain,price\na.org,2', 'text/plain')).toBe('csv');
  });

  it('finds what comes again and again on a page', () => {
    const page = `<ul>${['a', 'b', 'c'].map((n) => `<li class="hit"><a href="/${n}" title="t">Title ${n} that is long enough</a><i>x</i></li>`).join('')}</ul>`;
    const [first] = repeatedElements(page, HERE);
    expect(first).toMatchObject({ selector: 'li.hit', count: 3 });
    expect(first.parts).toContainEqual({ at: 'a@href', text: 'https://api.saltmarch.example/a' });
    expect(first.parts).toContainEqual({ at: 'a', text: 'Title a that is long enough' });
  });
});
