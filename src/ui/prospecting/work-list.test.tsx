import { fireEvent, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import { answering, asked, said } from '../testing';
import type { ProspectLine } from './types';
import { WorkListTable } from './work-list';

const LINE = {
  target: 'https://tarnhives.org/queens', domain: 'tarnhives.org', page: 'https://quillmere.org/links', title: 'Links', anchor: 'raising queens',
  contact: 'mailto:mara@quillmere.org', state: 'to write', note: '', writtenAt: null, answeredAt: null, addedAt: 1, standIn: 'https://ours.org/queens',
  next: { words: 'write to them', isDue: true }, letter: { subject: 'A dead link on Links', text: 'Hello,\n\nyour page' },
  mail: 'mailto:mara@quillmere.org?subject=A',
} as unknown as ProspectLine; // biome-ignore format: one line
const WAITS = {
  ...LINE,
  page: 'https://ossenmere.org/a',
  next: { words: 'wait', isDue: false },
  letter: null,
  mail: null,
  state: 'written',
} as ProspectLine;
const serve = (looked = { linksStill: true, linksToOwn: false }) =>
  answering(({ path }) =>
    path.endsWith('/look') ? looked : { before: { state: 'to write', note: '', contact: null } },
  );

describe('the outreach list', () => {
  it('shows what is due, and the rest when it is asked for', async () => {
    render(<WorkListTable rows={[LINE, WAITS]} />);
    expect(screen.queryByText(/ossenmere/)).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: '1 more wait or are done' }));
    expect(screen.getByText(/ossenmere/)).toBeTruthy();
  });

  it('shows all where nothing is due', () => {
    render(<WorkListTable rows={[WAITS]} />);
    expect(screen.getByText(/ossenmere/)).toBeTruthy();
  });

  it('keeps how to reach somebody and a note when their fields are left, and gives them back', async () => {
    serve();
    render(<WorkListTable rows={[LINE]} />);
    const contact = screen.getByLabelText<HTMLInputElement>('How to reach quillmere.org/links');
    expect(contact.value).toBe('mara@quillmere.org');
    fireEvent.blur(contact);
    expect(asked).toEqual([]);
    fireEvent.blur(contact, { target: { value: '' } });
    expect(asked).toMatchObject([{ method: 'PATCH', path: '/prospects', body: { page: LINE.page, contact: null } }]);
    await expect.poll(() => said[0]?.words).toBe('quillmere.org/links changed');
    said[0].undo?.();
    await expect.poll(() => asked[1]?.body).toMatchObject({ before: { state: 'to write' } });
  });

  it('has the letter to read over; sending it is one’s own mail’s, and that it is written is said', async () => {
    serve();
    render(<WorkListTable rows={[LINE]} />);
    await userEvent.click(screen.getByRole('button', { name: 'Letter to quillmere.org/links' }));
    expect(screen.getByText('A dead link on Links')).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Open in my mail' }).getAttribute('href')).toBe(LINE.mail);
    await userEvent.click(screen.getByRole('button', { name: 'It is written' }));
    expect(asked).toMatchObject([{ body: { state: 'written' } }]);
  });

  it('says what to do first where there is nothing to offer', async () => {
    render(<WorkListTable rows={[WAITS]} />);
    await userEvent.click(screen.getByRole('button', { name: 'Letter to ossenmere.org/a' }));
    expect(screen.getByText(/Choose the page that stands in first/)).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'It is written' }).disabled).toBe(true);
  });

  it.each([
    [{ linksStill: true, linksToOwn: false }, 'It still links to what is dead'],
    [{ linksStill: false, linksToOwn: true }, 'It links to your page now'],
    [{ linksStill: false, linksToOwn: false }, 'The dead link is gone; yours is not there'],
  ])('says what a look at the page found: %j', async (looked, words) => {
    serve(looked);
    render(<WorkListTable rows={[LINE]} />);
    await userEvent.click(screen.getByRole('button', { name: /Letter to/ }));
    await userEvent.click(within(screen.getByRole('table')).getByRole('button', { name: 'Look at the page' }));
    await expect.poll(() => said.map((one) => one.words)).toEqual([words]);
  });
});
