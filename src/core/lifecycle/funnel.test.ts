import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type FunnelCell, funnelSteps } from './funnel';
import { PHASES } from './phase';

const cell = fc.record<FunnelCell>({
  waits: fc.constantFrom(null, null, 'dns', 'record', 'registrar'),
  by: fc.constantFrom('none', 'known', 'dns', 'rdap', 'whois', 'registrar', 'source'),
  phase: fc.constantFrom(...PHASES),
  count: fc.integer({ min: 1, max: 1000 }),
});

describe('funnelSteps', () => {
  it('loses no name: what comes to a step leaves it, waits there, or goes on', () => {
    fc.assert(
      fc.property(fc.array(cell, { maxLength: 20 }), fc.nat(50), fc.nat(50), (cells, repeated, setAside) => {
        const domains = cells.reduce((sum, { count }) => sum + count, 0);
        const read = domains + repeated + setAside;
        const steps = funnelSteps({ depth: 'registrar', read, repeated, setAside, domains, cells });
        steps.forEach(({ comes, leaves, waits }, i) => {
          const out = leaves.reduce((sum, { count }) => sum + count, 0);
          expect(comes - out - waits, steps[i].step).toBe(steps[i + 1]?.comes ?? 0);
        });
      }),
    );
  });
  it('tells who settled what', () => {
    const cells: FunnelCell[] = [
      { waits: null, by: 'known', phase: 'active', count: 5 },
      { waits: null, by: 'dns', phase: 'active', count: 70 },
      { waits: null, by: 'rdap', phase: 'free', count: 12 },
      { waits: null, by: 'whois', phase: 'redemption', count: 3 },
      { waits: 'record', by: 'none', phase: 'unknown', count: 10 },
    ];
    const steps = funnelSteps({ depth: 'record', read: 104, repeated: 3, setAside: 1, domains: 100, cells });
    expect(steps.map(({ step, comes, waits }) => [step, comes, waits])).toEqual([
      ['given', 104, 0],
      ['known', 100, 0],
      ['dns', 95, 0],
      ['record', 25, 10],
    ]);
    expect(steps[3].leaves).toEqual([
      { as: 'free', count: 12 },
      { as: 'redemption', count: 3 },
    ]);
  });
});
