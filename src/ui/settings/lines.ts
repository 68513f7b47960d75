import { readAmount } from '../../core/money/typed-amount';

/** Lines like `GBP 1.15`. @throws on what is none. */
export function ratesOf(text: string): Record<string, number> {
  const rates: Record<string, number> = {};
  for (const line of text.split('\n').filter((one) => one.trim() !== '')) {
    const found = /^\s*([a-z]{3})\s*[ =:]\s*(\d+(?:[.,]\d+)?)\s*$/i.exec(line);
    if (!found) throw new Error(`"${line.trim().slice(0, 40)}" is no rate: write it like GBP 1.15.`);
    rates[found[1].toUpperCase()] = Number(found[2].replace(',', '.'));
  }
  return rates;
}

/** Lines like `org 11.50`, in minor units. @throws on what is none. */
export function pricesOf(text: string): Record<string, number> {
  const prices: Record<string, number> = {};
  for (const line of text.split('\n').filter((one) => one.trim() !== '')) {
    const found = /^\s*\.?(\*|[a-z0-9-]+(?:\.[a-z0-9-]+)*)\s+(\S+)\s*$/i.exec(line);
    const minor = found ? readAmount(found[2]) : undefined;
    if (!found || minor === undefined || minor === null)
      throw new Error(`"${line.trim().slice(0, 40)}" is no price: write it like org 11.50.`);
    prices[found[1].toLowerCase()] = minor;
  }
  return prices;
}

/** Lines like `rdap.registry.org 2000`. @throws on what is none. */
export function pacesOf(text: string): Record<string, number> {
  const paces: Record<string, number> = {};
  for (const line of text.split('\n').filter((one) => one.trim() !== '')) {
    const found = /^\s*(\S+)\s+(\d{1,8})\s*$/.exec(line);
    if (!found) throw new Error(`"${line.trim().slice(0, 40)}" is no pause: write it like rdap.registry.org 2000.`);
    paces[found[1].toLowerCase()] = Number(found[2]);
  }
  return paces;
}

/** "06:30" as minutes after midnight; null for an empty field. */
export function minuteOf(time: string): number | null {
  const found = /^(\d{2}):(\d{2})$/.exec(time);
  return found ? Number(found[1]) * 60 + Number(found[2]) : null;
}

const twoDigits = (value: number) => String(Math.floor(value)).padStart(2, '0');

/** Minutes after midnight as "06:30"; empty for none. */
export const timeOf = (minute: number | null): string =>
  minute === null ? '' : `${twoDigits(minute / 60)}:${twoDigits(minute % 60)}`;
