import { deflateRawSync } from 'node:zlib';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { nameFacts, plainDomain, registrableDomain } from '../names/domain';
import { CsvByteReader } from './csv-bytes';
import { LIST_PHASES, type ListBatch, ListBatchBuilder } from './list-batch';
import { fieldsOf } from './list-bytes';
import { LISTING_KINDS } from './list-fields';
import { NOTHING_SAID, readListRow } from './list-row';
import { packRow, packRows, packTable, unpackRows } from './raw-rows';

const EMPTY = NOTHING_SAID;
const label = fc.stringMatching(/^[a-z][a-z0-9-]{0,20}[a-z0-9]$/).filter((text) => !text.startsWith('xn--'));
const row = fc.record({
  name: label,
  ending: fc.constantFrom('org', 'co.uk', 'de'),
  phase: fc.constantFrom(null, ...LIST_PHASES),
  kind: fc.constantFrom(null, ...LISTING_KINDS),
  venue: fc.constantFrom(null, 'Saltmarch Exchange', 'Thornabeck Rooms'),
  currency: fc.constantFrom(null, 'EUR', 'GBP'),
  priceMinor: fc.option(fc.nat(1e9)),
  closingAt: fc.option(fc.nat()),
  dropAt: fc.option(fc.nat()),
  registeredAt: fc.option(fc.nat()),
  bids: fc.option(fc.nat(500)),
});

function nameIn(batch: ListBatch, r: number): string {
  return Buffer.from(batch.nameBytes.subarray(r === 0 ? 0 : batch.nameEnd[r - 1], batch.nameEnd[r])).toString('latin1');
}
const known = (value: number) => (Number.isNaN(value) ? null : value);
const word = (batch: ListBatch, code: number) => (code === 0 ? null : batch.words[code - 1]);

describe('a batch of a list', () => {
  it('holds every row whole, whatever their order', () => {
    fc.assert(
      fc.property(fc.array(row, { minLength: 1, maxLength: 60 }), (rows) => {
        const builder = new ListBatchBuilder(Math.max(1, rows.length));
        for (const [index, { name, ...rest }] of rows.entries())
          builder.add({ ...EMPTY, ...rest, domain: `${name}.${rest.ending}` }, index + 1);
        const [batch] = builder.take(1 << 20);
        expect(batch.count).toBe(rows.length);
        expect([...batch.line].sort((a, b) => a - b)).toEqual(rows.map((_, index) => index + 1));
        for (let r = 0; r < batch.count; r++) {
          const given = rows[batch.line[r] - 1];
          const domain = `${given.name}.${given.ending}`;
          const facts = nameFacts({ name: domain, ending: given.ending });
          expect([nameIn(batch, r), word(batch, batch.ending[r])]).toEqual([domain, given.ending]);
          expect([batch.length[r], batch.hyphens[r], batch.digits[r]]).toEqual([
            facts.length,
            facts.hyphens,
            facts.digits,
          ]);
          expect(batch.phase[r] === 0 ? null : LIST_PHASES[batch.phase[r] - 1]).toBe(given.phase);
          expect([word(batch, batch.venue[r]), word(batch, batch.currency[r])]).toEqual([given.venue, given.currency]);
          expect(
            [batch.priceMinor[r], batch.closingAt[r], batch.dropAt[r], batch.registeredAt[r], batch.bids[r]].map(known),
          ).toEqual([given.priceMinor, given.closingAt, given.dropAt, given.registeredAt, given.bids]);
          if (given.kind) expect(LISTING_KINDS[batch.listing[r] - 1]).toBe(given.kind);
          else expect(batch.listing[r] === 0).toBe(given.priceMinor === null && given.closingAt === null);
        }
      }),
    );
  });

  it('keeps rows with one name in the order of the file, and is nearly in the order of names', () => {
    const builder = new ListBatchBuilder(3000);
    const names = Array.from({ length: 1000 }, (_, i) => `vale${(i * 7919) % 1000}hive.org`);
    for (const [i, domain] of [...names, ...names, ...names].entries())
      builder.add({ ...EMPTY, domain, ending: 'org' }, i + 1);
    const [batch] = builder.take(1 << 20);
    const lines = new Map<string, number>();
    let backwards = 0;
    for (let r = 0; r < batch.count; r++) {
      const name = nameIn(batch, r);
      expect(batch.line[r]).toBeGreaterThan(lines.get(name) ?? 0);
      lines.set(name, batch.line[r]);
      if (r > 0 && name < nameIn(batch, r - 1)) backwards++;
    }
    expect(backwards).toBeLessThan(batch.count / 3);
  });

  it('hands its rows out in parts that make the whole, and begins anew', () => {
    const builder = new ListBatchBuilder(3000);
    for (const round of [1, 2]) {
      const names = Array.from({ length: 2500 }, (_, i) => `vale${round * ((i * 7919) % 2500)}hive.org`);
      for (const [i, domain] of names.entries())
        builder.add({ ...EMPTY, domain, ending: 'org', venue: `v${round}` }, i + 1);
      const parts = builder.take(1000);
      expect(parts.map(({ count }) => count)).toEqual([1000, 1000, 500]);
      const found = parts.flatMap((part) =>
        Array.from({ length: part.count }, (_, r) => [part.line[r], nameIn(part, r), word(part, part.venue[r])]),
      );
      expect(found.sort(([a], [b]) => Number(a) - Number(b))).toEqual(
        names.map((name, i) => [i + 1, name, `v${round}`]),
      );
    }
    expect(builder.take(1000)).toEqual([]);
  });

  it('asks to be ended when its places or its words are used up', () => {
    const builder = new ListBatchBuilder(2);
    builder.add({ ...EMPTY, domain: 'a.org', ending: 'org' }, 1);
    expect(builder.isFull).toBe(false);
    builder.add({ ...EMPTY, domain: 'b.org', ending: 'org' }, 2);
    expect(builder.isFull).toBe(true);
  });
});

describe('rows as they stood', () => {
  it('are found again by their line, whatever they hold', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(fc.string({ unit: 'binary' }), { minLength: 1, maxLength: 5 }), { minLength: 1 }),
        (rows) => {
          const packed = rows.map((fields, index) => packRow(index * 3 + 1, fields)).join('');
          const found = unpackRows(packRows(packed), 1, ',');
          rows.forEach((fields, index) => {
            expect(found.get(index * 3 + 1)).toEqual(fields.map((field) => field.replace(/[\u001e\u001f]/g, ' ')));
          });
          expect(found.size).toBe(rows.length);
        },
      ),
    );
  });

  it('of a table are found in the piece of text they stood in, as they were read', () => {
    const piece = fc.constantFrom('a', ';', '"', '\n', '\r\n', ' ', 'bc', '""');
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 60 }), fc.nat(9), (pieces, skipped) => {
        const bytes = new TextEncoder().encode(`${pieces.join('')}\n`);
        const kept: [line: number, fields: string[], start: number, stop: number][] = [];
        const reader: CsvByteReader = new CsvByteReader(
          {
            row: () => kept.push([reader.line, fieldsOf(reader, 99), reader.rowStart, reader.rowStop]),
            problem: () => undefined,
          },
          { delimiter: ';', headRows: 0, width: 99 },
        );
        reader.write(bytes);
        reader.end();
        const block = kept.filter(([, , start]) => start >= kept[Math.min(skipped, kept.length - 1)][2]);
        // a row at the very end was read from what was left over
        const whole = block.filter(([, , start, stop], index) => stop > start && (index === 0 || start >= block[0][2]));
        if (whole.length === 0 || reader.bytes.length !== bytes.length) return;
        const packed = packTable(bytes.subarray(whole[0][2], whole.at(-1)?.[3]));
        const found = unpackRows(packed, whole[0][0], ';');
        for (const [line, fields] of whole) expect(found.get(line)).toEqual(fields);
      }),
      { numRuns: 400 },
    );
  });

  it('are read from blocks of before, which were deflated', () => {
    for (const text of ['\u001da.org,1\n', `\u001d${'pellgate.org,2\n'.repeat(400)}`, packRow(1, ['a.org', '1'])])
      for (const level of [0, 1, 9])
        expect(unpackRows(deflateRawSync(text, { level }), 1, ',').get(1)?.[0]).toMatch(/^(a|pellgate)\.org$/);
    expect(() => unpackRows(Uint8Array.of(0xff, 1, 2), 1, ',')).toThrow();
  });

  it('say what the row said', () => {
    const packed = packTable(new TextEncoder().encode('a.org;1\npellgate.org;"$1,250";2026-11-27\n'));
    const kept = unpackRows(packed, 6, ';').get(7) ?? [];
    expect(readListRow(kept, ['domain', 'price', 'closing'])).toMatchObject({ priceMinor: 125_000, currency: 'USD' });
  });
});

describe('plainDomain', () => {
  it('never says anything else than registrableDomain', () => {
    const ending = fc.constantFrom('org', 'com', 'ck', 'uk', 'co.uk', 'de', 'example', 'kawasaki.jp', 'x', '');
    const text = fc.oneof(
      fc.tuple(fc.stringMatching(/^[a-z0-9-]{0,12}$/), ending).map(([name, end]) => `${name}.${end}`),
      fc.stringMatching(/^[a-zA-Z0-9.\-/: ]{0,20}$/),
    );
    fc.assert(
      fc.property(text, (given) => {
        const plain = plainDomain(given);
        if (plain) expect(plain).toEqual(registrableDomain(given));
      }),
      { numRuns: 2000 },
    );
    expect(plainDomain('pellgate.org')).toEqual({ name: 'pellgate.org', ending: 'org' });
    // found by the property once in some thousand runs
    expect(plainDomain('ac.uk')).toBeNull();
  });
});
