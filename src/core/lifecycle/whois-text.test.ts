import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { RegistrationRecord } from './phase';
import { joinRecords, readWhois } from './whois-text';

const BEGUN = Date.UTC(2004, 4, 6);
const ENDS = Date.UTC(2027, 4, 6);
const SERVERS = ['ns1.coombehosting.net', 'ns2.coombehosting.net'];

/** The same registration as ten registries write it. Of each: the shape's name, the domain, the answer, and what it leaves out. */
const SHAPES: [shape: string, name: string, text: string, without?: (keyof RegistrationRecord)[]][] = [
  [
    'labels and values, capitals, statuses with addresses',
    'pellgatehives.com',
    `   Domain Name: PELLGATEHIVES.COM\r\n   Registrar: Coombe Names\r\n   Updated Date: 2026-05-07T10:00:00Z\r\n   Creation Date: 2004-05-06T00:00:00Z\r\n   Registry Expiry Date: 2027-05-06T00:00:00Z\r\n   Domain Status: pendingDelete https://epp.coomberegistry.net/epp#pendingDelete\r\n   Domain Status: redemptionPeriod (https://epp.coomberegistry.net/epp#redemptionPeriod)\r\n   Name Server: NS1.COOMBEHOSTING.NET\r\n   Name Server: NS2.COOMBEHOSTING.NET.\r\n>>> Last update of whois database: 2026-11-20T08:00:00Z <<<\r\nThis service is free of charge. Excessive querying is not allowed.\r\n`,
  ],
  [
    'blocks below their labels',
    'pellgatehives.co.uk',
    `\n    Domain name:\n        pellgatehives.co.uk\n\n    Registrar:\n        Coombe Names [Tag = COOMBE]\n        URL: http://coombenames.co.uk\n\n    Relevant dates:\n        Registered on: 06-May-2004\n        Expiry date:  06-May-2027\n        Last updated:  07-May-2026\n\n    Registration status:\n        pending delete, redemption period\n\n    Name servers:\n        ns1.coombehosting.net  127.0.0.1\n        ns2.coombehosting.net\n`,
  ],
  [
    'labels in brackets',
    'pellgatehives.jp',
    `[ Merrow registry database ]\n[Domain Name]                   PELLGATEHIVES.JP\n[Registrar]                     Coombe Names\n[Name Server]                   ns1.coombehosting.net\n[Name Server]                   ns2.coombehosting.net\n[Created on]                    2004/05/06\n[Expires on]                    2027/05/06\n[Status]                        pendingDelete\n[Status]                        redemptionPeriod\n[Last Updated]                  2026/05/07 19:00:00 (JST)\n`,
  ],
  [
    'comments and short labels',
    'pellgatehives.ru',
    `% Merrow registry\n% Access to this service is free of charge.\n\ndomain:        PELLGATEHIVES.RU\nnserver:       ns1.coombehosting.net.\nnserver:       ns2.coombehosting.net.\nstate:         pendingDelete, redemptionPeriod\nregistrar:     Coombe Names\ncreated:       2004-05-06T00:00:00Z\npaid-till:     2027-05-06T00:00:00Z\nfree-date:     2027-06-06\nlast-updated:  2026-05-07\n`,
  ],
  [
    'dots between label and value, day first',
    'pellgatehives.fi',
    `domain.............: pellgatehives.fi\nstatus.............: pendingDelete, redemptionPeriod\ncreated............: 6.5.2004 00:00:00\nexpires............: 6.5.2027 00:00:00\nmodified...........: 7.5.2026\n\nNameservers\n\nnserver............: ns1.coombehosting.net [OK]\nnserver............: ns2.coombehosting.net [OK]\n\nregistrar..........: Coombe Names\n`,
  ],
  [
    'another language, accents, slashes with the day first',
    'pellgatehives.fr',
    `%% Registre de la vallée\nNom de domaine:      pellgatehives.fr\nStatut:              pendingDelete, redemptionPeriod\nBureau d'enregistrement: Coombe Names\nCréé le:             06/05/2004\nExpire le:           06/05/2027\nDernière modification: 07/05/2026\nServeurs de noms:    ns1.coombehosting.net\nServeurs de noms:    ns2.coombehosting.net\n`,
  ],
  [
    'columns without marks, compact dates',
    'pellgatehives.pt',
    `domain name     pellgatehives.pt\nregistrar       Coombe Names\ncreation date   20040506\nexpiration date 20270506\n`.replaceAll(
      /^(\S+ \S+|\S+)\s+/gm,
      '$1\t\t',
    ) +
      `status\t\tpendingDelete, redemptionPeriod\nname server\t\tns1.coombehosting.net\nname server\t\tns2.coombehosting.net\n`,
    ['changedAt'],
  ],
  [
    'months by name in another language',
    'pellgatehives.es',
    `Dominio: pellgatehives.es\nEstado: pendingDelete, redemptionPeriod\nFecha de creación: 6 de mayo de 2004\nFecha de expiración: 6 de mayo de 2027\nÚltima actualización: 7 de mayo de 2026\nAgente registrador: Coombe Names\nServidores DNS:\n    ns1.coombehosting.net\n    ns2.coombehosting.net\n`,
  ],
  [
    'months before days, weekdays and zones',
    'pellgatehives.biz',
    `Domain Name:                 PELLGATEHIVES.BIZ\nSponsoring Registrar:        Coombe Names\nDomain Status:               pendingDelete\nDomain Status:               redemptionPeriod\nName Server:                 NS1.COOMBEHOSTING.NET\nName Server:                 NS2.COOMBEHOSTING.NET\nDomain Registration Date:    May 6, 2004\nCreated On:                  06-May-2004 00:00:00 UTC\nDomain Expiration Date:      May 6, 2027\nDomain Last Updated Date:    May 7, 2026\n`,
  ],
  [
    'spaced dates, a letter before each label',
    'pellgatehives.kr',
    `a. [Domain Name]                PELLGATEHIVES.KR\nb. [Registrar]                  Coombe Names\nc. [Registered Date]            2004. 05. 06.\nd. [Expiration Date]            2027. 05. 06.\ne. [Last Updated]               2026. 05. 07.\nf. [Status]                     pendingDelete, redemptionPeriod\np. [Name Server]                ns1.coombehosting.net\np. [Name Server]                ns2.coombehosting.net\n`,
  ],
];

describe('readWhois', () => {
  it.each(SHAPES)('reads %s', (_, name, text, without = []) => {
    const { outcome, record } = readWhois(text, name);
    expect(outcome).toBe('found');
    expect(record?.registrar).toBe('Coombe Names');
    expect([record?.registeredAt, record?.expiresAt]).toEqual([BEGUN, ENDS]);
    if (!without.includes('changedAt'))
      expect(new Date(record?.changedAt ?? 0).toISOString().slice(0, 10)).toBe('2026-05-07');
    expect(record?.statuses.map((status) => status.replace(/\s/g, '').toLowerCase())).toEqual([
      'pendingdelete',
      'redemptionperiod',
    ]);
    expect(record?.nameServers).toEqual(SERVERS);
  });

  it.each([
    'No match for "PELLGATE.DE".\r\n>>> Last update of WHOIS database <<<\r\nNOTICE: queries are subject to rate limits; excessive querying is not allowed.',
    '% comment\n%% No entries found for the selected source.\n',
    'Domain: pellgate.de\nStatus: AVAILABLE\n',
    'Domain: pellgate.de\nStatus: free\n',
    'NOT FOUND\n',
    'The queried object does not exist: pellgate.de\n',
    'Domain not found.\n',
    '% nothing found\n',
    '"pellgate.de" is free\n',
    'pellgate.de is available for registration\n',
    'No Data Found\n',
    'No information available about domain name pellgate.de in the registry database.\n',
    'Kein Eintrag gefunden\n',
    'Aucun résultat\n',
    'El dominio no existe\n',
    'Nie znaleziono\n',
    'pellgate.de: no match\n',
    'Domain unknown\n',
    'No Object Found\n',
    'Domain Status: No Object Found\n',
  ])('takes %j for no record', (text) => expect(readWhois(text, 'pellgate.de').outcome).toBe('not-found'));

  it.each([
    'Query rate limit exceeded. Try again later.\n',
    'ERROR: too many requests from your address\n',
    '% No entries found.\n% Your access is blocked: daily quota exceeded\n',
    'Domain: pellgate.de\nStatus: unknown\nYour query limit has been reached. Please try again in 10 minutes.\n',
    'Domain Name: pellgate.de\nRegistrar: Coombe Names\nAnfragelimit erreicht\n',
    'You have exceeded your allowed number of requests\n',
    'access to whois is temporarily unavailable\n',
    'WHOIS LIMIT EXCEEDED - SEE TERMS\n',
    'Trop de requêtes\n',
    '%% Connection refused: access denied\n',
    'Your IP 127.0.0.1 has been blacklisted.\n',
  ])('takes %j for a refusal, not for a free name', (text) =>
    expect(readWhois(text, 'pellgate.de').outcome).toBe('refused'),
  );

  it.each([
    '% This service is free for everybody, and is available for research.\nUnknown words.\n',
    'hello',
    '',
    'Domain: other.de\nStatus: active\nCreated: 2004-05-06\n',
    '<html><body>404 not here</body></html>',
  ])('does not guess from %j', (text) => expect(readWhois(text, 'pellgate.de').outcome).toBe('failed'));

  it('follows a referral, and tells the second step of a thin registry', () => {
    expect(readWhois('domain: DE\nrefer: whois.coombe.example\n')).toMatchObject({ referral: 'whois.coombe.example' });
    const thin = readWhois(
      'Domain Name: PELLGATE.COM\nRegistrar: Coombe Names\nRegistrar WHOIS Server: whois.coombenames.net\nStatus: ok\n',
    );
    expect(thin).toMatchObject({ outcome: 'found', referral: 'whois.coombenames.net', record: { expiresAt: null } });
  });

  it('believes the registry where both speak, and the registrar where it is silent', () => {
    const registry = {
      statuses: ['ok'],
      registeredAt: 1,
      expiresAt: null,
      changedAt: null,
      registrar: null,
      nameServers: [],
    };
    const registrar = {
      statuses: ['x'],
      registeredAt: 2,
      expiresAt: 3,
      changedAt: 4,
      registrar: 'Tarn',
      nameServers: ['a.b'],
    };
    expect(joinRecords(registry, registrar)).toEqual({ ...registrar, statuses: ['ok'], registeredAt: 1 });
  });

  it('takes the day first where one of the dates shows it', () => {
    const read = (created: string, expires: string) =>
      readWhois(`Domain: a.xx\nCreated: ${created}\nExpires: ${expires}\n`).record;
    expect(read('03/04/2004', '25/04/2027')).toMatchObject({ registeredAt: Date.UTC(2004, 3, 3) });
    expect(read('03/04/2004', '04/25/2027')).toMatchObject({ registeredAt: Date.UTC(2004, 2, 4) });
  });

  it('never throws, and never calls free what carries a date', () => {
    const piece = fc.constantFrom(
      'Domain: a.de',
      'Status: free',
      'Created: 2004-05-06',
      'no match',
      '',
      '  x',
      '% is free',
      '[Status] x',
    );
    fc.assert(
      fc.property(fc.array(fc.oneof(piece, fc.string({ unit: 'binary' }))), (lines) => {
        const { outcome, record } = readWhois(lines.join('\n'), 'a.de');
        if (lines.includes('Created: 2004-05-06') && outcome === 'found') expect(record).not.toBeNull();
        expect(['found', 'not-found', 'refused', 'failed']).toContain(outcome);
        if (outcome === 'not-found')
          expect(lines.some((line) => /no match|free/i.test(line)) || lines.length > 0).toBe(true);
      }),
    );
  });
});
