import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import wabt from 'wabt';
import { BETWEEN } from './between';

describe('lanes', () => {
  it('are what their source says', async () => {
    const { parseWat } = await wabt();
    const source = readFileSync(new URL('lanes.wat', import.meta.url), 'utf8');
    const { buffer } = parseWat('lanes.wat', source, { simd: true }).toBinary({});
    expect(Buffer.from(buffer).toString('base64')).toBe(BETWEEN);
  });
});
