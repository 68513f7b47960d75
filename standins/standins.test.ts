import { describe, expect, it } from 'vitest';
import { archiveAnswer, capturesOf } from './archive';
import { LONGEST_LAPSE_DAYS } from './lives';
import { pageOf } from './pages';
import { Random } from './random';
import { bootstrapFile, Limiter, REGISTRIES, rdapAnswer, WHOIS_SERVERS, whoisText } from './registries';
import { listingsOf, VENUES, venueAnswer } from './venues';
import { ENDINGS } from './words';
import { DAY, makeWorld, stateAt, type WorldDomain } from './world';

const START = Date.UTC(2026, 10, 20, 8);
const world = makeWorld(3, START, 500);
const named = (name: string) => world.domains.get(name) as WorldDomain;
const withPhase = (phase: string, ending: string) =>
  [...world.domains.values()].find(
    (domain) => domain.ending === ending && !domain.disagrees && stateAt(domain, START).phase === phase,
  ) as WorldDomain;

describe('a life', () => {
  it('goes from active through its lapse to free, and never back within a span', () => {
    const order = ['active', 'auto-renew', 'redemption', 'pending-delete', 'free'];
    for (const domain of world.listed.slice(0, 200)) {
      const [span] = domain.spans;
      if (domain.spans.length > 1 || span.until === null) continue;
      let place = 0;
      for (let day = -5; day < LONGEST_LAPSE_DAYS + 5; day++) {
        const { phase, delegated } = stateAt(domain, span.until + day * DAY);
        expect(order.indexOf(phase)).toBeGreaterThanOrEqual(place);
        place = order.indexOf(phase);
        if (phase === 'free' || phase === 'pending-delete' || phase === 'redemption')
          expect(delegated).toBe(domain.disagrees === true);
      }
      expect(place).toBe(4);
    }
  });
  it('of a kept name never ends', () => {
    const late = named('tallowendhoneypath.net');
    const phases = new Set<string>();
    for (let day = 0; day < 800; day += 3) phases.add(stateAt(late, START + day * DAY).phase);
    expect([...phases].sort()).toEqual(['active', 'auto-renew']);
    // renewed two days after the world begins, in the last days before it would be deleted
    expect([0, 1, 3].map((day) => stateAt(late, START + day * DAY).phase)).toEqual([
      'auto-renew',
      'auto-renew',
      'active',
    ]);
  });
});

describe('the web', () => {
  it('serves every page of every source, and links that the index knows', () => {
    let pages = 0;
    for (const [name, { site, pages: paths }] of world.sites) {
      pages += paths.size;
      if (site.manners.includes('challenge') || site.manners.includes('consent')) continue;
      for (const path of paths.keys()) {
        const answer = pageOf(world, name, path, START);
        expect([name, path, answer?.status]).toEqual([name, path, 200]);
        for (const link of world.byPage.get(`${name} ${path}`) ?? [])
          expect(String(answer?.body)).toContain(`http://${link.to.name}`);
      }
    }
    expect(world.sites.size).toBeGreaterThanOrEqual(60);
    expect(pages).toBeGreaterThanOrEqual(8000);
  });
  it('has no page that cannot be reached from its home', () => {
    for (const { pages } of world.sites.values()) {
      const reached = new Set(['/']);
      for (const path of reached) for (const next of pages.get(path)?.inside ?? []) reached.add(next);
      expect([...pages.keys()].filter((path) => !reached.has(path))).toEqual([]);
    }
  });
  it('misbehaves on purpose', () => {
    const page = (host: string, path: string) => pageOf(world, host, path, START);
    const body = (host: string, path: string) => String(page(host, path)?.body);
    expect(body('umberleymarket.com', '/a')).toBe(body('umberleymarket.com', '/b'));
    expect(body('umberleyparishnews.org', '/')).toContain('Accept all cookies');
    expect(body('tallowendcalendar.org', '/calendar/2031-12.html')).toContain('/calendar/2032-01.html');
    const lie = page('brindlefellbookcraft.net', '/about.html');
    expect(lie?.headers['content-type']).toContain('utf-8');
    expect(() => new TextDecoder('utf-8', { fatal: true }).decode(lie?.body as Buffer)).toThrow();
    expect(page('merrowvalepress.org', '/loop-a')).toMatchObject({ status: 302, headers: { location: '/loop-b' } });
    expect(page('mirrowbybeeinspector.org', '/')).toMatchObject({ status: 302 });
    expect(body('wexcombehivestore.com', '/goods/?colour=amber')).toContain('/goods/?colour=amber&amp;size=small');
    expect(page('skeldrakenectarnotes.net', '/never')?.status).toBe(200);
    expect(page('merrowvalepress.org', '/never')?.status).toBe(404);
    expect(body('marlowickskeptrust.org', '/mirror/help.html')).toContain('/mirror/');
    expect(page('ottergarthwalks.org', '/news/more/more/more/')?.status).toBe(200);
    expect(body('cradlewickhoneyfair.com', '/')).toContain(';sid=');
    expect(body('sallowmerechoir.org', '/robots.txt')).toContain('Disallow: /\n');
    expect(body('merrowvaleanswers.com', '/questions/page-0.html')).not.toContain('InteractionCounter');
  });
  it('does not answer for names that do not resolve', () => {
    expect(pageOf(world, 'ossenmerebeeclub.org', '/', START)).toBeNull();
    expect(pageOf(world, 'never-was.org', '/', START)).toBeNull();
  });
});

describe('the registries', () => {
  it('cover every ending, by RDAP or WHOIS, and not by both', () => {
    const byRdap = REGISTRIES.flatMap(({ endings }) => endings);
    expect([...byRdap, ...Object.keys(WHOIS_SERVERS)].sort()).toEqual(ENDINGS.map(([ending]) => ending).sort());
    expect(JSON.stringify(bootstrapFile())).toContain('rdap.coomberegistry.net');
  });
  it('refuse above their limit, and say for how long', () => {
    const limiter = new Limiter();
    const name = withPhase('active', 'me').name;
    const host = 'rdap.tarnregistry.me';
    const answers = Array.from({ length: 7 }, () => rdapAnswer(world, limiter, host, `/domain/${name}`, START));
    expect(answers.map((answer) => answer?.status)).toEqual([200, 200, 200, 200, 200, 429, 429]);
    expect(Number(answers[6]?.headers['retry-after'])).toBeGreaterThan(3000);
  });
  it('answer for their own endings only', () => {
    const org = withPhase('active', 'org').name;
    expect(rdapAnswer(world, new Limiter(), 'rdap.coomberegistry.net', `/domain/${org}`, START)?.status).toBe(404);
    expect(rdapAnswer(world, new Limiter(), 'elsewhere.org', `/domain/${org}`, START)).toBeNull();
  });
  it('have two shapes of WHOIS text', () => {
    expect(whoisText(world, withPhase('active', 'de').name, START)).toContain('Nserver:');
    expect(whoisText(world, withPhase('active', 'eu').name, START)).toContain('    Registered on:');
    expect(whoisText(world, 'nobody.de', START)).toContain('Status: free');
    expect(whoisText(world, 'nobody.eu', START)).toContain('No match');
  });
});

describe('the archive', () => {
  it('has captures only from times when the name was registered', () => {
    for (const domain of [...world.domains.values()].slice(0, 400))
      for (const { at } of capturesOf(domain, START)) {
        expect(stateAt(domain, at).span).not.toBeNull();
        expect(at).toBeLessThanOrEqual(START);
      }
  });
  it('serves what its TimeMap names', () => {
    const club = named('ossenmerebeeclub.org');
    const map = String(archiveAnswer(world, `/timemap/link/http://${club.name}/`, START).body);
    const mementos = [...map.matchAll(/<http:\/\/[^/]+(\/web\/[^>]+)>; rel="[^"]*memento"/g)].map(([, path]) => path);
    expect(mementos).toHaveLength(capturesOf(club, START).length);
    for (const path of mementos) expect(archiveAnswer(world, path, START)).toMatchObject({ status: 200 });
    expect(archiveAnswer(world, '/timemap/link/http://never-was.org/', START).status).toBe(404);
  });
});

describe('the venues', () => {
  it('offer what fits the phase, and close in the future', () => {
    for (const venue of VENUES) {
      for (const now of [START, START + 30 * DAY]) {
        const listings = listingsOf(world, venue, now);
        expect(listings.length).toBeGreaterThan(50);
        for (const { domain, kind, state, closesAt } of listings) {
          const { phase } = stateAt(named(domain), now);
          if (kind === 'backorder') expect(phase).toBe('pending-delete');
          if (kind === 'expired-auction') expect(['auto-renew', 'redemption']).toContain(phase);
          if (closesAt && state === 'open') expect(Date.parse(closesAt)).toBeGreaterThanOrEqual(now);
        }
      }
    }
  });
});

describe('lots in the course of time', () => {
  const HOUR = 3_600_000;
  const at = (now: number) => new Map(listingsOf(world, VENUES[0], now).map((lot) => [lot.domain, lot]));

  it('get bids, never fewer, until they end; what was bid for is sold unless a reserve is not met', () => {
    const early = at(START + HOUR);
    const late = at(START + 30 * HOUR);
    let raised = 0;
    for (const [name, before] of early) {
      const after = late.get(name);
      if (after?.kind !== before.kind || after.closesAt !== before.closesAt || before.bids === null) continue;
      expect(after.bids ?? -1).toBeGreaterThanOrEqual(before.bids);
      if ((after.bids ?? 0) > before.bids) raised++;
    }
    expect(raised).toBeGreaterThan(10);
    const states = new Set<string>();
    for (let hour = 0; hour < 160; hour += 8)
      for (const lot of at(START + hour * HOUR).values()) {
        states.add(lot.state);
        if (lot.state === 'sold' && lot.kind !== 'falling') expect(lot.bids).toBeGreaterThan(0);
        if (lot.state === 'sold') expect(lot.reserve).not.toBe('unmet');
      }
    expect([...states].sort()).toEqual(['closed', 'open', 'sold']);
  });

  it('fall by their steps', () => {
    for (const { kind, steps, priceMinor, state } of at(START).values()) {
      if (kind !== 'falling' || state !== 'open') continue;
      const past = steps?.filter((step) => Date.parse(step.at) <= START) ?? [];
      if (past.length > 0) expect(priceMinor).toBe(past.at(-1)?.priceMinor);
      const prices = steps?.map((step) => step.priceMinor) ?? [];
      expect(prices).toEqual([...prices].sort((a, b) => b - a));
    }
  });

  it('are handed out by one venue as a feed, by the other as a table, and not again when nothing changed', () => {
    const feed = venueAnswer(world, VENUES[0].host, '/listings.json', START);
    expect(JSON.parse(String(feed?.body))).toMatchObject({ venue: VENUES[0].name, currency: 'EUR' });
    const table = venueAnswer(world, VENUES[1].host, '/lots.csv', START);
    expect(String(table?.body)).toMatch(/^Lot;Format;.*\r\n[a-z0-9.-]+;/);
    const again = { 'if-none-match': String(feed?.headers.etag) };
    expect(venueAnswer(world, VENUES[0].host, '/listings.json', START, again)?.status).toBe(304);
    expect(venueAnswer(world, VENUES[0].host, '/listings.json', START + 24 * HOUR, again)?.status).toBe(200);
  });
});

describe('Random', () => {
  it('repeats itself from the same seed, and spreads evenly', () => {
    const [one, two] = [new Random('seed'), new Random('seed')];
    const drawn = Array.from({ length: 10_000 }, () => one.whole(0, 9));
    expect(Array.from({ length: 10_000 }, () => two.whole(0, 9))).toEqual(drawn);
    for (let value = 0; value < 10; value++)
      expect(drawn.filter((other) => other === value).length).toBeGreaterThan(850);
  });
});
