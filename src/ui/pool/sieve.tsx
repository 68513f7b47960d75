'use client';

import type { StoredSieve } from '../../contracts/sieves';
import { partAt, type SievePart, type Sort, withPart } from '../../core/pool/conditions';
import { count } from '../../core/wording/format';
import { AddBox } from './add-box';
import { KeptSieves } from './kept';
import { PartList } from './part-row';
import { setNameOf } from './sentences';
import type { SieveProps } from './sieve-props';

/** The stack of conditions: a paragraph that can be edited, with what each line keeps out. */
export function Sieve(props: SieveProps) {
  const {
    view,
    pool,
    sieves,
    current,
    isChanged,
    onOpened,
    briefs,
    ofBrief,
    sets,
    isOver,
    onOver,
    menuOpen,
    withExcluded,
    onMenu,
    onOpen,
    onChange,
    onClear,
    onExcluded,
    onKept,
  } = props;
  const { parts } = view;
  /** One that is added alone asks for its values. */
  const add = (added: SievePart[], into: string | null, sorts: Sort[] = []) => {
    const isOne = added.length === 1 && isOpenEnded(added[0]);
    const kept = { ...view, sorts: sorts.length > 0 ? sorts : view.sorts };
    if (into === null) {
      onChange({ ...kept, parts: [...parts, ...added] });
      onOpen(isOne ? String(parts.length) : null);
      return;
    }
    const group = partAt(parts, into);
    if (group?.type !== 'group') return;
    onChange({ ...kept, parts: withPart(parts, into, { ...group, parts: [...group.parts, ...added] }) });
    onOpen(isOne ? `${into}.${group.parts.length}` : null);
  };
  return (
    <aside
      aria-label="Sieve"
      className={`${isOver ? 'absolute inset-0 z-20 flex w-full bg-paper' : 'hidden'} shrink-0 flex-col overflow-auto border-r border-rule px-4 pt-3.5 pb-6 lg:static lg:flex lg:w-[272px]`}
    >
      <div className="flex items-baseline justify-between gap-3">
        <h1 className="break-words">{current?.name ?? 'Sieve'}</h1>
        <button type="button" className="press lg:hidden" onClick={() => onOver(false)}>
          Show {count(pool.total)}
        </button>
      </div>
      <p className="small mb-2.5">
        {current ? keptWords(current) : parts.length > 0 ? 'not kept yet' : 'no conditions: the whole pool'}
      </p>
      <PartList {...props} list={parts} above="" add={add} />
      <div className="-mx-4 flex flex-wrap gap-2 border-t border-rule px-4 py-2.5">
        <AddBox
          open={menuOpen}
          onOpen={onMenu}
          onAdd={(added, sorts) => add(added, null, sorts)}
          withGroups
          setName={setNameOf(sets)}
        >
          Add a condition
        </AddBox>
        {parts.length > 0 && (
          <button type="button" className="quiet" onClick={onClear}>
            Clear all <kbd className="small">0</kbd>
          </button>
        )}
        <KeptSieves
          view={view}
          sieves={sieves}
          current={current}
          isChanged={isChanged}
          onOpened={onOpened}
          briefs={briefs}
          ofBrief={ofBrief}
          onChange={onChange}
          onKept={onKept}
        />
      </div>
      <div className="-mx-4 border-t-2 border-ink px-4 pt-2.5">
        <span className="font-serif text-figure font-semibold" data-testid="total">
          {count(pool.total)}
        </span>{' '}
        left of {count(pool.size)}
        {(pool.excluded > 0 || withExcluded) && (
          <p className="small mt-1">
            {withExcluded ? 'those you excluded are shown' : `${count(pool.excluded)} you excluded are left out`}
            {'; '}
            <button type="button" className="set" onClick={() => onExcluded(!withExcluded)}>
              {withExcluded ? 'leave them out' : 'show them'}
            </button>
          </p>
        )}
      </div>
    </aside>
  );
}

/** Nothing is set of it yet. */
const isOpenEnded = (part: SievePart): boolean =>
  part.type === 'range'
    ? part.min === null && part.max === null
    : part.type !== 'group' && part.type !== 'visit' && part.values.length === 0;

function keptWords({ runs, runMinute, fresh }: StoredSieve): string {
  const time = `${String(Math.floor(runMinute / 60)).padStart(2, '0')}:${String(runMinute % 60).padStart(2, '0')} UTC`;
  const when =
    runs === 'daily' ? `runs daily at ${time}` : runs === 'imports' ? 'runs after each import' : 'kept sieve';
  return fresh > 0 ? `${when}; ${count(fresh)} new` : when;
}
