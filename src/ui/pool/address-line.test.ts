import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { AddressLine } from './address-line';

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

const begin = (at = 'start') => {
  const written: string[] = [];
  return { line: new AddressLine(at, (address) => written.push(address)), written };
};
const rest = () => vi.advanceTimersByTime(250);

describe('AddressLine', () => {
  it('writes the last of several when the hand rests', () => {
    const { line, written } = begin();
    for (const address of ['b', 'be', 'bee']) line.follow(address);
    expect(written).toEqual([]);
    rest();
    expect(written).toEqual(['bee']);
  });

  it('has one on its way at a time, and takes none of them for a wish however late it is told', () => {
    const { line, written } = begin();
    line.follow('kept');
    rest();
    line.follow('cleared');
    rest();
    line.follow('kept');
    rest();
    expect(written).toEqual(['kept']);
    expect(line.isWish('kept')).toBe(false);
    // the one between was never written, and the last is where the line is
    expect(written).toEqual(['kept']);
    line.follow('other');
    rest();
    expect(written).toEqual(['kept', 'other']);
    expect(line.isWish('other')).toBe(false);
  });

  it('writes what waits as soon as the router has told of the last', () => {
    const { line, written } = begin();
    line.follow('first');
    rest();
    line.follow('second');
    rest();
    expect(line.isWish('first')).toBe(false);
    expect(written).toEqual(['first', 'second']);
  });

  it('goes on by itself when the router never tells', () => {
    const { line, written } = begin();
    line.follow('first');
    rest();
    line.follow('second');
    vi.advanceTimersByTime(10_000);
    expect(written).toEqual(['first', 'second']);
    expect(line.isWish('second')).toBe(false);
  });

  it('takes an address for a wish that somebody went to, also one that was written here before, and drops what waited', () => {
    const { line, written } = begin();
    line.follow('mine');
    rest();
    expect(line.isWish('mine')).toBe(false);
    line.follow('waiting');
    expect(line.isWish('theirs')).toBe(true);
    rest();
    expect(written).toEqual(['mine']);
    expect(line.isWish('mine')).toBe(true);
  });

  it('takes the address that it came with for no wish when it is told again while a press waits', () => {
    const { line, written } = begin();
    line.follow('pressed');
    expect(line.isWish('start')).toBe(false);
    rest();
    expect(written).toEqual(['pressed']);
  });

  it('writes at once when the screen is about to be left, and nothing afterwards', () => {
    const { line, written } = begin();
    line.follow('first');
    line.now();
    expect(written).toEqual(['first']);
    line.follow('second');
    line.now();
    expect(written).toEqual(['first', 'second']);
    line.follow('third');
    line.forget();
    vi.advanceTimersByTime(10_000);
    expect(written).toEqual(['first', 'second']);
  });
});
