import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readContacts, readEppAddress } from './account';
import { EppFault, readCheck, readCreation, readGreeting, readInfo, readResponse } from './answers';
import { checkCommand, createCommand, FEE, infoCommand, loginCommand } from './commands';
import { FrameReader, frameOf } from './frames';
import { along, readXml } from './xml';

const NAME = 'pellgatehives.org';
const EPP = 'xmlns="urn:ietf:params:xml:ns:epp-1.0"';
const answer = (inner: string, code = 1000) =>
  readResponse(
    `<?xml version="1.0" encoding="UTF-8"?><epp ${EPP}><response><result code="${code}"><msg>So it is</msg></result>${inner}<trID><clTRID>A-1</clTRID><svTRID>S-1</svTRID></trID></response></epp>`,
  );
const checked = (cd: string, extension = '') =>
  answer(
    `<resData><domain:chkData xmlns:domain="urn:ietf:params:xml:ns:domain-1.0">${cd}</domain:chkData></resData>${extension && `<extension>${extension}</extension>`}`,
  );
const cd = (avail: string, reason = '', name = NAME) =>
  `<domain:cd><domain:name avail="${avail}">${name}</domain:name>${reason && `<domain:reason lang="en">${reason}</domain:reason>`}</domain:cd>`;

describe('messages on the line', () => {
  it('come out as they went in, however they are cut into parts', () => {
    fc.assert(
      fc.property(
        fc.array(fc.string({ unit: 'grapheme', minLength: 1 }), { minLength: 1, maxLength: 8 }),
        fc.infiniteStream(fc.integer({ min: 1, max: 9 })),
        (messages, sizes) => {
          const line = Buffer.concat(messages.map(frameOf));
          const reader = new FrameReader();
          const read: string[] = [];
          for (let at = 0; at < line.length; ) {
            const size = sizes.next().value;
            read.push(...reader.push(line.subarray(at, at + size)));
            at += size;
          }
          expect(read).toEqual(messages);
        },
      ),
    );
  });

  it('of no length, or of one beyond all sense, are none', () => {
    const header = (length: number) => {
      const frame = Buffer.alloc(4);
      frame.writeUInt32BE(length);
      return frame;
    };
    for (const length of [0, 4, 2 ** 24]) expect(() => new FrameReader().push(header(length))).toThrow('no EPP');
    // a web server that was asked at the wrong port
    expect(() => new FrameReader().push(Buffer.from('HTTP/1.1 400 Bad Request\r\n'))).toThrow('no EPP');
  });
});

describe('a greeting', () => {
  const greeting = (menu: string) =>
    `<epp ${EPP}><greeting><svID>Registry of Coombe</svID><svDate>2026-12-01T10:00:00Z</svDate><svcMenu><version>1.0</version><lang>en</lang>${menu}</svcMenu><dcp/></greeting></epp>`;

  it('says who it is, and what can be spoken of', () => {
    const read = readGreeting(
      greeting(
        `<objURI>urn:ietf:params:xml:ns:domain-1.0</objURI><svcExtension><extURI>urn:ietf:params:xml:ns:secDNS-1.1</extURI><extURI>${FEE}</extURI></svcExtension>`,
      ),
    );
    expect(read).toEqual({
      server: 'Registry of Coombe',
      objects: ['urn:ietf:params:xml:ns:domain-1.0'],
      extensions: ['urn:ietf:params:xml:ns:secDNS-1.1', FEE],
    });
    const login = loginCommand({ login: 'coombe&co', password: 'p<q' }, read, 'A-1');
    expect(login).toContain(
      '<clID>coombe&amp;co</clID><pw>p&lt;q</pw><options><version>1.0</version><lang>en</lang></options><svcs><objURI>urn:ietf:params:xml:ns:domain-1.0</objURI><svcExtension>',
    );
    // what was not offered is not asked for
    expect(login).not.toMatch(/secDNS|host-1\.0|contact-1\.0/);
  });

  it('may come under a prefix, and nothing else is one', () => {
    const prefixed =
      '<e:epp xmlns:e="urn:ietf:params:xml:ns:epp-1.0"><e:greeting><e:svID>A</e:svID><e:svcMenu><e:objURI>x</e:objURI></e:svcMenu></e:greeting></e:epp>';
    expect(readGreeting(prefixed)).toEqual({ server: 'A', objects: ['x'], extensions: [] });
    for (const other of [
      '',
      'not xml',
      '<epp><greeting/></epp>',
      `<epp ${EPP}><hello/></epp>`,
      `<!DOCTYPE epp [<!ENTITY a "aaaa">]><epp ${EPP}><greeting/></epp>`,
      `<epp ${EPP}><greeting></epp>`,
    ])
      expect(() => readGreeting(other), other).toThrow(EppFault);
  });
});

describe('the answer to a check', () => {
  it.each([
    [cd('1'), 'available', ''],
    [cd('true'), 'available', ''],
    [cd('0', 'In use'), 'taken', 'In use'],
    [cd('false', 'Object exists'), 'taken', 'Object exists'],
    [cd('0'), 'taken', ''],
    [cd('0', 'Reserved Domain Name'), 'reserved', 'Reserved Domain Name'],
    [cd('0', 'Blocked by a block service'), 'reserved', 'Blocked by a block service'],
    [cd('0', 'Registered, restricted'), 'taken', 'Registered, restricted'],
    [cd('1', '', 'PELLGATEHIVES.ORG'), 'available', ''],
    // several were asked for by somebody who gathers questions
    [`${cd('0', 'In use', 'tarnhives.org')}${cd('1')}`, 'available', ''],
  ])('%s', (data, outcome, reason) => {
    expect(readCheck(checked(data), NAME)).toEqual({ outcome, reason, fee: null });
  });

  it('that says nothing of the name, or not whether it is available, is none', () => {
    expect(() => readCheck(checked(cd('1', '', 'tarnhives.org')), NAME)).toThrow(`nothing of ${NAME}`);
    expect(() => readCheck(checked(cd('maybe')), NAME)).toThrow('whether');
    expect(() => readCheck(answer(''), NAME)).toThrow(EppFault);
    // of hosts, not of domains
    const hosts = `<resData><host:chkData xmlns:host="urn:ietf:params:xml:ns:host-1.0"><host:cd><host:name avail="1">${NAME}</host:name></host:cd></host:chkData></resData>`;
    expect(() => readCheck(answer(hosts), NAME)).toThrow(EppFault);
  });

  const fees = (inner: string, currency = 'EUR') =>
    `<launch:chkData xmlns:launch="urn:ietf:params:xml:ns:launch-1.0"><launch:phase>claims</launch:phase></launch:chkData><fee:chkData xmlns:fee="${FEE}"><fee:currency>${currency}</fee:currency><fee:cd avail="1"><fee:objID>${NAME}</fee:objID>${inner}</fee:cd></fee:chkData>`;
  const create = (parts: string) =>
    `<fee:command name="create" standard="1"><fee:period unit="y">1</fee:period>${parts}</fee:command>`;

  it('has the fee of the first year, all its parts together, beside other extensions', () => {
    const of = (inner: string, currency?: string) => readCheck(checked(cd('1'), fees(inner, currency)), NAME);
    expect(
      of(create('<fee:fee description="Registration Fee" refundable="1" grace-period="P5D">11.50</fee:fee>')),
    ).toEqual({ outcome: 'available', reason: '', fee: { minor: 1150, currency: 'EUR' } });
    expect(of(create('<fee:fee>10.00</fee:fee><fee:fee>2.5</fee:fee><fee:credit>-1.25</fee:credit>')).fee?.minor).toBe(
      1125,
    );
    expect(of(`<fee:class>standard</fee:class>${create('<fee:fee>9</fee:fee>')}`).outcome).toBe('available');
    expect(of(`<fee:class>Premium-3</fee:class>${create('<fee:fee>1200.00</fee:fee>')}`)).toMatchObject({
      outcome: 'premium',
      fee: { minor: 120_000 },
    });
    // what cannot be read is unknown, not nothing
    expect(of(create('<fee:fee>free of charge</fee:fee>')).fee).toBeNull();
    expect(of(create('<fee:fee>9.00</fee:fee>'), 'credits').fee).toBeNull();
    expect(of(create('<fee:reason>not for you</fee:reason>')).fee).toBeNull();
  });
});

describe('the answer to an info', () => {
  const info = (inner: string, name = NAME) =>
    answer(
      `<resData><infData xmlns="urn:ietf:params:xml:ns:domain-1.0"><name>${name}</name><roid>D1-COOMBE</roid>${inner}</infData></resData>`,
    );

  it('says who has the name, until when, and how it stands', () => {
    const read = readInfo(
      info(
        '<status s="ok"/><status s="autoRenewPeriod">held</status><ns><hostObj>ns1.wexcombe.net</hostObj></ns><clID>coombe-01</clID><crID>other</crID><crDate>2019-04-03T22:00:00.0Z</crDate><exDate>2027-04-03T22:00:00+02:00</exDate>',
      ),
      NAME,
    );
    expect(read).toEqual({
      sponsor: 'coombe-01',
      statuses: ['ok', 'autoRenewPeriod'],
      createdAt: Date.UTC(2019, 3, 3, 22),
      expiresAt: Date.UTC(2027, 3, 3, 20),
    });
    expect(readInfo(info('<clID>a</clID><exDate>soon</exDate>'), NAME)).toMatchObject({
      expiresAt: null,
      statuses: [],
    });
    expect(() => readInfo(info('<clID>a</clID>', 'tarnhives.org'), NAME)).toThrow(EppFault);
    expect(() => readInfo(info(''), NAME)).toThrow(EppFault);
  });
});

describe('what came of a command', () => {
  it('is its code and its words, with the reasons; of several the one that says no', () => {
    const said = readResponse(
      `<epp ${EPP}><response><result code="2306"><msg lang="en">Parameter value policy error</msg><value><name/></value><extValue><value><a/></value><reason>authInfo is  too weak</reason></extValue></result><msgQ count="3" id="9"/><trID><clTRID>A-7</clTRID><svTRID>S</svTRID></trID></response></epp>`,
    );
    expect(said).toMatchObject({
      code: 2306,
      words: 'Parameter value policy error: authInfo is too weak',
      answers: 'A-7',
    });
    const two = `<epp ${EPP}><response><result code="1000"><msg>a</msg></result><result code="2005"><msg>b</msg></result><trID><svTRID>S</svTRID></trID></response></epp>`;
    expect(readResponse(two)).toMatchObject({ code: 2005, words: 'b', answers: null });
    for (const odd of [
      '<result/>',
      '<result code="abc"><msg>x</msg></result>',
      '<result code="404"><msg>x</msg></result>',
      '',
    ])
      expect(() => readResponse(`<epp ${EPP}><response>${odd}</response></epp>`), odd).toThrow('without a result');
  });

  it('is a name had, for what was charged', () => {
    const created = (name: string) =>
      answer(
        `<resData><domain:creData xmlns:domain="urn:ietf:params:xml:ns:domain-1.0"><domain:name>${name}</domain:name><domain:exDate>2027-12-01T00:00:00Z</domain:exDate></domain:creData></resData><extension><fee:creData xmlns:fee="${FEE}"><fee:currency>EUR</fee:currency><fee:fee>11.50</fee:fee><fee:balance>-5.00</fee:balance></fee:creData></extension>`,
      );
    expect(readCreation(created(NAME), NAME)).toEqual({
      fee: { minor: 1150, currency: 'EUR' },
      expiresAt: Date.UTC(2027, 11, 1),
    });
    expect(() => readCreation(created('tarnhives.org'), NAME)).toThrow(EppFault);
  });
});

describe('a command', () => {
  it('is well formed whatever stands in it, and says what it was given', () => {
    fc.assert(
      fc.property(
        fc.string({ unit: 'grapheme-ascii', minLength: 1 }),
        fc.string({ unit: 'grapheme-ascii', minLength: 3 }),
        (name, auth) => {
          const commands = [
            checkCommand(name, true, 'A-1'),
            infoCommand(name, 'A-1'),
            createCommand(name, { contacts: { registrant: auth }, nameServers: [name] }, auth, null, 'A-1'),
          ];
          for (const command of commands) expect(readXml(command).name).toBe('epp');
          const domain = readXml(commands[2]).children[0].children[0].children[0];
          const password = along(domain, 'urn:ietf:params:xml:ns:domain-1.0', 'authInfo', 'pw');
          expect(password?.text).toBe(auth.trim());
        },
      ),
    );
  });

  it('to register has its parts in the order of the RFC, and the fee that was agreed to', () => {
    const registrant = {
      contacts: { registrant: 'H1', admin: 'H2' },
      nameServers: ['ns1.wexcombe.net', 'ns2.wexcombe.net'],
    };
    const command = createCommand(NAME, registrant, 'Secret-1', { minor: 1150, currency: 'EUR' }, 'A-9');
    const order = ['<domain:name>', '<domain:period unit="y">1<', '<domain:ns>', '<domain:registrant>H1<', 'type="admin">H2<', '<domain:authInfo>', '</create>', '<extension>', '<fee:currency>EUR</fee:currency><fee:fee>11.50</fee:fee>', '<clTRID>A-9</clTRID></command>']; // biome-ignore format: one line
    const places = order.map((part) => command.indexOf(part));
    expect(places).not.toContain(-1);
    expect(places.toSorted((a, b) => a - b)).toEqual(places);
    expect(createCommand(NAME, { contacts: {}, nameServers: [] }, 'x', null, 'A')).not.toMatch(
      /domain:ns|registrant|contact|fee/,
    );
  });
});

describe('an account', () => {
  it('is reached at an address with a login and without a password', () => {
    expect(readEppAddress('epp://coombe-01@epp.wexcombe.net:7000')).toEqual({
      server: 'epp.wexcombe.net:7000',
      login: 'coombe-01',
    });
    expect(readEppAddress('epp://coombe%2F01@epp.wexcombe.net')).toEqual({
      server: 'epp.wexcombe.net:700',
      login: 'coombe/01',
    });
    expect(readEppAddress('epp://a@127.0.0.1:7001/')).toEqual({ server: '127.0.0.1:7001', login: 'a' });
    for (const other of [
      'http://a@b/',
      'epp://epp.wexcombe.net',
      'epp://a:secret@b',
      'epp://a@b/path',
      'epp:a@b',
      'a@b:700',
    ])
      expect(readEppAddress(other), other).toBeNull();
  });

  it('has one handle for all contacts, or each named', () => {
    expect(readContacts(' ')).toEqual({});
    expect(readContacts('CMB-1234')).toEqual({
      registrant: 'CMB-1234',
      admin: 'CMB-1234',
      tech: 'CMB-1234',
      billing: 'CMB-1234',
    });
    expect(readContacts('registrant=H11, Tech=H22')).toEqual({ registrant: 'H11', tech: 'H22' });
    for (const odd of ['H11 H22', 'owner=H11', 'tech=', 'tech=H1 tech=H2', 'x', 'tech=<a>b'])
      expect(readContacts(odd), odd).toBeNull();
  });
});
