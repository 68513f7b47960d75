import { render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { DiligencePoint } from '../../core/verdict/diligence';
import { answering, asked, problem, refreshed, said } from '../testing';
import { Diligence } from './diligence';
import { MarkReview } from './mark-review';
import { Notes } from './notes';

describe('notes on a domain', () => {
  const notes = [{ id: 3, at: 0, text: 'good name for the bees', who: 'Mara' }];
  const field = () => screen.getByLabelText('New note') as HTMLTextAreaElement;

  it('are kept by button or by Ctrl and Enter; an empty one is not', async () => {
    answering(() => ({ id: 4, at: 0, text: '' }));
    render(<Notes name="pellgatehives.org" notes={notes} />);
    await userEvent.click(screen.getByRole('button', { name: /^Keep it/ }));
    expect((await screen.findByRole('alert')).textContent).toBe('Write something first.');
    await userEvent.type(field(), 'ask the owner');
    await userEvent.click(screen.getByRole('button', { name: /^Keep it/ }));
    await waitFor(() => expect(field().value).toBe(''));
    await userEvent.type(field(), 'twice{Control>}{Enter}{/Control}');
    await waitFor(() => expect(field().value).toBe(''));
    await userEvent.type(field(), '   {Control>}{Enter}{/Control}');
    expect(asked.map(({ path, body }) => [path, body])).toEqual([
      ['/domains/pellgatehives.org/notes', { text: 'ask the owner' }],
      ['/domains/pellgatehives.org/notes', { text: 'twice' }],
    ]);
    expect(refreshed.times).toBeGreaterThanOrEqual(2);
  });

  it('stay in the field when they could not be kept', async () => {
    answering(() => problem('The disk is full.', 507));
    render(<Notes name="pellgatehives.org" notes={[]} />);
    await userEvent.type(field(), 'ask the owner');
    await userEvent.click(screen.getByRole('button', { name: /^Keep it/ }));
    expect((await screen.findByRole('alert')).textContent).toBe('The disk is full.');
    expect(field().value).toBe('ask the owner');
  });

  it('are taken away, and given back from the notice', async () => {
    answering(({ method }) => (method === 'DELETE' ? undefined : { id: 3, at: 0, text: '' }));
    render(<Notes name="pellgatehives.org" notes={notes} />);
    expect(screen.getByText(/^Mara, /)).toBeTruthy();
    await userEvent.click(screen.getByText('take away'));
    await waitFor(() => expect(said[0]?.words).toBe('The note is gone'));
    said[0].undo?.();
    await waitFor(() =>
      expect(asked.map(({ method, path }) => `${method} ${path}`)).toEqual([
        'DELETE /domains/pellgatehives.org/notes/3',
        'POST /domains/pellgatehives.org/notes/3',
      ]),
    );
  });
});

describe('due diligence', () => {
  const point = (part: Partial<DiligencePoint>): DiligencePoint => ({
    item: 'costs',
    question: 'What will it cost to keep, renewal included?',
    state: 'open',
    answer: 'Answer it by hand.',
    at: null,
    by: null,
    who: null,
    found: null,
    asking: null,
    ...part,
  });
  const points = [
    point({}),
    point({
      item: 'past',
      question: 'Was it one site?',
      state: 'bad',
      answer: 'Two dropped in between.',
      by: 'found',
      at: 0,
    } as Partial<DiligencePoint>),
  ];

  it('counts what is answered and what speaks against', () => {
    render(<Diligence name="a.org" points={points} />);
    expect(screen.getByRole('heading').textContent).toBe('Due diligence 1 of 2 answered, 1 against');
  });

  it('takes an answer with its note, and takes it back from the notice', async () => {
    answering(({ method }) => (method === 'POST' ? { id: 9 } : undefined));
    render(<Diligence name="a.org" points={points} />);
    const [open] = screen.getAllByRole('button');
    await userEvent.click(open);
    expect(open.getAttribute('aria-expanded')).toBe('true');
    const note = screen.getByLabelText(/^Note: What will it cost/);
    expect(document.activeElement).toBe(note);
    await userEvent.type(note, '15 EUR a year');
    await userEvent.click(screen.getByText('Fine'));
    await waitFor(() => expect(said).toHaveLength(1));
    expect(asked[0]).toEqual({
      method: 'POST',
      path: '/domains/a.org/diligence',
      body: { item: 'costs', state: 'fine', note: '15 EUR a year' },
    });
    expect(screen.queryByText('Speaks against')).toBeNull();
    said[0].undo?.();
    await waitFor(() => expect(asked[1]).toMatchObject({ method: 'DELETE', path: '/domains/a.org/diligence/9' }));
  });

  it('has its questions about pages asked where somebody can be, opened where a page is set, and shows what was named', async () => {
    answering(() => ({ at: 0, who: 'Salt', total: 1, pages: [] }));
    const asking = {
      who: 'Salt',
      link: 'https://find.test/?q=site%3Aa.org',
      pages: [{ url: 'https://a.org/x', title: 'X' }],
    };
    const of = (item: 'searched' | 'listed', given: DiligencePoint['asking']) =>
      point({ item, question: item, asking: given });
    render(
      <Diligence name="a.org" points={[of('searched', asking), of('listed', { who: null, link: null, pages: [] })]} />,
    );
    await userEvent.click(screen.getByRole('button', { name: 'Ask Salt: searched' }));
    expect(asked[0]).toEqual({ method: 'POST', path: '/domains/a.org/diligence/ask', body: { item: 'searched' } });
    const open = screen.getByRole('link', { name: 'Open the question in a search: searched' });
    expect(open.getAttribute('href')).toBe('https://find.test/?q=site%3Aa.org');
    expect(screen.getByRole('link', { name: 'X' }).getAttribute('href')).toBe('https://a.org/x');
    expect(screen.getByRole('link', { name: 'Say who can be asked' }).getAttribute('href')).toBe('/setup');
  });

  it('has one point open at a time, closed by Escape', async () => {
    render(<Diligence name="a.org" points={points} />);
    const [first, second] = screen.getAllByRole('button');
    await userEvent.click(first);
    await userEvent.click(second);
    expect(screen.getAllByText('In doubt')).toHaveLength(1);
    await userEvent.keyboard('{Escape}');
    expect(screen.queryByText('In doubt')).toBeNull();
  });
});

describe('a decision on trademarks', () => {
  it('goes with its note, which is empty then', async () => {
    answering(({ path }) => (path.endsWith('/undo') ? {} : { act: 12 }));
    const { container } = render(<MarkReview name="a.org" />);
    await userEvent.type(screen.getByRole('textbox'), 'another class');
    await userEvent.click(within(container).getByText('Unsure'));
    await waitFor(() => expect(said[0]?.words).toBe('Kept, with the time'));
    expect(asked[0].body).toEqual({ verdict: 'unsure', note: 'another class' });
    expect((screen.getByRole('textbox') as HTMLInputElement).value).toBe('');
    said[0].undo?.();
    await waitFor(() => expect(asked[1]?.path).toBe('/acts/12/undo'));
  });
});
