import type { ChildProcess } from 'node:child_process';
import { chmodSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { type AddressInfo, createServer as createTcp } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, type Locator, type Page } from '@playwright/test';
import MailComposer from 'nodemailer/lib/mail-composer';
import { noSeriousFaults } from './faults';
import { portOf } from './files';
import { startReal } from './real-mode';
import { certificate, freePort, startDovecot, startNginx, startNsd } from './stock-servers';
import { listening, test } from './test';

/** Whatever the test started, however it ends. */
const started: ChildProcess[] = [];
const opened: { close(): void }[] = [];
test.afterAll(() => {
  for (const child of started) child.kill('SIGKILL');
  for (const server of opened) server.close();
});

const PORT = portOf(1);
/** Under .org of the test: two are there, and whatever else is asked for is not. */
const ZONE = `$ORIGIN org.
$TTL 60
@ IN SOA ns.moorzone.net. hostmaster.moorzone.net. 1 60 60 60 60
@ IN NS ns.moorzone.net.
example IN NS ns1.moorzone.net.
wexcombehives IN NS ns1.moorzone.net.
`;
/** An ending whose registry speaks no RDAP. */
const INFO = `$ORIGIN info.
$TTL 60
@ IN SOA ns.moorzone.net. hostmaster.moorzone.net. 1 60 60 60 60
@ IN NS ns.moorzone.net.
wexcombeskeps IN NS ns1.moorzone.net.
`;
const THERE = new Set(['example.org', 'wexcombehives.org']);
const GONE = ['tarnmoorbeekeepers.org', 'quillmerehives.org', 'skelbeckapiary.org', 'brackwaterhives.info'];

const listens = async (server: ReturnType<typeof createServer>): Promise<string> => {
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  opened.push(server);
  return `127.0.0.1:${(server.address() as AddressInfo).port}`;
};

/** A registry's RDAP (RFC 9083): a record of what is there, its own error object for what is not. */
const registry = () =>
  createServer((request, answer) => {
    const name = decodeURIComponent((request.url ?? '').split('/').pop() ?? '');
    const isThere = THERE.has(name);
    answer.writeHead(isThere ? 200 : 404, { 'content-type': 'application/rdap+json' });
    const conformance = { rdapConformance: ['rdap_level_0'] };
    const record = {
      objectClassName: 'domain',
      ldhName: name,
      status: ['active'],
      events: [
        { eventAction: 'registration', eventDate: '2009-03-04T10:00:00Z' },
        { eventAction: 'expiration', eventDate: '2031-03-04T10:00:00Z' },
      ],
      ...conformance,
    };
    answer.end(JSON.stringify(isThere ? record : { errorCode: 404, title: 'Object not found', ...conformance }));
  });

/** What the WHOIS server was asked. */
const whoisAsked: string[] = [];

/** WHOIS (RFC 3912): as the root it refers to itself, as the registry of an ending it knows one name. @returns its `host:port`. */
async function whois(): Promise<string> {
  const server = createTcp((socket) => {
    socket.on('error', () => undefined);
    socket.on('data', (line) => {
      const query = String(line).trim();
      whoisAsked.push(query);
      const isRegistered = query === 'wexcombeskeps.info';
      const record = `Domain Name: WEXCOMBESKEPS.INFO\r\nCreation Date: 2011-02-03T00:00:00Z\r\nDomain Status: ok\r\n`;
      const registry = isRegistered ? record : `No match for "${query.toUpperCase()}".\r\n`;
      socket.end(query === 'info' ? `refer: ${at()}\r\n\r\ndomain: INFO\r\n` : registry);
    });
  });
  const at = () => `127.0.0.1:${(server.address() as AddressInfo).port}`;
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  opened.push(server);
  return at();
}

/** An archive (RFC 7089): two captures of whatever is asked for. */
const archive = () =>
  createServer((request, answer) => {
    if (request.url?.startsWith('/web/')) {
      const at = { 'content-type': 'text/html', 'memento-datetime': 'Sun, 08 Jun 2014 10:00:00 GMT' };
      answer.writeHead(200, at).end('<!doctype html><title>Hives</title><h1>Hives and bees</h1><p>Of the moor.');
      return;
    }
    const url = decodeURIComponent((request.url ?? '').slice('/map/'.length));
    const capture = (at: string, datetime: string) =>
      `<http://${request.headers.host}/web/${at}/${url}>;rel="memento";datetime="${datetime}"`;
    answer.writeHead(200, { 'content-type': 'application/link-format' });
    answer.end(
      [
        `<${url}>;rel="original"`,
        capture('20100608', 'Tue, 08 Jun 2010 10:00:00 GMT'),
        capture('20140608', 'Sun, 08 Jun 2014 10:00:00 GMT'),
      ].join(',\n'),
    );
  });

const KEY = 'umberley-4711';
const LOTS = ['ashcotthoney', 'pellgatecombs', 'molefordwax', 'brackbees', 'skelbeckskeps'].map((name, n) => ({
  domain: `${name}.org`,
  current_bid: 120 + n,
  currency: 'EUR',
  ends_at: new Date(Date.now() + (n + 1) * 86_400_000).toISOString(),
  type: 'auction',
}));

/** Orders that came to the venue: in a dry run none. */
const ordered: string[] = [];

/** A venue that answers who has its key, two lots at a time. */
const venue = () =>
  createServer((request, answer) => {
    if (request.method === 'POST') ordered.push(request.url ?? '');
    const isKnown = request.headers['x-api-key'] === KEY;
    const page = Number(new URL(request.url ?? '', 'http://x').searchParams.get('page'));
    answer.writeHead(isKnown ? 200 : 401, { 'content-type': 'application/json' });
    answer.end(
      JSON.stringify(isKnown ? { lots: LOTS.slice(2 * page - 2, 2 * page), count: LOTS.length } : { error: 'no key' }),
    );
  });

const MAIL_PASSWORD = 'heather-and-ling';

/** A mail account to which a list has come. @returns the address of its folder. */
async function mailFolder(): Promise<string> {
  const { cert, key } = certificate('mail');
  const folders = ['Drop lists'];
  const { server, port, deliver } = await startDovecot({ login: 'mara', password: MAIL_PASSWORD, folders, cert, key });
  started.push(server);
  const attachments = [{ filename: 'drops.csv', content: 'domain,drop date\nfellhoney.org,2031-01-07\nriggbees.org,2031-01-08\n' }]; // biome-ignore format: one line
  const letter = {
    from: 'lists@quaysidelots.com',
    to: 'mara',
    subject: 'Drops of the week',
    text: 'Attached.',
    attachments,
  };
  deliver('Drop lists', await new MailComposer(letter).compile().build());
  return `imap://mara@127.0.0.1:${port}/Drop%20lists`;
}

/** What stands in the places that the guide leaves open. */
async function outside(): Promise<Record<string, string>> {
  const nsd = await startNsd(ZONE, 'org', { more: { info: INFO } });
  started.push(nsd.server);
  const rdap = await listens(registry());
  const bootstrap = join(mkdtempSync(join(tmpdir(), 'bootstrap-')), 'dns.json');
  writeFileSync(bootstrap, JSON.stringify({ services: [[['org'], [`http://${rdap}/rdap/`]]] }));
  const port = await freePort();
  const links = [...GONE, 'wexcombehives.org', 'wexcombeskeps.info']
    .map((name) => `<li><a href="http://${name}/">${name}</a>`)
    .join('');
  const folder = mkdtempSync(join(tmpdir(), 'site-'));
  // its workers run as nobody
  chmodSync(folder, 0o755);
  writeFileSync(
    join(folder, 'index.html'),
    `<!doctype html><title>Hives and bees</title><h1>Links</h1><ul>${links}</ul>`,
  );
  started.push(await startNginx(`root ${folder}; location = /robots.txt { return 404; }`, port));
  const lots = await listens(venue());
  return {
    resolver: nsd.address,
    network: '127.0.0.1',
    bootstrap,
    archive: `http://${await listens(archive())}/map/{url}`,
    site: `http://127.0.0.1:${port}/`,
    venue: `http://${lots}/lots?page={page}`,
    bids: `http://${lots}/lots/{domain}/bids`,
    lot: LOTS[0].domain,
    key: KEY,
    mail: await mailFolder(),
    password: MAIL_PASSWORD,
  };
}

interface Step {
  act: 'Click' | 'Press' | 'Type' | 'Choose';
  what: string;
  /** The field that it is typed into, or chosen in. */
  into: string | null;
  /** What is to be seen then. */
  sees: string | null;
}

function stepsOfGuide(): Step[] {
  const lines = readFileSync('docs/guide/real.md', 'utf8').split('\n');
  const steps = lines.flatMap((line): Step[] => {
    const [, act, what, into = null] =
      /^\d+\. (Click|Press|Type|Choose) [_`](.+?)[_`](?: in(?:to)? _(.+?)_)?\./.exec(line) ?? [];
    const [, sees = null] = /See \*\*(.+?)\*\*/.exec(line) ?? [];
    return act ? [{ act: act as Step['act'], what, into, sees }] : [];
  });
  expect(steps.length, 'every step has an act that can be taken').toBe(
    lines.filter((line) => /^\d+\. /.test(line)).length,
  );
  return steps;
}

const pressable = (within: Page | Locator, name: string) =>
  (['button', 'link', 'checkbox', 'tab'] as const)
    .map((role) => within.getByRole(role, { name, exact: true }))
    .reduce((all, one) => all.or(one))
    .first();

test('the steps of the guide to real mode, to the letter, lead from an empty folder to a shortlisted find', async ({
  page: bare,
  request,
}) => {
  const places = await outside();
  const folder = mkdtempSync(join(tmpdir(), 'jam-ladle-real-'));
  // the root of WHOIS stands on this machine
  const config = { whois: { servers: {}, root: await whois(), connector: null } };
  writeFileSync(join(folder, 'config.json'), JSON.stringify(config));
  const product = await startReal(folder, PORT);
  started.push(product.child);
  const page = listening(bare);
  await page.goto(product.address);

  let within: Page | Locator = page;
  let source = '';
  for (const { act, what, into, sees } of stepsOfGuide()) {
    if (act === 'Press') await page.keyboard.press(what);
    else if (act === 'Type') {
      const given = what.replace(/^<(\w+)>$/, (_, place: string) => places[place]);
      const name = new RegExp(`^${into}`);
      const secret = within.getByLabel(name).and(page.locator('[type=password]'));
      await within.getByRole('textbox', { name }).or(within.getByRole('combobox', { name })).or(secret).fill(given);
    } else if (act === 'Choose') {
      await within.getByRole('combobox', { name: into ?? '' }).selectOption({ label: what });
    } else {
      const isInForm = ['Try it', 'Keep these settings'].includes(what);
      await pressable(isInForm ? within : page, what).click();
      if (what.startsWith('Set up ')) within = page.getByRole('form', { name: what });
      else if (['crawl them', 'Keep this description', 'Mail'].includes(what)) within = page;
      else if (/^describe it$/i.test(what)) within = page.getByRole('form', { name: 'Describe a service' });
    }
    if (what === 'Only the lapsed') await expect(page.locator('#grid[aria-busy=false]')).toBeVisible();
    if (sees)
      await expect(
        page
          .getByText(sees)
          .or(page.getByRole('heading', { name: sees }))
          .first(),
        what,
      ).toBeVisible({
        timeout: 90_000,
      });
    if (what === 'Start the crawl')
      for (const kind of ['crawl', 'check', 'measure'])
        await expect(page.locator(`[data-job=${kind}]`).last()).toHaveAttribute('data-state', 'done', {
          timeout: 90_000,
        });
    if (['Archive', 'Questions a minute', 'An answer to an order', 'Password'].includes(into ?? ''))
      await noSeriousFaults(page);
    if (what === 'Read its listings') source = page.url().split('/').pop() ?? '';
  }

  const headers = { authorization: `Bearer ${readFileSync(join(folder, 'token'), 'utf8').trim()}` };
  const { entries } = await (await request.get(`http://127.0.0.1:${PORT}/api/v1/shortlist`, { headers })).json();
  expect(entries).toHaveLength(1);
  // it is free because the registry says so, and one that is there is not among the finds
  const [{ domain }] = entries;
  expect(GONE).toContain(domain.name);
  const csv = await (
    await request.get(`http://127.0.0.1:${PORT}/api/v1/export?format=csv&c=phase:free`, { headers })
  ).text();
  expect(csv.trim().split('\n').slice(1)).toHaveLength(GONE.length);
  // the ending that no RDAP server has is asked of the one that the root of WHOIS refers to
  expect(whoisAsked).toEqual(expect.arrayContaining(['info', 'brackwaterhives.info']));
  expect(csv).toContain('brackwaterhives.info');
  const offered = async () => {
    const address = `http://127.0.0.1:${PORT}/api/v1/sources/${source}/listings`;
    const { listings } = await (await request.get(address, { headers })).json();
    return listings.map((one: { name: string; priceMinor: number; currency: string }) => [one.name, one.priceMinor, one.currency].join(' ')); // biome-ignore format: one line
  };
  await expect
    .poll(offered, { timeout: 90_000 })
    .toEqual(LOTS.map(({ domain, current_bid, currency }) => `${domain} ${current_bid * 100} ${currency}`));
  // a dry run sends nothing
  const { log } = await (await request.get(`http://127.0.0.1:${PORT}/api/v1/orders`, { headers })).json();
  expect(log.map(({ words }: { words: string }) => words).join('\n')).toContain('{"max": "150.00", "ref": ');
  expect(ordered).toEqual([]);
  // the list that came by mail is in the pool
  const pooled = async () =>
    (await (await request.get(`http://127.0.0.1:${PORT}/api/v1/export?format=csv`, { headers })).text()).includes('fellhoney.org'); // biome-ignore format: one line
  await expect.poll(pooled, { timeout: 60_000 }).toBe(true);
  // keys stand in their own file, and nowhere else
  for (const secret of [KEY, MAIL_PASSWORD]) {
    const holders = readdirSync(folder, { withFileTypes: true })
      .filter((one) => one.isFile() && readFileSync(join(folder, one.name)).includes(secret))
      .map(({ name }) => name);
    expect(holders).toEqual(['keys.json']);
  }
  await product.stop();
});
