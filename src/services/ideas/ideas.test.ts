import { beforeEach, describe, expect, it } from 'vitest';
import type { IdeaPattern } from '../../core/ideas/pattern';
import { IDEA_PARTS, type IdeaPart } from '../../core/ideas/score';
import { type Store, write } from '../../store/base/database';
import { freshStore } from '../../store/base/testing';
import { addIdeaRun, putIdeas, readIdeaRun } from '../../store/ideas/ideas';
import type { Brief } from '../../store/shortlist/briefs';
import { addToShortlist } from '../../store/shortlist/shortlist';
import { briefOfTest, domainOfTest } from '../../store/testing';
import { ideaViews } from './ideas';

let store: Store;
let brief: Brief;
let run: number;

beforeEach(async () => {
  store = await freshStore();
  brief = briefOfTest(store, { requiredWords: ['hive'] });
  const pattern: IdeaPattern = {
    slots: [],
    isAnyOrder: false,
    withTwins: false,
    joints: ['joined'],
    endings: ['com', 'org'],
    mostLetters: 15,
  };
  run = addIdeaRun(store, brief.id, pattern);
  const ideas = ['tarnhive', 'wexcar'].map((label, n) => ({
    label,
    words: [label.slice(0, -4 + n), label.slice(-4 + n)],
    joint: 'joined' as const,
    score: 90 - n,
    parts: Object.fromEntries(IDEA_PARTS.map((part) => [part, 0.5])) as Record<IdeaPart, number>,
    readsAs: null,
    worthLowMinor: null,
    worthHighMinor: null,
    mark: null,
  }));
  write(store, () => putIdeas(store, run, ideas, 400));
});
const views = (offset = 0, limit = 10) => ideaViews(store, { id: run, endings: ['com', 'org'], brief }, offset, limit);

describe('ideas of a run', () => {
  it('say of each ending what is known, and which are on a shortlist', () => {
    const { id } = domainOfTest(store, 'tarnhive.com', { phase: 'free', phase_at: 7 });
    addToShortlist(store, brief.id, [id]);
    domainOfTest(store, 'tarnhive.org');
    const [{ endings }] = views().rows;
    expect(endings).toEqual([
      { ending: 'com', name: 'tarnhive.com', phase: 'free', phaseAt: 7, isShortlisted: true },
      // in the pool, and nobody was asked yet
      { ending: 'org', name: 'tarnhive.org', phase: null, phaseAt: null, isShortlisted: false },
    ]);
  });

  it('tell of sisters under other endings that are somebody’s, and of none that is free', () => {
    domainOfTest(store, 'tarnhive.net', { phase: 'active', phase_at: 9 });
    domainOfTest(store, 'tarnhive.info', { phase: 'free', phase_at: 9 });
    expect(views().rows[0].sisters).toEqual([{ name: 'tarnhive.net', phase: 'active', phaseAt: 9 }]);
  });

  it('suit a brief by their words, and come a part at a time', () => {
    const { rows, kept } = views();
    expect(kept).toBe(2);
    expect(rows.map(({ label }) => label)).toEqual(['tarnhive', 'wexcar']);
    expect(rows[0].fit.score).toBeGreaterThan(rows[1].fit.score as number);
    expect(views(1, 1).rows.map(({ label }) => label)).toEqual(['wexcar']);
    expect(readIdeaRun(store, run)).toMatchObject({ briefId: brief.id });
  });
});
