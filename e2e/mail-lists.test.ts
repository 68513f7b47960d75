import type { ChildProcess } from 'node:child_process';
import { gzipSync } from 'node:zlib';
import MailComposer from 'nodemailer/lib/mail-composer';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { runList } from '../src/engine/jobs/list';
import { trial } from '../src/engine/jobs/testing';
import { runWatch } from '../src/engine/jobs/watch';
import { tryMailbox } from '../src/engine/mail/try-mailbox';
import { closeServers, tcpServer } from '../src/net/testing';
import type { Store } from '../src/store/base/database';
import { keepMailboxPassword } from '../src/store/base/mailbox-keys';
import { freshStore } from '../src/store/base/testing';
import { findDomain } from '../src/store/domains/domains';
import { listSources } from '../src/store/sources/sources';
import { addWatch, readWatch } from '../src/store/sources/watches';
import { certificate, type MailServer, startDovecot } from './stock-servers';

const LOGIN = 'mara@tarnhives.org';
const PASSWORD = 'heather-honey-9';
const DROPS = 'Drop lists';

let dovecot: MailServer;
let store: Store;
const started: ChildProcess[] = [];

beforeAll(async () => {
  const { cert, key } = certificate('mail');
  dovecot = await startDovecot({ login: LOGIN, password: PASSWORD, folders: [DROPS, 'Others', 'Letters'], cert, key });
  started.push(dovecot.server);
});
afterAll(() => {
  for (const child of started) child.kill('SIGTERM');
});
beforeEach(async () => {
  store = await freshStore({ settings: { allowedPrivate: ['127.0.0.1'] } });
});
afterEach(closeServers);

const address = (folder: string, port = dovecot.port) =>
  `imap://${encodeURIComponent(LOGIN)}@127.0.0.1:${port}/${encodeURIComponent(folder)}`;
const account = () => `imap://${encodeURIComponent(LOGIN)}@127.0.0.1:${dovecot.port}`;

type Letter = ConstructorParameters<typeof MailComposer>[0];
/** A mail as a widely used library writes it. */
async function deliver(folder: string, letter: Letter): Promise<void> {
  const composer = new MailComposer({ from: 'Quayside Lots <lists@quaysidelots.com>', to: LOGIN, ...letter });
  dovecot.deliver(folder, await composer.compile().build());
}

const watch = (folder: string, options: { from?: string; subject?: string } = {}) => {
  keepMailboxPassword(store, account(), PASSWORD);
  return addWatch(
    store,
    {
      kind: 'mail',
      target: address(folder),
      name: folder,
      options: { excludedEndings: [], checkAfter: false, ...options },
      sourceId: null,
      everyMs: 3_600_000,
    },
    store.now(),
  );
};
/** Looks, and carries out the imports that were ordered. */
const look = async (watchId: number) => {
  const run = trial(store, 'watch', { watchId });
  await runWatch(run.context);
  for (const order of run.orders) {
    const list = trial(store, 'list', order.params);
    Object.assign(list.context.job, { sourceId: order.sourceId });
    await runList(list.context);
  }
  return { orders: run.orders.length, outcome: readWatch(store, watchId)?.outcome ?? '' };
};
const sources = () =>
  listSources(store)
    .filter(({ name }) => !name.startsWith('trial '))
    .map(({ name, rows_taken }) => [name, rows_taken] as const)
    .sort(([a], [b]) => a.localeCompare(b));

describe('lists that arrive by mail', () => {
  it('are read from attachments of every kind, each once, and the next look goes on after them', async () => {
    await deliver(DROPS, {
      subject: 'Drops of Monday',
      text: 'The list of today is attached.\n\nQuayside Lots, quaysidelots.com',
      attachments: [
        {
          filename: 'monday.csv',
          content: 'domain,drop date\npellgatehives.org,2026-12-07\ntarnhives.co.uk,2026-12-08\n',
        },
        { filename: 'logo.png', content: Buffer.from([137, 80, 78, 71]), contentType: 'image/png' },
        { filename: 'terms.pdf', content: '%PDF-1.7', contentType: 'application/pdf' },
      ],
    });
    await deliver(DROPS, {
      subject: 'Tropfen, gepackt',
      text: 'Anbei.',
      attachments: [
        {
          filename: 'Löschungen für Dezember.csv.gz',
          content: gzipSync('Domäne;Preis\nheidehonig.de;12,50 €\nimkerhof-nord.de;9,00 €\n'),
        },
      ],
    });
    const id = watch(DROPS);
    const first = await look(id);
    expect(first.outcome).toContain('monday.csv is new and is being read');
    expect(sources().slice(0, 2)).toEqual([
      ['Löschungen für Dezember.csv.gz', 2],
      ['monday.csv', 2],
    ]);
    expect(findDomain(store, 'tarnhives.co.uk')?.in_pool).toBe(1);
    expect(findDomain(store, 'heidehonig.de')?.in_pool).toBe(1);
    // the sender's own name stands in the text, and is on no list
    expect(findDomain(store, 'quaysidelots.com')).toBeNull();
    expect(await look(id)).toEqual({ orders: 0, outcome: 'no new mail' });
    await deliver(DROPS, {
      subject: 'Again',
      text: '-',
      attachments: [{ filename: 'tuesday.csv', content: 'domain\nwexcombehives.org\n' }],
    });
    expect((await look(id)).outcome).toBe('1 new mail, 1 list: tuesday.csv is new and is being read');
    // the same once more, under another name
    await deliver(DROPS, {
      subject: 'Fwd: Again',
      text: '-',
      attachments: [{ filename: 'copy.csv', content: 'domain\nwexcombehives.org\n' }],
    });
    expect(await look(id)).toEqual({ orders: 0, outcome: '1 new mail, 0 lists: copy.csv holds what was taken before' });
  });

  it('are read from a table or lines of names in the text, and a letter is none', async () => {
    await deliver('Others', {
      subject: 'This week’s auctions',
      text: 'Your mail program shows no tables.',
      html: '<p>Dear Mara, see <a href="https://quaysidelots.com/">quaysidelots.com</a>.</p><table><tr><th>Domain</th><th>Price</th><th>Ends</th></tr><tr><td>moorhoney.org</td><td>€ 40</td><td>2026-12-09 18:00</td></tr><tr><td>fellapiary.com</td><td>€ 15</td><td>2026-12-09 19:00</td></tr><tr><td>beckhives.net</td><td>€ 22</td><td>2026-12-10 18:00</td></tr></table><p>Unsubscribe</p>',
    });
    await deliver('Others', {
      subject: 'Dropped today',
      text: 'scarhoney.org\nthwaitehives.com\nrigghoney.co.uk\nholmbees.net\n',
    });
    await deliver('Others', {
      subject: 'Lunch?',
      text: 'Hello Mara,\n\nshall we meet on Friday? The menu is at tarnkitchen.com.\n\nBest,\nIvo\n-- \nIvo Pinch, halepinch.com',
    });
    const { outcome } = await look(watch('Others'));
    expect(outcome).toMatch(/^3 new mails, 2 lists/);
    expect(sources()).toEqual([
      ['Dropped today', 4],
      ['This week’s auctions', 3],
    ]);
    expect(findDomain(store, 'tarnkitchen.com')).toBeNull();
    expect(findDomain(store, 'fellapiary.com')?.in_pool).toBe(1);
  });

  it('are only those of a sender and a subject, where these are said', async () => {
    const list = (name: string) => [{ filename: 'l.csv', content: `domain\n${name}\n` }];
    await deliver('Letters', {
      from: 'x@marshlots.net',
      subject: 'Daily drops',
      text: '-',
      attachments: list('a-hive.org'),
    });
    await deliver('Letters', {
      from: 'x@quaysidelots.com',
      subject: 'Daily drops',
      text: '-',
      attachments: list('b-hive.org'),
    });
    await deliver('Letters', {
      from: 'x@quaysidelots.com',
      subject: 'Invoice',
      text: '-',
      attachments: list('c-hive.org'),
    });
    await look(watch('Letters', { from: 'quaysidelots', subject: 'drops' }));
    expect(['a', 'b', 'c'].map((name) => findDomain(store, `${name}-hive.org`) !== null)).toEqual([false, true, false]);
  });

  it('wait where one is not let in, or the folder is gone, and say so', async () => {
    const wrong = watch('Nowhere');
    await expect(look(wrong)).rejects.toThrow(/There is no folder Nowhere at 127\.0\.0\.1\. There are .*Drop lists/);
    const closed = watch(DROPS);
    keepMailboxPassword(store, account(), 'not-it');
    await expect(look(closed)).rejects.toThrow(/lets mara@tarnhives\.org not in/);
    expect(readWatch(store, wrong)?.outcome).toContain('There is no folder');
  });
});

describe('trying a mail folder', () => {
  const ask = (target: string, password = PASSWORD) =>
    tryMailbox(store, { target, password, from: '', subject: '' }, new AbortController().signal, 1500);

  it('says what is in it, and leaves every mail as it was', async () => {
    await deliver(DROPS, {
      subject: 'To be tried',
      text: '-',
      attachments: [{ filename: 'try.csv', content: 'domain\na.org\n' }],
    });
    const tried = await ask(address(DROPS));
    expect(tried).toMatchObject({ outcome: 'works', problem: null });
    expect(tried.understood[0]).toMatch(/^\d+ mails? in the folder, \d+ mails? of the last 31 days that count/);
    expect(tried.understood[1]).toContain('try.csv');
    expect(tried.came).toContain('lists@quaysidelots.com  To be tried  [try.csv]');
    expect(listSources(store)).toEqual([]);
    // by the password that is kept
    keepMailboxPassword(store, account(), PASSWORD);
    expect((await ask(address(DROPS), '')).outcome).toBe('works');
  });

  it('says that it is refused, nonsense or silent, and names the field', async () => {
    expect(await ask(address(DROPS), 'not-it')).toMatchObject({ outcome: 'refused', problem: { field: 'password' } });
    expect(await ask(address('Nowhere'))).toMatchObject({ outcome: 'refused', problem: { field: 'target' } });
    const odd = await tcpServer((socket) => {
      socket.write('* OK [CAPABILITY IMAP4rev1] here\r\n');
      socket.on('data', (said) => socket.write(`${said.toString().split(' ')[0]} (((\r\n`));
    });
    expect(await ask(address(DROPS, Number(odd.split(':')[1])))).toMatchObject({ outcome: 'nonsense', problem: { field: 'target' } }); // biome-ignore format: one line
    const web = await tcpServer((socket) => socket.write('HTTP/1.1 400 Bad Request\r\n\r\n'));
    expect(await ask(address(DROPS, Number(web.split(':')[1])))).toMatchObject({ outcome: 'silent', problem: { field: 'target' } }); // biome-ignore format: one line
    const mute = await tcpServer(() => undefined);
    expect(await ask(address(DROPS, Number(mute.split(':')[1])))).toMatchObject({ outcome: 'silent', problem: { field: 'target' } }); // biome-ignore format: one line
    // a certificate of nobody that is trusted
    const untrusted = await ask(address(DROPS, dovecot.securePort).replace('imap:', 'imaps:'));
    expect(untrusted).toMatchObject({
      outcome: 'silent',
      problem: { words: expect.stringContaining('is not trusted') },
    });
    expect(JSON.stringify(untrusted)).not.toContain(PASSWORD);
    await expect(ask('https://tarnhives.org/')).rejects.toThrow('imaps://login@host/folder');
    store = await freshStore();
    expect(await ask(address(DROPS))).toMatchObject({ outcome: 'refused', problem: { field: 'allowedPrivate' } });
  });
});
