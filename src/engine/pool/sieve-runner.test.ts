import { readdirSync, readFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import pino from 'pino';
import { SMTPServer } from 'smtp-server';
import { afterEach, describe, expect, it } from 'vitest';
import { nextDaily } from '../../core/time/daily';
import { type Store, write } from '../../store/base/database';
import { listJobs } from '../../store/base/jobs';
import { changeSettings } from '../../store/base/settings';
import { statement } from '../../store/base/statement';
import { freshStore } from '../../store/base/testing';
import { findDomain, putDomain } from '../../store/domains/domains';
import { putVerdict } from '../../store/lifecycle/verdicts';
import { setWatched } from '../../store/lifecycle/watching';
import { changeSieve, newHits, readDigest, readSieve, saveSieve } from '../../store/pool/sieves';
import { ensureBrief, listBriefs } from '../../store/shortlist/briefs';
import { readShortlist, shortlistIds } from '../../store/shortlist/shortlist';
import { Digest, digestParts } from '../notify/digest';
import { JobRunner } from '../runner/runner';
import { PoolHost } from './host';
import { SieveRunner } from './sieve-runner';

const log = pino({ level: 'silent' });
const DAY = 86_400_000;

async function setUp(view = 'c=name:contains=bee') {
  const store = await freshStore();
  ensureBrief(store);
  const pool = new PoolHost(store);
  pool.rebuild();
  const runner = new JobRunner(store, log);
  // jobs stay queued here
  (runner as unknown as { fill(): void }).fill = () => undefined;
  const put = (...names: string[]) => {
    const ids = names.map((name) => putDomain(store, { name: `${name}.org`, ending: 'org' }, true, store.now()).id);
    pool.refresh(ids, null);
    return ids;
  };
  const sieves = new SieveRunner(store, pool, runner, () => undefined, log);
  return { store, pool, runner, sieves, put, id: saveSieve(store, 'Bees', view) };
}

describe('SieveRunner', () => {
  it('notes what is there at first, and then marks what is new, once', async () => {
    const { store, pool, sieves, put, id } = await setUp();
    put('bee-one', 'bee-two', 'wasp');
    expect(await sieves.run(id)).toEqual({ total: 2, fresh: [] });
    const [three] = put('bee-three', 'hornet');
    expect(await sieves.run(id)).toEqual({ total: 3, fresh: [three] });
    expect(await sieves.run(id)).toEqual({ total: 3, fresh: [] });
    expect(readSieve(store, id)).toMatchObject({ fresh: 1, lastTotal: 3, lastNew: 0 });
    const fresh = await pool.idsOf({ parts: [{ type: 'member', fact: 'fresh', values: [id], not: false }] });
    expect([...fresh]).toEqual([three]);
    expect(newHits(store, id, 0, 10).map(({ domainId }) => domainId)).toEqual([three]);
    // another view is another sieve: it starts anew
    changeSieve(store, id, { view: 'c=name:contains=wasp' });
    expect(await sieves.run(id)).toEqual({ total: 1, fresh: [] });
  });

  it('hands what is new to the shortlist and to the checks', async () => {
    const { store, sieves, put, id } = await setUp();
    const [{ id: brief }] = listBriefs(store);
    changeSieve(store, id, { shortlistBrief: brief, depth: 'links' });
    put('bee-one');
    await sieves.run(id);
    expect(shortlistIds(store, brief).size).toBe(0);
    const [two] = put('bee-two');
    await sieves.run(id);
    expect([...shortlistIds(store, brief)]).toEqual([two]);
    expect(readShortlist(store, brief)).toMatchObject([{ addedBy: expect.stringMatching(/^the sieve /) }]);
    expect(listJobs(store, 5)).toMatchObject([{ kind: 'check', params: { ids: [two] } }]);
  });

  it('runs at its hour and after an import, and not otherwise', async () => {
    const { store, runner, sieves, put, id } = await setUp();
    const isRun = () => readSieve(store, id)?.lastAt !== null;
    const finish = (kind: string) => runner.emit('job', { state: 'done', kind } as never);
    const other = saveSieve(store, 'After imports', readSieve(store, id)?.view ?? '');
    changeSieve(store, other, { runs: 'imports' });
    sieves.turn();
    finish('list');
    await expect.poll(() => readSieve(store, other)?.lastAt ?? null, { timeout: 30_000 }).not.toBeNull();
    expect(isRun()).toBe(false);
    changeSieve(store, other, { runs: 'off' });
    changeSieve(store, id, { runs: 'daily', runMinute: 390 });
    const { nextAt } = readSieve(store, id) ?? {};
    expect(new Date(nextAt ?? 0).toISOString()).toMatch(/T06:30:00/);
    sieves.turn();
    expect(isRun()).toBe(false);
    statement(store.raw, 'UPDATE sieves SET next_at = 1 WHERE id = ?').run(id);
    sieves.turn();
    await expect.poll(isRun).toBe(true);
    expect(readSieve(store, id)?.nextAt).toBeGreaterThan(store.now());
    changeSieve(store, id, { runs: 'imports' });
    put('bee-late');
    finish('trial');
    finish('crawl');
    finish('list');
    await expect.poll(() => readSieve(store, id)?.fresh, { timeout: 5000 }).toBe(1);
  });

  it('knows the next time of a day', () => {
    expect(nextDaily(360, Date.UTC(2026, 10, 20, 5, 59))).toBe(Date.UTC(2026, 10, 20, 6));
    expect(nextDaily(360, Date.UTC(2026, 10, 20, 6))).toBe(Date.UTC(2026, 10, 21, 6));
  });
});

describe('Digest', () => {
  const servers: SMTPServer[] = [];
  afterEach(() => {
    for (const server of servers.splice(0)) server.close();
  });
  /** A mail server on this machine that keeps what it is given, or refuses everybody. */
  const mailServer = (mails: string[], refuses = false) =>
    new Promise<number>((ready) => {
      const server = new SMTPServer({
        authOptional: true,
        disabledCommands: ['STARTTLS'],
        onRcptTo: (_, __, done) => done(refuses ? new Error('550 nobody here') : undefined),
        onData: (stream, _, done) => {
          let text = '';
          stream.on('data', (chunk) => {
            text += chunk;
          });
          stream.on('end', () => {
            mails.push(text);
            done();
          });
        },
      });
      servers.push(server);
      server.on('error', () => undefined);
      server.listen(0, '127.0.0.1', () => ready((server.server.address() as AddressInfo).port));
    });
  const withNews = async () => {
    const all = await setUp();
    all.put('bee-one');
    await all.sieves.run(all.id);
    statement(all.store.raw, 'UPDATE sieve_hits SET at = 5').run();
    all.put('bee-<two>', 'bee-three');
    await all.sieves.run(all.id);
    return { ...all, digest: new Digest(all.store, log) };
  };
  const outbox = (store: Store) => readdirSync(join(store.folder, 'outbox'));

  it('is a mail in HTML and text, in the outbox, and leaves out what was in the last', async () => {
    const { store, digest } = await withNews();
    const state = await digest.make(0);
    expect(outbox(store)).toEqual([state.file]);
    const mail = readFileSync(join(store.folder, 'outbox', state.file ?? ''), 'utf8');
    expect(mail).toMatch(/^Subject: 2 new in Bees/m);
    expect(mail).toMatch(/Content-Type: multipart\/alternative/);
    expect(mail).toContain('bee-three.org');
    expect(mail).not.toContain('bee-one.org');
    expect(mail).toContain('bee-&lt;two&gt;.org');
    expect(digestParts(store, state.at)).toEqual([]);
    const { file } = await digest.make(state.at);
    expect(readFileSync(join(store.folder, 'outbox', file ?? ''), 'utf8')).toContain('Subject: Nothing new');
  });

  it('tells what happened to watched names, unless nobody wants to know', async () => {
    const { store, digest } = await withNews();
    const { id } = findDomain(store, 'bee-three.org') as { id: number };
    const verdict = { phase: 'free' as const, confidence: 1, reason: 'r', contradictions: [] };
    const events = [{ kind: 'dropped' as const, words: 'Dropped: available <at last>.' }];
    write(store, () => {
      setWatched(store, id, 'by hand', store.now());
      putVerdict(store, id, store.now(), [], verdict, null, {
        window: null,
        askAt: null,
        failures: 0,
        events,
        isNewPhase: true,
        lastSeenBefore: null,
      });
    });
    const state = await digest.make(0);
    const mail = readFileSync(join(store.folder, 'outbox', state.file ?? ''), 'utf8');
    expect(mail).toMatch(/^Subject: 2 new in Bees, 1 change of your names/m);
    expect(mail).toContain('Dropped: available <at last>.');
    expect(mail).toContain('Dropped: available &lt;at last&gt;.');
    changeSettings(store, { digestEvents: false });
    const quiet = await digest.make(0);
    expect(readFileSync(join(store.folder, 'outbox', quiet.file ?? ''), 'utf8')).not.toContain('Dropped');
  });

  it('is sent by the mail server that is set', async () => {
    const { store, digest } = await withNews();
    const mails: string[] = [];
    const port = await mailServer(mails);
    changeSettings(store, {
      smtpUrl: `smtp://127.0.0.1:${port}`,
      digestTo: 'me@example.org',
      allowedPrivate: ['127.0.0.1'],
    });
    expect((await digest.make(0)).problem).toBeNull();
    expect(mails).toHaveLength(1);
    expect(mails[0]).toMatch(/^To: me@example.org/m);
    expect(mails[0]).toContain('bee-three.org');
  });

  it('says what the mail server did not like, and keeps the file', async () => {
    const { store, digest } = await withNews();
    changeSettings(store, {
      smtpUrl: `smtp://127.0.0.1:${await mailServer([], true)}`,
      allowedPrivate: ['127.0.0.1'],
    });
    const state = await digest.make(0);
    expect(state.problem).toContain('550');
    expect(readDigest(store)?.problem).toBe(state.problem);
    expect(outbox(store)).toHaveLength(1);
    changeSettings(store, { smtpUrl: 'smtp://127.0.0.1:9' });
    expect((await digest.make(0)).problem).toContain('did not take the digest');
  });

  it('comes by itself at its hour', async () => {
    const { store, digest } = await withNews();
    digest.turn();
    expect(readDigest(store)).toBeNull();
    changeSettings(store, { digestMinute: 0 });
    digest.turn();
    const { nextAt } = readDigest(store) ?? { nextAt: 0 };
    expect(nextAt % DAY).toBe(0);
    const set = statement(
      store.raw,
      `UPDATE settings SET value = json_set(value, '$.nextAt', 1, '$.at', 10) WHERE key = 'digest'`,
    );
    set.run();
    digest.turn();
    await expect.poll(() => readDigest(store)?.file).toBeTruthy();
    expect(readDigest(store)?.nextAt).toBe(nextAt);
  });
});
