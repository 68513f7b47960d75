import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pino from 'pino';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { Settings, type VenueAccount } from '../src/core/settings/settings';
import { Outbox } from '../src/engine/orders/outbox';
import { place, termsOf } from '../src/engine/orders/place';
import { tryAbility } from '../src/engine/setup/try';
import { EppAccount } from '../src/net/epp-account';
import { httpServer, tcpServer } from '../src/net/testing';
import { type Store, write } from '../src/store/base/database';
import { changeSettings } from '../src/store/base/settings';
import { freshStore } from '../src/store/base/testing';
import { putDomain } from '../src/store/domains/domains';
import { putVerdict } from '../src/store/lifecycle/verdicts';
import { listHoldings } from '../src/store/portfolio/holdings';
import { saveBrief } from '../src/store/shortlist/briefs';
import { EppStandIn, type EppOptions as StandInOptions } from '../standins/epp';
import { certificate } from './stock-servers';

const LOGIN = 'coombe-01';
const PASSWORD = 'moor-and-heather-7';
const QUICK_MS = 1500;
const folder = mkdtempSync(join(tmpdir(), 'epp-'));
const file = (name: string) => join(folder, name);

const open: EppStandIn[] = [];
afterEach(() => {
  for (const one of open.splice(0)) one.close();
});

/** Certificates that nobody but who is told trusts: of the registry, and of who asks it. */
const server = certificate('registry');
const client = certificate('registrar');
const read = (path: string) => readFileSync(path, 'utf8');
beforeAll(() => writeFileSync(file('both.pem'), [client.key, client.cert, server.cert].map(read).join('\n')));

const FEES = { currency: 'EUR', usual: '11.50', premium: { 'tarnhoney.org': '1200.00' } };

async function registry(given: Partial<StandInOptions> = {}): Promise<{ registry: EppStandIn; address: string }> {
  const registry = new EppStandIn({
    cert: read(server.cert),
    key: read(server.key),
    logins: { [LOGIN]: PASSWORD, other: 'x' },
    fees: FEES,
    ...given,
  });
  open.push(registry);
  return { registry, address: `epp://${LOGIN}@${await registry.listen()}` };
}

const accountAt = (address: string, more: Partial<VenueAccount> = {}): VenueAccount => ({
  venue: 'Registry of Coombe',
  address,
  key: PASSWORD,
  currency: 'EUR',
  certificate: server.cert,
  ...more,
});
const REACH = { allowedPrivate: ['127.0.0.1'], timeoutMs: QUICK_MS };
const had = (sponsor: string) => ({
  sponsor,
  createdAt: Date.UTC(2020, 1, 1),
  expiresAt: Date.UTC(2027, 1, 1),
  statuses: ['ok'],
  authInfo: 'x',
  contacts: {},
  nameServers: [],
});
const ORDER = { key: 'k', domain: 'pellgatehives.org', kind: 'register' as const, amountMinor: 1150, currency: 'EUR' };

describe('availability by EPP', () => {
  it('is available, premium, reserved or taken, with the price of the registry, in one session', async () => {
    const { registry: one, address } = await registry({ reserved: { 'org.org': 'Reserved by the registry' } });
    one.domains.set('wexcombehives.org', had('other'));
    const epp = new EppAccount(accountAt(address), REACH);
    expect(await epp.availability('pellgatehives.org')).toMatchObject({
      outcome: 'available',
      priceMinor: 1150,
      currency: 'EUR',
    });
    expect(await epp.availability('tarnhoney.org')).toMatchObject({ outcome: 'premium', priceMinor: 120_000 });
    expect(await epp.availability('org.org')).toMatchObject({
      outcome: 'reserved',
      detail: 'reserved, Reserved by the registry',
    });
    expect(await epp.availability('wexcombehives.org')).toMatchObject({ outcome: 'taken', priceMinor: null });
    expect(one.heard.filter((command) => command === 'login')).toHaveLength(1);
    expect(one.sessions).toBe(1);
    await epp.close();
    await expect.poll(() => one.sessions).toBe(0);
    expect(one.heard.at(-1)).toBe('logout');
  });

  it('puts questions one after the other, and goes on when the server ended the session', async () => {
    const { registry: one, address } = await registry({ fees: null });
    const epp = new EppAccount(accountAt(address), REACH);
    const names = Array.from({ length: 12 }, (_, n) => `pellgate${n}.org`);
    const all = await Promise.all(names.map((name) => epp.availability(name)));
    expect(all.every(({ outcome, priceMinor }) => outcome === 'available' && priceMinor === null)).toBe(true);
    expect(one.heard).toEqual(['login', ...names.map((name) => `check ${name}`)]);
    one.next = 2502;
    expect(await epp.availability('a-a.org')).toMatchObject({ outcome: 'refused' });
    expect(await epp.availability('a-b.org')).toMatchObject({ outcome: 'available' });
    expect(one.heard.filter((command) => command === 'login')).toHaveLength(2);
    await epp.close();
  });

  it.each([
    ['drop', 'silent', /ended the connection/],
    ['silence', 'silent', /no answer within 1.5 s/],
    ['nonsense', 'nonsense', /no XML/],
    [2400, 'refused', /Command failed \(2400\)/],
    [2308, 'refused', /2308/],
  ] as const)('is unknown after %s', async (next, fault, words) => {
    const { registry: one, address } = await registry();
    one.next = next;
    const epp = new EppAccount(accountAt(address), REACH);
    const said = await epp.availability('pellgatehives.org');
    expect(said).toMatchObject({ fault, priceMinor: null });
    expect(['failed', 'refused']).toContain(said.outcome);
    expect(said.detail).toMatch(words);
    expect(await epp.availability('pellgatehives.org')).toMatchObject({ outcome: 'available' });
    await epp.close();
  });

  it('is given to nobody whose certificate is not trusted, and the server may want ours', async () => {
    const { registry: one, address } = await registry({ clientAuthority: read(client.cert) });
    const ask = async (certificate: string) => {
      const epp = new EppAccount(accountAt(address, { certificate }), REACH);
      const said = await epp.availability('pellgatehives.org');
      await epp.close();
      return said;
    };
    expect(await ask('')).toMatchObject({ fault: 'silent', detail: expect.stringContaining('is not trusted') });
    expect(await ask(file('nothing.pem'))).toMatchObject({ detail: expect.stringContaining('cannot be read') });
    expect(one.heard).toEqual([]);
    expect(await ask(server.cert)).toMatchObject({ outcome: 'failed', fault: 'silent' });
    expect(await ask(file('both.pem'))).toMatchObject({ outcome: 'available' });
  });

  it('is not asked inside a network that was not allowed', async () => {
    const { registry: one, address } = await registry();
    const epp = new EppAccount(accountAt(address), { ...REACH, allowedPrivate: [] });
    expect(await epp.availability('a.org')).toMatchObject({ detail: expect.stringContaining('is a private address') });
    expect(one.sessions).toBe(0);
  });
});

describe('a registration by EPP', () => {
  const send = async (
    given: Partial<StandInOptions>,
    order = {},
    more: Partial<VenueAccount> = {},
    prepare?: (one: EppStandIn) => void,
  ) => {
    const { registry: one, address } = await registry(given);
    prepare?.(one);
    const epp = new EppAccount(accountAt(address, more), REACH);
    const reply = await epp.send({ ...ORDER, ...order });
    return { one, epp, reply };
  };

  it('is had for the fee that was agreed to, for the contacts and servers of the account', async () => {
    const more = {
      contacts: 'registrant=CMB-1 admin=CMB-2 tech=CMB-2',
      nameServers: ['ns1.wexcombe.net', 'ns2.wexcombe.net'],
    };
    const { one, epp, reply } = await send(
      { wants: ['registrant', 'admin', 'tech', 'ns'] },
      { amountMinor: 2000 },
      more,
    );
    expect(reply).toMatchObject({ outcome: 'answered', value: { state: 'won', finalMinor: 1150 } });
    expect(one.domains.get(ORDER.domain)).toMatchObject({
      sponsor: LOGIN,
      contacts: { registrant: 'CMB-1', admin: 'CMB-2', tech: 'CMB-2' },
      nameServers: more.nameServers,
    });
    // nobody can guess what would let it be taken away
    const { authInfo } = one.domains.get(ORDER.domain) ?? { authInfo: '' };
    expect(authInfo).toMatch(/^\S{24}$/);
    await epp.close();
  });

  it.each([
    [
      'what is dearer than was allowed',
      {},
      { domain: 'tarnhoney.org' },
      { refusedFor: 'price', reason: /1,200 EUR, more than/ },
    ],
    [
      'a fee in another currency',
      { fees: { ...FEES, currency: 'GBP' } },
      {},
      { refusedFor: 'price', reason: /GBP, and the account is in EUR/ },
    ],
    [
      'what somebody else has',
      {},
      { domain: 'wexcombehives.org' },
      { refusedFor: 'gone', reason: /registered by other/ },
    ],
    [
      'what the registry keeps',
      { reserved: { 'pellgatehives.org': 'Reserved' } },
      {},
      { refusedFor: 'gone', reason: /Reserved/ },
    ],
    [
      'what lacks a contact',
      { wants: ['registrant' as const] },
      {},
      { refusedFor: 'other', reason: /registrant is missing \(2003\)/ },
    ],
  ])('is refused: %s', async (_, given, order, expected) => {
    const { one, epp, reply } = await send(given, order, {}, (it) => it.domains.set('wexcombehives.org', had('other')));
    expect(reply).toMatchObject({
      outcome: 'answered',
      value: { state: 'refused', refusedFor: expected.refusedFor, reason: expect.stringMatching(expected.reason) },
    });
    expect(one.domains.get(ORDER.domain)).toBeUndefined();
    await epp.close();
  });

  it('comes with what would let it be taken away as strict registries want it, another each time', async () => {
    const { registry: one, address } = await registry();
    const epp = new EppAccount(accountAt(address), REACH);
    for (let n = 0; n < 150; n++)
      expect(await epp.send({ ...ORDER, domain: `hive${n}.org` })).toMatchObject({ value: { state: 'won' } });
    expect(new Set([...one.domains.values()].map(({ authInfo }) => authInfo)).size).toBe(150);
    await epp.close();
  });

  it('whose answer was lost is known by who has the name, and is not had twice', async () => {
    const { one, epp, reply } = await send({}, {}, {}, () => undefined);
    expect(reply).toMatchObject({ value: { state: 'won' } });
    const again = await epp.send(ORDER);
    expect(again).toMatchObject({ value: { state: 'won', finalMinor: 1150 } });
    expect(one.heard.filter((command) => command.startsWith('create'))).toHaveLength(1);
    expect(await epp.state({ ...ORDER, domain: 'a-new.org' }, false)).toEqual({ outcome: 'none' });
    await epp.close();
  });

  it('that the registry looks at waits, and is had or refused by what comes of it', async () => {
    const { one, epp, reply } = await send({ isReviewed: true });
    expect(reply).toMatchObject({ value: { state: 'waiting', finalMinor: null } });
    expect(await epp.state(ORDER, true)).toMatchObject({ value: { state: 'waiting' } });
    const [domain] = one.domains.values();
    domain.statuses = ['ok'];
    expect(await epp.state(ORDER, true)).toMatchObject({ value: { state: 'won', finalMinor: 1150 } });
    one.domains.clear();
    expect(await epp.state(ORDER, true)).toMatchObject({ value: { state: 'refused', refusedFor: 'gone' } });
    await epp.close();
  });

  it('does nothing else than register, and nothing without its password', async () => {
    const { epp } = await send({});
    expect(await epp.send({ ...ORDER, kind: 'backorder' })).toMatchObject({ outcome: 'rejected' });
    await epp.close();
    const { one, reply } = await send({}, {}, { key: '' });
    expect(reply).toMatchObject({ outcome: 'unknown', reason: expect.stringContaining('key') });
    expect(one.heard).toEqual([]);
  });
});

describe('an order', () => {
  let store: Store;
  let outbox: Outbox;
  let brief: number;
  const changed: number[] = [];
  beforeAll(async () => {
    store = await freshStore({
      settings: {
        isDryRun: false,
        registrarAccount: 'Registry of Coombe',
        dayLimitMinor: null,
        allowedPrivate: ['127.0.0.1'],
      },
    });
    brief = saveBrief(store, { name: 'b', purpose: 'resell', subjectWords: [], trustedSites: [], excludedEndings: [], budgetMinor: null, currency: 'EUR' }); // biome-ignore format: one line
    outbox = new Outbox(store, (ids) => changed.push(...ids), pino({ level: 'silent' }));
  });
  afterAll(() => outbox.close());

  /** A name of which everybody that can be asked says that it is free. */
  function freeName(name: string, steps = ['nxdomain', 'not-found', 'available']): number {
    const { id } = putDomain(store, { name, ending: 'org' }, true, 1);
    const entries = steps.map((outcome, n) => ({
      step: (['dns', 'rdap', 'registrar'] as const)[n],
      server: 'a',
      outcome,
      detail: '',
      elapsedMs: 1,
    }));
    const verdict = { phase: 'free' as const, confidence: 0.99, reason: '', contradictions: [] };
    write(store, () => putVerdict(store, id, store.now(), entries, verdict, null));
    return id;
  }

  it('has the terms of the registry, goes out once though its answer is lost, and the name is owned', async () => {
    const { registry: one, address } = await registry();
    changeSettings(store, { accounts: [accountAt(address)] });
    outbox.forgetClient();
    const domainId = freeName('pellgatehives.org');
    const { ways } = await termsOf(store, brief, domainId);
    expect(ways[0]).toMatchObject({
      kind: 'register',
      venue: 'Registry of Coombe',
      priceMinor: 1150,
      isLive: true,
      refusal: null,
    });
    const order = place(store, {
      briefId: brief,
      domainId,
      venue: 'Registry of Coombe',
      kind: 'register',
      amountMinor: 1150,
    });
    one.next = 'drop after';
    const sent = await outbox.attend(order.id);
    expect(sent).toMatchObject({ state: 'sent' });
    expect(one.domains.has('pellgatehives.org')).toBe(true);
    const won = await outbox.attend(order.id);
    expect(won).toMatchObject({ state: 'won', finalMinor: 1150 });
    expect(one.heard.filter((command) => command.startsWith('create'))).toHaveLength(1);
    expect(listHoldings(store).map(({ name }) => name)).toEqual(['pellgatehives.org']);
    expect(changed).toContain(domainId);
  });

  it('keeps the price that is supposed where the registry names none, and waits for the registrar’s word', async () => {
    const { address } = await registry({ fees: null });
    changeSettings(store, { accounts: [accountAt(address)], registrationPrices: { '*': 1300 } });
    outbox.forgetClient();
    const domainId = freeName('tarnhives.org', ['nxdomain', 'not-found']);
    expect((await termsOf(store, brief, domainId)).ways[0]).toMatchObject({
      kind: 'register',
      priceMinor: 1150,
      refusal: null,
    });
    const wish = {
      briefId: brief,
      domainId,
      venue: 'Registry of Coombe',
      kind: 'register' as const,
      amountMinor: 1300,
    };
    expect(() => place(store, wish)).toThrow('the registrar has not said yet');
    freeName('tarnhives.org');
    const won = await outbox.attend(place(store, wish).id);
    expect(won).toMatchObject({ state: 'won', finalMinor: 1300 });
    expect(await outbox.withdraw(won?.id ?? 0)).toBe('it is won');
  });
});

describe('trying an account by EPP', () => {
  const ask = async (
    account: VenueAccount,
    ability: 'accounts' | 'registrar' = 'accounts',
    question = 'pellgatehives.org',
  ) =>
    tryAbility(
      await freshStore(),
      ability,
      Settings.parse({ allowedPrivate: ['127.0.0.1'], accounts: [account], registrarAccount: account.venue }),
      question,
      new AbortController().signal,
      QUICK_MS,
    );

  it('says what was understood, and what went to and fro without the password', async () => {
    const { registry: one, address } = await registry();
    one.domains.set('wexcombehives.org', had('other'));
    const free = await ask(accountAt(address));
    expect(free).toMatchObject({ outcome: 'works', problem: null });
    expect(free.understood).toEqual(['Registry of Coombe lets you in; pellgatehives.org is available, 11.50 EUR.']);
    expect(free.came).toContain('<svID>Registry of Coombe endings</svID>');
    expect(free.came).not.toContain(PASSWORD);
    expect((await ask(accountAt(address), 'accounts', 'wexcombehives.org')).understood[0]).toContain(
      'is taken. It is registered by other, until 2027-02-01.',
    );
    const registrar = await ask(accountAt(address), 'registrar');
    expect(registrar).toMatchObject({
      outcome: 'works',
      understood: ['pellgatehives.org is available. It costs 11.50 EUR.'],
    });
    expect(registrar.asked).toContain('Registry of Coombe');
    expect(registrar.came).not.toContain(PASSWORD);
  });

  it('says that it is refused, nonsense or silent, and names the accounts', async () => {
    const { address } = await registry();
    const refused = await ask(accountAt(address, { key: 'a-wrong-password' }));
    expect(refused).toMatchObject({
      outcome: 'refused',
      problem: { field: 'accounts', words: expect.stringContaining('lets nobody in: Authentication error (2200)') },
    });
    expect(refused.came).not.toContain('a-wrong-password');
    for (const ability of ['accounts', 'registrar'] as const) {
      const web = await httpServer((_, reply) => reply.end('hello'));
      expect(await ask(accountAt(`epp://a@${web}`), ability)).toMatchObject({
        outcome: 'silent',
        problem: { field: 'accounts' },
      });
      const mute = await tcpServer(() => undefined);
      expect(await ask(accountAt(`epp://a@${mute}`), ability)).toMatchObject({
        outcome: 'silent',
        problem: { field: 'accounts' },
      });
      const { registry: one, address: odd } = await registry();
      one.next = 'nonsense';
      expect(await ask(accountAt(odd), ability)).toMatchObject({ outcome: 'nonsense', problem: { field: 'accounts' } });
    }
    expect(await ask(accountAt(address, { key: '' }))).toMatchObject({ outcome: 'refused' });
  });
});
