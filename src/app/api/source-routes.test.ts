import { beforeEach, describe, expect, it } from 'vitest';
import { type Store, write } from '../../store/base/database';
import { addJob } from '../../store/base/jobs';
import { mailboxPassword } from '../../store/base/mailbox-keys';
import { readSettings } from '../../store/base/settings';
import { freshStore } from '../../store/base/testing';
import { putSighting } from '../../store/domains/domains';
import { putVerdict } from '../../store/lifecycle/verdicts';
import { noteHits } from '../../store/pool/sieves';
import type { Brief } from '../../store/shortlist/briefs';
import { addSource } from '../../store/sources/sources';
import { domainOfTest, listingOfTest } from '../../store/testing';
import { ask, called, engineAnswers, jobOfTest, serving } from './testing';

const NAME = 'tarnhives.org';
let store: Store;
let brief: Brief;
let id: number;

beforeEach(async () => {
  ({ store, brief } = await serving({
    setMembers: () => ({}),
    briefsChanged: () => ({}),
    settingsChanged: () => ({}),
  }));
  id = domainOfTest(store, NAME).id;
});

const MAIL_TRIED = { at: 5, outcome: 'works', came: '', elapsedMs: 1, understood: [], problem: null, setBy: '' };

describe('kept sieves', () => {
  const keep = (name = 'Old and clean', view = 'c=age%3A10..') => ask('POST /sieves', { body: { name, view } });

  it('are kept under a name of their own, changed under their number, and deleted', async () => {
    const { value } = await keep();
    expect(await keep()).toMatchObject({ status: 409, value: { title: 'The name is taken' } });
    expect((await keep('Broken', 'c=nonsense%3A1')).status).toBe(400);
    const of = { params: { id: value.id } };
    expect((await ask('PATCH /sieves/{id}', { ...of, body: { view: 'c=age%3A20..' } })).value).toMatchObject({
      name: 'Old and clean',
      lastAt: null,
    });
    expect(called('setMembers').at(-1)).toEqual(['fresh', value.id, null, false]);
    expect((await ask('PATCH /sieves/{id}', { ...of, body: { view: 'c=nonsense%3A1' } })).status).toBe(400);
    expect((await ask('GET /sieves')).value.sieves).toHaveLength(1);
    expect((await ask('DELETE /sieves/{id}', of)).status).toBe(200);
    for (const path of ['PATCH /sieves/{id}', 'DELETE /sieves/{id}'] as const)
      expect((await ask(path, { ...of, body: {} } as never)).status).toBe(404);
    // both come back by their acts
    const { acts } = (await ask('GET /acts')).value;
    expect((await ask('POST /acts/{id}/undo', { params: { id: acts[0].id } })).status).toBe(200);
    expect((await ask('GET /sieves')).value.sieves).toHaveLength(1);
    expect((await ask('POST /acts/{id}/undo', { params: { id: 4711 } })).status).toBe(404);
  });

  it('run, are seen, and give what is new as a feed', async () => {
    const { value } = await keep();
    const of = { params: { id: value.id } };
    noteHits(store, value.id, [id], store.now(), false);
    const feed = await ask('GET /sieves/{id}/feed', of);
    expect(feed.headers.get('content-type')).toContain('application/atom+xml');
    expect(feed.text).toContain(`/domains/${NAME}`);
    expect((await ask('POST /sieves/{id}/seen', { ...of, body: { ids: [id] } })).status).toBe(204);
    expect(called('setMembers').at(-1)).toEqual(['fresh', value.id, [id], false]);
    engineAnswers({ runSieve: () => ({ total: 4, fresh: 1 }) });
    expect((await ask('POST /sieves/{id}/run', of)).value).toMatchObject({ total: 4 });
    expect((await ask('GET /sieves/{id}/feed', { params: { id: 4711 } })).status).toBe(404);
  });

  it('go to another machine as a file, under another name where theirs is taken', async () => {
    const { value } = await keep();
    const file = await ask('GET /sieves/{id}/file', { params: { id: value.id } });
    expect(file.headers.get('content-disposition')).toContain('Old-and-clean.sieve.json');
    expect((await ask('POST /sieves/file', { body: file.value })).value).toMatchObject({
      name: 'Old and clean (2)',
      problems: [],
    });
    expect((await ask('POST /sieves/file', { body: { ...file.value, conditions: ['nonsense:1'] } })).value.title).toBe(
      'The file holds no sieve',
    );
  });
});

describe('sources and what is watched', () => {
  it('are told with their jobs, and a batch with how far it is', async () => {
    engineAnswers({ addJob: () => jobOfTest({ kind: 'list' }) });
    const batch = await ask('POST /batches', { body: { text: `${NAME}, wexcombe.org` } });
    expect(batch.value).toMatchObject({ pieces: 2, job: { kind: 'list' } });
    expect(called('addJob')[0][0]).toMatchObject({ kind: 'list', next: [{ kind: 'check' }] });
    const of = { params: { id: batch.value.id } };
    write(store, () => {
      putSighting(store, id, batch.value.id, store.now(), 1, {});
      const verdict = { phase: 'active', confidence: 1, reason: 'there', contradictions: [] } as never;
      putVerdict(
        store,
        id,
        store.now(),
        [{ step: 'dns', server: 's', outcome: 'delegated', detail: 'ns1', elapsedMs: 1 }],
        verdict,
        null,
      );
    });
    expect((await ask('GET /batches/{id}', of)).value).toMatchObject({ domains: 1 });
    expect((await ask('GET /batches')).value.batches).toHaveLength(1);
    const file = await ask('GET /batches/{id}/file', of);
    expect(file.text).toContain(`${NAME},active,1,there`);
    expect(file.text).toContain('dns s');
    expect((await ask('GET /batches/{id}/file', { ...of, query: 'format=jsonl' })).text).toContain(
      `"domain":"${NAME}"`,
    );
    expect((await ask('POST /batches', { body: { text: ' , ;' } })).value.title).toBe('Nothing to check');
    expect((await ask('GET /batches/{id}', { params: { id: addSource(store, 'list', 'Drops', {}) } })).status).toBe(
      404,
    );
  });

  it('are watched, at rest, looked at and forgotten', async () => {
    const body = { kind: 'address', target: 'http://127.0.0.1:9/list.csv', name: 'Drops', everyMinutes: 60 } as const;
    const { value } = await ask('POST /watches', { body });
    const of = { params: { id: value.watch.id } };
    expect((await ask('PATCH /watches/{id}', { ...of, body: { isOn: false } })).value.watch).toMatchObject({
      isOn: false,
    });
    expect((await ask('POST /watches/{id}/look', of)).status).toBe(202);
    expect((await ask('GET /watches')).value.watches).toMatchObject([{ name: 'Drops', isOn: true }]);
    expect((await ask('DELETE /watches/{id}', of)).status).toBe(200);
    expect((await ask('DELETE /watches/{id}', of)).status).toBe(404);
    expect((await ask('POST /watches', { body: { ...body, kind: 'folder', target: 'here' } })).value.title).toBe(
      'Not a path',
    );
    expect((await ask('POST /watches', { body: { ...body, target: 'ftp://x' } })).value.title).toBe('Not an address');
  });

  it('mail folders are watched with a password that stands apart, and is forgotten with the last of them', async () => {
    engineAnswers({ tryMailbox: (question: object) => ({ ...MAIL_TRIED, asked: JSON.stringify(question) }) });
    const body = {
      kind: 'mail',
      target: 'imaps://mara@mail.tarnhives.org/Lists',
      name: 'Lists',
      everyMinutes: 60,
    } as const;
    expect((await ask('POST /watches', { body: { ...body, target: 'imaps://mail.tarnhives.org/' } })).value.title).toBe(
      'Not a mail folder',
    );
    expect((await ask('POST /watches', { body })).value.title).toBe('No password');
    const { value } = await ask('POST /watches', { body: { ...body, password: 'heather-honey', subject: 'drops' } });
    expect(value.watch).toMatchObject({ kind: 'mail', options: { subject: 'drops', from: '' } });
    // another folder of the account needs no second password
    const other = await ask('POST /watches', { body: { ...body, target: 'imaps://mara@mail.tarnhives.org/Others' } });
    expect(other.status).toBe(201);
    expect(mailboxPassword(store, 'imaps://mara@mail.tarnhives.org:993')).toBe('heather-honey');
    expect(JSON.stringify((await ask('GET /watches')).value)).not.toContain('heather-honey');
    // settings that change leave it be
    await ask('PATCH /settings', { body: { smtpUrl: 'smtp://mara@127.0.0.1:9', smtpPassword: 'another' } });
    expect(mailboxPassword(store, 'imaps://mara@mail.tarnhives.org:993')).toBe('heather-honey');
    await ask('DELETE /watches/{id}', { params: { id: value.watch.id } });
    expect(mailboxPassword(store, 'imaps://mara@mail.tarnhives.org:993')).toBe('heather-honey');
    await ask('DELETE /watches/{id}', { params: { id: other.value.watch.id } });
    expect(mailboxPassword(store, 'imaps://mara@mail.tarnhives.org:993')).toBe('');
    const tried = await ask('POST /watches/try', { body: { target: body.target, password: 'x' } });
    expect(tried.value).toMatchObject({ outcome: 'works', asked: expect.stringContaining('"from":""') });
  });

  it('have jobs that are steered, and rows of their own', async () => {
    const number = addJob(store, { kind: 'trial', sourceId: null, params: { seeds: [] } });
    expect((await ask('GET /jobs')).value.jobs).toMatchObject([{ id: number, kind: 'trial' }]);
    expect((await ask('GET /jobs/{id}', { params: { id: number } })).value).toMatchObject({ state: 'queued' });
    expect((await ask('GET /jobs/{id}/rows', { params: { id: number } })).value).toMatchObject({ rows: [] });
    engineAnswers({ steerJob: () => jobOfTest({ state: 'cancelled' }) });
    expect((await ask('POST /jobs/{id}/{action}', { params: { id: number, action: 'cancel' } })).value).toMatchObject({
      state: 'cancelled',
    });
    expect((await ask('POST /jobs/{id}/{action}', { params: { id: number, action: 'dance' } })).status).toBe(404);
    expect((await ask('GET /jobs/{id}', { params: { id: 4711 } })).status).toBe(404);
  });

  it('of a venue give their open offers', async () => {
    listingOfTest(store, id, { venue: 'Quill Auctions', priceMinor: 5000 });
    const { sources } = (await ask('GET /sources')).value;
    const of = { params: { id: sources[0].id } };
    expect((await ask('GET /sources/{id}/listings', of)).value).toMatchObject({
      listings: [{ name: NAME, priceMinor: 5000 }],
    });
    expect((await ask('GET /sources/{id}/listings', { ...of, query: 'kind=auction' })).value.listings).toEqual([]);
    expect((await ask('GET /sources/{id}/listings', { ...of, query: 'kind=raffle' })).value.issues).toMatchObject([
      { at: 'kind' },
    ]);
    expect((await ask('GET /sources/{id}', of)).value).toMatchObject({ name: 'Quill Auctions' });
    expect((await ask('GET /sources/{id}', { params: { id: 4711 } })).status).toBe(404);
  });
});

describe('settings', () => {
  const desk = { venue: 'Quill Auctions', address: 'http://127.0.0.1:9/', key: 'a-secret', currency: 'EUR' };

  it('are changed without ever giving a key away, which stays where it was left empty', async () => {
    const changed = await ask('PATCH /settings', { body: { accounts: [desk] } });
    expect(changed.text).not.toContain('a-secret');
    expect(called('settingsChanged')).toHaveLength(1);
    await ask('PATCH /settings', { body: { accounts: [{ ...desk, key: '' }] } });
    expect((await ask('GET /settings')).text).not.toContain('a-secret');
    expect(readSettings(store).accounts).toEqual([desk]);
    // nobody is sent the key of another
    await ask('PATCH /settings', { body: { accounts: [{ ...desk, address: 'http://127.0.0.1:10/', key: '' }] } });
    expect(readSettings(store).accounts[0].key).toBe('');
    expect((await ask('PATCH /settings', { body: { currency: 'euro' } })).value.issues).toMatchObject([
      { at: 'currency' },
    ]);
  });

  it('that change which count is sorted by have all measured anew', async () => {
    engineAnswers({ addJob: () => jobOfTest(), settingsChanged: () => ({}) });
    await ask('PATCH /settings', { body: { countFactor: 7 } });
    expect(called('addJob')).toMatchObject([[{ kind: 'measure', params: { all: true } }]]);
  });
});

describe('deadlines and outcomes', () => {
  it('are told in the person’s zone, by scope and kind, and as a calendar', async () => {
    domainOfTest(store, NAME, {
      drop_from: store.now() + 3_600_000,
      drop_to: store.now() + 7_200_000,
      drop_conditional: 0,
    });
    await ask('POST /shortlist', { body: { briefId: brief.id, names: [NAME] } });
    expect((await ask('GET /deadlines', { query: 'kinds=drop&hours=48' })).value).toMatchObject({
      total: 1,
      deadlines: [{ kind: 'drop', name: NAME }],
    });
    expect((await ask('GET /deadlines', { query: 'kinds=closing' })).value.total).toBe(0);
    for (const query of ['scope=yours', 'kinds=never', 'hours=0'])
      expect((await ask('GET /deadlines', { query })).status, query).toBe(400);
    expect((await ask('GET /deadlines/calendar')).text).toContain('BEGIN:VCALENDAR');
    expect((await ask('GET /learning')).value).toMatchObject({ suggestions: [] });
  });

  it('forget what a server taught', async () => {
    expect((await ask('GET /registries')).value).toEqual({ registries: [] });
    expect((await ask('DELETE /registries/{server}', { params: { server: 'whois.test' } })).status).toBe(204);
    expect(await freshStore()).toBeTruthy();
  });
});
