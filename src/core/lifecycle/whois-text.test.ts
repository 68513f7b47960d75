import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readWhois } from './whois-text';

describe('readWhois', () => {
  it('reads labelled lines', () => {
    const answer = readWhois(
      `Domain Name: PELLGATEHIVES.DE\r\nRegistrar: Coombe Names\r\nCreation Date: 2004-05-06T10:00:00Z\r\n` +
        `Registry Expiry Date: 2027-05-06T10:00:00Z\r\nDomain Status: pendingDelete https://icann.example/epp#pendingDelete\r\n` +
        `Name Server: NS1.COOMBE.EXAMPLE\r\nName Server: ns2.coombe.example.\r\n>>> Last update <<<\r\n`,
    );
    expect(answer).toEqual({
      outcome: 'found',
      referral: null,
      record: {
        statuses: ['pendingDelete'],
        registeredAt: Date.UTC(2004, 4, 6, 10),
        expiresAt: Date.UTC(2027, 4, 6, 10),
        changedAt: null,
        registrar: 'Coombe Names',
        nameServers: ['ns1.coombe.example', 'ns2.coombe.example'],
      },
    });
  });
  it('reads indented blocks', () => {
    const answer = readWhois(
      `\n    Domain name:\n        pellgatehives.me\n\n    Registrar:\n        Coombe Names\n\n    Registered on: 06-May-2004\n    Expiry date:  06-May-2027\n\n    Name servers:\n        ns1.coombe.example  127.0.0.1\n        ns2.coombe.example\n`,
    );
    expect(answer.record).toMatchObject({
      registrar: 'Coombe Names',
      registeredAt: Date.UTC(2004, 4, 6),
      nameServers: ['ns1.coombe.example', 'ns2.coombe.example'],
    });
  });
  it('reads bracketed labels', () => {
    const answer = readWhois(
      '[Domain Name] PELLGATE.EU\n[Created on] 2004/05/06\n[Expires on] 2027/05/06\n[State] reserved\n',
    );
    expect(answer.record).toMatchObject({ statuses: ['reserved'], registeredAt: Date.UTC(2004, 4, 6) });
  });
  it.each([
    'No match for "PELLGATE.DE".\r\n',
    '% comment\n%% No entries found for the selected source.\n',
    'Domain: pellgate.eu\nStatus: AVAILABLE\n',
    'NOT FOUND\n',
  ])('takes %j for no record', (text) => expect(readWhois(text).outcome).toBe('not-found'));
  it.each(['Query rate limit exceeded. Try again later.\n', 'ERROR: too many requests from your address\n'])(
    'takes %j for a refusal, not for a free name',
    (text) => expect(readWhois(text).outcome).toBe('refused'),
  );
  it('follows a referral', () => {
    expect(readWhois('domain: DE\nrefer: whois.coombe.example\n')).toMatchObject({ referral: 'whois.coombe.example' });
  });
  it('does not guess from what it cannot read', () => {
    expect(readWhois('hello').outcome).toBe('failed');
    expect(readWhois('').outcome).toBe('failed');
  });
  it('never throws', () => {
    fc.assert(fc.property(fc.string({ unit: 'binary' }), (text) => void readWhois(text)));
  });
});
