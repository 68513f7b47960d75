import { describe, expect, it } from 'vitest';
import type { DomainView } from '../pool/domain-view';
import { spamOrigin, spamText } from './spam-words';

const NOW = Date.UTC(2026, 10, 20);
const row = (judged: string, spamRisk: number | null) =>
  ({ judged, spamRisk, linksAt: NOW - 3 * 86_400_000 }) as DomainView;

describe('the spam risk in words', () => {
  it('is what was computed, or nothing when nothing was', () => {
    expect(spamText(row('none', 37))).toBe('37');
    expect(spamText(row('none', null))).toBe('');
    expect(spamOrigin(row('none', 37), NOW)).toMatch(/^from all link sources, measured 3 days ago/);
  });

  it('is what a mark says, and tells what was computed all the same', () => {
    expect(spamText(row('spam', 37))).toBe('100');
    expect(spamText(row('clean', 37))).toBe('0');
    expect(spamOrigin(row('spam', 37), NOW)).toMatch(/^you marked it spam; 37 was computed/);
    expect(spamOrigin(row('clean', null), NOW)).toMatch(/^you marked it clean; nothing was computed/);
  });
});
