import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { termsOf } from '../topics/terms';
import { judgeCapture } from './capture';
import { loadLanguages } from './language';
import { plateOf } from './page-kinds';
import { originalAddress, viewPage } from './page-view';
import { type ReadCapture, summarizeCaptures } from './past';
import { type CaptureMark, CaptureSampler } from './sample';

const DAY = 86_400_000;
const YEAR = 365.25 * DAY;
const BEES =
  'We keep hives and inspect the brood, the queen and the comb each spring, and take honey in summer for the village fair';
const STARS =
  'Our telescopes show planets, nebulae and comets through the eyepiece on dark nights above the observatory hill';
const languageOf = await loadLanguages();
const capture = (html: string, more: { status?: number; location?: string | null } = {}) =>
  judgeCapture({ status: 200, location: null, html, site: 'beeclub.org', ...more }, languageOf);
const page = (text: string, head = '') => `<title>Bee Club</title>${head}<p>${text}</p>`;

describe('judgeCapture', () => {
  it.each([
    ['content', page(BEES)],
    ['content', page('Play slots and poker.')],
    ['parked', page('This domain is parked.')],
    ['parked', page('Coming soon')],
    ['for-sale', page('This domain is for sale. Make an offer for this name.')],
    ['for-sale', page('Buy this domain')],
    ['blocked', page('Checking that you are a person. Enable scripts.')],
    ['error', page('404 page not found')],
    ['error', ''],
    ['redirect', page('', '<meta http-equiv="refresh" content="0; url=http://casino.com/">')],
    ['redirect', '<frameset><frame src="http://other.net/"></frameset>'],
  ])('takes for %s: %s', (kind, html) => {
    const found = capture(html);
    expect(found.kind).toBe(kind);
    expect(found.marks.length).toBeGreaterThan(0);
  });
  it.each([
    [301, 'http://gazette.com/', 'redirect', 'gazette.com'],
    [302, 'http://archive.net/web/20190101000000/http://gazette.com/x', 'redirect', 'gazette.com'],
    [301, 'http://www.beeclub.org/home', 'unknown', null],
    [404, null, 'error', null],
    [503, null, 'error', null],
    [403, null, 'blocked', null],
  ])('judges status %i to %s', (status, location, kind, target) => {
    const found = capture('', { status, location });
    expect([found.kind, found.redirectTo]).toEqual([kind, target]);
  });
  it('does not take a long page about parking for a parked one', () => {
    expect(capture(page(`${BEES}. ${BEES}. ${BEES}. This site is under construction, said the builder.`)).kind).toBe(
      'content',
    );
  });
  it('keeps title, language, words and outgoing links of content', () => {
    const found = capture(
      `${page(BEES)}<a href="http://archive.net/web/20190101000000/http://hives.net/a">x</a><a href="/in">y</a><a href="http://beeclub.org/z">z</a>`,
    );
    expect(found).toMatchObject({ title: 'Bee Club', language: 'en', links: ['hives.net'] });
    expect(found.terms.get('hive')).toBe(1);
    expect(found.fingerprint).toMatch(/^[0-9a-f]{16}$/);
  });
  it('judges any bytes without failing, and keeps no character that could turn a line', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 300 }), fc.integer({ min: 100, max: 599 }), (text, status) => {
        const found = capture(`<title>\u202e${text}</title><a href="${text}">${text}\u2066</a>${text}`, { status });
        expect(found.title).not.toMatch(/[\u0000-\u0008\u202a-\u202e\u2066-\u2069]/);
        expect(found.title.length).toBeLessThanOrEqual(200);
      }),
    );
  });
  it('cuts what is too long', () => {
    const view = viewPage(`<title>${'x'.repeat(1_000_000)}</title><a href="/">${'y'.repeat(100_000)}</a>`);
    expect(view.title.length).toBe(200);
    expect(view.links[0].text.length).toBeLessThanOrEqual(200);
  });
});

describe('viewPage', () => {
  it('finds ids that visits are counted under', () => {
    const html = `<script>x('UA-123456-2'); y("G-AB12CD34EF")</script><div data-site-id="valecount9">`;
    expect(viewPage(html).trackingIds).toEqual(['G-AB12CD34EF', 'UA-123456', 'valecount9']);
    expect(viewPage(page(BEES)).trackingIds).toEqual([]);
  });
});

describe('originalAddress', () => {
  it.each([
    ['http://a.net/web/20190101000000/http://b.org/x', 'http://b.org/x'],
    ['/web/20190101000000im_/https://b.org/', 'https://b.org/'],
    ['http://a.net/web/2019/http:/b.org/', 'http://b.org/'],
    ['http://b.org/y', 'http://b.org/y'],
    ['/local', null],
    ['mailto:x', null],
  ])('of %s', (given, original) => expect(originalAddress(given)).toBe(original));
});

describe('languageOf', () => {
  it.each([
    [BEES, 'en'],
    ['Wir freuen uns über Ihren Besuch und zeigen Ihnen gern, was in diesem Jahr alles neu ist.', 'de'],
    ['Мы предлагаем лучшие цены и быструю доставку по всей стране без лишних вопросов.', 'ru'],
    ['Bee', null],
  ])('of %s', (text, language) => expect(languageOf(text)).toBe(language));
});

const mark = (text: string, more: Partial<CaptureMark> = {}): CaptureMark => ({
  kind: 'content',
  language: 'en',
  terms: termsOf(text),
  redirectTo: null,
  ...more,
});

describe('CaptureSampler', () => {
  const read = (times: number[], look: (at: number) => CaptureMark, options = {}) => {
    const sampler = new CaptureSampler(times, options);
    const places: number[] = [];
    for (let place = sampler.next(); place !== null; place = sampler.next()) {
      expect(places).not.toContain(place);
      places.push(place);
      sampler.put(place, look(times[place]));
    }
    return places;
  };
  const monthly = Array.from({ length: 180 }, (_, n) => n * 30 * DAY);

  it('reads few captures of a site that never changed', () => {
    const places = read(monthly, () => mark(BEES));
    expect(places).toContain(0);
    expect(places).toContain(179);
    expect(places.length).toBeLessThan(12);
  });
  it('pins a change down to two months, wherever it lies', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 178 }), (turn) => {
        const look = (at: number) => mark(at < turn * 30 * DAY ? BEES : STARS);
        const places = read(monthly, look).sort((a, b) => a - b);
        const before = places.filter((place) => place < turn).at(-1) ?? -99;
        const after = places.find((place) => place >= turn) ?? 999;
        expect(monthly[after] - monthly[before]).toBeLessThanOrEqual(60 * DAY);
        expect(places.length).toBeLessThanOrEqual(24);
      }),
    );
  });
  it('finds a year that was another, in the middle of many', () => {
    const look = (at: number) => mark(at > 6 * YEAR && at < 9.2 * YEAR ? STARS : BEES);
    const places = read(monthly, look);
    expect(places.some((place) => monthly[place] > 6 * YEAR && monthly[place] < 9.2 * YEAR)).toBe(true);
  });
  it('goes round captures that the archive does not hand out, and ends', () => {
    const sampler = new CaptureSampler(monthly.slice(0, 10));
    let asked = 0;
    for (let place = sampler.next(); place !== null && asked < 50; place = sampler.next()) {
      asked++;
      sampler.fail(place);
    }
    expect(asked).toBeLessThanOrEqual(24);
  });
  it('has nothing to read where nothing was captured', () => expect(new CaptureSampler([]).next()).toBeNull());
});

describe('summarizeCaptures', () => {
  const at = (year: number) => Date.UTC(year, 5, 1);
  const entry = (year: number, text: string, more: Partial<ReadCapture> = {}): ReadCapture => ({
    ...mark(text),
    at: at(year),
    title: '',
    subject: text === BEES ? 'farming.beekeeping' : 'sky.astronomy',
    ...more,
  });
  const past = (read: ReadCapture[], registeredAt: number | null = null, times = read.map((capture) => capture.at)) =>
    summarizeCaptures({ times, read, registeredAt });

  it('counts the years with content, and no drop, of a site that stayed', () => {
    const found = past([2010, 2011, 2012, 2013].map((year) => entry(year, BEES)));
    expect(found).toMatchObject({
      contentYears: 3,
      drops: [],
      drift: 0,
      subject: 'farming.beekeeping',
      language: 'en',
      subjectSwitches: 0,
    });
    expect(found.eras).toHaveLength(1);
    expect(found.eras[0]).toMatchObject({ kind: 'content', captures: 4, read: 4 });
  });
  it('sees a gap, and a drop where another site came after it', () => {
    const found = past([entry(2008, BEES), entry(2009, BEES), entry(2013, STARS), entry(2014, STARS)]);
    expect(found.gaps).toEqual([{ from: at(2009), to: at(2013) }]);
    expect(found.drops).toHaveLength(1);
    expect(found.drops[0].why).toContain('another site');
    expect(found.drift).toBeGreaterThan(0.5);
    expect(found.contentYears).toBeCloseTo(2, 1);
    expect(found.subjectSwitches).toBe(1);
  });
  it('does not take a gap in the captures of the same site for a drop', () => {
    expect(past([entry(2008, BEES), entry(2012, BEES)]).drops).toEqual([]);
  });
  it('takes parking after content, and a younger registration, for one drop', () => {
    const found = past(
      [entry(2010, BEES), entry(2011, BEES), entry(2012, '', { kind: 'parked', subject: null, language: null })],
      Date.UTC(2012, 0, 1),
    );
    expect(found.drops).toHaveLength(1);
    expect(found.eras.map(({ kind }) => kind)).toEqual(['content', 'parked']);
  });
  it('counts two drops that lie years apart', () => {
    const parked = (year: number) => entry(year, '', { kind: 'parked', subject: null, language: null });
    const sold = entry(2012, '', { kind: 'for-sale', subject: null, language: null });
    const before = [entry(2004, BEES), parked(2005), entry(2006, STARS), entry(2011, STARS)];
    expect(past([...before, sold]).drops).toHaveLength(2);
    // parked at the end, it may still be its owner's
    expect(past([...before, parked(2012)]).drops).toHaveLength(1);
  });
  it('counts switches of language', () => {
    const german = entry(2012, 'bienen und honig', { language: 'de', subject: null });
    expect(past([entry(2010, BEES), entry(2011, BEES), german]).languageSwitches).toBe(1);
  });
  it('lays eras side by side within the captures, whatever was read', () => {
    const captures = fc
      .uniqueArray(fc.integer({ min: 2000, max: 2026 }), { minLength: 1, maxLength: 12 })
      .chain((years) =>
        fc.tuple(
          fc.constant(years.sort((a, b) => a - b)),
          fc.array(fc.constantFrom<ReadCapture['kind']>('content', 'parked', 'redirect', 'error'), {
            minLength: 12,
            maxLength: 12,
          }),
        ),
      );
    fc.assert(
      fc.property(captures, ([years, kinds]) => {
        const found = past(years.map((year, n) => entry(year, n % 3 ? BEES : STARS, { kind: kinds[n] })));
        found.eras.forEach((era, n) => {
          expect(era.from).toBeLessThanOrEqual(era.to);
          expect(era.from).toBeGreaterThanOrEqual(at(years[0]));
          expect(era.to).toBeLessThanOrEqual(at(years[years.length - 1]));
          if (n > 0) expect(era.from).toBeGreaterThanOrEqual(found.eras[n - 1].to);
        });
        expect(found.eras.reduce((sum, { read }) => sum + read, 0)).toBe(years.length);
        expect(found.contentYears).toBeLessThanOrEqual(27);
      }),
    );
  });
});

describe('plateOf', () => {
  it.each([
    ['for-sale', 'Diese Domain steht zum Verkauf'],
    ['for-sale', 'Ce nom de domaine est à vendre'],
    ['for-sale', 'El dominio bodegamar.example está en venta'],
    ['for-sale', 'Questo dominio è in vendita'],
    ['for-sale', 'Deze domeinnaam is te koop'],
    ['for-sale', 'Este domínio está à venda'],
    ['for-sale', 'Ta domena jest na sprzedaż'],
    ['for-sale', 'Домен продаётся'],
    ['for-sale', '本域名出售'],
    ['expired', 'Ce domaine a expiré'],
    ['expired', 'Este dominio ha caducado'],
    ['suspended', 'Dieser Account wurde gesperrt'],
    ['suspended', 'La cuenta ha sido suspendida'],
    ['default', 'Welcome to nginx! If you see this page, the nginx web server is successfully installed.'],
    ['listing', 'Index of / Name Last modified Size Description Parent Directory'],
    ['script', 'You need to enable JavaScript to run this app.'],
    ['parked', 'Deze domeinnaam is door een klant van ons geparkeerd'],
  ])('%s: %s', (kind, text) => expect(plateOf('', text)?.kind).toBe(kind));
  it.each([
    'Boats for sale and moorings to let below the weir. Make us an offer for the blue one.',
    'Our course on hosting: how accounts work, what an index is and why a page expires.',
    'Häuser zu verkaufen in Ossenmere, Besichtigung am Samstag.',
    'The new kiln is coming soon, and lessons start in May for beginners and old hands, with clay and glazes in the price, at the yard.',
  ])('is no plate: %s', (text) => expect(plateOf('', text)).toBeNull());
  it('answers any text', () => {
    fc.assert(fc.property(fc.string({ unit: 'binary', maxLength: 300 }), (text) => void plateOf(text, text)));
  });
});
