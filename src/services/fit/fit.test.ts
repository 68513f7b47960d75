import { beforeEach, describe, expect, it } from 'vitest';
import { FIT_PARTS, PURPOSE_WEIGHTS } from '../../core/fit/fit';
import type { Store } from '../../store/base/database';
import { freshStore } from '../../store/base/testing';
import { briefOfTest, domainOfTest } from '../../store/testing';
import { engineOfTest } from '../testing';
import { fitFor, fitOfName, fitsOf, weightsOf } from './fit';

let store: Store;
beforeEach(async () => {
  store = await freshStore();
});

const NONE = { resell: 0, rebuild: 0, redirect: 0, prospect: 0 };
const NAME = { label: 'tarnhives', ending: 'org', words: ['tarn', 'hives'], sayability: 90 };
const part = (fit: { parts: readonly { part: string; value: number | null }[] }, key: string) =>
  fit.parts.find((one) => one.part === key)?.value ?? null;

describe('weights', () => {
  it('are those of the purpose, of a mix, or those that were set by hand', () => {
    const plain = briefOfTest(store, { purpose: 'rebuild' });
    expect(weightsOf(plain)).toEqual(PURPOSE_WEIGHTS.rebuild);
    const mixed = briefOfTest(store, { name: 'Both', mix: { ...NONE, rebuild: 1, redirect: 1 } });
    for (const key of FIT_PARTS)
      expect(weightsOf(mixed)[key]).toBeCloseTo((PURPOSE_WEIGHTS.rebuild[key] + PURPOSE_WEIGHTS.redirect[key]) / 2, 5);
    const own = { ...PURPOSE_WEIGHTS.resell, [FIT_PARTS[0]]: 77 };
    expect(weightsOf(briefOfTest(store, { name: 'Own', weights: own, mix: { ...NONE, rebuild: 1 } }))).toEqual(own);
  });
});

describe('how well a name suits a brief', () => {
  it('is better where it says what the brief is about', () => {
    const brief = briefOfTest(store, { requiredWords: ['hives'] });
    const about = fitOfName(brief, NAME);
    const other = fitOfName(brief, { ...NAME, label: 'tarncars', words: ['tarn', 'cars'] });
    expect(about.score).toBeGreaterThan(other.score as number);
  });

  it('is worse with digits and hyphens', () => {
    const brief = briefOfTest(store);
    expect(fitOfName(brief, { ...NAME, label: 'tarn-hives-24' }).score).toBeLessThan(
      fitOfName(brief, NAME).score as number,
    );
  });

  it('goes by a mark of one’s own before the risk that was measured', async () => {
    const brief = briefOfTest(store);
    const clean = domainOfTest(store, 'tarnhives.org', { spam_risk: 90, judged: 'clean' });
    const spam = domainOfTest(store, 'wexcombe.org', { spam_risk: 2, judged: 'spam' });
    const measured = domainOfTest(store, 'ossenmere.org', { spam_risk: 40 });
    const [a, b, c] = await fitsOf(engineOfTest(), [clean, spam, measured], brief);
    const values = [a, b, c].map((fit) => part(fit, 'risk'));
    expect(values[0]).toBeGreaterThan(values[2] as number);
    expect(values[1]).toBeLessThan(values[2] as number);
    expect(values[0]).toBe(1);
    expect(values[1]).toBe(0);
  });

  it('says each part with its weight, and knows nothing of what was not measured', async () => {
    const brief = briefOfTest(store);
    const fit = await fitFor(engineOfTest(), domainOfTest(store, 'tarnhives.org'), brief);
    expect(fit.parts.map(({ part: key }) => key).sort()).toEqual([...FIT_PARTS].sort());
    for (const { part: key, weight } of fit.parts) expect(weight).toBe(PURPOSE_WEIGHTS.resell[key]);
    expect(part(fit, 'referrers')).toBeNull();
  });
});
