import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { judgePhase } from './phase';
import { readRdap } from './rdap-answer';
import { readWhois } from './whois-text';

/** Answers written by hand in the shapes that registries use; none was made by the stand-ins. See the head of each file. */
const folder = join(import.meta.dirname, 'cases');
const NOW = Date.UTC(2026, 10, 24, 8);

interface Case {
  name: string;
  phase: string;
  registered: string | null;
  expires: string | null;
  text: string;
}

const cases: Case[] = readdirSync(folder)
  .filter((file) => file.startsWith('whois-'))
  .flatMap((file) => readFileSync(join(folder, file), 'utf8').split(/^=== /m).slice(1))
  .map((part) => {
    const end = part.indexOf('\n');
    const [name, phase, registered, expires] = part.slice(0, end).split(' | ');
    const day = (text: string) => (text === '-' ? null : text);
    return { name, phase, registered: day(registered), expires: day(expires), text: part.slice(end + 1) };
  });

const dayOf = (at: number | null | undefined) =>
  at === null || at === undefined ? null : new Date(at).toISOString().slice(0, 10);

describe('WHOIS answers of 150 registries and more', () => {
  const read = cases.map((one) => {
    const { outcome, record, words } = readWhois(one.text, one.name);
    const { phase, reason } = judgePhase({ record: { outcome, record, words } }, NOW);
    return { ...one, judged: phase, reason, record };
  });

  it('are at least 150', () => expect(cases.length).toBeGreaterThanOrEqual(150));

  it('never make a name free that is not', () => {
    expect(read.filter(({ phase, judged }) => judged === 'free' && phase !== 'free')).toEqual([]);
  });

  it('give the right phase', () => {
    expect(
      read
        .filter(({ phase, judged }) => judged !== phase)
        .map(({ name, phase, judged, reason }) => `${name}: ${judged}, not ${phase}: ${reason}`),
    ).toEqual([]);
  });

  it('give the right dates', () => {
    const wrong = read.flatMap(({ name, registered, expires, record }) => {
      const got = [dayOf(record?.registeredAt), dayOf(record?.expiresAt)];
      return got[0] === registered && got[1] === expires
        ? []
        : [`${name}: ${got.join(', ')}, not ${registered}, ${expires}`];
    });
    expect(wrong).toEqual([]);
  });
});

interface RdapCase {
  phase: string;
  registered?: string | null;
  expires?: string | null;
  registrar?: string | null;
  name: string;
  status: number;
  type: string | null;
  body: object | string;
  serverKnown?: boolean;
}

describe('RDAP answers of 40 servers and more', () => {
  const all = readFileSync(join(folder, 'rdap.jsonl'), 'utf8')
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line) as RdapCase);

  it('are at least 40', () => expect(all.length).toBeGreaterThanOrEqual(40));

  it.each(all.map((one) => [one.name, one] as const))('%s', (name, one) => {
    const { phase, status, type, body, serverKnown = true, registered = null, expires = null, registrar = null } = one;
    const text = typeof body === 'string' ? body : JSON.stringify(body);
    const { outcome, record, words } = readRdap({ status, contentType: type, body: text, serverKnown }, name);
    const verdict = judgePhase({ record: { outcome, record, words } }, NOW);
    expect([verdict.phase, verdict.reason]).toEqual([phase, expect.stringMatching(/^[A-Z].*\.$/s)]);
    expect([dayOf(record?.registeredAt), dayOf(record?.expiresAt), record?.registrar ?? null]).toEqual([
      registered,
      expires,
      registrar,
    ]);
  });
});

/** `npm run soak` makes it fifty times as many, from another seed each time. */
const MUTATIONS = Number(process.env.JAM_LADLE_MUTATIONS ?? 20_000);

describe('mutated answers', () => {
  const taken = cases.filter(({ phase }) => !['free', 'not-registrable', 'unknown'].includes(phase));
  const sentences = cases
    .filter(({ phase, text }) => phase === 'free' && text.length < 400)
    .flatMap(({ name, text }) => text.split('\n').map((line) => ({ name, line })))
    .filter(({ line }) => line.trim() !== '');
  const notices = [
    'Domain not found.',
    'No match for the contact.',
    'This service is free of charge and is available for research.',
    'pellgatespare.com is available for registration.',
    'No entries found for the selected source(s).',
    'Status of the server: available',
    'NOT FOUND',
    '% nothing found',
    'All rights reserved. Premium support is available.',
    'Domain Status: No Object Found',
    'query_status: 220 Available',
  ];

  /** An answer about a registered name, with sentences mixed in, fields dropped, cases changed, notices added. */
  function mutated(text: string, draw: () => number): string {
    const pick = <T>(list: readonly T[]): T => list[Math.floor(draw() * list.length)];
    const lines = text.split('\n');
    for (let n = Math.floor(draw() * 4); n > 0; n--) {
      const at = Math.floor(draw() * (lines.length + 1));
      const what = draw();
      if (what < 0.3) lines.splice(at, 0, pick(notices));
      else if (what < 0.5) lines.splice(at, 0, pick(sentences).line);
      else if (what < 0.7) lines.splice(at, 0, '');
      else if (at < lines.length) lines[at] = draw() < 0.5 ? lines[at].toUpperCase() : lines[at].toLowerCase();
    }
    // one field is missing, never all of them
    if (draw() < 0.5) {
      const fields = lines.flatMap((line, n) =>
        /^(?!\s*[%#>]).*:\s*\S/.test(line) && !/domain|status|state/i.test(line) ? [n] : [],
      );
      if (fields.length > 3) lines.splice(pick(fields), 1);
    }
    return lines.join(draw() < 0.3 ? '\r\n' : '\n');
  }

  it(`of registered names are never free: ${MUTATIONS}`, { timeout: 900_000 }, () => {
    const seed = Number(process.env.JAM_LADLE_SEED ?? 20_261_124);
    let state = seed;
    const draw = () => {
      state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
      return state / 2 ** 32;
    };
    const wrong: string[] = [];
    for (let n = 0; n < MUTATIONS && wrong.length < 5; n++) {
      const one = taken[n % taken.length];
      const text = mutated(one.text, draw);
      const { outcome, record, words } = readWhois(text, one.name);
      if (judgePhase({ record: { outcome, record, words } }, NOW).phase === 'free')
        wrong.push(`seed ${seed}, ${one.name}: ${words}\n${JSON.stringify(text)}`);
    }
    expect(wrong).toEqual([]);
  });

  it('of RDAP are never free but by a 404', () => {
    const value = fc.jsonValue();
    fc.assert(
      fc.property(
        fc.constantFrom(200, 301, 400, 401, 403, 404, 429, 500),
        fc.constantFrom('application/rdap+json', 'application/json', 'text/html', null),
        value,
        fc.boolean(),
        (status, contentType, body, serverKnown) => {
          const read = readRdap({ status, contentType, body: JSON.stringify(body), serverKnown }, 'pellgate.org');
          if (read.outcome === 'not-found') expect([status, serverKnown]).toEqual([404, true]);
        },
      ),
      { numRuns: 5000 },
    );
  });
});
