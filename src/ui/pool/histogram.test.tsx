import { fireEvent, render, screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { Histogram } from './histogram';

const bars = { edges: [0, 10, 20, 40, 80], counts: [100, 25, 4, 0], unknown: 3 };
const show = (min: number | null, max: number | null, whole = true, of = bars) => {
  const onChange = vi.fn();
  const view = render(<Histogram bars={of as never} min={min} max={max} whole={whole} onChange={onChange} />);
  return { onChange, ...view };
};
const handle = (name: 'Lower end' | 'Upper end') => screen.getByLabelText(name);
/** From a box that begins at 0, as everything does without a layout. */
const drag = (name: 'Lower end' | 'Upper end', clientX: number) => {
  handle(name).hasPointerCapture = () => true;
  fireEvent.pointerMove(handle(name), { clientX });
};

describe('how values are spread', () => {
  it('shows dark what passes, and tells each bar', () => {
    const { container } = show(10, 40);
    const [...drawn] = container.querySelectorAll('rect:has(title)');
    expect(drawn.map((bar) => bar.getAttribute('fill') === 'var(--damson)')).toEqual([false, true, true, true]);
    expect(drawn.map((bar) => bar.textContent)).toEqual(['0 to 10: 100', '10 to 20: 25', '20 to 40: 4', '40 to 80: 0']);
  });

  it('puts a handle where its value lies, and an open one at the end', () => {
    show(15, null);
    expect(handle('Lower end').getAttribute('transform')).toBe('translate(90 0)');
    expect(handle('Upper end').getAttribute('transform')).toBe('translate(240 0)');
    expect(handle('Upper end').getAttribute('aria-valuetext')).toBe('open');
  });

  it('moves its ends by drag, not past each other, and opens them at the edge', () => {
    const { onChange } = show(null, 20);
    drag('Lower end', 30);
    drag('Lower end', 200);
    drag('Lower end', -3);
    drag('Upper end', 240);
    expect(onChange.mock.calls).toEqual([
      ['min', 5],
      ['min', 20],
      ['min', null],
      ['max', null],
    ]);
  });

  it('moves them by keys: a bar at a time where only whole numbers make sense', () => {
    const { onChange } = show(null, null);
    fireEvent.keyDown(handle('Lower end'), { key: 'ArrowRight' });
    fireEvent.keyDown(handle('Upper end'), { key: 'ArrowLeft' });
    fireEvent.keyDown(handle('Lower end'), { key: 'ArrowLeft' });
    fireEvent.keyDown(handle('Lower end'), { key: 'x' });
    expect(onChange.mock.calls).toEqual([
      ['min', 10],
      ['max', 40],
      ['min', null],
    ]);
  });

  it('rounds to what a hand can aim at', () => {
    const { onChange } = show(null, null, false, { edges: [0, 0.1, 0.2], counts: [1, 1], unknown: 0 });
    drag('Lower end', 77);
    expect(onChange).toHaveBeenCalledWith('min', 0.06);
  });

  it('says when nothing with a value comes this far', () => {
    show(null, null, true, { edges: [], counts: [], unknown: 1200 });
    expect(screen.getByText(/of 1,200 it is not known/)).toBeTruthy();
  });
});
