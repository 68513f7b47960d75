'use client';

import {
  DndContext,
  type DragEndEvent,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { type KeyboardEvent, useId } from 'react';
import { closing, isSoon, money } from '../../core/wording/format';
import { fitWords } from '../fit-words';
import Link from '../link';
import { openOrder } from '../orders/open';
import { placeOf, pressed } from '../shell/key-list';
import { useNow } from '../shell/live';
import type { Entry } from './entry';
import { STAGE_STEPS, type StageName } from './stages';

/** Stages side by side. A name is dragged to another, or moved there by the stage's number. */
export function Board({
  entries,
  currency,
  onStage,
}: {
  entries: Entry[];
  currency: string;
  onStage(entry: Entry, stage: StageName): void;
}) {
  // a press that does not move is a press
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const id = useId();
  const drop = ({ active, over }: DragEndEvent) => {
    const entry = entries.find(({ domainId }) => domainId === active.id);
    if (entry && over && over.id !== entry.stage) onStage(entry, over.id as StageName);
  };
  return (
    <DndContext id={id} sensors={sensors} onDragEnd={drop}>
      <p className="small mt-3">
        Drag a name to another stage, or press 1 to {STAGE_STEPS.length} on it; o orders it, Enter opens it.
      </p>
      <div className="mt-1 grid grid-cols-1 lg:grid-cols-6 gap-3">
        {STAGE_STEPS.map(([stage, step], n) => (
          <Stage
            key={stage}
            stage={stage}
            number={n + 1}
            step={step}
            currency={currency}
            entries={entries.filter((entry) => entry.stage === stage)}
            onStage={onStage}
          />
        ))}
      </div>
    </DndContext>
  );
}

function Stage({
  stage,
  number,
  step,
  entries,
  currency,
  onStage,
}: {
  stage: StageName;
  number: number;
  step: string;
  entries: Entry[];
  currency: string;
  onStage(entry: Entry, stage: StageName): void;
}) {
  const { setNodeRef, isOver } = useDroppable({ id: stage });
  const bids = entries.reduce((sum, { maximumBidMinor }) => sum + (maximumBidMinor ?? 0), 0);
  return (
    <section
      ref={setNodeRef}
      aria-label={`Stage ${stage}`}
      className={`min-h-64 border-t-2 pt-1 ${isOver ? 'border-damson bg-damson-soft' : 'border-rule'}`}
    >
      <h2 className="flex items-baseline gap-1.5">
        <span className="small">{number}</span>
        {stage} <span className="small font-normal">{entries.length}</span>
        <span className="small ml-auto font-normal">{bids > 0 ? money(bids, currency) : ''}</span>
      </h2>
      <p className="small mb-1">{step}</p>
      {entries.map((entry) => (
        <Card key={entry.domainId} entry={entry} currency={currency} onStage={onStage} />
      ))}
    </section>
  );
}

function Card({
  entry,
  currency,
  onStage,
}: {
  entry: Entry;
  currency: string;
  onStage(entry: Entry, stage: StageName): void;
}) {
  const now = useNow();
  const { domain } = entry;
  const { setNodeRef, listeners, transform, isDragging } = useDraggable({ id: entry.domainId });
  const onKey = (event: KeyboardEvent) => {
    const key = pressed('shortlist, on a row', event);
    if (key === 'stage') onStage(entry, STAGE_STEPS[placeOf(event)][0]);
    else if (key === 'order') openOrder(domain.name);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const at = domain.closingAt ?? domain.dropAt;
  return (
    <article
      ref={setNodeRef}
      {...listeners}
      data-domain={domain.name}
      style={transform ? { transform: `translate(${transform.x}px, ${transform.y}px)` } : undefined}
      className={`relative cursor-grab border-t border-faint py-1.5 ${isDragging ? 'z-10 bg-sheet shadow-lg' : ''}`}
    >
      <Link
        href={`/domains/${domain.name}`}
        draggable={false}
        onKeyDown={onKey}
        className="block font-semibold wrap-anywhere hover:underline"
      >
        {domain.display}
      </Link>
      <span className="block">
        {fitWords(entry.fit)}
        {entry.maximumBidMinor !== null && `, up to ${money(entry.maximumBidMinor, currency)}`}
      </span>
      {entry.order && <span className="small block text-ink">{entry.order}</span>}
      {at !== null && closing(at, now) !== '' && (
        <span className="small block">
          {domain.closingAt === null ? 'drops ' : 'closes '}
          <span className={isSoon(at, now) ? 'rounded-[3px] bg-quince px-1 text-ink' : ''}>{closing(at, now)}</span>
        </span>
      )}
      {entry.tags.length > 0 && <span className="small block">{entry.tags.join(', ')}</span>}
    </article>
  );
}
