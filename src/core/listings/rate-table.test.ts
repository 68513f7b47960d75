import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readRateTable } from './rate-table';

const DAY = Date.UTC(2026, 10, 27);

/** As the central bank of the euro writes its reference rates. */
const REFERENCE = `<?xml version="1.0" encoding="UTF-8"?>
<gesmes:Envelope xmlns:gesmes="http://www.gesmes.org/xml/2002-08-01" xmlns="http://www.ecb.int/vocabulary/2002-08-01/eurofxref">
 <gesmes:subject>Reference rates</gesmes:subject>
 <Cube>
  <Cube time='2026-11-27'>
   <Cube currency='USD' rate='1.25'/>
   <Cube currency='GBP' rate='0.8'/>
   <Cube currency='JPY' rate='160'/>
  </Cube>
  <Cube time='2026-11-26'>
   <Cube currency='USD' rate='1.30'/>
   <Cube currency='ZAR' rate='20'/>
  </Cube>
 </Cube>
</gesmes:Envelope>`;

const SERIES = `<?xml version="1.0"?><message:GenericData xmlns:message="x"><message:DataSet>
 <Series FREQ="D" CURRENCY="USD" CURRENCY_DENOM="EUR"><Obs TIME_PERIOD="2026-11-26" OBS_VALUE="1.3"/><Obs TIME_PERIOD="2026-11-27" OBS_VALUE="1.25"/></Series>
 <Series FREQ="D" CURRENCY="GBP" CURRENCY_DENOM="EUR"><Obs TIME_PERIOD="2026-11-27" OBS_VALUE="0.8"/></Series>
</message:DataSet></message:GenericData>`;

describe('tables of rates', () => {
  it('are read from the XML of central banks, of the latest day', () => {
    expect(readRateTable(REFERENCE, 'EUR')).toEqual({
      worth: { USD: 0.8, GBP: 1.25, JPY: 0.00625 },
      at: DAY,
      base: 'EUR',
      aside: [],
      problem: null,
    });
    expect(readRateTable(SERIES, 'EUR')).toMatchObject({ worth: { USD: 0.8, GBP: 1.25 }, at: DAY, base: 'EUR' });
  });

  it('are counted over to another currency', () => {
    const { worth } = readRateTable(REFERENCE, 'GBP');
    expect(worth.EUR).toBe(0.8);
    expect(worth.USD).toBeCloseTo(0.64, 12);
    expect(worth.GBP).toBeUndefined();
    expect(readRateTable(REFERENCE, 'SEK').problem).toBe('It has no rate of SEK, so nothing can be counted in it.');
  });

  it('are read from a line a day with a column a currency', () => {
    const wide = 'Date, USD, JPY, GBP, \n26 November 2026, 1.3, 161, 0.81, \n27 November 2026, 1.25, N/A, 0.8, \n';
    expect(readRateTable(wide, 'EUR')).toMatchObject({ worth: { USD: 0.8, GBP: 1.25 }, at: DAY, base: 'EUR' });
    expect(readRateTable(wide, 'EUR', 'USD').problem).toContain('no rate of EUR');
  });

  it('are read from a line a currency, by a base or as what each is worth', () => {
    expect(
      readRateTable('base;currency;rate;date\nUSD;EUR;0,8;2026-11-27\nUSD;GBP;0,5;2026-11-27\n', 'EUR'),
    ).toMatchObject({
      worth: { USD: 0.8, GBP: 1.6 },
      base: 'USD',
      at: DAY,
    });
    const direct = 'Currency,Units,Worth\nGBP,1,1.25\nJPY,100,0.625\nEUR,1,1\nhoney,1,3\nCHF,1,none\n';
    const read = readRateTable(direct, 'EUR');
    expect(read).toMatchObject({ worth: { GBP: 1.25, JPY: 0.00625 }, at: null, base: null, problem: null });
    expect(read.aside.map(({ reason }) => reason)).toEqual(['"honey" is no currency', 'CHF has no rate']);
  });

  it('say why nothing can be taken', () => {
    expect(readRateTable('a,b\n1,2\n', 'EUR').problem).toContain('No line of titles');
    expect(readRateTable('<Cube currency="USD" rate="none"/>', 'EUR')).toMatchObject({
      problem: 'It has no rates that can be read.',
      aside: [{ reason: 'no rate' }],
    });
    expect(readRateTable('base,currency,rate\nUSD,EUR,1\nGBP,EUR,2\n', 'EUR').problem).toContain('GBP, USD');
    expect(readRateTable('', 'EUR').problem).not.toBeNull();
  });

  it('are worth the same whichever currency they are counted over by', () => {
    const rate = fc.double({ min: 0.01, max: 1000, noNaN: true });
    fc.assert(
      fc.property(rate, rate, rate, (usd, gbp, sek) => {
        const table = `currency,rate,base\nUSD,${usd},EUR\nGBP,${gbp},EUR\nSEK,${sek},EUR\n`;
        const [inUsd, inGbp] = ['USD', 'GBP'].map((home) => readRateTable(table, home).worth);
        expect((inUsd.SEK ?? 0) / (inUsd.GBP ?? 1) / (inGbp.SEK ?? 0)).toBeCloseTo(1, 7);
        expect((inUsd.GBP ?? 0) * (inGbp.USD ?? 0)).toBeCloseTo(1, 6);
      }),
    );
  });

  it('never fail, whatever is brought in', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string(),
          fc.string().map((text) => `<Cube ${text}`),
        ),
        (text) => {
          expect(readRateTable(text, 'EUR')).toHaveProperty('aside');
        },
      ),
    );
  });
});
