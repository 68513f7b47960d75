'use client';

import { useState } from 'react';
import { useFormContext, useWatch } from 'react-hook-form';
import {
  type AnswerField,
  type AnswerFormat,
  type ConnectionUse,
  FIELD_LABELS,
  USE_SPECS,
} from '../../core/connections/connection';
import { placeOfPick } from '../../core/connections/pick';
import type { LaidOut } from '../../core/connections/tried';
import { plural } from '../../core/wording/format';
import { BareField, ChoiceField, Complaint, LineField } from '../forms/field';
import { columnsFor } from '../parts/columns';
import { Table } from '../parts/table';
import { placeText, type TypedIn } from './typed-connection';

const FORMATS = [
  ['json', 'JSON'],
  ['csv', 'CSV'],
  ['xml', 'XML'],
  ['html', 'a page (HTML)'],
  ['feed', 'a feed (Atom, RSS)'],
] as const satisfies readonly (readonly [AnswerFormat, string])[];

/** Where in the answer what stands. A text of the answer that is pressed goes into the field that was last worked on. */
export function AnswerFields({ laidOut }: { laidOut: LaidOut | null }) {
  const { use = 'registrar', format = 'json', entries = '' } = useWatch<TypedIn>();
  const form = useFormContext<TypedIn>();
  const { fields } = USE_SPECS[use];
  const [active, setActive] = useState<AnswerField>(fields[0]);
  const chosen = fields.includes(active) ? active : fields[0];
  const put = (text: string) => {
    form.setValue(`fields.${chosen}`, text, { shouldDirty: true });
    const next = fields[fields.indexOf(chosen) + 1];
    if (next !== undefined && !form.getValues(`fields.${next}`)) setActive(next);
  };
  if (format === 'feed')
    return (
      <>
        <Format laidOut={laidOut} />
        <p className="text-muted">Atom and RSS say by themselves what is what.</p>
        {laidOut && <AsRead laidOut={laidOut} />}
      </>
    );
  return (
    <>
      <div className="flex flex-wrap items-end gap-4">
        <Format laidOut={laidOut} />
        <LineField
          name="entries"
          label="Entries"
          hint={format === 'html' ? 'a selector' : 'where the list stands; empty: it is one entry'}
          list="series"
          className="w-56 max-w-full"
        />
        <datalist id="series">
          {laidOut?.series.map(({ at, count }) => (
            <option key={at} value={at}>
              {plural(count, 'entry', 'entries')}
            </option>
          ))}
          {laidOut?.repeated.map(({ selector, count }) => (
            <option key={selector} value={selector}>
              {plural(count, 'time')}
            </option>
          ))}
        </datalist>
      </div>
      <Complaint name="entries" />
      <Places use={use} chosen={chosen} onChoose={setActive} />
      {laidOut && <AsRead laidOut={laidOut} />}
      {laidOut && (
        <Leaves
          laidOut={laidOut}
          format={format}
          entries={entries}
          label={FIELD_LABELS[chosen]}
          onEntries={(at) => form.setValue('entries', at, { shouldDirty: true })}
          onPut={put}
        />
      )}
    </>
  );
}

function Format({ laidOut }: { laidOut: LaidOut | null }) {
  const { format } = useWatch<TypedIn>();
  const other = laidOut && laidOut.format !== format ? FORMATS.find(([one]) => one === laidOut.format) : undefined;
  return <ChoiceField name="format" label="Written as" hint={other && `it looks like ${other[1]}`} options={FORMATS} />;
}

/** Each field with where it stands. */
function Places({
  use,
  chosen,
  onChoose,
}: {
  use: ConnectionUse;
  chosen: AnswerField;
  onChoose(field: AnswerField): void;
}) {
  const { fields, wanted } = USE_SPECS[use];
  return (
    <div>
      <p className="font-semibold">
        Where what stands{' '}
        <span className="small font-normal">
          /name in each entry, ^/name once in the answer, = word always so, . the entry itself
        </span>
      </p>
      <div className="mt-1 grid grid-cols-[auto_minmax(0,1fr)] items-baseline gap-x-3 gap-y-1 sm:grid-cols-[auto_minmax(0,1fr)_auto_minmax(0,1fr)]">
        {fields.map((field, n) => (
          <div key={field} className="contents">
            <span className={field === chosen ? 'font-semibold' : ''}>
              {FIELD_LABELS[field]}
              {n < wanted && <span className="small"> needed</span>}
            </span>
            <BareField
              name={`fields.${field}`}
              aria-label={`Where ${FIELD_LABELS[field]} stands`}
              onFocus={() => onChoose(field)}
            />
          </div>
        ))}
      </div>
      <Complaint name="fields" />
    </div>
  );
}

interface Read {
  id: string;
  cells: Record<string, string>;
}
const column = columnsFor<Read>();

/** The first entries as they are read by the description that was asked with. */
function AsRead({ laidOut: { columns, rows, count } }: { laidOut: LaidOut }) {
  if (columns.length === 0 || rows.length === 0) return null;
  return (
    <div className="overflow-x-auto">
      <p className="font-semibold">As it was read: {plural(count, 'entry', 'entries')}</p>
      <Table
        label="As it was read"
        className="text-small whitespace-nowrap"
        columns={columns.map((field) =>
          column.accessor(({ cells }) => cells[field] ?? '', { id: field, header: FIELD_LABELS[field] }),
        )}
        rows={rows.map((cells, n) => ({
          id: String(n),
          cells: Object.fromEntries(columns.map((field, at) => [field, cells[at] ?? ''])),
        }))}
        rowId={({ id }) => id}
      />
    </div>
  );
}

/** The answer's texts, to be pressed. */
function Leaves({
  laidOut,
  format,
  entries,
  label,
  onEntries,
  onPut,
}: {
  laidOut: LaidOut;
  format: AnswerFormat;
  entries: string;
  label: string;
  onEntries(at: string): void;
  onPut(text: string): void;
}) {
  const line = 'grid w-full grid-cols-[minmax(0,2fr)_minmax(0,3fr)] gap-3 px-1 py-0.5 text-left hover:bg-damson-soft';
  if (format === 'html') {
    const kind = laidOut.repeated.find(({ selector }) => selector === entries);
    return (
      <div>
        <p className="font-semibold">{kind ? `Press what is the ${label}` : 'Press what is one entry'}</p>
        <div className="mt-1 max-h-80 overflow-y-auto border border-rule text-small">
          {kind
            ? kind.parts.map(({ at, text }) => (
                <button key={at} type="button" className={line} onClick={() => onPut(at === '' ? '.' : at)}>
                  <span className="truncate text-muted">{at === '' ? 'all of it' : at}</span>
                  <span className="truncate">{text}</span>
                </button>
              ))
            : laidOut.repeated.map(({ selector, count, samples }) => (
                <button key={selector} type="button" className={line} onClick={() => onEntries(selector)}>
                  <span className="truncate text-muted">
                    {selector}, {plural(count, 'time')}
                  </span>
                  <span className="truncate">{samples.join(' / ')}</span>
                </button>
              ))}
        </div>
        {kind && (
          <button type="button" className="set text-small" onClick={() => onEntries('')}>
            Choose other entries
          </button>
        )}
      </div>
    );
  }
  if (laidOut.leaves.length === 0) return null;
  const tree = treeOf(laidOut);
  const pick = (parts: readonly string[]) => {
    const { entries: next, place } = placeOfPick(tree, parts, entries);
    if (next !== entries) onEntries(next);
    onPut(placeText(place));
  };
  return (
    <div>
      <p className="font-semibold">
        Press what is the {label} <span className="small font-normal">{laidOut.isCut && 'the first of each list'}</span>
      </p>
      <div className="mt-1 max-h-80 overflow-y-auto border border-rule text-small">
        {laidOut.leaves.map(({ parts, text }) => (
          <button key={parts.join('/')} type="button" className={line} onClick={() => pick(parts)}>
            <span className="truncate text-muted" title={parts.join('/')}>
              {parts.join('/') || 'all of it'}
            </span>
            <span className="truncate">{text || '(empty)'}</span>
          </button>
        ))}
      </div>
    </div>
  );
}

type Node = string | Node[] | { [name: string]: Node };

/** As much of the answer's tree as its texts and lists tell: enough to know what a text is part of. */
function treeOf({ leaves, series }: LaidOut): Node {
  const lists = new Set(series.filter(({ at }) => !at.endsWith('/*')).map(({ at }) => at));
  const root: { node: Node } = { node: lists.has('') ? [] : {} };
  for (const { parts, text } of leaves) {
    if (parts.length === 0) return text;
    let at: Node = root.node;
    for (const [n, part] of parts.entries()) {
      if (typeof at === 'string') break;
      const holder = at as Record<string, Node>;
      const here = `/${parts.slice(0, n + 1).join('/')}`;
      const isLast = n === parts.length - 1;
      const isList = lists.has(here) || (!isLast && /^\d+$/.test(parts[n + 1]));
      holder[part] ??= isLast ? text : isList ? [] : {};
      at = holder[part];
    }
  }
  return root.node;
}
