import { fireEvent, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import '../testing';
import { Tour } from './tour';
import { TOUR_COOKIE } from './tour-cookie';

afterEach(() => {
  // biome-ignore lint/suspicious/noDocumentCookie: as the screen sets it
  document.cookie = `${TOUR_COOKIE}=; max-age=0`;
});

describe('the first steps', () => {
  it('are six, and lead to the places', () => {
    render(<Tour />);
    expect(screen.getAllByRole('listitem')).toHaveLength(6);
    const places = screen.getAllByRole('link').map((link) => link.getAttribute('href'));
    expect(places).toEqual(['/briefs', '/sources', '/pool', '/shortlist']);
  });

  it('go for good by one key, and not while something is typed', () => {
    render(
      <>
        <Tour />
        <input aria-label="a field" />
      </>,
    );
    fireEvent.keyDown(screen.getByLabelText('a field'), { key: 'h' });
    expect(screen.queryByRole('list')).not.toBeNull();
    fireEvent.keyDown(document.body, { key: 'h' });
    expect(screen.queryByRole('list')).toBeNull();
    expect(document.cookie).toContain(`${TOUR_COOKIE}=done`);
  });
});
