import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { letterFor, mailAddress } from './letter';
import { nextStep, PROSPECT_STATES, prospectTally, stateChanged } from './prospects';

const DAY = 86_400_000;
const fresh = { state: 'to write' as const, writtenAt: null, answeredAt: null };

describe('where a page stands', () => {
  it('was written once and answered once, whatever is said later', () => {
    const written = stateChanged(fresh, 'written', 5);
    expect(written).toEqual({ state: 'written', writtenAt: 5, answeredAt: null });
    const will = stateChanged(written, 'will change', 7);
    expect(stateChanged(will, 'changed', 9)).toEqual({ state: 'changed', writtenAt: 5, answeredAt: 7 });
    expect(stateChanged(will, 'no answer', 9)).toMatchObject({ writtenAt: 5, answeredAt: null });
    expect(stateChanged(will, 'to write', 9)).toEqual(fresh);
  });

  it('has been written to before it has answered, after any changes', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...PROSPECT_STATES), { maxLength: 12 }), (states) => {
        let times: ReturnType<typeof stateChanged> = fresh;
        for (const [n, state] of states.entries()) {
          times = stateChanged(times, state, n + 1);
          expect(times.state).toBe(state);
          if (times.answeredAt !== null) expect(times.answeredAt).toBeGreaterThanOrEqual(times.writtenAt ?? Infinity);
        }
      }),
    );
  });

  it('says what to do next', () => {
    const all = { hasContact: true, hasStandIn: true };
    const written = { ...fresh, state: 'written' as const, writtenAt: 0 };
    expect(nextStep(fresh, { ...all, hasStandIn: false }, 0).words).toContain('stands in');
    expect(nextStep(fresh, { ...all, hasContact: false }, 0).words).toContain('reach');
    expect(nextStep(fresh, all, 0)).toEqual({ words: 'write', isDue: true });
    expect(nextStep(written, all, 2 * DAY)).toEqual({ words: 'wait 8 days', isDue: false });
    expect(nextStep(written, all, 11 * DAY).words).toBe('remind once');
    expect(nextStep(written, all, 30 * DAY).words).toContain('let it be');
    expect(nextStep({ ...written, state: 'will change' }, all, 0).isDue).toBe(true);
    expect(nextStep({ ...written, state: 'declined' }, all, 99 * DAY).isDue).toBe(false);
  });

  it('counts who answered of those who were written to', () => {
    const one = (state: (typeof PROSPECT_STATES)[number]) => stateChanged(fresh, state, 1);
    expect(
      prospectTally([fresh, one('written'), one('changed'), one('declined'), one('no answer'), one('left out')]),
    ).toEqual({
      toWrite: 1,
      written: 4,
      answered: 0.5,
      changed: 0.25,
    });
    expect(prospectTally([fresh]).answered).toBeNull();
  });
});

describe('a letter', () => {
  const facts = {
    pageUrl: 'http://www.umberleymarket.com/links.html',
    pageTitle: 'Links\r\nBcc: everyone@umberley.org',
    anchor: 'hive plans\u202e',
    deadUrl: 'http://waxwinghives.org/plans',
    outcome: 'it answers 404',
    checkedAt: Date.UTC(2026, 10, 3),
    ownUrl: 'https://umberleybooks.org/hive-plans',
    ownTitle: null,
    isMoved: false,
  };

  it('says which link is dead, since when, and what could stand there', () => {
    const { subject, text } = letterFor(facts);
    expect(subject).toBe('A dead link on Links Bcc: everyone@umberley.org');
    expect(text).toContain('links to http://waxwinghives.org/plans with the words “hive plans”');
    expect(text).toContain('it answers 404 when I looked on 2026-11-03');
    expect(text).toContain('https://umberleybooks.org/hive-plans.');
    expect(letterFor({ ...facts, pageTitle: null }).subject).toBe('A dead link on umberleymarket.com');
  });

  it('says of what is one’s own that it has moved, not that it is gone', () => {
    const { subject, text } = letterFor({ ...facts, isMoved: true });
    expect(subject).toMatch(/^A link on Links .* that has moved$/);
    expect(text).toContain('It is at https://umberleybooks.org/hive-plans.');
    expect(text).not.toContain('gone');
  });

  it('is opened in a mail program to one address only', () => {
    const letter = letterFor(facts);
    const address = mailAddress('mailto:club@umberley.org?bcc=x@y.org', letter);
    expect(address).toMatch(/^mailto:club@umberley\.org\?subject=A%20dead/);
    expect(address).not.toContain('bcc=');
    expect(decodeURIComponent(address?.split('&body=')[1] ?? '')).toContain('\r\n\r\nyour page');
    for (const contact of [
      null,
      '',
      'http://umberley.org/contact',
      'a@b.org, c@d.org',
      'a@b.org;c@d.org',
      'a@b.org%2Cc@d.org',
    ])
      expect(mailAddress(contact, letter)).toBeNull();
  });

  it('adds no header and no recipient, whatever a page says', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), fc.string(), fc.webUrl(), (pageTitle, anchor, deadUrl) => {
        const letter = letterFor({ ...facts, pageTitle, anchor, deadUrl });
        expect(letter.subject).not.toMatch(/[\r\n]/);
        const address = mailAddress('a@b.org', letter);
        expect(address?.split('?')).toHaveLength(2);
        expect(address?.split('&')).toHaveLength(2);
      }),
    );
  });
});
