import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import { answering, asked, said, sentTo } from '../testing';
import { type MentionShown, Mentions } from './mentions';

const mention = (n: number, part: Partial<MentionShown> = {}): MentionShown => ({
  page: `https://quillmere${n}.org/links`, target: 'https://tarnhives.org/queens', title: null, anchor: 'queens', contact: null, strength: 12.34,
  readers: null, isListed: false, ...part,
}); // biome-ignore format: one mention
const show = (mentions: MentionShown[]) =>
  render(
    <Mentions name="tarnhives.org" mentions={mentions} rules={new Map([['/queens', 'https://ours.org/queens']])} />,
  );

describe('pages that mention a domain', () => {
  it('are put on the outreach list with the page that its address moves to', async () => {
    answering(() => ({ added: 1 }));
    show([mention(1), mention(2, { isListed: true })]);
    expect(screen.getByText('on the outreach list', { selector: 'td span' })).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Write to quillmere1.org/links' }));
    expect(asked).toMatchObject([
      {
        path: '/prospects',
        body: { domain: 'tarnhives.org', pages: ['https://quillmere1.org/links'], standIn: 'https://ours.org/queens' },
      },
    ]);
    await expect.poll(() => said[0]?.words).toBe('quillmere1.org/links is on the outreach list');
    said[0].undo?.();
    expect(sentTo).toEqual(['/targets']);
  });

  it('are the first twelve, and all when they are asked for', async () => {
    show(Array.from({ length: 15 }, (_, n) => mention(n)));
    expect(screen.getAllByRole('row')).toHaveLength(13);
    await userEvent.click(screen.getByRole('button', { name: '3 more' }));
    expect(screen.getAllByRole('row')).toHaveLength(16);
  });

  it('are not shown where there are none', () => {
    expect(show([]).container.textContent).toBe('');
  });
});
