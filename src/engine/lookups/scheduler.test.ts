import { createSocket } from 'node:dgram';
import { writeFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import packet from 'dns-packet';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { type Store, write } from '../../store/base/database';
import { changeSettings, readSettings } from '../../store/base/settings';
import { freshStore } from '../../store/base/testing';
import { findDomain, putDomain } from '../../store/domains/domains';
import { readBudgets } from '../../store/lifecycle/budgets';
import { lookupProblems } from '../../store/lifecycle/lookup-problems';
import { leaveQuestions, newsFor } from '../../store/lifecycle/question-news';
import { countQueues, nextQuestions, placeOf } from '../../store/lifecycle/question-queues';
import { addQuestions, raiseQuestion } from '../../store/lifecycle/questions';
import { checksOf, eventsOf, recentEvents, UNASKED } from '../../store/lifecycle/verdicts';
import { askDue, setWatched } from '../../store/lifecycle/watching';
import { startLookups } from '../jobs/testing';
import { confirm } from './confirm';

const DAY = 86_400_000;
let store: Store;
let stops: (() => unknown)[];

/** What the made-up registry says of a name: an RDAP object, a status, or nothing. */
type Registry = (name: string) => { status: number; body?: string; headers?: Record<string, string> };
let registry: Registry;
/** A name that exists, by which the registry shows that it answers. */
const CONTROL = 'nic.org';
let control: () => { status: number; body?: string };
let controls: number;
let asked: { step: 'dns' | 'rdap' | 'registrar'; name: string; at: number }[];
let delegated: Set<string>;
let registrar: (name: string) => object;

const record = (name: string, statuses: string[], part: object = {}) => ({
  status: 200,
  body: JSON.stringify({
    objectClassName: 'domain',
    ldhName: name,
    status: statuses,
    events: [
      { eventAction: 'registration', eventDate: '2010-01-01T00:00:00Z' },
      { eventAction: 'expiration', eventDate: new Date(store.now() + 200 * DAY).toISOString() },
    ],
    ...part,
  }),
});

beforeEach(async () => {
  store = await freshStore();
  asked = [];
  delegated = new Set([CONTROL]);
  controls = 0;
  control = () => record(CONTROL, ['active']);
  registry = () => ({ status: 404 });
  registrar = (domain) => ({ domain, availability: 'available' });
  stops = [];
  const http = createServer((request, response) => {
    const url = new URL(request.url ?? '/', 'http://x');
    const wanted = url.searchParams.get('domain');
    if (wanted) {
      asked.push({ step: 'registrar', name: wanted, at: performance.now() });
      response.writeHead(200, { 'content-type': 'application/json' }).end(JSON.stringify(registrar(wanted)));
      return;
    }
    const name = url.pathname.replace('/domain/', '');
    if (name === CONTROL) {
      controls++;
      const { status, body = '' } = control();
      response.writeHead(status, { 'content-type': 'application/rdap+json' }).end(body);
      return;
    }
    asked.push({ step: 'rdap', name, at: performance.now() });
    const { status, body = '', headers = {} } = registry(name);
    if (status === 0) request.socket.destroy();
    else response.writeHead(status, { 'content-type': 'application/rdap+json', ...headers }).end(body);
  });
  await new Promise<void>((done) => http.listen(0, '127.0.0.1', done));
  const port = (http.address() as AddressInfo).port;
  const dns = createSocket('udp4').on('message', (message, from) => {
    const query = packet.decode(message);
    const name = query.questions?.[0].name ?? '';
    if (name !== CONTROL) asked.push({ step: 'dns', name, at: performance.now() });
    const reply = { type: 'response' as const, id: query.id, questions: query.questions };
    const authorities: packet.Answer[] = [{ type: 'NS', name, ttl: 1, data: 'ns1.coombehosting.net' }];
    const flags = packet.AUTHORITATIVE_ANSWER | 3;
    dns.send(
      packet.encode(delegated.has(name) ? { ...reply, authorities } : { ...reply, flags }),
      from.port,
      from.address,
    );
  });
  await new Promise<void>((done) => dns.bind(0, '127.0.0.1', done));
  stops.push(
    () => (http as Server).closeAllConnections(),
    () => http.close(),
    () => dns.close(),
  );
  const bootstrap = join(store.folder, 'bootstrap.json');
  writeFileSync(bootstrap, JSON.stringify({ services: [[['org'], [`http://127.0.0.1:${port}/`]]] }));
  store.config.dns = { connector: `127.0.0.1:${dns.address().port}` };
  changeSettings(store, {
    resolvers: [`127.0.0.1:${dns.address().port}`],
    rdapBootstrap: bootstrap,
    registryIntervalMs: 1,
    registrar: `http://127.0.0.1:${port}/`,
    allowedPrivate: ['127.0.0.1'],
  });
});
afterEach(async () => {
  for (const stop of stops.reverse()) await stop();
  await store.close();
});

const JOB = 77;
const named = (...names: string[]) =>
  write(store, () => names.map((name) => putDomain(store, { name, ending: 'org' }, true, store.now()).id));
const ask = (ids: number[], depth: 'record' | 'registrar' = 'record') =>
  write(store, () => addQuestions(store, JOB, ids, depth));
const start = () => {
  const stop = startLookups(store);
  stops.push(stop);
  return stop;
};
async function answered(ms = 8000): Promise<void> {
  for (const until = performance.now() + ms; performance.now() < until; ) {
    if (countQueues(store).length === 0) return;
    await new Promise((done) => setTimeout(done, 15));
  }
  throw new Error(`still waiting: ${JSON.stringify(countQueues(store))}`);
}
const stepsOf = (name: string) => asked.filter((one) => one.name === name).map(({ step }) => step);

describe('the funnel', () => {
  it('sends on only what a step leaves open', async () => {
    delegated.add('taken.org');
    registry = (name) => (name === 'lapsing.org' ? record(name, ['redemption period']) : { status: 404 });
    registrar = (domain) => ({ domain, availability: domain === 'held.org' ? 'reserved' : 'available' });
    ask(named('taken.org', 'lapsing.org', 'open.org', 'held.org').slice(0, 3));
    ask(named('held.org'), 'registrar');
    start();
    await answered();
    expect(stepsOf('taken.org')).toEqual(['dns']);
    expect(stepsOf('lapsing.org')).toEqual(['dns', 'rdap']);
    expect(stepsOf('open.org')).toEqual(['dns', 'rdap']);
    expect(stepsOf('held.org')).toEqual(['dns', 'rdap', 'registrar']);
    const phase = (name: string) => findDomain(store, name)?.phase;
    expect(['taken.org', 'lapsing.org', 'open.org', 'held.org'].map(phase)).toEqual([
      'active',
      'redemption',
      'free',
      'not-registrable',
    ]);
    expect(findDomain(store, 'held.org')?.contradictions).toContain('reserved');
    expect(checksOf(store, findDomain(store, 'held.org')?.id ?? 0)).toHaveLength(3);
  });

  it('reads the record of a delegated name that is watched or was lapsing: only that tells renewed from lapsing', async () => {
    const [id] = named('late.org');
    delegated.add('late.org');
    registry = (name) => record(name, ['auto renew period']);
    write(store, () => setWatched(store, id, 'by hand', store.now()));
    start();
    askDue(store, store.now(), 10);
    await answered();
    expect(findDomain(store, 'late.org')?.phase).toBe('auto-renew');
    registry = (name) => record(name, ['active']);
    write(store, () => addQuestions(store, 0, [id], 'record'));
    await answered();
    expect(eventsOf(store, id).map(({ kind }) => kind)).toEqual(['renewed-late']);
    expect(findDomain(store, 'late.org')?.ask_at).toBeGreaterThan(store.now());
  });

  it('tells of a move to another registrar and of name servers that park it', async () => {
    const [id] = named('kept.org');
    write(store, () => setWatched(store, id, 'by hand', store.now()));
    const held = (registrar: string, server: string) => (name: string) =>
      record(name, ['active'], {
        nameservers: [{ ldhName: server }],
        entities: [{ roles: ['registrar'], vcardArray: ['vcard', [['fn', {}, 'text', registrar]]] }],
      });
    registry = held('Coombe Names', 'ns1.coombehosting.net');
    start();
    askDue(store, store.now(), 10);
    await answered();
    registry = held('Tarn and Daughters', 'ns1.parking.restingvale.net');
    write(store, () => addQuestions(store, 0, [id], 'record'));
    await answered();
    expect(eventsOf(store, id).map(({ kind }) => kind)).toEqual(['moved', 'parked']);
    expect(recentEvents(store, 0, 10)).toHaveLength(2);
  });

  it('asks the closest deadline first, then the strongest, and what a person raises before all', async () => {
    const [late, soon, strong, weak, raised] = named('late.org', 'soon.org', 'strong.org', 'weak.org', 'raised.org');
    const set = (id: number, column: string, value: number) =>
      store.raw.prepare(`UPDATE domains SET ${column} = ? WHERE id = ?`).run(value, id);
    set(late, 'closing_at', store.now() + 5 * DAY);
    set(soon, 'drop_at', store.now() + DAY);
    set(strong, 'strength', 40);
    set(weak, 'strength', 3);
    ask([weak, strong, late, raised, soon]);
    raiseQuestion(store, raised);
    expect(nextQuestions(store, 'dns', '', 9).map(({ name }) => name)).toEqual([
      'raised.org',
      'soon.org',
      'late.org',
      'strong.org',
      'weak.org',
    ]);
    expect(placeOf(store, strong)).toEqual({ step: 'dns', server: '', before: 3, waits: null });
  });

  it('tells who comes later what DNS said before', async () => {
    registry = () => ({ status: 429, headers: { 'retry-after': '60' } });
    const ids = named('slow.org');
    ask(ids);
    start();
    await expect.poll(() => stepsOf('slow.org')).toContain('rdap');
    write(store, () => addQuestions(store, JOB + 1, ids, 'record'));
    expect(newsFor(store, JOB + 1, 0)).toMatchObject([{ dns: 'nxdomain', phase: null }]);
  });

  it('tells those who asked, DNS before the verdict, and shares one question between two', async () => {
    const ids = named('shared.org');
    ask(ids);
    write(store, () => addQuestions(store, JOB + 1, ids, 'record'));
    start();
    await answered();
    for (const job of [JOB, JOB + 1])
      expect(newsFor(store, job, 0).map(({ dns, phase }) => [dns, phase])).toEqual([
        ['nxdomain', null],
        ['nxdomain', 'free'],
      ]);
    expect(stepsOf('shared.org')).toEqual(['dns', 'rdap']);
  });

  it('asks nothing for a job that rests, and goes on where it was', async () => {
    registry = () => ({ status: 429, headers: { 'retry-after': '1' } });
    ask(named('resting.org'));
    start();
    await expect.poll(() => stepsOf('resting.org')).toContain('rdap');
    leaveQuestions(store, JOB, false);
    expect(countQueues(store)).toEqual([]);
    registry = () => ({ status: 404 });
    ask([findDomain(store, 'resting.org')?.id ?? 0]);
    await answered();
    // DNS has said its part before
    expect(stepsOf('resting.org').filter((step) => step === 'dns')).toHaveLength(1);
    expect(findDomain(store, 'resting.org')?.phase).toBe('free');
  });
});

describe('faults', () => {
  it.each([
    ['a broken connection, twice', () => ({ status: 0 }), 2],
    ['an answer that is no JSON', () => ({ status: 200, body: '<html>busy</html>' }), 1],
    ['half an answer', () => ({ status: 200, body: '{"objectClassName":"domain","ldhN' }), 1],
    ['an answer about another name', () => record('other.org', ['active']), 1],
    ['a server error', () => ({ status: 500 }), 1],
  ] as [string, Registry, number][])(
    'make a name unknown, never free: %s',
    async (_, reply, times) => {
      registry = reply;
      ask(named('odd.org'));
      start();
      await answered(20_000);
      expect(findDomain(store, 'odd.org')).toMatchObject({ phase: 'unknown' });
      expect(stepsOf('odd.org').filter((step) => step === 'rdap')).toHaveLength(times);
    },
    30_000,
  );

  it('keep what could not be read', async () => {
    registry = () => ({ status: 200, body: 'Bonjour' });
    const [id] = named('odd.org');
    ask([id]);
    start();
    await answered();
    expect(checksOf(store, id)[0]).toMatchObject({ step: 'rdap', outcome: 'failed', text: 'Bonjour' });
  });

  it('of clocks: a Retry-After that lies in the past, and dates from the future', async () => {
    let refusals = 0;
    registry = (name) =>
      refusals++ === 0
        ? { status: 429, headers: { 'retry-after': 'Thu, 01 Jan 1970 00:00:00 GMT' } }
        : record(name, ['active'], { events: [{ eventAction: 'registration', eventDate: '2200-01-01T00:00:00Z' }] });
    ask(named('odd.org'));
    start();
    await answered();
    expect(findDomain(store, 'odd.org')).toMatchObject({ phase: 'active' });
  });
});

describe('pacing', () => {
  /** Lets one question through in a window, and is deaf to whoever asks sooner. */
  const strict = (windowMs: number, punishmentMs: number) => {
    let last = Number.NEGATIVE_INFINITY;
    let deafUntil = 0;
    const counts = { refused: 0, answered: 0 };
    registry = () => {
      const now = performance.now();
      if (now < deafUntil || now - last < windowMs) {
        counts.refused++;
        deafUntil = Math.max(deafUntil, now + punishmentMs);
        return { status: 429, headers: { 'retry-after': String(Math.ceil((deafUntil - now) / 1000)) } };
      }
      last = now;
      counts.answered++;
      return { status: 404 };
    };
    return counts;
  };

  it('keeps a declared pace to within five of a hundred', async () => {
    changeSettings(store, { registryIntervalMs: 100 });
    const names = Array.from({ length: 60 }, (_, i) => `n${i}.org`);
    ask(named(...names));
    start();
    await answered(20_000);
    const times = asked.filter(({ step }) => step === 'rdap').map(({ at }) => at);
    expect(times).toHaveLength(60);
    // the middle one: this process has other work, too
    const gaps = times
      .slice(1)
      .map((at, i) => at - times[i])
      .sort((a, b) => a - b);
    expect(gaps[gaps.length >> 1]).toBeLessThan(105);
    expect(gaps[gaps.length >> 1]).toBeGreaterThan(95);
  }, 30_000);

  it('learns from one refusal, is not refused again, and remembers it over a restart', async () => {
    const counts = strict(900, 2000);
    ask(named(...Array.from({ length: 6 }, (_, i) => `n${i}.org`)));
    const stop = start();
    await answered(20_000);
    // what was under way at the first refusal counts as one
    expect(counts.answered).toBe(6);
    const first = counts.refused;
    expect(first).toBeLessThanOrEqual(6);
    await stop();
    const [budget] = [...readBudgets(store)].filter(([key]) => key.startsWith('127.0.0.1')).map(([, one]) => one);
    expect(budget.intervalMs).toBeGreaterThanOrEqual(990);
    await new Promise((done) => setTimeout(done, 1000));
    ask(named('again1.org', 'again2.org', 'again3.org'));
    start();
    await answered(20_000);
    expect(counts).toEqual({ refused: first, answered: 9 });
  }, 40_000);
});

describe('a restart in the midst', () => {
  it('loses no name and repeats no question', async () => {
    const names = Array.from({ length: 600 }, (_, i) => `n${i}.org`);
    changeSettings(store, { registryIntervalMs: 2 });
    ask(named(...names));
    for (let round = 0; round < 3; round++) {
      const stop = start();
      await new Promise((done) => setTimeout(done, 300));
      await stop();
    }
    start();
    await answered(20_000);
    for (const step of ['dns', 'rdap'] as const) {
      // beside them it is asked whether anybody answers at all, where an answer is late
      const times = new Map(names.map((name) => [name, 0]));
      for (const one of asked)
        if (one.step === step && times.has(one.name)) times.set(one.name, (times.get(one.name) ?? 0) + 1);
      expect([...times.values()].filter((count) => count === 0)).toEqual([]);
      expect([...times.values()].filter((count) => count > 1)).toEqual([]);
    }
    expect(names.filter((name) => findDomain(store, name)?.phase !== 'free')).toEqual([]);
  }, 40_000);
});

describe('confirming at the moment of acting', () => {
  it('asks down to the registrar and puts a change before the person', async () => {
    const [id] = named('wanted.org');
    ask([id]);
    start();
    await answered();
    const same = await confirm(store, id);
    expect(same).toMatchObject({ isChanged: false, isLate: false, after: { phase: 'free' } });
    expect(stepsOf('wanted.org')).toContain('registrar');
    delegated.add('wanted.org');
    registry = (name) => record(name, ['active']);
    store.raw.prepare('UPDATE questions SET since = 0').run();
    const gone = await confirm(store, id);
    expect(gone).toMatchObject({ isChanged: true, before: { phase: 'free' }, after: { phase: 'active' } });
    expect(gone.events.map(({ kind }) => kind)).toEqual(['registered-anew']);
  });
});

describe('what a server has to show before its "no record" is believed', () => {
  it('is that it finds a name that exists, once a day', async () => {
    ask(named('one.org', 'two.org', 'three.org'));
    start();
    await answered();
    expect(controls).toBe(1);
    const row = findDomain(store, 'two.org');
    expect(row?.phase).toBe('free');
    expect(row?.phase_reason).toContain('its server knows nic.org, which exists');
    expect(row?.phase_reason).toContain('Weakest point: the registrar has not been asked');
  });

  it('makes names unknown, with the cause, where it denies what exists', async () => {
    control = () => ({ status: 404 });
    ask(named('one.org'));
    start();
    await answered();
    const row = findDomain(store, 'one.org');
    expect(row?.phase).toBe('unknown');
    expect(row?.phase_reason).toContain('says so of nic.org, too, which exists');
  });

  it('is remembered over a restart, and shown by any record as well', async () => {
    registry = (name) => (name === 'known.org' ? record(name, ['active']) : { status: 404 });
    ask(named('one.org'));
    const stop = start();
    await answered();
    await stop();
    ask(named('other.org'));
    start();
    await answered();
    expect(controls).toBe(1);
    expect(findDomain(store, 'other.org')?.phase).toBe('free');
  });
});

describe('when nobody can be asked', () => {
  const problems = () => lookupProblems(store).map(({ key }) => key);

  it('says so of the list of servers, at once, and is silent when it can be read again', async () => {
    const bootstrap = readSettings(store).rdapBootstrap;
    store.config.whois = { servers: {}, root: null, connector: null };
    changeSettings(store, { rdapBootstrap: join(store.folder, 'nothing.json') });
    ask(named('one.org'));
    start();
    await answered();
    const row = findDomain(store, 'one.org');
    expect([row?.phase, row?.phase_source?.startsWith(UNASKED)]).toEqual(['unknown', true]);
    expect(row?.phase_reason).toMatch(/^Could not be asked: the list of RDAP servers cannot be read/);
    expect(problems()).toEqual(['bootstrap']);
    expect(lookupProblems(store)[0].remedy).toContain('Settings');
    changeSettings(store, { rdapBootstrap: bootstrap });
    // counts at once
    ask(named('two.org'));
    await answered();
    expect(findDomain(store, 'two.org')?.phase).toBe('free');
    expect(problems()).toEqual([]);
  });

  it('says so of a WHOIS root that cannot be reached', async () => {
    store.config.whois = { servers: {}, root: '127.0.0.1:9', connector: null };
    const id = write(store, () => putDomain(store, { name: 'one.de', ending: 'de' }, true, store.now()).id);
    ask([id]);
    start();
    await answered();
    expect(findDomain(store, 'one.de')?.phase_reason).toContain('tells who has its WHOIS cannot be asked');
    expect(problems()).toEqual(['whois']);
  });

  it('says so of an ending that nobody is known for', async () => {
    store.config.whois = { servers: {}, root: null, connector: null };
    const id = write(store, () => putDomain(store, { name: 'one.de', ending: 'de' }, true, store.now()).id);
    ask([id]);
    start();
    await answered();
    expect(findDomain(store, 'one.de')?.phase_reason).toContain('neither RDAP nor WHOIS is known for .de');
  });

  it('says so of a silent resolver', async () => {
    const silent = createSocket('udp4');
    await new Promise<void>((done) => silent.bind(0, '127.0.0.1', done));
    stops.push(() => silent.close());
    const address = `127.0.0.1:${silent.address().port}`;
    store.config.dns = { connector: address };
    changeSettings(store, { resolvers: [address] });
    ask(named(...Array.from({ length: 8 }, (_, n) => `n${n}.org`)));
    start();
    const until = performance.now() + 30_000;
    while (!problems().includes('dns') && performance.now() < until) await new Promise((done) => setTimeout(done, 50));
    expect(problems()).toEqual(['dns']);
    expect(lookupProblems(store)[0].words).toContain(address);
  }, 40_000);

  it('says so of a registry that breaks connections, and the verdict names it', async () => {
    registry = (name) => ({ status: name === 'one.org' ? 0 : 404 });
    ask(named('one.org'));
    start();
    await answered(30_000);
    expect(findDomain(store, 'one.org')?.phase_reason).toMatch(/^Could not be asked: /);
    expect(problems()).toEqual([expect.stringContaining('server 127.0.0.1')]);
  }, 40_000);
});

describe('a look without an answer', () => {
  it('changes nothing of what was known of a life: its window stays, and what happened is told later', async () => {
    const changed = (name: string) =>
      record(name, ['pending delete'], {
        events: [
          { eventAction: 'registration', eventDate: '2010-01-01T00:00:00Z' },
          { eventAction: 'expiration', eventDate: new Date(store.now() - 70 * DAY).toISOString() },
        ],
      });
    registry = changed;
    const [id] = named('lapsing.org');
    ask([id]);
    start();
    await answered();
    const first = findDomain(store, 'lapsing.org');
    registry = () => ({ status: 500 });
    for (let n = 0; n < 3; n++) {
      ask([id]);
      await answered();
    }
    const blind = findDomain(store, 'lapsing.org');
    expect([blind?.phase, blind?.drop_from, blind?.drop_to]).toEqual(['unknown', first?.drop_from, first?.drop_to]);
    registry = changed;
    ask([id]);
    await answered();
    const again = findDomain(store, 'lapsing.org');
    expect(again?.drop_to).toBe(first?.drop_to);
    registry = () => ({ status: 404 });
    ask([id]);
    await answered();
    expect(eventsOf(store, id).map(({ kind }) => kind)).toEqual(['dropped']);
  });
});

describe('a name that drops', () => {
  // how soon is measured by `npm run bench -- drop-window`
  it('is asked about before all that waits, once its window opens, while both cores are busy', async () => {
    const hour = new Date(store.now()).getUTCHours();
    const days: [number, number] = [0, 0];
    const policy = {
      autoRenewDays: days,
      redemptionDays: days,
      pendingDeleteDays: days,
      isExpiryMoved: false,
      reference: '',
    };
    changeSettings(store, {
      registryIntervalMs: 20,
      policies: [{ ending: 'org', dropHours: [hour, hour + 1], ...policy }],
    });
    registry = (name) =>
      name !== 'club.org'
        ? { status: 404 }
        : record(name, ['pending delete'], {
            events: [{ eventAction: 'last changed', eventDate: new Date(store.now() - 1000).toISOString() }],
          });
    const ids = named(...Array.from({ length: 4000 }, (_, n) => `queued${n}.org`));
    const [id] = named('club.org');
    write(store, () => {
      addQuestions(store, JOB, ids, 'record', 'raised');
      setWatched(store, id, 'by hand', store.now());
      store.raw
        .prepare(
          `UPDATE domains SET phase = 'pending-delete', drop_conditional = 0, drop_from = ?, drop_to = ?, ask_at = ? WHERE id = ?`,
        )
        .run(store.now() + 1500, store.now() + 7_200_000, store.now() + 1500, id);
    });
    // as a crawl and a browser beside it
    const busy = [0, 1].map(() => new Worker('for (;;) Math.random();', { eval: true }));
    stops.push(...busy.map((worker) => () => worker.terminate()));
    const clock = setInterval(() => askDue(store, store.now(), 500), 1000);
    stops.push(() => clearInterval(clock));
    const opens = performance.now() + 1500;
    start();
    const until = opens + 40_000;
    const records = () => asked.filter(({ name, step }) => name === 'club.org' && step === 'rdap');
    while (records().length === 0 && performance.now() < until) await new Promise((done) => setTimeout(done, 20));
    expect(records().length).toBeGreaterThan(0);
    expect(countQueues(store).reduce((sum, { waiting }) => sum + waiting, 0)).toBeGreaterThan(500);
    // and again, as often as its registry allows
    while (records().length < 2 && performance.now() < until + 40_000)
      await new Promise((done) => setTimeout(done, 20));
    expect(records().length).toBeGreaterThanOrEqual(2);
  }, 120_000);

  it('has the turn of a registry that is asked seldom kept for it', async () => {
    ask(named('before.org'));
    const stop = start();
    await answered();
    await stop();
    changeSettings(store, { registryIntervalMs: 20_000 });
    const [id] = named('club.org');
    write(store, () => {
      setWatched(store, id, 'by hand', store.now());
      store.raw
        .prepare(
          `UPDATE domains SET phase = 'pending-delete', drop_conditional = 0, drop_from = ?, drop_to = ?, ask_at = ? WHERE id = ?`,
        )
        .run(store.now() + 2500, store.now() + 7_200_000, store.now() + 2500, id);
    });
    ask(named(...Array.from({ length: 20 }, (_, n) => `queued${n}.org`)));
    const clock = setInterval(() => askDue(store, store.now(), 500), 200);
    stops.push(() => clearInterval(clock));
    const records = () => asked.filter(({ step, name }) => step === 'rdap' && name !== 'before.org');
    start();
    for (const until = performance.now() + 20_000; records().length === 0 && performance.now() < until; )
      await new Promise((done) => setTimeout(done, 20));
    expect(records().map(({ name }) => name)).toEqual(['club.org']);
  }, 40_000);
});
