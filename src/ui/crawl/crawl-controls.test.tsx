import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import { answering, asked, problem, refreshed, said } from '../testing';
import { BudgetForm, DropSite } from './crawl-controls';

const BUDGETS = { depth: 3, pageBudget: 2000, sitePageBudget: null, minutesBudget: null, leastFinds: 2 };
const field = (label: string) => screen.getByLabelText<HTMLInputElement>(label);
const press = () => userEvent.click(screen.getByRole('button', { name: /Change the budgets|Read on/ }));

describe('the budgets of a crawl', () => {
  it('are sent as they stand: an empty field is no limit', async () => {
    answering(() => ({ act: 7 }));
    render(<BudgetForm sourceId={4} budgets={BUDGETS} isOpen />);
    await userEvent.clear(field('Depth'));
    await userEvent.type(field('Of a site'), '80');
    await userEvent.clear(field('Least finds'));
    await press();
    expect(asked[0]).toMatchObject({
      method: 'PATCH',
      path: '/sources/4/crawl',
      body: { depth: null, pageBudget: 2000, sitePageBudget: 80, minutesBudget: null, leastFinds: null },
    });
    expect(said[0].words).toBe('The crawl goes by the new budgets');
    expect(refreshed.times).toBe(1);
  });

  it('that are taken back stand as they were, also what was typed', async () => {
    answering(() => ({ act: 7 }));
    render(<BudgetForm sourceId={4} budgets={BUDGETS} isOpen />);
    await userEvent.clear(field('Pages'));
    await userEvent.type(field('Pages'), '50');
    await press();
    said[0].undo?.();
    await expect.poll(() => asked.at(-1)?.path).toBe('/acts/7/undo');
    await expect.poll(() => field('Pages').value).toBe('2000');
  });

  it('let one that has ended go on', async () => {
    answering(() => ({ act: 7 }));
    render(<BudgetForm sourceId={4} budgets={BUDGETS} isOpen={false} />);
    await press();
    expect(said[0].words).toBe('The crawl goes on');
  });

  it('that are refused are told where they stand, and keep what was typed', async () => {
    answering(() => problem('A budget of at least 1 page.'));
    render(<BudgetForm sourceId={4} budgets={BUDGETS} isOpen />);
    await userEvent.clear(field('Pages'));
    await userEvent.type(field('Pages'), '7');
    await press();
    expect(await screen.findByText('A budget of at least 1 page.')).toBeTruthy();
    expect(field('Pages').value).toBe('7');
    expect(said).toEqual([]);
  });
});

describe('a site of a crawl', () => {
  it('is left alone by a press, and read again by its undo', async () => {
    answering(() => ({ act: 9 }));
    render(<DropSite sourceId={4} site="tarnhives.org" />);
    await userEvent.click(screen.getByRole('button', { name: 'Drop tarnhives.org' }));
    expect(asked[0]).toMatchObject({ path: '/sources/4/crawl', body: { drop: ['tarnhives.org'] } });
    said[0].undo?.();
    await expect.poll(() => asked.at(-1)?.path).toBe('/acts/9/undo');
  });

  it('that cannot be dropped is told', async () => {
    answering(() => problem('The crawl is over.', 409));
    render(<DropSite sourceId={4} site="tarnhives.org" />);
    await userEvent.click(screen.getByRole('button'));
    await expect.poll(() => said.map(({ words }) => words)).toEqual(['The crawl is over.']);
  });
});
