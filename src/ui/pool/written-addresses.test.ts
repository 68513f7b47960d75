import { describe, expect, it } from 'vitest';
import { WrittenAddresses } from './written-addresses';

describe('WrittenAddresses', () => {
  it('knows one that is told of after the next was written', () => {
    const written = new WrittenAddresses();
    written.write('columns=a');
    written.write('columns=b');
    expect(written.isEcho('columns=a')).toBe(true);
    expect(written.isEcho('columns=b')).toBe(true);
    expect(written.isEcho('columns=b')).toBe(true);
  });

  it('takes one that somebody went back to as a wish', () => {
    const written = new WrittenAddresses();
    written.write('columns=a');
    written.write('columns=b');
    expect(written.isEcho('columns=b')).toBe(true);
    expect(written.isEcho('columns=a')).toBe(false);
    expect(written.isEcho('columns=c')).toBe(false);
  });
});
