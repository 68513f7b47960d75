import { describe, expect, it } from 'vitest';
import { pacesOf, pricesOf, ratesOf } from './lines';

describe('lines of settings', () => {
  it('are rates, with a comma or a point, and any sign between', () => {
    expect(ratesOf('gbp 1,15\n\n USD=0.92 \nCHF: 1')).toEqual({ GBP: 1.15, USD: 0.92, CHF: 1 });
    expect(ratesOf('')).toEqual({});
  });

  it('are prices in minor units, of an ending with or without its dot, and of all others', () => {
    expect(pricesOf('.org 11.50\nco.uk 9\n* 15,25')).toEqual({ org: 1150, 'co.uk': 900, '*': 1525 });
  });

  it('are pauses of hosts, in ms', () => {
    expect(pacesOf('RDAP.registry.org 2000\nwhois.registry.net 0')).toEqual({
      'rdap.registry.org': 2000,
      'whois.registry.net': 0,
    });
  });

  it.each([
    [ratesOf, 'euro 1.2', '"euro 1.2" is no rate: write it like GBP 1.15.'],
    [ratesOf, 'GBP 1.1.5', '"GBP 1.1.5" is no rate: write it like GBP 1.15.'],
    [pricesOf, 'org', '"org" is no price: write it like org 11.50.'],
    [pricesOf, 'org cheap', '"org cheap" is no price: write it like org 11.50.'],
    [pacesOf, 'rdap.registry.org soon', '"rdap.registry.org soon" is no pause: write it like rdap.registry.org 2000.'],
  ])('say which of them cannot be read', (read, text, words) => {
    expect(() => read(`\n${text}`)).toThrow(words);
  });
});
