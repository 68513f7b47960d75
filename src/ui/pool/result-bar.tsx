'use client';

import { useRouter } from 'next/navigation';
import { DropdownMenu } from 'radix-ui';
import type { StoredSieve } from '../../contracts/sieves';
import type { PoolView } from '../../core/pool/conditions';
import { factSpec } from '../../core/pool/facts';
import { count } from '../../core/wording/format';
import { COLUMNS, DEFAULT_COLUMNS, shownColumns } from './columns';
import type { Density } from './density';
import { FORMAT_TITLES, FORMATS } from './export-formats';
import { Menu } from './menu';
import { isThere, scoreAt, useKnown } from './use-known';

const item = 'block px-3 py-1 outline-none data-[highlighted]:bg-damson-soft';

interface ResultBarProps {
  view: PoolView;
  total: number;
  isLoading: boolean;
  /** The sieve that is shown; null: none that is kept. */
  kept: StoredSieve | null;
  address: string;
  density: Density;
  onDensity(density: Density): void;
  onColumns(columns: PoolView['columns']): void;
}

/** How many domains there are and in which order, with what can be done with all of them. */
export function ResultBar({ view, total, isLoading, kept, address, density, onDensity, onColumns }: ResultBarProps) {
  const router = useRouter();
  return (
    <>
      <button
        type="button"
        className="press"
        disabled={total === 0}
        onClick={() =>
          router.push(kept && kept.fresh > 0 ? `/review?c=fresh:${kept.id}&sort=strength:down` : `/review?${address}`)
        }
      >
        Review {kept && kept.fresh > 0 ? `${count(kept.fresh)} new` : ''}
      </button>
      <span className="min-w-0 truncate text-muted" role="status">
        <strong className="text-ink">{count(total)}</strong> domains, sorted by{' '}
        {view.sorts.map(({ fact }, i) => (
          <span key={fact}>
            {i > 0 && ', then '}
            <strong className="text-ink">{factSpec(fact).label.toLowerCase()}</strong>
          </span>
        ))}
        {isLoading ? ', sifting' : ''}
      </span>
      <span className="ml-auto flex gap-2">
        <ColumnsMenu columns={view.columns} density={density} onDensity={onDensity} onColumns={onColumns} />
        <ExportMenu total={total} address={address} />
      </span>
    </>
  );
}

function ColumnsMenu({
  columns,
  density,
  onDensity,
  onColumns,
}: { columns: PoolView['columns'] } & Pick<ResultBarProps, 'density' | 'onDensity' | 'onColumns'>) {
  return (
    <Menu label="Columns">
      <ColumnItems columns={columns} onColumns={onColumns} />
      <DropdownMenu.Separator className="my-1 border-t border-rule" />
      <DropdownMenu.Item className={item} onSelect={() => onColumns(null)}>
        The usual ones
      </DropdownMenu.Item>
      <DropdownMenu.Separator className="my-1 border-t border-rule" />
      <DropdownMenu.Label className="small px-3">Rows</DropdownMenu.Label>
      {(['close', 'usual', 'wide'] as const).map((one) => (
        <DropdownMenu.CheckboxItem
          key={one}
          className={`${item} flex gap-2`}
          checked={density === one}
          onCheckedChange={() => onDensity(one)}
        >
          <span className="w-3">{density === one ? '✓' : ''}</span>
          {{ close: 'close together', usual: 'as usual', wide: 'wide apart' }[one]}
        </DropdownMenu.CheckboxItem>
      ))}
    </Menu>
  );
}

function ExportMenu({ total, address }: Pick<ResultBarProps, 'total' | 'address'>) {
  return (
    <Menu label="Export">
      {FORMATS.map((format) => (
        <DropdownMenu.Item key={format} asChild className={item}>
          <a href={`/api/v1/export?format=${format}&${address}`} download>
            All {count(total)} rows as {FORMAT_TITLES[format]}
          </a>
        </DropdownMenu.Item>
      ))}
      <DropdownMenu.Label className="small mt-1 px-3">With the columns that are shown</DropdownMenu.Label>
      {FORMATS.map((format) => (
        <DropdownMenu.Item key={format} asChild className={item}>
          <a href={`/api/v1/export?format=${format}&shown=1&${address}`} download>
            as {FORMAT_TITLES[format]}
          </a>
        </DropdownMenu.Item>
      ))}
    </Menu>
  );
}

/** What can be shown; scores of lists with their names, which are asked for when the menu is opened. */
function ColumnItems({ columns, onColumns }: { columns: PoolView['columns'] } & Pick<ResultBarProps, 'onColumns'>) {
  const known = useKnown();
  const shownIds = new Set(shownColumns(columns).map(({ column }) => column.id));
  return (
    <>
      {COLUMNS.filter(({ id }) => isThere(id, known) || shownIds.has(id)).map((column) => (
        <DropdownMenu.CheckboxItem
          key={column.id}
          className={`${item} flex gap-2`}
          checked={shownIds.has(column.id)}
          disabled={column.id === 'domain'}
          onSelect={(event) => event.preventDefault()}
          onCheckedChange={(isOn) => {
            const set = columns ?? DEFAULT_COLUMNS;
            onColumns({
              ...set,
              shown: isOn
                ? [...set.shown, { id: column.id, width: null }]
                : set.shown.filter(({ id }) => id !== column.id),
            });
          }}
        >
          <span className="w-3">{shownIds.has(column.id) ? '✓' : ''}</span>
          {[column.title, scoreAt(column.id, known)].filter(Boolean).join(' ')}
        </DropdownMenu.CheckboxItem>
      ))}
    </>
  );
}
