import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { formatView, parseView } from '../pool/conditions';
import { briefSieve, type SievedBrief } from './brief-sieve';
import { FIT_PARTS, mixedWeights, PURPOSE_WEIGHTS } from './fit';
import { brokenLimits, limitConditions } from './house-limits';

const BRIEF: SievedBrief = {
  purpose: 'rebuild',
  requiredWords: ['hive'],
  unwantedWords: ['archive'],
  excludedEndings: ['edu'],
  languages: ['en'],
  limits: { leastStrength: 5, mostSpamRisk: 40, noHyphens: true },
};

describe('the pool as a brief wants it', () => {
  it('holds its words, endings, languages and limits, and keeps what is not measured yet', () => {
    const { parts } = briefSieve(BRIEF);
    expect(parts).toContainEqual({ type: 'text', fact: 'name', mode: 'wordish', values: ['hive'], not: false });
    expect(parts).toContainEqual({ type: 'text', fact: 'name', mode: 'wordish', values: ['archive'], not: true });
    expect(parts).toContainEqual({ type: 'choice', fact: 'ending', values: ['edu'], not: true, keepUnknown: true });
    expect(parts).toContainEqual({ type: 'range', fact: 'spamRisk', min: null, max: 40, keepUnknown: true });
    expect(parts).toContainEqual({ type: 'range', fact: 'hyphens', min: null, max: 0, keepUnknown: false });
  });

  it('is an address that is read as it was written', () => {
    const words = fc.array(fc.stringMatching(/^[a-z]{1,8}$/), { maxLength: 3 });
    fc.assert(
      fc.property(
        fc.constantFrom('resell', 'rebuild', 'redirect', 'prospect'),
        words,
        words,
        fc.option(fc.integer({ min: 1, max: 100 })),
        (purpose, requiredWords, unwantedWords, leastTrust) => {
          const view = briefSieve({
            ...BRIEF,
            purpose: purpose as 'resell',
            requiredWords,
            unwantedWords,
            limits: { leastTrust },
          });
          const { parts, sorts, problems } = parseView(formatView(view));
          expect(problems).toEqual([]);
          expect({ parts, sorts }).toEqual({ parts: view.parts, sorts: view.sorts });
        },
      ),
    );
  });

  it('asks nothing where nothing is limited', () => {
    expect(limitConditions({})).toEqual([]);
    expect(limitConditions({ leastTrust: null, mostLetters: null, noDigits: false })).toEqual([]);
  });
});

describe('house limits that a domain breaks', () => {
  const facts = { strength: 3, trust: null, referring: 8, spamRisk: 55, letters: 20, hyphens: 1, digits: 0 };
  it('are told in words, and what is not known breaks none', () => {
    const limits = {
      leastStrength: 5,
      leastTrust: 50,
      leastReferring: 5,
      mostSpamRisk: 40,
      mostLetters: 20,
      noHyphens: true,
    };
    expect(brokenLimits(limits, facts)).toEqual([
      'its strength of 3 is under the hard limit of 5',
      'its spam risk of 55 is over the hard limit of 40',
      'it has a hyphen, which the house rules out',
    ]);
    expect(brokenLimits({}, facts)).toEqual([]);
  });
});

describe('a mix of purposes', () => {
  it('weighs like the one that counts, and between those that do', () => {
    expect(mixedWeights({ resell: 4, rebuild: 0, redirect: 0, prospect: 0 })).toEqual(PURPOSE_WEIGHTS.resell);
    const mixed = mixedWeights({ resell: 1, rebuild: 1, redirect: 0, prospect: 0 });
    for (const part of FIT_PARTS) {
      const [a, b] = [PURPOSE_WEIGHTS.resell[part], PURPOSE_WEIGHTS.rebuild[part]];
      expect(mixed[part]).toBeCloseTo((a + b) / 2, 1);
    }
    expect(mixedWeights({ resell: 0, rebuild: 0, redirect: 0, prospect: 0 })).toEqual(PURPOSE_WEIGHTS.rebuild);
  });
});
