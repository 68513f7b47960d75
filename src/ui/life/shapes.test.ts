import { describe, expect, it } from 'vitest';
import type { Life, LifeLook } from '../../core/history/life';
import { drawLife, drawLook, LOOK_WORDS } from './shapes';

const at = (year: number) => Date.UTC(year, 0, 1);
const life: Life = {
  from: at(2010),
  to: at(2020),
  spans: [
    { lane: 'registration', look: 'line', from: at(2010), to: at(2020), label: 'registered', detail: '' },
    { lane: 'content', look: 'solid', from: at(2010), to: at(2015), label: 'Beekeeping', detail: '' },
    { lane: 'content', look: 'light', from: at(2015), to: at(2020), label: 'Gambling', detail: '' },
  ],
};
const draw = (more: object = {}) => drawLife({ life, links: [], from: life.from, to: life.to, width: 1104, ...more });
const texts = (drawing: ReturnType<typeof draw>) => drawing.shapes.flatMap(({ text }) => text ?? []);

describe('the drawing of a life', () => {
  it('places a span by its time, with its label in it', () => {
    const { shapes } = draw();
    const [first] = shapes.filter(({ span, tag }) => span === 1 && tag === 'rect');
    expect(first.attributes).toMatchObject({ x: 104, fill: 'var(--damson)' });
    expect(Number(first.attributes.width)).toBeCloseTo(500, -1);
    expect(texts(draw())).toEqual(expect.arrayContaining(['History', 'Beekeeping', 'Gambling', '2014']));
  });

  it('shows only what lies in the window, cut at its edges', () => {
    const { shapes } = draw({ from: at(2016), to: at(2018) });
    expect(shapes.some(({ span }) => span === 1)).toBe(false);
    const [later] = shapes.filter(({ span, tag }) => span === 2 && tag === 'rect');
    expect(later.attributes).toMatchObject({ x: 104, width: 1000 });
  });

  it('leaves a label out where it would not fit', () => {
    expect(texts(draw({ width: 150 }))).not.toContain('Beekeeping');
  });

  it('draws links that came up from a line and those that went down from it, each to be seen', () => {
    const links = [
      { from: at(2012), to: at(2013), gained: 400, lost: 0 },
      { from: at(2013), to: at(2014), gained: 1, lost: 2 },
    ];
    const bars = draw({ links }).shapes.filter(({ tag, span }) => tag === 'rect' && span === undefined);
    expect(bars.length).toBe(3);
    for (const { attributes } of bars) expect(Number(attributes.height)).toBeGreaterThanOrEqual(2.5);
    const bottom = (n: number) => Number(bars[n].attributes.y) + Number(bars[n].attributes.height);
    expect(bottom(0)).toBeCloseTo(bottom(1), 0);
    expect(Number(bars[2].attributes.y)).toBeCloseTo(bottom(0), 0);
  });

  it('tells every look by its form, not by its colour alone', () => {
    const form = (look: LifeLook) =>
      drawLook(look)
        .shapes.map(
          ({ tag, attributes }) =>
            `${tag} ${Object.keys(attributes).sort()} ${attributes.fill === 'none' || attributes.fill === 'var(--sheet)' ? 'hollow' : 'filled'}`,
        )
        .join('; ');
    const forms = LOOK_WORDS.filter(([look]) => look !== 'unread').map(([look]) => form(look));
    expect(new Set(forms).size).toBe(forms.length);
  });
});
