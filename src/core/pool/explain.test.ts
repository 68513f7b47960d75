import { describe, expect, it } from 'vitest';
import { explain } from './explain';
import { FACT_NAMES, factSpec } from './facts';

describe('a measure', () => {
  it('says what it is, its range, where it comes from, and what an empty one means', () => {
    expect(explain('trust')).toEqual({
      what: 'How much weight links carry to it from the trusted sites of all briefs.',
      from: '0 to 100, from the crawls and link files read here; empty where it is not known.',
    });
    expect(explain('length').from).toBe('0 to 63, from the name itself.');
    expect(explain('expires').from).toContain('In days from now, from RDAP, WHOIS and DNS');
    expect(explain('captures').from).toContain('A count from 0, from the index of the archive');
  });

  it('is explained by other words than its title, in two lines that fit a small box', () => {
    for (const fact of FACT_NAMES) {
      const { what, from } = explain(fact);
      expect(what.toLowerCase(), fact).not.toBe(`${factSpec(fact).label.toLowerCase()}.`);
      expect(what.length, fact).toBeGreaterThan(12);
      expect(what.length + from.length, fact).toBeLessThan(210);
    }
    expect(new Set(FACT_NAMES.map((fact) => explain(fact).what)).size).toBe(FACT_NAMES.length);
  });
});
