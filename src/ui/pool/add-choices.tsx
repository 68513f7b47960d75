'use client';

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { Command } from 'cmdk';
import { ChevronRight } from 'lucide-react';
import { useMemo, useState } from 'react';
import type { Answer } from '../../contracts/calls';
import { GROUP_MODES, type SievePart, type Sort } from '../../core/pool/conditions';
import { FACT_NAMES, FACT_PARTS, FACTS, type FactName, type FactPart, factSpec } from '../../core/pool/facts';
import { count, plural } from '../../core/wording/format';
import { call } from '../api';
import { useSettled } from '../parts/use-settled';
import { PLACEHOLDER } from './add-words';
import { freshCondition } from './fresh-condition';
import { GROUP_WORDS } from './group-words';
import { partWords, type SetName } from './sentences';
import { isThere, type Known, scoreAt, useKnown } from './use-known';

const PART_TITLES: Record<FactPart, string> = {
  name: 'The name',
  record: 'Registration',
  past: 'History',
  links: 'The links',
  lists: 'As lists state it',
  offers: 'Offers',
  sources: 'Where it comes from',
  yours: 'What you said of it',
  asked: 'How old a figure is',
};
/** Those that most look for; the others are folded until they are opened. */
const UNFOLDED: ReadonlySet<FactPart> = new Set(['name', 'record', 'links', 'offers']);
const REST_MS = 60;
const MOST_FACTS = 8;

export interface ChoicesProps {
  /** What is typed so far. */
  text: string;
  onText(text: string): void;
  onClose(): void;
  /** One or several at once, with an order where one was said. */
  onAdd(parts: SievePart[], sorts: Sort[]): void;
  withGroups: boolean;
  setName: SetName;
}

/** Facts by some of their letters, and the line that is typed as the conditions that it is read as. */
export default function Choices({ text, onText: setText, onClose, onAdd, withGroups, setName }: ChoicesProps) {
  const [folds, setFolds] = useState<Partial<Record<FactPart, boolean>>>({});
  const known = useKnown();
  const line = useLine(text);
  const facts = useMemo(() => factsFor(text, known), [text, known]);
  const isTyping = text.trim() !== '';
  const read = isTyping && line?.of === text ? line.answer : null;
  const take = (parts: SievePart[], sorts: Sort[] = []) => {
    onClose();
    onAdd(parts, sorts);
  };
  const add = (part: SievePart) => take([part]);
  return (
    <Command label="Add conditions" shouldFilter={false} className="flex min-h-0 flex-col">
      <Command.Input
        autoFocus
        value={text}
        onValueChange={setText}
        placeholder={PLACEHOLDER}
        className="field m-2"
        maxLength={1000}
        onKeyDown={(event) => {
          const [first] = read?.completions ?? [];
          if (event.key !== 'Tab' || event.shiftKey || !first) return;
          event.preventDefault();
          setText(first.text);
        }}
      />
      <Command.List className="min-h-0 flex-1 overflow-auto pb-2">
        {read && read.parts.length > 0 && (
          <Command.Group heading={<Heading>Read as</Heading>}>
            <Command.Item
              value="take all"
              className={ITEM}
              onSelect={() =>
                take(
                  read.parts.map(({ part }) => part),
                  read.sorts,
                )
              }
            >
              <strong>Add {plural(read.parts.length, 'condition')}</strong>
              {read.sorts.length > 0 &&
                `, sorted by ${read.sorts.map(({ fact }) => factSpec(fact).label.toLowerCase()).join(', ')}`}{' '}
              <kbd className="small">Enter</kbd>
            </Command.Item>
            {read.parts.map(({ part, start, end }) => (
              <Command.Item
                key={`${start} ${end}`}
                value={`part ${start} ${end}`}
                className={`${ITEM} pl-6`}
                onSelect={() => add(part)}
              >
                {partWords(part, setName)} <span className="small">{text.slice(start, end)}</span>
              </Command.Item>
            ))}
          </Command.Group>
        )}
        {read?.unknown.map(({ text: words, start, end, reason, instead }) => {
          // what is being typed may become something yet
          const isBegun = end === text.length && (read.completions.length > 0 || facts.length > 0);
          if (isBegun) return null;
          return (
            <p key={start} role="status" className="px-3 py-0.5">
              <span className="bg-quince px-1">not understood: {words}</span> {reason ?? ''}
              {instead.length > 0 && ` Known is: ${instead.join(', ')}.`}
            </p>
          );
        })}
        {isTyping && facts.length > 0 && (
          <Command.Group heading={<Heading>Conditions</Heading>}>
            {facts.map((fact) => (
              <FactItem key={fact} fact={fact} known={known} onAdd={add} />
            ))}
          </Command.Group>
        )}
        {read && read.completions.length > 0 && (
          <Command.Group
            heading={
              <Heading>
                Goes on as <kbd>Tab</kbd>
              </Heading>
            }
          >
            {read.completions.map(({ words, text: whole }) => (
              <Command.Item key={words} value={`goes on ${words}`} className={ITEM} onSelect={() => setText(whole)}>
                {words}
              </Command.Item>
            ))}
          </Command.Group>
        )}
        {!isTyping &&
          FACT_PARTS.map((section) => {
            const isOpen = folds[section] ?? UNFOLDED.has(section);
            const of = byKnown(
              FACT_NAMES.filter((fact) => FACTS[fact].part === section && isThere(fact, known)),
              known,
            );
            return (
              <Command.Group key={section}>
                <Command.Item
                  value={`fold ${section}`}
                  className={`${ITEM} font-semibold`}
                  aria-expanded={isOpen}
                  onSelect={() => setFolds((before) => ({ ...before, [section]: !isOpen }))}
                >
                  <ChevronRight size={12} aria-hidden className={`mr-1 inline ${isOpen ? 'rotate-90' : ''}`} />
                  {PART_TITLES[section]} <span className="small font-normal">{of.length}</span>
                </Command.Item>
                {isOpen && of.map((fact) => <FactItem key={fact} fact={fact} known={known} onAdd={add} />)}
              </Command.Group>
            );
          })}
        {!isTyping && withGroups && (
          <Command.Group heading={<Heading>Groups</Heading>}>
            {GROUP_MODES.map((mode) => (
              <Command.Item
                key={mode}
                value={`group ${mode}`}
                className={ITEM}
                onSelect={() => add({ type: 'group', mode, parts: [] })}
              >
                {GROUP_WORDS[mode]}
              </Command.Item>
            ))}
          </Command.Group>
        )}
      </Command.List>
    </Command>
  );
}

const ITEM = 'cursor-pointer px-3 py-1 data-[selected=true]:bg-damson-soft';

const Heading = ({ children }: { children: React.ReactNode }) => (
  <span className="small block px-3 pt-1">{children}</span>
);

function FactItem({ fact, known, onAdd }: { fact: FactName; known: Known; onAdd(part: SievePart): void }) {
  const { label, about } = factSpec(fact);
  const many = known?.known[fact];
  return (
    <Command.Item
      value={`fact ${fact}`}
      className={`${ITEM} flex items-baseline gap-3`}
      onSelect={() => onAdd(freshCondition(fact))}
    >
      <span className="whitespace-nowrap">{[label, scoreAt(fact, known)].filter(Boolean).join(' ')}</span>
      <span className="small min-w-0 truncate">{about}</span>
      <span className="small ml-auto" title="domains that have a value">
        {many === undefined ? '' : many === known?.size ? 'all' : count(many)}
      </span>
    </Command.Item>
  );
}

/** What has values comes first; else the order of the table of facts. */
function byKnown(facts: FactName[], known: Known): FactName[] {
  const hasNone = (fact: FactName) => known?.known[fact] === 0;
  return [...facts.filter((fact) => !hasNone(fact)), ...facts.filter(hasNone)];
}

/** Facts whose labels hold all words that were typed, those that begin with them first. */
function factsFor(text: string, known: Known): FactName[] {
  const words = text.trim().toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return [];
  const labelOf = (fact: FactName) => `${factSpec(fact).label} ${scoreAt(fact, known) ?? ''}`.toLowerCase();
  const found = byKnown(
    FACT_NAMES.filter((fact) => isThere(fact, known) && words.every((word) => labelOf(fact).includes(word))),
    known,
  );
  const begins = (fact: FactName) => labelOf(fact).startsWith(words[0]);
  return [...found.filter(begins), ...found.filter((fact) => !begins(fact))].slice(0, MOST_FACTS);
}

/** What a line is read as, a moment after it was typed. */
function useLine(text: string): { of: string; answer: Answer<'POST /pool/line'> } | null {
  const settled = useSettled(text, REST_MS);
  const { data = null } = useQuery({
    queryKey: ['pool', 'line', settled],
    enabled: settled.trim() !== '',
    placeholderData: keepPreviousData,
    queryFn: async ({ signal }) => ({
      of: settled,
      answer: await call('POST /pool/line', { body: { text: settled }, signal }),
    }),
  });
  return data;
}
