import { beforeEach, describe, expect, it } from 'vitest';
import { parseView } from '../../core/pool/conditions';
import type { PoolQuery } from '../../core/pool/query';
import type { Store } from '../../store/base/database';
import { freshStore } from '../../store/base/testing';
import { addToShortlist } from '../../store/shortlist/shortlist';
import { briefOfTest, domainOfTest } from '../../store/testing';
import { engineOfTest } from '../testing';
import { findsFor } from './finds';

let store: Store;
beforeEach(async () => {
  store = await freshStore();
});

describe('finds for a brief', () => {
  it('are what fits best of all that its orders bring, each once, and spam last', async () => {
    const brief = briefOfTest(store, { subjectWords: ['bee'], purpose: 'rebuild' });
    const facts = { phase: 'free', strength: 12, trust: 10, links_at: 1 } as const;
    const { id: plain } = domainOfTest(store, 'marsh-lane.org', { ...facts, trust: 2 });
    const { id: trusted } = domainOfTest(store, 'tarnhives.org', { ...facts, trust: 60 });
    const { id: spam } = domainOfTest(store, 'skeldrake-bets.org', { ...facts, trust: 90, spam_risk: 80 });
    // the person's own word counts
    const { id: sound } = domainOfTest(store, 'skeldrake-bees.org', {
      ...facts,
      trust: 30,
      spam_risk: 80,
      judged: 'clean',
    });
    addToShortlist(store, brief.id, [trusted]);
    const asked: PoolQuery[] = [];
    const engine = engineOfTest({
      queryPool: async (query) => {
        asked.push(query);
        const ids = asked.length === 1 ? [plain, spam] : [trusted, sound, spam];
        return { ids, total: 4, size: 90 } as never;
      },
    });
    const { finds, total, size, address } = await findsFor(store, engine, brief, 10);
    expect(finds.map(({ view }) => view.id)).toEqual([sound, trusted, plain, spam]);
    expect(finds.map(({ isSpam }) => isSpam)).toEqual([false, false, false, true]);
    expect(finds[1].view.shortlisted).toBe(true);
    expect([total, size]).toEqual([4, 90]);
    // all of them stand under the address that leads there
    expect(parseView(new URLSearchParams(address)).parts).toEqual(asked[0].parts);
    expect(asked).toHaveLength(3);
    expect((await findsFor(store, engine, brief, 2)).finds).toHaveLength(2);
  });
});
