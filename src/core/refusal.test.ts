import { describe, expect, it } from 'vitest';
import { REFUSALS, Refusal, refusalOf } from './refusal';

class OutOfHoney extends Refusal {
  constructor() {
    super('conflict', 'There is no honey left.', {
      advice: 'Wait for June.',
      issues: [{ at: 'jars.0', message: 'empty' }],
    });
  }
}

describe('Refusal', () => {
  it('tells its code, words, advice and fields, and bears the name of its class', () => {
    const error = new OutOfHoney();
    expect(error.name).toBe('OutOfHoney');
    expect(error).toBeInstanceOf(Error);
    expect(refusalOf(error)).toEqual({
      code: 'conflict',
      message: 'There is no honey left.',
      advice: 'Wait for June.',
      issues: [{ at: 'jars.0', message: 'empty' }],
    });
  });

  it('takes any other error for something that broke', () =>
    expect(refusalOf(new TypeError('x is no function'))).toMatchObject({ code: 'broke', message: 'x is no function' }));

  it('has a status of errors and a title for every code', () => {
    for (const { status, title } of Object.values(REFUSALS)) {
      expect(status).toBeGreaterThanOrEqual(400);
      expect(title).not.toBe('');
    }
  });
});
