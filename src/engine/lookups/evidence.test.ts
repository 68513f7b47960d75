import { describe, expect, it } from 'vitest';
import type { CheckEntry } from '../../store/lifecycle/verdicts';
import { entryOf, evidenceOf, proofWords } from './evidence';

const said = (step: CheckEntry['step'], outcome: string, part: Partial<CheckEntry> = {}): CheckEntry => ({
  step, server: 's', outcome, detail: '', elapsedMs: 1, ...part,
}); // biome-ignore format: one entry

describe('the evidence of a verdict', () => {
  it('is what DNS and the registry said, with what its server has shown', () => {
    const answer = { record: null, words: 'No record.', isDropped: false } as never;
    const evidence = evidenceOf([said('dns', 'nxdomain'), said('rdap', 'not-found')], answer, null, {
      name: 'nic.org',
      at: 1,
    });
    expect(evidence).toEqual({
      dns: 'nxdomain',
      record: {
        outcome: 'not-found',
        record: null,
        words: 'No record.',
        isUnasked: false,
        proof: proofWords('nic.org'),
      },
    });
  });

  it('keeps what was shown before where the registrar is asked last', () => {
    const entries = [
      said('dns', 'nxdomain'),
      said('whois', 'not-found', { words: 'as it said', proof: 'its server knows nic.org' }),
    ];
    expect(evidenceOf(entries, null, null, null).record).toMatchObject({
      words: 'as it said',
      proof: 'its server knows nic.org',
    });
  });

  it('says what the registrar wants, in its currency, and nothing where it names no price', () => {
    const registrar = (priceMinor: number | null, currency: string | null) =>
      evidenceOf([], null, { outcome: 'premium', priceMinor, currency } as never, null).registrar;
    expect(registrar(250_000, 'EUR')).toEqual({ outcome: 'premium', price: '2500.00 EUR' });
    expect(registrar(900, null)).toEqual({ outcome: 'premium', price: '9.00' });
    expect(registrar(null, 'EUR')).toEqual({ outcome: 'premium', price: null });
  });

  it('keeps of an answer who gave it and how long it took', () => {
    const answer = { server: 'a', outcome: 'found', detail: 'd', elapsedMs: 4, text: 'all of it' };
    expect(entryOf(answer)).toEqual({ server: 'a', outcome: 'found', detail: 'd', elapsedMs: 4 });
  });
});
