import { describe, expect, it } from 'vitest';
import { Pacer, retryAfterMs } from './pacer';

describe('Pacer', () => {
  it('spaces the questions to one server, not to two', async () => {
    const paced = new Pacer({ intervalMs: 60, maxIntervalMs: 1000 });
    const started = performance.now();
    const turns: string[] = [];
    const take = (server: string) => paced.turn(server).then(() => turns.push(server));
    await Promise.all([take('a'), take('a'), take('a'), take('b')]);
    expect(performance.now() - started).toBeGreaterThan(115);
    // the other server's turn is not behind those that wait
    expect(turns.indexOf('b')).toBeLessThan(2);
  });
  it('slows down after a refusal and recovers', () => {
    const paced = new Pacer({ intervalMs: 100, maxIntervalMs: 1000 });
    const pauseAfterRefusal = () => {
      paced.refused('a', null);
      return Math.round(paced.waitMs('a') / 10) * 10;
    };
    expect(pauseAfterRefusal()).toBe(200);
    expect(pauseAfterRefusal()).toBe(400);
    for (let i = 0; i < 50; i++) paced.answered('a');
    expect(pauseAfterRefusal()).toBe(200);
    for (let i = 0; i < 9; i++) pauseAfterRefusal();
    expect(pauseAfterRefusal()).toBe(1000);
    expect(paced.waitMs('b')).toBe(0);
  });
  it('reads Retry-After as seconds or as a date', () => {
    expect(retryAfterMs('3', 0)).toBe(3000);
    expect(retryAfterMs(new Date(5000).toUTCString(), 2000)).toBe(3000);
    expect(retryAfterMs('soon', 0)).toBeNull();
    expect(retryAfterMs(undefined, 0)).toBeNull();
  });
});
