import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type ClassState, FindModel, worthReading } from './find-model';
import { classifyAddress } from './page-class';

const state = (id: number, site: string, more: Partial<ClassState> = {}): ClassState => ({
  id,
  site,
  shape: `/${id}`,
  word: 'notes',
  cue: 'plain',
  pages: 0,
  gave: 0,
  ...more,
});
function modelOf(...states: ClassState[]): FindModel {
  const model = new FindModel();
  for (const one of states) model.add(one);
  return model;
}
function readAll(model: FindModel, id: number, gave: number[]): void {
  for (const amount of gave) {
    model.read(id);
    if (amount > 0) model.found(id, amount);
  }
}

describe('the model of finds', () => {
  it('puts lists of links first before anything is read', () => {
    const model = modelOf(state(1, 'a.org', { cue: 'list' }), state(2, 'a.org', { cue: 'old' }), state(3, 'a.org'));
    expect(model.expected(1)).toBeGreaterThan(model.expected(2));
    expect(model.expected(2)).toBeGreaterThan(model.expected(3));
  });

  it('comes to the true rate of a class', () => {
    const model = modelOf(state(1, 'a.org'));
    readAll(
      model,
      1,
      Array.from({ length: 60 }, (_, i) => (i % 2 ? 3 : 1)),
    );
    expect(model.expected(1)).toBeGreaterThan(1.8);
    expect(model.expected(1)).toBeLessThan(2.1);
  });

  it('lets a site sink that gave nothing, and what it has not read of it with it', () => {
    const model = modelOf(
      state(1, 'dry.org'),
      state(2, 'dry.org', { word: 'other' }),
      state(3, 'new.org', { word: 'other' }),
    );
    readAll(model, 1, new Array(40).fill(0));
    expect(model.expected(2)).toBeLessThan(model.expected(3) * 0.9);
  });

  it('carries what a word gave on one site over to another', () => {
    const model = modelOf(
      state(1, 'a.org', { word: 'suppliers' }),
      state(2, 'b.org', { word: 'suppliers' }),
      state(3, 'b.org', { word: 'goods' }),
      state(4, 'a.org', { word: 'goods' }),
    );
    readAll(model, 1, new Array(20).fill(2));
    readAll(model, 4, new Array(20).fill(0));
    expect(model.expected(2)).toBeGreaterThan(1.5 * model.expected(3));
  });

  it('forgets: a class whose finds are all made sinks below a fresh one', () => {
    const model = modelOf(state(1, 'a.org'), state(2, 'b.org'));
    readAll(model, 1, new Array(40).fill(2));
    expect(model.expected(1)).toBeGreaterThan(model.expected(2));
    readAll(model, 1, new Array(300).fill(0));
    expect(model.expected(1)).toBeLessThan(model.expected(2));
  });

  it('hopes for more where it knows less', () => {
    const model = modelOf(state(1, 'a.org'), state(2, 'a.org'));
    readAll(model, 1, new Array(50).fill(0.4));
    expect(model.hoped(2) / model.expected(2)).toBeGreaterThan(model.hoped(1) / model.expected(1));
  });

  it('is never negative and never endless', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 1, max: 4 }), fc.double({ min: 0, max: 9, noNaN: true }))),
        (events) => {
          const model = modelOf(
            state(1, 'a.org'),
            state(2, 'a.org', { cue: 'list' }),
            state(3, 'b.org'),
            state(4, 'c.org'),
          );
          for (const [id, gave] of events) readAll(model, id, [gave]);
          for (const id of [1, 2, 3, 4]) {
            expect(model.expected(id)).toBeGreaterThanOrEqual(0);
            expect(Number.isFinite(model.hoped(id))).toBe(true);
          }
        },
      ),
    );
  });
});

describe('worthReading', () => {
  const classes = [
    { expected: 3, waiting: 10 },
    { expected: 0.1, waiting: 500 },
    { expected: 1, waiting: 20 },
  ];
  it('is the yield of the last page that the budget reaches', () => {
    expect(worthReading(classes, 5)).toBe(3);
    expect(worthReading(classes, 30)).toBe(1);
    expect(worthReading(classes, 31)).toBe(0.1);
  });
  it('is nothing when the budget reaches them all', () => {
    expect(worthReading(classes, 1000)).toBe(0);
    expect(worthReading([], 10)).toBe(0);
  });
});

describe('classifyAddress', () => {
  const classOf = (path: string, anchor = '') => classifyAddress(`http://pellgate.org${path}`, anchor, 2026);
  it.each([
    ['/', '/', 'home', 'plain'],
    ['/articles/17.html', '/articles/#.html', 'articles', 'plain'],
    ['/articles/18.html', '/articles/#.html', 'articles', 'plain'],
    ['/links/4.html', '/links/#.html links', 'links', 'list'],
    ['/2009/05/what-we-learned-about-it.html', '/#/#/*.html', 'what', 'old'],
    ['/2025/05/what-we-learned-about-it.html', '/#/#/*.html', 'what', 'plain'],
    ['/goods/?size=small&colour=plum', '/goods/?size&colour', 'goods', 'plain'],
    ['/a/b/c/d/e/f', '/a/b/c/d/…', '*', 'plain'],
  ])('%s', (path, shape, word, cue) => {
    expect(classOf(path)).toEqual({ shape, word, cue });
  });
  it('believes the words of the link', () => {
    expect(classOf('/page7.html', 'Useful links').cue).toBe('list');
    expect(classOf('/page7.html', 'Winter feeding').cue).toBe('plain');
  });
});
