import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { GripVertical, Power, X } from 'lucide-react';
import { lazy, Suspense, useState } from 'react';
import { toast } from 'sonner';
import {
  type Condition,
  GROUP_MODES,
  type GroupMode,
  MAX_DEPTH,
  partAt,
  type SievePart,
  withPart,
} from '../../core/pool/conditions';
import { explain } from '../../core/pool/explain';
import { FACTS } from '../../core/pool/facts';
import { count } from '../../core/wording/format';
import { GroupAdd } from './add-box';
import { GROUP_WORDS } from './group-words';
import { type SetName, sentence, setNameOf } from './sentences';
import type { SieveProps } from './sieve-props';
import type { PoolState } from './use-pool';

// fields of a condition come when one is opened
const Editor = lazy(() => import('./editor'));

type ListProps = SieveProps & { list: SievePart[]; above: string; add(parts: SievePart[], into: string | null): void };

/** As large as a finger needs (WCAG 2.2, 2.5.8). */
const TOOL = 'grid size-[24px] place-items-center hover:text-ink';

/** Parts of one list, in an order that can be changed by dragging or by key. */
export function PartList(props: ListProps) {
  const { view, list, above, onChange, onOpen } = props;
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const paths = list.map((_, index) => (above === '' ? String(index) : `${above}.${index}`));
  const dropped = ({ active, over }: DragEndEvent) => {
    const from = paths.indexOf(String(active.id));
    const to = over ? paths.indexOf(String(over.id)) : -1;
    if (from < 0 || to < 0 || from === to) return;
    const moved = [...list];
    moved.splice(to, 0, ...moved.splice(from, 1));
    onOpen(null);
    if (above === '') onChange({ ...view, parts: moved });
    else {
      const group = partAt(view.parts, above);
      if (group?.type === 'group')
        onChange({ ...view, parts: withPart(view.parts, above, { ...group, parts: moved }) });
    }
  };
  return (
    <DndContext id={`sieve-${above}`} sensors={sensors} collisionDetection={closestCenter} onDragEnd={dropped}>
      <SortableContext items={paths} strategy={verticalListSortingStrategy}>
        <ol>
          {list.map((part, index) => (
            <PartRow
              key={`${paths[index]} ${part.type === 'group' ? 'group' : part.fact}`}
              {...props}
              part={part}
              path={paths[index]}
            />
          ))}
        </ol>
      </SortableContext>
    </DndContext>
  );
}

function PartRow(props: ListProps & { part: SievePart; path: string }) {
  const { part, path, above, view, pool, open, sets, add, onOpen, onChange } = props;
  const { setNodeRef, attributes, listeners, transform, transition, isDragging } = useSortable({ id: path });
  const counts = pool.parts.find((entry) => entry.path === path);
  const isOpen = open === path;
  const depth = path.split('.').length;
  const replace = (next: SievePart | null) => onChange({ ...view, parts: withPart(view.parts, path, next) });
  const remove = () => {
    const before = view;
    replace(null);
    onOpen(null);
    toast(part.type === 'group' ? 'Group removed' : 'Condition removed', {
      action: { label: 'Undo', onClick: () => onChange(before) },
    });
  };
  const setName = setNameOf(sets);
  const what = part.type === 'group' ? 'group' : `condition on ${FACTS[part.fact].label.toLowerCase()}`;
  const inGroup = above !== '';
  const parent = inGroup ? partAt(view.parts, above) : null;
  const isInAny = parent?.type === 'group' && parent.mode === 'any';
  const trouble = part.off ? undefined : pool.troubles[path];
  return (
    <li
      ref={setNodeRef}
      className={`group/part relative border-t border-rule py-2 ${inGroup ? '-mr-4 pr-4 pl-2.5' : '-mx-4 px-4'} ${isOpen ? 'bg-sheet' : ''} ${isDragging ? 'z-20 bg-sheet shadow-lg' : ''}`}
      style={{
        transform: transform ? `translate3d(0, ${Math.round(transform.y)}px, 0)` : undefined,
        transition,
      }}
      data-condition={part.type === 'group' ? 'group' : part.fact}
      data-path={path}
    >
      <div className="flex items-start gap-1.5">
        <div className={`min-w-0 flex-1 ${part.off ? 'text-muted line-through decoration-1' : ''}`}>
          {part.type === 'group' ? (
            <select
              aria-label="What of the group has to hold"
              className="set -ml-1 bg-transparent"
              value={part.mode}
              onChange={(event) => replace({ ...part, mode: event.target.value as GroupMode })}
            >
              {GROUP_MODES.map((mode) => (
                <option key={mode} value={mode}>
                  {GROUP_WORDS[mode]}
                </option>
              ))}
            </select>
          ) : (
            <Sentence
              condition={part}
              setName={setName}
              isOpen={isOpen}
              onOpen={() => onOpen(isOpen ? null : path)}
              onChange={replace}
            />
          )}
        </div>
        <span className="font-semibold" title="left after this condition and those above">
          {counts && !part.off ? count(counts.remaining) : ''}
        </span>
      </div>
      {isOpen && part.type !== 'group' && (
        <p className="small mt-1">
          {explain(part.fact).what} {explain(part.fact).from}
        </p>
      )}
      {isOpen && part.type !== 'group' && (
        <Suspense>
          <Editor
            condition={part}
            histogram={pool.histograms.find((entry) => entry.path === path)}
            sets={sets}
            onChange={(changed) => replace({ ...changed, off: part.off })}
          />
        </Suspense>
      )}
      {part.type === 'group' && (
        <div className="mt-1 border-l-2 border-rule">
          <PartList {...props} list={part.parts} above={path} />
          <div className="py-1 pl-2.5">
            <GroupAdd depth={depth} onAdd={(inner) => add(inner, path)} setName={setName} />
          </div>
        </div>
      )}
      <div
        className="mt-1.5 h-[5px]"
        style={{ background: 'repeating-linear-gradient(90deg, var(--rule) 0 2px, transparent 2px 5px)' }}
      >
        <div
          className={`mesh-fill h-full ${part.off ? 'bg-rule' : 'bg-damson'}`}
          style={{
            width: `${counts && pool.size > 0 && !part.off ? Math.max(0.5, meshShare(counts.remaining, pool.size) * 100) : 100}%`,
          }}
        />
      </div>
      <div className="mt-1 flex items-start gap-1">
        <p className="small min-w-0 flex-1">
          {part.off ? 'switched off' : counts ? whatItDoes(part, counts, pool.collisions[path], isInAny) : ''}
        </p>
        <span className="-my-[5px] flex shrink-0 text-muted opacity-60 group-focus-within/part:opacity-100 group-hover/part:opacity-100">
          <button type="button" className={TOOL} aria-label={`Move the ${what}`} {...attributes} {...listeners}>
            <GripVertical size={13} aria-hidden="true" />
          </button>
          <button
            type="button"
            className={TOOL}
            aria-pressed={part.off ?? false}
            aria-label={`Switch the ${what} ${part.off ? 'on' : 'off'}`}
            onClick={() => replace({ ...part, off: part.off ? undefined : true })}
          >
            <Power size={13} aria-hidden="true" />
          </button>
          <button type="button" className={TOOL} aria-label={`Remove the ${what}`} onClick={remove}>
            <X size={13} aria-hidden="true" />
          </button>
        </span>
      </div>
      {isOpen && part.type !== 'group' && <Moves {...props} part={part} onChange={onChange} onOpen={onOpen} />}
      {trouble && (
        <p role="alert" className="mt-1 bg-quince px-2 py-1">
          {trouble}.
        </p>
      )}
    </li>
  );
}

/** In figures: what is kept out, what comes back without it, what is unknown, what are letters only. */
function whatItDoes(
  part: SievePart,
  counts: PoolState['parts'][number],
  collisions: number | null | undefined,
  isInAny: boolean,
): string {
  const words: string[] = [];
  if (isInAny) {
    words.push(`adds ${count(counts.removes)}`);
    if (counts.alone < 0) words.push(`${count(-counts.alone)} pass by it alone`);
  } else if (counts.alone < 0) words.push(`${count(-counts.alone)} pass by it alone`);
  else {
    words.push(`keeps out ${count(counts.removes)}`);
    words.push(counts.alone > 0 ? `alone ${count(counts.alone)}` : 'none alone');
  }
  if (part.type !== 'group' && counts.unknown !== null && counts.unknown > 0) {
    const isKept = 'keepUnknown' in part ? part.keepUnknown : 'not' in part && part.not;
    words.push(`${count(counts.unknown)} unknown ${isKept ? 'kept' : 'among them'}`);
  }
  if (collisions) words.push(`${count(collisions)} left are letters only`);
  return words.join(' · ');
}

/** A condition in words; figures in it can be typed over where they stand. */
function Sentence({
  condition,
  setName,
  isOpen,
  onOpen,
  onChange,
}: {
  condition: Condition;
  setName: SetName;
  isOpen: boolean;
  onOpen(): void;
  onChange(condition: Condition): void;
}) {
  const parts = sentence(condition, setName);
  const [typed, setTyped] = useState<'min' | 'max' | null>(null);
  return (
    <span className="block">
      {parts.map((part, i) => {
        const { bound } = part;
        if (!bound || condition.type !== 'range') {
          // the spaces stand outside of what can be pressed, or they would be lost
          const [, before, words, behind] = /^(\s*)(.*?)(\s*)$/s.exec(part.text) ?? ['', '', part.text, ''];
          return (
            <span key={i}>
              {before}
              {words !== '' && !part.set && i > 0 && words}
              {words !== '' && (part.set || i === 0) && (
                <button
                  type="button"
                  tabIndex={i === 0 ? 0 : -1}
                  className={`inline text-left ${part.set ? 'set' : ''}`}
                  aria-expanded={i === 0 ? isOpen : undefined}
                  onClick={onOpen}
                >
                  {words}
                </button>
              )}
              {behind}
            </span>
          );
        }
        if (typed === bound)
          return (
            <input
              key={i}
              className="set w-14 bg-sheet"
              inputMode="decimal"
              aria-label={bound === 'min' ? 'Another lower end' : 'Another upper end'}
              defaultValue={String(condition[bound] ?? '')}
              // biome-ignore lint/a11y/noAutofocus: the person has just asked for this field
              autoFocus
              onFocus={(event) => event.target.select()}
              onBlur={() => setTyped(null)}
              onKeyDown={(event) => {
                if (event.key === 'Enter' || event.key === 'Escape') setTyped(null);
              }}
              onChange={(event) => {
                const text = event.target.value.trim();
                if (text !== '' && Number.isFinite(Number(text))) onChange({ ...condition, [bound]: Number(text) });
              }}
            />
          );
        return (
          <button
            key={i}
            type="button"
            className="set inline"
            title="type another figure"
            onClick={() => setTyped(bound)}
          >
            {part.text}
          </button>
        );
      })}
    </span>
  );
}

/** Into a group, or out of one. */
function Moves({ part, path, above, view, onChange, onOpen }: ListProps & { part: Condition; path: string }) {
  const depth = path.split('.').length;
  const group = (mode: GroupMode) => {
    onChange({ ...view, parts: withPart(view.parts, path, { type: 'group', mode, parts: [part] }) });
    onOpen(`${path}.0`);
  };
  const out = () => {
    const without = withPart(view.parts, path, null);
    const parent = partAt(without, above);
    const emptied = parent?.type === 'group' && parent.parts.length === 0 ? withPart(without, above, null) : without;
    const [first] = above.split('.');
    const next = [...emptied];
    next.splice(Number(first) + 1, 0, part);
    onChange({ ...view, parts: next });
    onOpen(null);
  };
  return (
    <p className="mt-1.5 flex flex-wrap gap-x-3 text-small">
      {depth < MAX_DEPTH && (
        <>
          <button type="button" className="set" onClick={() => group('any')}>
            group: any of
          </button>
          <button type="button" className="set" onClick={() => group('none')}>
            none of
          </button>
        </>
      )}
      {above !== '' && (
        <button type="button" className="set" onClick={out}>
          out of the group
        </button>
      )}
    </p>
  );
}

/** Fourth root, so that a thousand of a million is still seen. */
function meshShare(part: number, whole: number): number {
  return (part / whole) ** 0.25;
}
