import { describe, expect, it } from 'vitest';
import { freshBudget } from '../../core/lifecycle/pace';
import type { Question } from '../../store/lifecycle/questions';
import { ServerQueue } from './server-queue';

const question = (domainId: number): Question => ({
  domainId,
  name: `n${domainId}.org`,
  ending: 'org',
  step: 'record',
  server: 'http://rdap.org/',
  depth: 'record',
  said: [],
  tries: 0,
  turn: domainId,
  since: 0,
});

describe('a queue whose questions hang', () => {
  it('gives their places to others, says so, and asks them again', async () => {
    const declared = { intervalMs: 0 };
    const budget = freshBudget(declared);
    const open = new Set(Array.from({ length: 12 }, (_, n) => n + 1));
    const asked: number[] = [];
    const hung: number[] = [];
    const queue = new ServerQueue(
      () => ({ budget, declared }),
      (limit) => [...open].slice(0, limit).map(question),
      async ({ domainId }, answered) => {
        asked.push(domainId);
        // the first time that one of the first six is asked nobody ever answers
        if (domainId <= 6 && asked.filter((id) => id === domainId).length === 1) return new Promise(() => undefined);
        answered();
        open.delete(domainId);
      },
      ({ domainId }) => hung.push(domainId),
      100,
    );
    // as the lookup scheduler does, which looks for questions now and then
    const opening = setInterval(() => queue.open(), 20);
    await expect.poll(() => open.size, { timeout: 5000 }).toBe(0);
    queue.stop();
    clearInterval(opening);
    expect(hung.sort()).toEqual([1, 2, 3, 4, 5, 6]);
    expect(asked.length).toBe(18);
  });
});
