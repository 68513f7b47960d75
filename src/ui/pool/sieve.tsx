'use client';

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
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { toast } from 'sonner';
import type { SetChoices } from '../../contracts/pool';
import type { StoredSieve } from '../../contracts/sieves';
import {
  type Condition,
  GROUP_MODES,
  type Group,
  type GroupMode,
  MAX_DEPTH,
  type PoolView,
  partAt,
  type SievePart,
  withPart,
} from '../../core/pool/conditions';
import {
  FACT_NAMES,
  FACT_PARTS,
  FACTS,
  type FactName,
  type FactPart,
  factSpec,
  type MemberFact,
} from '../../core/pool/facts';
import { count } from '../../core/wording/format';
import { Editor } from './editor';
import { KeptSieves } from './kept';
import { sentence } from './sentences';
import type { PoolState } from './use-pool';

interface SieveProps {
  view: PoolView;
  pool: PoolState;
  /** Path of the condition that is worked on. */
  open: string | null;
  sieves: StoredSieve[];
  current: StoredSieve | null;
  /** The kept one was opened, and is not as it is kept any more. */
  isChanged: boolean;
  onOpened(id: number | null): void;
  ofBrief: { name: string; view: string };
  briefs: { id: number; name: string }[];
  sets: SetChoices;
  menuOpen: boolean;
  withExcluded: boolean;
  onMenu(open: boolean): void;
  onOpen(path: string | null): void;
  onChange(view: PoolView): void;
  onExcluded(show: boolean): void;
  onKept(): void;
}

const PART_TITLES: Record<FactPart, string> = {
  name: 'The name',
  record: 'The record',
  past: 'The past',
  links: 'The links',
  offers: 'Offers',
  sources: 'Where it comes from',
  yours: 'What you said of it',
  asked: 'How old a figure is',
};

const GROUP_WORDS: Record<GroupMode, string> = { all: 'All of these', any: 'Any of these', none: 'None of these' };

/** A condition on a fact before anything is set. */
export function freshCondition(fact: FactName): Condition {
  switch (factSpec(fact).kind) {
    case 'text':
      return { type: 'text', fact: 'name', mode: 'wordish', values: [], not: false };
    case 'choice':
      return { type: 'choice', fact: fact as never, values: [], not: false, keepUnknown: false };
    case 'member':
      return { type: 'member', fact: fact as MemberFact, values: [], not: false };
    default:
      return { type: 'range', fact: fact as never, min: null, max: null, keepUnknown: false };
  }
}

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
    menuOpen,
    withExcluded,
    onMenu,
    onOpen,
    onChange,
    onExcluded,
    onKept,
  } = props;
  const { parts } = view;
  const add = (part: SievePart, into: string | null) => {
    if (into === null) {
      onChange({ ...view, parts: [...parts, part] });
      if (part.type !== 'group') onOpen(String(parts.length));
      return;
    }
    const group = partAt(parts, into);
    if (group?.type !== 'group') return;
    onChange({ ...view, parts: withPart(parts, into, { ...group, parts: [...group.parts, part] }) });
    if (part.type !== 'group') onOpen(`${into}.${group.parts.length}`);
  };
  const clear = () => {
    const before = view;
    onOpen(null);
    onOpened(null);
    onChange({ ...view, parts: [] });
    toast(`${count(parts.length)} conditions cleared`, {
      action: {
        label: 'Undo',
        onClick: () => {
          onChange(before);
          onOpened(current?.id ?? null);
        },
      },
    });
  };
  return (
    <aside
      aria-label="Sieve"
      className="flex w-[272px] shrink-0 flex-col overflow-auto border-r border-rule px-4 pt-3.5 pb-6"
    >
      <h1 className="break-words">{current?.name ?? 'Sieve'}</h1>
      <p className="small mb-2.5">
        {current ? keptWords(current) : parts.length > 0 ? 'not kept yet' : 'no conditions: the whole pool'}
      </p>
      <PartList {...props} list={parts} above="" add={add} />
      <div className="-mx-4 flex flex-wrap gap-2 border-t border-rule px-4 py-2.5">
        <AddMenu open={menuOpen} onOpen={onMenu} onAdd={(part) => add(part, null)} withGroups>
          Add a condition
        </AddMenu>
        {parts.length > 1 && (
          <button type="button" className="quiet" onClick={clear}>
            Clear all
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

function keptWords({ runs, runMinute, fresh }: StoredSieve): string {
  const time = `${String(Math.floor(runMinute / 60)).padStart(2, '0')}:${String(runMinute % 60).padStart(2, '0')} UTC`;
  const when =
    runs === 'daily' ? `runs daily at ${time}` : runs === 'imports' ? 'runs after each import' : 'kept sieve';
  return fresh > 0 ? `${when}; ${count(fresh)} new` : when;
}

type ListProps = SieveProps & { list: SievePart[]; above: string; add(part: SievePart, into: string | null): void };

/** Parts of one list, in an order that can be changed by dragging or by key. */
function PartList(props: ListProps) {
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
  const setName = (fact: MemberFact, id: number) => sets[fact].find((set) => set.id === id)?.name ?? `number ${id}`;
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
        <Editor
          condition={part}
          histogram={pool.histograms.find((entry) => entry.path === path)}
          sets={sets}
          onChange={(changed) => replace({ ...changed, off: part.off })}
        />
      )}
      {part.type === 'group' && (
        <div className="mt-1 border-l-2 border-rule">
          <PartList {...props} list={part.parts} above={path} />
          <div className="py-1 pl-2.5">
            <GroupAdd depth={depth} onAdd={(inner) => add(inner, path)} />
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
        <span className="flex shrink-0 gap-0.5 text-muted opacity-60 group-focus-within/part:opacity-100 group-hover/part:opacity-100">
          <button
            type="button"
            className="p-0.5 hover:text-ink"
            aria-label={`Move the ${what}`}
            {...attributes}
            {...listeners}
          >
            <GripVertical size={13} aria-hidden="true" />
          </button>
          <button
            type="button"
            className="p-0.5 hover:text-ink"
            aria-pressed={part.off ?? false}
            aria-label={`Switch the ${what} ${part.off ? 'on' : 'off'}`}
            onClick={() => replace({ ...part, off: part.off ? undefined : true })}
          >
            <Power size={13} aria-hidden="true" />
          </button>
          <button type="button" className="p-0.5 hover:text-ink" aria-label={`Remove the ${what}`} onClick={remove}>
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
  setName(fact: MemberFact, id: number): string;
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

function GroupAdd({ depth, onAdd }: { depth: number; onAdd(part: SievePart): void }) {
  const [open, setOpen] = useState(false);
  return (
    <AddMenu open={open} onOpen={setOpen} onAdd={onAdd} withGroups={depth + 1 < MAX_DEPTH} className="set text-small">
      add to the group
    </AddMenu>
  );
}

/** All facts by what they are about, and groups. */
function AddMenu({
  open,
  onOpen,
  onAdd,
  withGroups,
  className = 'quiet',
  children,
}: {
  open: boolean;
  onOpen(open: boolean): void;
  onAdd(part: SievePart): void;
  withGroups: boolean;
  className?: string;
  children: string;
}) {
  const item = 'px-3 py-0.5 outline-none data-[highlighted]:bg-damson-soft';
  return (
    <DropdownMenu.Root open={open} onOpenChange={onOpen}>
      <DropdownMenu.Trigger className={className}>{children}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={4}
          collisionPadding={8}
          className="z-50 max-h-[var(--radix-dropdown-menu-content-available-height)] w-[430px] overflow-auto rounded border border-rule bg-sheet py-2 shadow-lg"
        >
          <div className="columns-2 gap-0">
            {FACT_PARTS.map((section) => (
              <DropdownMenu.Group key={section} className="mb-2 break-inside-avoid">
                <DropdownMenu.Label className="small px-3">{PART_TITLES[section]}</DropdownMenu.Label>
                {FACT_NAMES.filter((fact) => FACTS[fact].part === section).map((fact) => (
                  <DropdownMenu.Item key={fact} className={item} onSelect={() => onAdd(freshCondition(fact))}>
                    {FACTS[fact].label}
                  </DropdownMenu.Item>
                ))}
              </DropdownMenu.Group>
            ))}
            {withGroups && (
              <DropdownMenu.Group className="break-inside-avoid">
                <DropdownMenu.Label className="small px-3">Groups</DropdownMenu.Label>
                {GROUP_MODES.map((mode) => (
                  <DropdownMenu.Item
                    key={mode}
                    className={item}
                    onSelect={() => onAdd({ type: 'group', mode, parts: [] } satisfies Group)}
                  >
                    {GROUP_WORDS[mode]}
                  </DropdownMenu.Item>
                ))}
              </DropdownMenu.Group>
            )}
          </div>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** Fourth root, so that a thousand of a million is still seen. */
function meshShare(part: number, whole: number): number {
  return (part / whole) ** 0.25;
}
