import { expect, it } from 'vitest';
import { SignInTries } from './sign-in-tries';

it('wrong passwords make the next try wait, longer each time, until one was right or an hour has passed', () => {
  const tries = new SignInTries();
  const fail = (times: number, place = 'a') => {
    for (let n = 0; n < times; n++) tries.failed(place, 0);
  };
  fail(4);
  expect(tries.waitMs('a', 0)).toBe(0);
  fail(1);
  expect(tries.waitMs('a', 0)).toBe(2000);
  expect(tries.waitMs('a', 1500)).toBe(500);
  fail(1);
  expect(tries.waitMs('a', 0)).toBe(4000);
  fail(20);
  expect(tries.waitMs('a', 0)).toBe(15 * 60_000);
  // others have their own
  expect(tries.waitMs('b', 0)).toBe(0);
  tries.succeeded('a');
  expect(tries.waitMs('a', 0)).toBe(0);
  fail(5, 'c');
  tries.failed('c', 2 * 3_600_000);
  expect(tries.waitMs('c', 2 * 3_600_000)).toBe(0);
});

it('from ever new places they make all wait', () => {
  const tries = new SignInTries();
  for (let n = 0; n < 50; n++) tries.failed(`place ${n}`, 0);
  expect(tries.waitMs('yet another', 0)).toBe(2000);
});

it('many right ones make nobody wait', () => {
  const tries = new SignInTries();
  for (let n = 0; n < 200; n++) {
    tries.failed('a', 0);
    tries.succeeded('a');
  }
  expect(tries.waitMs('b', 0)).toBe(0);
});
