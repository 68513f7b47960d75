import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { calibrate, countSubjects, judgeSubjects } from './calibration';
import { SubjectClassifier, subjectClassifier } from './classifier';
import { AREAS, areaTitle, SUBJECTS, subjectTitle } from './subjects';
import { cosine, mainWords, singular, sizeOf, termsOf } from './terms';

describe('the list of subjects', () => {
  it('has at least 20 areas of at least 8 subjects, each with a name of its own', () => {
    expect(AREAS.length).toBeGreaterThanOrEqual(20);
    for (const { subjects } of AREAS) expect(subjects.length).toBeGreaterThanOrEqual(8);
    expect(new Set(SUBJECTS.map(({ id }) => id)).size).toBe(SUBJECTS.length);
    expect(new Set(AREAS.map(({ id }) => id)).size).toBe(AREAS.length);
    for (const { id, words, area } of SUBJECTS) {
      expect(id.startsWith(`${area}.`)).toBe(true);
      expect(words.length, id).toBeGreaterThanOrEqual(8);
    }
  });
  it('gives titles for people', () => {
    expect(subjectTitle('farming.beekeeping')).toBe('Beekeeping');
    expect(areaTitle('farming.beekeeping')).toBe('Farming and countryside');
    expect(subjectTitle('gone')).toBe('gone');
  });
});

describe('termsOf', () => {
  it('counts words in lower case and singular, without stop words', () => {
    expect(termsOf('The Bees and the bee: HIVES, hive! A glass of berries.')).toEqual(
      new Map([
        ['bee', 2],
        ['hive', 2],
        ['glass', 1],
        ['berry', 1],
      ]),
    );
  });
  it.each([
    ['boxes', 'box'],
    ['apiaries', 'apiary'],
    ['census', 'census'],
    ['glass', 'glass'],
    ["keeper's", 'keeper'],
    ['bees', 'bee'],
    ['us', 'us'],
  ])('%s is %s', (word, one) => expect(singular(word)).toBe(one));
  it('reads rubbish without end, and reads no more than it must', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 400 }), (text) => {
        for (const [word, count] of termsOf(text)) {
          expect(word.length).toBeLessThanOrEqual(40);
          expect(count).toBeGreaterThan(0);
        }
      }),
    );
    const started = performance.now();
    termsOf('bee '.repeat(3_000_000));
    expect(performance.now() - started).toBeLessThan(1000);
  });
  it('names the commonest words, ties by the alphabet', () => {
    const terms = termsOf('wax comb comb bee bee honey');
    expect(mainWords(terms, 3)).toEqual(['bee', 'comb', 'honey']);
    expect(sizeOf(terms)).toBe(6);
  });
});

describe('cosine', () => {
  const text = fc.array(fc.constantFrom('bee', 'hive', 'type', 'ink', 'star'), { maxLength: 12 });
  it('is 1 for the same words, 0 for none in common, and the same both ways', () => {
    fc.assert(
      fc.property(text, text, (one, other) => {
        const [a, b] = [termsOf(one.join(' ')), termsOf(other.join(' '))];
        const value = cosine(a, b);
        expect(value).toBeCloseTo(cosine(b, a), 12);
        expect(value).toBeGreaterThanOrEqual(0);
        expect(value).toBeLessThanOrEqual(1 + 1e-12);
        expect(cosine(a, a)).toBeCloseTo(1, 12);
        if (a.size > 0 && ![...a.keys()].some((word) => b.has(word))) expect(value).toBe(0);
      }),
    );
  });
});

describe('SubjectClassifier', () => {
  const classify = (text: string) => subjectClassifier().classify(termsOf(text));

  it('tells subjects by their words, and says which decided', () => {
    const verdict = classify(
      'We inspect the hives in spring; the queen and her brood, nectar and pollen, swarms and skeps.',
    );
    expect(verdict.subject).toBe('farming.beekeeping');
    expect(verdict.confidence).toBeGreaterThan(0.9);
    expect(verdict.words.map(({ word }) => word)).toContain('hive');
    expect(verdict.words.every(({ weight }, n, all) => n === 0 || weight <= all[n - 1].weight)).toBe(true);
  });
  it.each([
    ['Set the type in the forme, ink the roller and pull a proof on the platen press.', 'crafts.letterpress'],
    ['Slots, roulette and blackjack: casino bonus and jackpots, bets and spins.', 'games.gambling'],
    ['Telescopes and eyepieces for the moon, planets and nebulae.', 'sky.astronomy'],
  ])('of %s', (text, subject) => expect(classify(text).subject).toBe(subject));
  it('says nothing where there is nothing to tell by', () => {
    expect(classify('zzz qqq vvv').subject).toBeNull();
    expect(classify('').subject).toBeNull();
  });
  it('is less sure of a mixture than of a clear text', () => {
    const bees = 'hive queen brood nectar swarm skep ';
    const stars = 'telescope eyepiece nebula planet comet meteor ';
    expect(classify(bees + stars).confidence).toBeLessThan(classify(bees).confidence);
  });
  it('reads a name by its words', () => {
    const ofName = (words: string) => subjectClassifier().classifyName(words.split(' '));
    expect(ofName('ossenmere bee club').subject).toBe('farming.beekeeping');
    expect(ofName('vale letterpress').subject).toBe('crafts.letterpress');
    expect(ofName('ossenmere').subject).toBeNull();
  });
  it('keeps confidences of one text to a sum of at most one', () => {
    const words = fc.array(fc.constantFrom(...SUBJECTS.flatMap((subject) => subject.words.slice(0, 3))), {
      minLength: 2,
      maxLength: 30,
    });
    fc.assert(
      fc.property(words, (some) => {
        const { confidence, runnerUp } = classify(some.join(' '));
        expect(confidence + (runnerUp?.confidence ?? 0)).toBeLessThanOrEqual(1 + 1e-9);
        expect(confidence).toBeGreaterThanOrEqual(runnerUp?.confidence ?? 0);
      }),
    );
  });
});

describe('training', () => {
  const texts = (words: Record<string, string>, many: number) =>
    Object.entries(words).flatMap(([subject, text]) =>
      Array.from({ length: many }, () => ({ subject, terms: termsOf(text) })),
    );

  it('learns words of a subject that were not written down', () => {
    const counts = countSubjects(
      texts({ 'farming.beekeeping': 'zorbel wimtok zorbel plenty', 'sky.astronomy': 'quillip drenfa plenty' }, 4),
    );
    expect(counts.counts['farming.beekeeping']).toMatchObject({ zorbel: 4, wimtok: 4 });
    const taught = new SubjectClassifier({ ...counts, scale: 1, power: 0 });
    expect(taught.classify(termsOf('zorbel wimtok')).subject).toBe('farming.beekeeping');
    expect(taught.classify(termsOf('quillip drenfa')).subject).toBe('sky.astronomy');
  });
  it('finds a temperature under which what is often wrong is not sure', () => {
    const counts = countSubjects(texts({ 'farming.beekeeping': 'alpha beta', 'sky.astronomy': 'gamma delta' }, 5));
    const mixed = [...texts({ 'farming.beekeeping': 'alpha beta' }, 6), ...texts({ 'sky.astronomy': 'alpha beta' }, 6)];
    const calm = calibrate(counts, mixed);
    const report = judgeSubjects(new SubjectClassifier(calm), mixed);
    expect(report.accuracy).toBeCloseTo(0.5);
    expect(report.calibrationError).toBeLessThan(0.25);
    expect(report.bins.reduce((sum, { texts: many }) => sum + many, 0)).toBe(12);
  });
});
