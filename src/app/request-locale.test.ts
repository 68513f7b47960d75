import { once } from 'node:events';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { whole } from '../core/formats/figures';
import { localeNow, tellLocaleBy } from '../core/wording/locale';
import { tellLocaleOfRequests } from './request-locale';

const PAUSE_MS = 20;
/** Answers late, so that requests lie over each other. */
const server = createServer(async (_request, response) => {
  await new Promise((after) => setTimeout(after, PAUSE_MS));
  response.end(whole(1234));
});

beforeAll(async () => {
  tellLocaleOfRequests();
  server.listen(0, '127.0.0.1');
  await once(server, 'listening');
});
afterAll(() => {
  server.close();
  tellLocaleBy(undefined);
});

const answerTo = async (headers: Record<string, string>, path = '/') =>
  (await fetch(`http://127.0.0.1:${(server.address() as AddressInfo).port}${path}`, { headers })).text();

describe('answers in the locale of who asks', () => {
  it('hold through all that an answer waits for, however many are asked for at once', async () => {
    const wanted = { 'de-DE': '1.234', 'en-GB': '1,234', 'fr-FR': '1\u202f234' };
    const asked = Array.from({ length: 30 }, (_, n) => Object.entries(wanted)[n % 3]);
    const answers = await Promise.all(asked.map(([locale]) => answerTo({ 'accept-language': locale })));
    expect(answers).toEqual(asked.map(([, words]) => words));
  });

  it('take what the person chose before what the browser says, and nothing from other cookies', async () => {
    expect(await answerTo({ 'accept-language': 'en-GB', cookie: 'theme=dark; locale=de-DE' })).toBe('1.234');
    expect(await answerTo({ 'accept-language': 'en-GB', cookie: 'mylocale=de-DE; locale="><script>' })).toBe('1,234');
  });

  it.each([
    ['/api/v1/export?what=pool&format=csv', '1,234'],
    ['/api/v1/domains/tarnhives.org/file', '1,234'],
    ['/api/v1/sieves/3/feed?key=a', '1,234'],
    ['/api/v1/deadlines/calendar', '1,234'],
    ['/api/v1/domains/a.org/tables/referrers?sort=since&format=xlsx', '1,234'],
    // what a screen shows is not taken out
    ['/api/v1/domains/a.org/tables/referrers?filter=format', '1.234'],
    ['/domains/file', '1.234'],
    ['/pool?format=csv', '1.234'],
  ])('are for everybody the same where they leave as a file: %s', async (path, words) => {
    expect(await answerTo({ 'accept-language': 'de-DE' }, path)).toBe(words);
  });

  it('leave what no request waits for as it was', () => expect(localeNow()).toBe('en-GB'));
});
