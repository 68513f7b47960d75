import { describe, expect, it } from 'vitest';
import { formatView, parseView } from '../../core/pool/conditions';
import { DEFAULT_COLUMNS, shownColumns } from './columns';
import { PRESETS } from './presets';

describe('starting points', () => {
  it.each(PRESETS.map((preset) => [preset.name, preset] as const))(
    '%s fits an address and gives its reasons',
    (_, preset) => {
      const view = { parts: preset.parts.map(({ part }) => part), sorts: preset.sorts, columns: null };
      expect(parseView(formatView(view))).toEqual({ ...view, problems: [] });
      for (const { reason } of preset.parts) expect(reason.length).toBeGreaterThan(20);
    },
  );
});

describe('shownColumns', () => {
  it('shows the usual ones, known ones only, and the domain always', () => {
    expect(shownColumns(null).map(({ column }) => column.id)).toEqual(DEFAULT_COLUMNS.shown.map(({ id }) => id));
    const odd = shownColumns({
      shown: [
        { id: 'age', width: 99 },
        { id: 'taste', width: null },
      ],
      pinned: 0,
    });
    expect(odd.map(({ column, width }) => [column.id, width])).toEqual([
      ['domain', 230],
      ['age', 99],
    ]);
  });
});
