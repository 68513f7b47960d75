import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ParkingServers, type ZoneChange, ZonePair } from './zone-pair';
import { ZoneReader } from './zone-reader';

function read(text: string, origin = '', chunkBytes = 1 << 20) {
  const delegations: [string, string][] = [];
  const problems: [number, string][] = [];
  let others = 0;
  const name = (bytes: Uint8Array, length: number) => String.fromCharCode(...bytes.subarray(0, length));
  const reader = new ZoneReader(
    {
      delegation: (owner, ownerLength, target, targetLength) =>
        delegations.push([name(owner, ownerLength), name(target, targetLength)]),
      other: () => {
        others++;
      },
      problem: ({ line, reason }) => problems.push([line, reason]),
    },
    origin,
  );
  const bytes = Buffer.from(text, 'latin1');
  for (let at = 0; at < bytes.length; at += chunkBytes) reader.write(bytes.subarray(at, at + chunkBytes));
  reader.end();
  return { delegations, problems, others };
}

const ZONE = `$TTL 1d
$ORIGIN org.
@ IN SOA a.nic.org. hostmaster.nic.org. ( ; the start of authority
    2026112401 ; serial
    1h 15m 2w
    1d )
  IN NS a.nic.org.
Pellgate 86400 IN NS ns1.Vale
         IN 1d NS ns2.vale.org.
MIRROWBY.org. ns ns1.parkedvale.com. ; with words ; and more
mirrowby IN A 127.0.0.1
mirrowby TXT "a ; quoted ( text"
$ORIGIN uk
cradlewick.co NS ns.vale
`;

describe('reading a zone', () => {
  it('knows owners left out, relative names, TTL and class in either order, comments, quotes and parentheses', () => {
    expect(read(ZONE)).toEqual({
      delegations: [
        ['org', 'a.nic.org'],
        ['pellgate.org', 'ns1.vale.org'],
        ['pellgate.org', 'ns2.vale.org'],
        ['mirrowby.org', 'ns1.parkedvale.com'],
        ['cradlewick.co.uk.org', 'ns.vale.uk.org'],
      ],
      problems: [],
      others: 3,
    });
    expect(read('pellgate NS ns', 'org').delegations).toEqual([['pellgate.org', 'ns.org']]);
  });

  it('reads the same wherever the chunks end', () => {
    const whole = read(ZONE);
    for (let bytes = 1; bytes < 40; bytes++) expect(read(ZONE, '', bytes)).toEqual(whole);
  });

  const broken: [text: string, reason: string, rest: number][] = [
    ['a IN NS\nb NS ns.\n', 'the record has no type or no data', 1],
    ['a\\.b NS ns.\nb NS ns.\n', 'the record belongs to no name that can be read', 1],
    ['$INCLUDE other.zone\nb NS ns.\n', '$INCLUDE is not read', 1],
    ['$GENERATE 1-9 a$ NS ns.\nb NS ns.\n', '$GENERATE is not read', 1],
    ['a NS n\\115.\nb NS ns.\n', 'the name server is no name', 1],
    ['a NS ( ns.\nb NS ns.\n', 'a parenthesis or quote is opened and never closed', 1],
    [' NS ns.\nb NS ns.\n', 'the record belongs to no name that can be read', 1],
  ];
  it.each(broken)('%j costs one entry', (text, reason, rest) => {
    const { problems, delegations } = read(text);
    expect(problems).toEqual([[1, reason]]);
    expect(delegations).toHaveLength(rest);
  });

  it('ends an entry that is longer than any record, and goes on', () => {
    const { problems, delegations } = read(
      `a NS ( ${'x'.repeat(70_000)}\n${'y '.repeat(40_000)}\nb NS ns.\n`,
      '',
      5000,
    );
    expect(problems.length).toBeGreaterThan(0);
    expect(delegations.at(-1)).toEqual(['b', 'ns']);
  });

  it('tells of every entry of a damaged file', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(ZONE.length - 1), fc.nat(255)), { maxLength: 12 }),
        fc.integer({ min: 1, max: 99 }),
        (hits, bytes) => {
          const text = Buffer.from(ZONE, 'latin1');
          for (const [at, value] of hits) text[at] = value;
          const whole = read(text.toString('latin1'));
          expect(read(text.toString('latin1'), '', bytes)).toEqual(whole);
        },
      ),
    );
  });
});

function compare(
  older: Record<string, string[]>,
  newer: Record<string, string[]>,
  parking: string[] = [],
): Record<string, ZoneChange> {
  const pair = new ZonePair();
  const servers = new ParkingServers(parking);
  const changes: Record<string, ZoneChange> = {};
  const bytes = (text: string) => Buffer.from(text, 'latin1');
  for (const [name, list] of Object.entries(newer))
    for (const server of list) pair.addNewer(bytes(name), name.length, servers.has(bytes(server), server.length));
  for (const [name, list] of Object.entries(older))
    for (const server of list) {
      const change = pair.askOlder(bytes(name), name.length, servers.has(bytes(server), server.length));
      if (!change) continue;
      expect(changes[name]).toBeUndefined();
      changes[name] = change;
    }
  return changes;
}

describe('two copies of a zone', () => {
  it('tells what is gone and what moved to parking servers, each once', () => {
    const older = {
      'a.org': ['ns1.x', 'ns2.x'],
      'b.org': ['ns1.x', 'ns2.x'],
      'c.org': ['ns1.park.com'],
      'd.org': ['ns1.x'],
    };
    const newer = {
      'b.org': ['ns1.park.com', 'ns2.park.com'],
      'c.org': ['ns1.park.com'],
      'd.org': ['ns1.park.com', 'ns.x'],
      'e.org': ['ns1.x'],
    };
    expect(compare(older, newer, ['park.com'])).toEqual({ 'a.org': 'gone', 'b.org': 'parked' });
    expect(compare(older, newer)).toEqual({ 'a.org': 'gone' });
  });

  it('does not take a server for parking because its name ends alike', () => {
    expect(compare({ 'a.org': ['ns.x'] }, { 'a.org': ['ns.notpark.com'] }, ['park.com', '.PARK.com.'])).toEqual({});
    expect(compare({ 'a.org': ['ns.x'] }, { 'a.org': ['park.com'] }, ['.PARK.com.'])).toEqual({ 'a.org': 'parked' });
  });

  it('equals the comparison of sets, also when it has grown', () => {
    const names = fc.uniqueArray(fc.stringMatching(/^[a-z]{1,6}\.org$/), { maxLength: 80 });
    fc.assert(
      fc.property(names, names, (older, newer) => {
        const zone = (list: string[]) => Object.fromEntries(list.map((name) => [name, ['ns.x', 'ns2.x']]));
        const gone = older.filter((name) => !newer.includes(name));
        expect(Object.keys(compare(zone(older), zone(newer))).sort()).toEqual(gone.sort());
      }),
    );
    const many = (from: number, to: number) =>
      Object.fromEntries(Array.from({ length: to - from }, (_, i) => [`name${from + i}.org`, ['ns.x']]));
    expect(Object.keys(compare(many(0, 150_000), many(1000, 200_000)))).toHaveLength(1000);
  });
});
