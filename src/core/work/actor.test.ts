import { expect, it } from 'vitest';
import { actingAs, actor } from './actor';

it('is who began it, through all that is waited for, and nobody else’s beside it', async () => {
  const after = async () => {
    await new Promise((done) => setTimeout(done, 1));
    return actor();
  };
  expect(await Promise.all([actingAs('Mara', after), actingAs('Ivo', after), after()])).toEqual(['Mara', 'Ivo', 'you']);
  expect(actingAs('Mara', () => actingAs('you', actor))).toBe('Mara');
  expect(actor()).toBe('you');
});
