import { expect, it } from 'vitest';
import { countQuestion, Way } from './way';

it('work rests as long as it worked while many questions come, and not at all while few do', () => {
  let now = 1000;
  const questions = new SharedArrayBuffer(4);
  const way = new Way(questions, () => now);
  /** Works for some ms. */
  const work = (ms: number) => {
    now += ms;
    const rest = way.restMs();
    now += rest;
    way.goesOn();
    return rest;
  };
  const askFor = (ms: number, everyMs: number) => {
    for (let at = 0; at < ms; at += everyMs) countQuestion(questions);
  };
  expect(work(600)).toBe(0);
  // one a second is somebody who reads
  askFor(1000, 1000);
  expect(work(1000)).toBe(0);
  askFor(1000, 100);
  expect(work(600)).toBe(250);
  expect(work(40)).toBe(40);
  expect(work(20)).toBe(20);
  // nobody asks any more
  expect(work(500)).toBe(0);
  expect(work(40)).toBe(0);
});

it('the count may begin anew', () => {
  let now = 0;
  const questions = new SharedArrayBuffer(4);
  new Int32Array(questions)[0] = 2 ** 31 - 3;
  const way = new Way(questions, () => now);
  for (let n = 0; n < 10; n++) countQuestion(questions);
  now += 600;
  expect(way.restMs()).toBe(250);
});
