import { describe, expect, it } from 'vitest';
import { readRegistrar } from './registrar';

describe('askRegistrar', () => {
  it.each([
    ['{"domain":"a.org","availability":"available"}', 'available', 'available'],
    [
      '{"domain":"A.org","availability":"premium","priceMinor":120000,"currency":"EUR"}',
      'premium',
      'premium, 1200.00 EUR',
    ],
    ['{"domain":"b.org","availability":"available"}', 'failed', 'the answer is about b.org'],
    ['{"domain":"a.org","availability":"perhaps"}', 'failed', 'the answer is none of a registrar'],
    ['{"domain":"a.org","availability":"refused"}', 'failed', 'the answer is none of a registrar'],
    ['<html>', 'failed', 'the answer is no JSON'],
  ])('reads %s', (text, outcome, detail) => {
    expect(readRegistrar(text, 'a.org')).toMatchObject({ outcome, detail });
  });
});
