import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { readRdap } from '../../core/lifecycle/rdap-answer';
import { write } from '../../store/base/database';
import { freshStore } from '../../store/base/testing';
import { findDomain, putDomain } from '../../store/domains/domains';
import { putVerdict } from '../../store/lifecycle/verdicts';
import { putInspection, readInspection } from '../../store/links/inspections';
import { referringOf } from '../../store/links/referring';
import { runLinks } from '../jobs/links';
import { runMeasure } from '../jobs/measure';
import { trial } from '../jobs/testing';

const era = (kind: 'content' | 'redirect', from: number, to: number) => ({
  kind, from: Date.UTC(from, 0), to: Date.UTC(to, 0), title: '', language: null, subject: null, captures: 2, read: 2,
  redirectTo: kind === 'redirect' ? 'strong.org' : null,
}); // biome-ignore format: a row
const PAST = {
  eras: [era('content', 2005, 2015), era('redirect', 2016, 2020)],
  gaps: [],
  contentYears: 10,
  drops: [],
  drift: 0,
};

it('takes links that came while a domain only forwarded out of its strength, and leaves those it earned', async () => {
  const store = await freshStore();
  const rows: string[] = [];
  for (let i = 0; i < 40; i++) rows.push(`http://s${i}.org/,http://strong.org/,2001-01-01`);
  for (let i = 0; i < 10; i++) rows.push(`http://a${i}.org/,http://borrower.org/,2010-01-01`);
  for (let i = 0; i < 30; i++) rows.push(`http://b${i}.org/,http://borrower.org/,2018-01-01`);
  for (let i = 0; i < 10; i++) rows.push(`http://c${i}.org/,http://earner.org/,2010-01-01`);
  const path = join(store.folder, 'links.csv');
  writeFileSync(path, `from,to,first_seen\n${rows.join('\n')}\n`);
  await runLinks(trial(store, 'links', { path }).context);
  for (const name of ['strong.org', 'borrower.org', 'earner.org']) putDomain(store, { name, ending: 'org' }, true, 1);
  const strength = (name: string) => findDomain(store, name)!.strength!;
  await runMeasure(trial(store, 'list', { ids: [] }).context);
  const counted = strength('borrower.org');
  const { id } = findDomain(store, 'borrower.org')!;
  write(store, () =>
    putInspection(store, id, {
      forward_to: 'strong.org',
      forward_now: 1,
      past: JSON.stringify({ ...PAST, languageSwitches: 0, subjectSwitches: 0, language: null, subject: null }),
    }),
  );
  await runMeasure(trial(store, 'list', { ids: [], all: true }).context);
  expect(strength('borrower.org')).toBeLessThan(counted - 5);
  // ten earned links like those of a domain that never forwarded
  expect(Math.abs(strength('borrower.org') - strength('earner.org'))).toBeLessThan(0.3);
  expect(readInspection(store, id)!.strength_with).toBeGreaterThan(strength('strong.org'));
  // and measured again, it stays
  await runMeasure(trial(store, 'list', { ids: [] }).context);
  expect(strength('borrower.org')).toBeLessThan(counted - 5);
  await store.close();
});

it('knows registrants of referrers from their records', async () => {
  const store = await freshStore();
  const path = join(store.folder, 'links.csv');
  writeFileSync(path, 'from,to\nhttp://a.org/,http://b.org/\n');
  await runLinks(trial(store, 'links', { path }).context);
  const text = JSON.stringify({
    objectClassName: 'domain',
    ldhName: 'A.ORG',
    entities: [{ roles: ['registrant'], vcardArray: ['vcard', [['fn', {}, 'text', 'Tarn Holding']]] }],
  });
  const { record } = readRdap(
    { status: 200, contentType: 'application/rdap+json', body: text, serverKnown: true },
    'a.org',
  );
  const verdict = { phase: 'active' as const, confidence: 1, reason: 'x', contradictions: [] };
  write(store, () => putVerdict(store, findDomain(store, 'a.org')!.id, 5, [], verdict, record));
  expect(referringOf(store, findDomain(store, 'b.org')!.id, () => 0)[0].registrant).toBe('Tarn Holding');
  await store.close();
});
