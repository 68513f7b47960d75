import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { previewList, sniffDelimiter } from './list-columns';
import { LIST_FIELDS } from './list-fields';
import { readListRow } from './list-row';

describe('previewList', () => {
  it('recognises a drop list with a header', () => {
    const preview = previewList('Domain;Drop Date;Status\npellgatehives.org;2026-11-27;pending delete\n');
    expect(preview).toMatchObject({
      format: 'table',
      readings: [{ domain: 'pellgatehives.org', phase: 'pending-delete', dropAt: Date.UTC(2026, 10, 27) }],
      delimiter: ';',
      hasHeader: true,
      columns: ['domain', 'drop-date', 'phase'],
      header: ['Domain', 'Drop Date', 'Status'],
      rows: [['pellgatehives.org', '2026-11-27', 'pending delete']],
    });
  });
  it('recognises plain text without a header', () => {
    expect(previewList('pellgatehives.org\nossenmere.com\n')).toMatchObject({
      hasHeader: false,
      columns: ['domain'],
      rows: [['pellgatehives.org'], ['ossenmere.com']],
    });
  });
  it('finds the domain column by its values where the header does not say', () => {
    expect(previewList('x\ty\n12\tpellgate.org\n13\tmirrowby.org\n').columns).toEqual(['ignore', 'domain']);
  });
  it('takes the first of two columns with the same meaning', () => {
    expect(previewList('domain,bids,bids\na.org,1,2\n').columns).toEqual(['domain', 'bids', 'ignore']);
  });
  it('lets the person correct it', () => {
    const given = { delimiter: ',', hasHeader: false, columns: ['ignore' as const, 'domain' as const] };
    expect(previewList('a.org,b.org\n', given)).toMatchObject(given);
  });
  it('has nothing to show for an empty file', () => {
    expect(previewList('')).toMatchObject({ rows: [], columns: [], hasHeader: false });
  });
  it('recognises JSON Lines by their first object, and shows how rows will be read', () => {
    const text = '{"domain":"pellgate.org","ask":"1.2k","note":"x"}\n{"domain":"nowhere"}\n{"domain":"cut';
    expect(previewList(text)).toMatchObject({
      format: 'json-lines',
      keys: ['domain', 'ask', 'note'],
      columns: ['domain', 'price', 'ignore'],
      rows: [
        ['pellgate.org', '1.2k', 'x'],
        ['nowhere', '', ''],
      ],
      readings: [{ domain: 'pellgate.org', priceMinor: 120_000 }, '"nowhere" is no registrable domain'],
    });
  });
  it('is not misled by commas inside quoted text', () => {
    expect(sniffDelimiter('a.org\t"x,y,z"\nb.org\t"p,q,r"\n')).toBe('\t');
  });
});

describe('readListRow', () => {
  it('reads every field', () => {
    const columns = LIST_FIELDS.filter((field) => field !== 'ignore');
    const row = readListRow(
      // biome-ignore format: one value a column, in the order of LIST_FIELDS
      ['http://www.pellgatehives.org/x', '', 'Pending Delete', '2026-11-27', '2026-11-25 18:00', '$1,250', 'EUR', '3', 'Expired auction', 'Saltmarch', 'Reserve not met', 'http://saltmarchexchange.com/lots/1', '2004-05-06', '2026-05-06', '2009', 'Coombe Names', '1.2k', '88', '1,100', '41', '7.5', '0.85 USD', '34/100', 'en', 'GB'],
      columns,
    );
    expect(row).toEqual({
      domain: 'pellgatehives.org',
      ending: 'org',
      phase: 'pending-delete',
      dropAt: Date.UTC(2026, 10, 27),
      closingAt: Date.UTC(2026, 10, 25, 18),
      priceMinor: 125000,
      currency: 'USD',
      bids: 3,
      kind: 'expired-auction',
      venue: 'Saltmarch',
      reserve: 'unmet',
      url: 'http://saltmarchexchange.com/lots/1',
      registeredAt: Date.UTC(2004, 4, 6),
      expiresAt: Date.UTC(2026, 4, 6),
      firstSeenAt: Date.UTC(2009, 0, 1),
      registrar: 'Coombe Names',
      backlinks: 1200,
      referringDomains: 88,
      traffic: 1100,
      keywords: 41,
      position: 7.5,
      cpcMinor: 85,
      cpcCurrency: 'USD',
      scores: [{ name: '', value: 34, of: null }],
      language: 'en',
      country: 'GB',
    });
  });
  it.each([
    ['met', 'met'],
    ['Reserve reached', 'met'],
    ['not met', 'unmet'],
    ['yes', 'unmet'],
    ['No reserve', 'none'],
    ['none', 'none'],
    ['?', null],
  ])('reads the reserve "%s" as %s', (text, reserve) => {
    expect(readListRow(['a.org', text], ['domain', 'reserve'])).toMatchObject({ reserve });
  });
  it('gives a reason for a row that makes no sense', () => {
    expect(readListRow(['', 'x'], ['domain', 'ignore'])).toBe('the domain column is empty');
    expect(readListRow(['no domain here'], ['domain'])).toContain('is no registrable domain');
    expect(readListRow(['b\ufffdcher.de'], ['domain'])).toContain('character set');
  });
  it('keeps the domain when a value beside it is rubbish', () => {
    const row = readListRow(['pellgate.org', 'soon', 'many'], ['domain', 'drop-date', 'bids']);
    expect(row).toMatchObject({ domain: 'pellgate.org', dropAt: null, bids: null });
  });
  it('never throws', () => {
    const field = fc.constantFrom(...LIST_FIELDS);
    fc.assert(
      fc.property(fc.array(fc.string()), fc.array(field), (fields, columns) => {
        const row = readListRow(fields, columns);
        expect(typeof row === 'string' || row.domain.length > 0).toBe(true);
      }),
    );
  });
});
