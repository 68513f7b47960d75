import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { judgeSubjects } from './calibration';
import { clearSubject, SubjectClassifier, subjectClassifier } from './classifier';
import { NOTHING_NUMBER, SubjectTable } from './subject-table';
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

describe('subjects in other languages', () => {
  it.each([
    [
      'de',
      'Imkerei am Waldrand: Honig, Bienenwachskerzen und Königinnenzucht, Kurse für Anfänger.',
      'farming.beekeeping',
    ],
    ['fr', 'Boulangerie artisanale : pain au levain, croissants et gâteaux sur commande.', 'food.baking'],
    ['es', 'Clínica dental: implantes, ortodoncia y blanqueamiento de dientes.', 'health.dentistry'],
    ['it', 'Officina per moto: caschi, ricambi e raduno dei motociclisti.', 'vehicles.motorcycles'],
    ['nl', 'Wij onderhouden uw tuin: gazon, borders, snoeien van heggen en bomen.', 'farming.gardening'],
  ])('reads %s', (language, text, subject) => {
    const verdict = subjectClassifier().classify(termsOf(text), language);
    expect(verdict.subject).toBe(subject);
    expect(subjectClassifier().classify(termsOf(text), null).subject).toBe(subject);
  });
  it('knows bent words and compounds that no table has', () => {
    const of = (language: string, ...words: string[]) => subjectClassifier().classifyName(words, language).subject;
    expect(of('de', 'honigschleuder')).toBe('farming.beekeeping');
    expect(of('de', 'weingutkeller')).toBe('food.wine');
    expect(of('nl', 'bierbrouwerijen')).toBe('food.beer');
  });
  it('says nothing of a language that is not read', () => {
    const text = 'Apicultura e mel de montanha: colmeias, abelhas rainhas e cera';
    expect(subjectClassifier().classify(termsOf(text), 'pt').subject).toBeNull();
    expect(subjectClassifier().classifyAll([{ terms: termsOf(text), language: 'pt' }]).known).toBe(0);
  });
  it('takes texts of two languages together', () => {
    const texts = [
      { terms: termsOf('hives and swarms'), language: 'en' },
      { terms: termsOf('Honig vom Imker'), language: 'de' },
    ];
    const both = subjectClassifier().classifyAll(texts);
    expect(both.subject).toBe('farming.beekeeping');
    expect(both.confidence).toBeGreaterThan(subjectClassifier().classifyAll(texts.slice(1)).confidence);
  });
});

describe('pages that say nothing', () => {
  it.each([
    'Welcome to our new website. We are under construction, please come back soon.',
    'Our mission is to deliver innovative solutions and quality services to our valued customers and partners.',
    'Login. Username. Password. Forgot your password? Privacy policy. Terms and conditions.',
  ])('%s', (text) => expect(clearSubject(subjectClassifier().classify(termsOf(text)))).toBeNull());
  it('do not drown a subject in what every page has', () => {
    const notice =
      'We use cookies. Accept all. Privacy policy. Terms and conditions. Opening hours: Monday to Friday. Contact us.';
    const bees = 'Swarm collection, honey from our hives, queens and nucs in May, wax candles.';
    expect(subjectClassifier().classify(termsOf(`${notice} ${bees} ${notice}`)).subject).toBe('farming.beekeeping');
  });
});

describe('SubjectTable', () => {
  it('gives back what was packed, in steps', () => {
    const words = fc.uniqueArray(fc.stringMatching(/^[a-z]{3,9}$/), { minLength: 1, maxLength: 30 });
    const told = fc.array(
      fc.tuple(fc.integer({ min: 0, max: NOTHING_NUMBER }), fc.double({ min: 0.1, max: 12, noNaN: true })),
      {
        minLength: 1,
        maxLength: 8,
      },
    );
    fc.assert(
      fc.property(words, told, (keys, entries) => {
        const table = SubjectTable.unpack(SubjectTable.pack(new Map(keys.map((key) => [key, entries]))));
        expect(table.size).toBe(keys.length);
        for (const key of keys) {
          const found = table.find(key);
          expect([...(found?.subjects ?? [])]).toEqual(entries.map(([subject]) => subject));
          for (const [n, [, weight]] of entries.entries()) expect(found?.weights[n]).toBeCloseTo(weight, 1);
        }
        expect(table.find('zz-none')).toBeNull();
      }),
    );
  });
  it('is not read from other bytes', () => {
    expect(() => SubjectTable.unpack(new Uint8Array([0, 0, 0, 1, 0, 0, 0, 3, 65, 1]))).toThrow();
  });
});

describe('judgeSubjects', () => {
  it('counts what is right, and how far confidence is from it', () => {
    const sure = new SubjectClassifier(
      () =>
        SubjectTable.pack(
          new Map([
            ['alpha', [[0, 9]]],
            ['beta', [[0, 9]]],
          ]),
        ),
      {
        text: { scale: 1, power: 0, nothing: 0, mostNothing: 0, short: 0 },
        name: { scale: 1, power: 0, nothing: 0, mostNothing: 0, short: 0 },
      },
    );
    const terms = termsOf('alpha beta');
    const report = judgeSubjects(sure, [
      { subject: SUBJECTS[0].id, terms },
      { subject: SUBJECTS[1].id, terms },
    ]);
    expect(report.accuracy).toBeCloseTo(0.5);
    expect(report.calibrationError).toBeCloseTo(0.5, 1);
    expect(report.bins.reduce((sum, { texts }) => sum + texts, 0)).toBe(2);
  });
});
