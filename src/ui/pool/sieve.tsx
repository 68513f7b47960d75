'use client';

import { X } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { toast } from 'sonner';
import { type Condition, formatView, type PoolView, parseView } from '../../core/pool/conditions';
import { FACT_NAMES, FACTS, type FactName, factSpec } from '../../core/pool/facts';
import { call } from '../api';
import { count } from '../format';
import { Editor } from './editor';
import { sentence } from './sentences';
import type { PoolState } from './use-pool';

interface SieveProps {
  view: PoolView;
  pool: PoolState;
  open: number | null;
  sieves: { id: number; name: string; view: string }[];
  sources: { id: number; name: string }[];
  menuOpen: boolean;
  onMenu(open: boolean): void;
  onOpen(index: number | null): void;
  onChange(view: PoolView): void;
  onKept(): void;
}

/** A condition on a fact before anything is set. */
export function freshCondition(fact: FactName): Condition {
  switch (factSpec(fact).kind) {
    case 'text':
      return { type: 'text', fact: 'name', mode: 'contains', values: [], not: false };
    case 'choice':
      return { type: 'choice', fact, values: [], not: false };
    case 'member':
      return { type: 'member', fact: 'source', values: [], not: false };
    default:
      return { type: 'range', fact, min: null, max: null, keepUnknown: false };
  }
}

/** The stack of conditions: a paragraph that can be edited, with what each line keeps out. */
export function Sieve({ view, pool, open, sieves, sources, menuOpen, onMenu, onOpen, onChange, onKept }: SieveProps) {
  const { conditions } = view;
  const current = sieves.find((sieve) => sieve.view === formatView(view).toString());
  const sourceName = (id: number) => sources.find((source) => source.id === id)?.name ?? `number ${id}`;
  const replace = (index: number, condition: Condition) =>
    onChange({ ...view, conditions: conditions.map((old, i) => (i === index ? condition : old)) });
  const remove = (index: number) => {
    const before = view;
    onChange({ ...view, conditions: conditions.filter((_, i) => i !== index) });
    onOpen(null);
    toast('Condition removed', { action: { label: 'Undo', onClick: () => onChange(before) } });
  };
  return (
    <aside
      aria-label="Sieve"
      className="flex w-[272px] shrink-0 flex-col overflow-auto border-r border-rule px-4 pt-3.5 pb-6"
    >
      <h1>{current?.name ?? 'Sieve'}</h1>
      <p className="small mb-2.5">
        {current ? 'kept sieve' : conditions.length > 0 ? 'not kept yet' : 'no conditions: the whole pool'}
      </p>
      <ol>
        {conditions.map((condition, index) => {
          const counts = pool.perCondition[index];
          const isOpen = open === index;
          return (
            <li
              key={`${index}-${condition.fact}`}
              className={`relative -mx-4 border-t border-rule px-4 py-2 ${isOpen ? 'bg-sheet' : ''}`}
              data-condition={condition.fact}
            >
              <div className="flex items-start gap-2">
                <button
                  type="button"
                  className="flex-1 text-left"
                  aria-expanded={isOpen}
                  onClick={() => onOpen(isOpen ? null : index)}
                >
                  {sentence(condition, sourceName).map((part, i) => (
                    <span key={i} className={part.set ? 'set' : undefined}>
                      {part.text}
                    </span>
                  ))}
                </button>
                <span className="font-semibold" title="left after this condition and those above">
                  {counts ? count(counts.remaining) : ''}
                </span>
                <button
                  type="button"
                  aria-label={`Remove the condition on ${FACTS[condition.fact].label.toLowerCase()}`}
                  className="text-muted hover:text-ink"
                  onClick={() => remove(index)}
                >
                  <X size={13} aria-hidden="true" className="mt-0.5" />
                </button>
              </div>
              {isOpen && (
                <Editor
                  condition={condition}
                  histogram={pool.histograms.find((entry) => entry.condition === index)}
                  sources={sources}
                  onChange={(changed) => replace(index, changed)}
                />
              )}
              <div
                className="mt-1.5 h-[5px]"
                style={{ background: 'repeating-linear-gradient(90deg, var(--rule) 0 2px, transparent 2px 5px)' }}
              >
                <div
                  className="mesh-fill h-full bg-damson"
                  style={{
                    width: `${counts && pool.size > 0 ? Math.max(0.5, meshShare(counts.remaining, pool.size) * 100) : 100}%`,
                  }}
                />
              </div>
              {counts && (
                <p className="small mt-1">
                  removes {count(counts.removes)}; without it{' '}
                  {counts.alone > 0 ? `${count(counts.alone)} more` : 'no more'} would pass
                </p>
              )}
            </li>
          );
        })}
      </ol>
      <div className="-mx-4 flex gap-2 border-t border-rule px-4 py-2.5">
        <DropdownMenu.Root open={menuOpen} onOpenChange={onMenu}>
          <DropdownMenu.Trigger className="quiet">Add a condition</DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content
              align="start"
              sideOffset={4}
              className="z-50 max-h-96 overflow-auto rounded border border-rule bg-sheet py-1 shadow-lg"
            >
              {FACT_NAMES.map((fact) => (
                <DropdownMenu.Item
                  key={fact}
                  className="px-3 py-1 outline-none data-[highlighted]:bg-damson-soft"
                  onSelect={() => {
                    onChange({ ...view, conditions: [...conditions, freshCondition(fact)] });
                    onOpen(conditions.length);
                  }}
                >
                  {FACTS[fact].label}
                </DropdownMenu.Item>
              ))}
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
        <KeptSieves view={view} sieves={sieves} onChange={onChange} onKept={onKept} />
      </div>
      <div className="-mx-4 border-t-2 border-ink px-4 pt-2.5">
        <span className="font-serif text-figure font-semibold" data-testid="total">
          {count(pool.total)}
        </span>{' '}
        left of {count(pool.size)}
      </div>
    </aside>
  );
}

/** Fourth root, so that a thousand of a million is still seen. */
function meshShare(part: number, whole: number): number {
  return (part / whole) ** 0.25;
}

function KeptSieves({ view, sieves, onChange, onKept }: Pick<SieveProps, 'view' | 'sieves' | 'onChange' | 'onKept'>) {
  const [name, setName] = useState('');
  const keep = async () => {
    try {
      await call('/sieves', { body: { name, view: formatView(view).toString() } });
      toast(`Kept as "${name}"`);
      setName('');
      onKept();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  const remove = async (sieve: SieveProps['sieves'][number]) => {
    await call(`/sieves/${sieve.id}`, { method: 'DELETE' });
    onKept();
    toast(`"${sieve.name}" deleted`, {
      action: {
        label: 'Undo',
        onClick: async () => {
          await call('/sieves', { body: { name: sieve.name, view: sieve.view } });
          onKept();
        },
      },
    });
  };
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="quiet">Kept sieves</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={4}
          className="z-50 w-64 rounded border border-rule bg-sheet py-1 shadow-lg"
        >
          {sieves.length === 0 && <p className="small px-3 py-1">None kept yet.</p>}
          {sieves.map((sieve) => (
            <div key={sieve.id} className="flex items-center">
              <DropdownMenu.Item
                className="flex-1 truncate px-3 py-1 outline-none data-[highlighted]:bg-damson-soft"
                onSelect={() => onChange(parseView(new URLSearchParams(sieve.view)))}
              >
                {sieve.name}
              </DropdownMenu.Item>
              <DropdownMenu.Item
                aria-label={`Delete ${sieve.name}`}
                className="px-2 py-1 text-muted outline-none data-[highlighted]:bg-damson-soft"
                onSelect={() => remove(sieve)}
              >
                <X size={13} aria-hidden="true" />
              </DropdownMenu.Item>
            </div>
          ))}
          <form
            className="mt-1 flex gap-2 border-t border-rule px-3 pt-2 pb-1"
            onSubmit={(event) => {
              event.preventDefault();
              void keep();
            }}
          >
            <input
              className="field min-w-0 flex-1"
              placeholder="Name for this sieve"
              aria-label="Name for this sieve"
              value={name}
              onChange={(event) => setName(event.target.value)}
              onKeyDown={(event) => event.stopPropagation()}
            />
            <button type="submit" className="press" disabled={name.trim() === ''}>
              Keep
            </button>
          </form>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
