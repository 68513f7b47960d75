import { describe, expect, it } from 'vitest';
import { WrittenAddresses } from './written-addresses';

describe('WrittenAddresses', () => {
  it('takes no address for a wish that was written here, however late and in whatever order it is told', () => {
    const written = new WrittenAddresses();
    // kept, cleared, undone: the first address is there again when the router tells of all three
    for (const address of ['kept', '', 'kept']) written.write(address);
    expect(['kept', '', 'kept'].map((told) => written.isEcho(told, 'kept'))).toEqual([true, true, true]);
  });

  it('takes an address for a wish that somebody went to, also one that was written here before', () => {
    const written = new WrittenAddresses();
    written.write('mine');
    expect(written.isEcho('theirs', 'theirs')).toBe(false);
    expect(written.isEcho('mine', 'mine')).toBe(false);
  });
});
