import { spawnSync } from 'node:child_process';
import { describe, expect, it } from 'vitest';

describe('a benchmark that does not end', () => {
  it('is ended by its time limit, with what it was waiting for', { timeout: 60_000 }, () => {
    const { status, stderr } = spawnSync(process.execPath, ['scripts/bench.mjs', '--small', 'crawl-hosts'], {
      encoding: 'utf8',
      env: { ...process.env, BENCH_LIMIT_S: '12', BENCH_HOSTS_WARM_UP: '50' },
    });
    expect(status).not.toBe(0);
    expect(stderr).toContain('crawl-hosts did not end within 12 s; it was waiting for: warming up for 50 s');
  });
});
