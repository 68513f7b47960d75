import type { ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, expect, request as requests } from '@playwright/test';
import { noSeriousFaults } from './faults';
import { portOf } from './files';
import { runReal, startReal } from './real-mode';
import { certificate, freePort, startNginx } from './stock-servers';
import { listening, test } from './test';

const started: ChildProcess[] = [];
test.afterAll(() => {
  for (const child of started) child.kill('SIGKILL');
});

const NAME = 'ladle.moorzone.test';
const PASSWORD = 'moor and heather';
const PORT = portOf(1);

/** The lines of the guide, with what a test has instead. */
function blockOfGuide(port: number): string {
  const { cert, key } = certificate(NAME);
  const [, block = ''] = /```nginx\nserver \{\n([\s\S]+?)\n\}\n```/.exec(readFileSync('docs/remote.md', 'utf8')) ?? [];
  return block
    .replace('443 ssl', `127.0.0.1:${port} ssl`)
    .replace('ladle.tarnhives.example', NAME)
    .replace('/etc/ssl/ladle.pem', cert)
    .replace('/etc/ssl/ladle.key', key)
    .replace('127.0.0.1:4310', `127.0.0.1:${PORT}`);
}

test('from another machine it is reached by those who have a password, through a proxy that encrypts', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'jam-ladle-remote-'));
  const proxyPort = await freePort();
  const origin = `https://${NAME}:${proxyPort}`;
  const env = { JAM_LADLE_ORIGIN: origin };

  // nobody has a password yet: it does not start so
  const refused = await runReal(folder, PORT, { env });
  expect(refused).toMatchObject({ code: 1, said: expect.stringContaining('with a password only') });
  expect(await runReal(folder, PORT, { args: ['--set-password', 'Mara'], answers: ['short', 'short'] })).toMatchObject({
    code: 1,
    said: expect.stringContaining('at least 10 characters'),
  });
  const set = await runReal(folder, PORT, { args: ['--set-password', 'Mara'], answers: [PASSWORD, PASSWORD] });
  expect(set).toMatchObject({ code: 0, said: expect.stringContaining('Mara can sign in') });

  const product = await startReal(folder, PORT, env);
  started.push(product.child);
  expect(product.output()).toContain(`With a password also at ${origin}`);
  started.push(await startNginx(blockOfGuide(proxyPort), proxyPort, { isWhole: true }));

  const browser = await chromium.launch({
    executablePath: process.env.E2E_BROWSER ?? '/usr/bin/chromium-headless-shell',
    args: ['--no-sandbox', `--host-resolver-rules=MAP ${NAME} 127.0.0.1`],
  });
  const context = await browser.newContext({ ignoreHTTPSErrors: true, baseURL: origin });
  const bare = await context.newPage();
  await bare.goto('/setup');
  expect(bare.url()).toContain('/sign-in?to=%2Fsetup');
  await noSeriousFaults(bare);
  await bare.getByLabel('Name').fill('Mara');
  await bare.getByLabel('Password').fill('heather and moor');
  await bare.getByRole('button', { name: 'Sign in' }).click();
  await expect(bare.getByRole('alert')).toContainText('do not belong together');
  await bare.getByLabel('Password').fill(PASSWORD);
  await bare.getByRole('button', { name: 'Sign in' }).click();
  await expect(bare.getByRole('heading', { name: 'What works, and what it takes' })).toBeVisible();
  expect(bare.url()).toBe(`${origin}/setup`);
  const cookie = (await context.cookies()).find(({ name }) => name.endsWith('-session'));
  expect(cookie).toMatchObject({ httpOnly: true, sameSite: 'Strict', secure: true });

  // what changes something comes from the page of the proxy's address
  const page = listening(bare);
  await page.reload();
  await page.getByRole('checkbox', { name: 'a list of names' }).click();
  await expect(page.getByText('What you are after is kept')).toBeVisible();
  // who did it stands with it, also where the engine does it
  const ask = (path: string, body?: object) =>
    page.evaluate(
      async ([to, text]) => {
        const headers = { 'content-type': 'application/json' };
        const answer = await fetch(`/api/v1${to}`, text ? { method: 'POST', headers, body: text } : {});
        return { status: answer.status, value: await answer.json() };
      },
      [path, body ? JSON.stringify(body) : ''],
    );
  expect((await ask('/batches', { text: 'pellgatehives.org' })).status).toBe(202);
  const idOf = async () => (await ask('/domains/pellgatehives.org')).value.id ?? null;
  await expect.poll(idOf, { timeout: 60_000 }).not.toBeNull();
  const judged = { act: { kind: 'judge', judged: 'clean' }, which: { ids: [await idOf()] } };
  expect((await ask('/actions', judged)).status).toBe(201);
  await page.goto('/acts');
  await expect(page.getByRole('row', { name: /pellgatehives\.org: judged clean/ })).toContainText('Mara');
  await page.goto('/settings');
  await expect(page.getByText('Signed in as Mara')).toBeVisible();
  await page.getByRole('button', { name: 'Sign out' }).click();
  await expect(page.getByRole('button', { name: 'Sign in' })).toBeVisible();
  await page.context().addCookies([{ ...(cookie as NonNullable<typeof cookie>) }]);
  const again = await context.newPage();
  await again.goto('/pool');
  expect(again.url(), 'a session that was ended stays so').toContain('/sign-in');
  await browser.close();

  // another name that somebody points here, another origin, nobody: none is answered
  const raw = await requests.newContext({ ignoreHTTPSErrors: true, baseURL: `https://127.0.0.1:${proxyPort}` });
  const get = (path: string, headers: Record<string, string>) => raw.get(path, { headers, maxRedirects: 0 });
  const host = `${NAME}:${proxyPort}`;
  expect((await get('/api/v1/briefs', { host })).status()).toBe(401);
  expect((await get('/pool', { host: `evil.moorzone.test:${proxyPort}` })).status()).toBe(421);
  expect((await get('/api/v1/briefs', { host: 'evil.moorzone.test' })).status()).toBe(421);
  expect((await get('/api/v1/briefs', { host, origin: `https://evil.test` })).status()).toBe(403);
  const signIn = (password: string, headers: Record<string, string> = {}) =>
    raw.post('/sign-in', { headers: { host, ...headers }, form: { name: 'Mara', password }, maxRedirects: 0 });
  expect((await signIn(PASSWORD, { origin: 'https://evil.test' })).status()).toBe(403);

  // wrong passwords make the next try wait, also the right one
  const statuses: number[] = [];
  for (let n = 0; n < 7; n++) statuses.push((await signIn(`wrong ${n}`)).status());
  expect(statuses.slice(0, 3)).toEqual([401, 401, 401]);
  expect(statuses.at(-1)).toBe(429);
  const waits = await signIn(PASSWORD);
  expect(waits.status()).toBe(429);
  expect(Number(waits.headers()['retry-after'])).toBeGreaterThan(0);
  await raw.dispose();
  const log = readFileSync(join(folder, 'logs/sign-in.log'), 'utf8');
  for (const what of ['"in"', '"out"', '"wrong"', '"too soon"']) expect(log).toContain(`"what":${what},"name":"Mara"`);
  expect(log).not.toContain(PASSWORD);
  expect(readFileSync(join(folder, 'people.json'), 'utf8')).not.toContain(PASSWORD);
  await product.stop();

  // who is taken away lets nobody in, and then it does not start so any more
  const gone = await runReal(folder, PORT, { args: ['--remove-person', 'Mara'] });
  expect(gone).toMatchObject({ code: 0, said: expect.stringContaining('Mara can sign in no more') });
  expect(await runReal(folder, PORT, { env })).toMatchObject({
    code: 1,
    said: expect.stringContaining('password only'),
  });
});

test('on an address of the machine it listens there alone, and asks for the password', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'jam-ladle-listens-'));
  const env = { JAM_LADLE_HOST: '127.0.0.2' };
  expect(await runReal(folder, PORT, { env })).toMatchObject({
    code: 1,
    said: expect.stringContaining('password only'),
  });
  expect(await runReal(folder, PORT, { env: { JAM_LADLE_HOST: 'elsewhere' } })).toMatchObject({
    code: 1,
    said: expect.stringContaining('write an address of this machine'),
  });
  await runReal(folder, PORT, { args: ['--set-password', 'Mara'], answers: [PASSWORD, PASSWORD] });
  const product = await startReal(folder, PORT, env);
  started.push(product.child);
  expect(product.address).toContain(`http://127.0.0.2:${PORT}/?key=`);
  const at = `http://127.0.0.2:${PORT}/pool`;
  const asked = await fetch(at, { redirect: 'manual' });
  expect(asked.status).toBe(303);
  expect(new URL(asked.headers.get('location') ?? '', at).href).toBe(`http://127.0.0.2:${PORT}/sign-in?to=%2Fpool`);
  await expect(fetch(`http://127.0.0.1:${PORT}/pool`)).rejects.toThrow();
  await product.stop();
});
