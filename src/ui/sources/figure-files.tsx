'use client';

import { useState } from 'react';
import { count, plural } from '../../core/wording/format';
import { call } from '../api';
import { FileDrop, Problem, Status, useAttempt } from '../fields';
import { PlainTable, plainColumnsFor } from '../parts/plain-table';
import { useRedraw } from '../server-state';
import { nameOfFile } from './use-table-look';

interface Taken {
  words: string;
  aside: { line: number; reason: string; sample: string }[];
  setAside: number;
}

const column = plainColumnsFor<Taken['aside'][number]>();

/** Names that were sold, from a file: by them worth is suggested. */
export function SalesFile() {
  return (
    <FigureFile
      label="Choose a list of sales"
      hint="A table with columns for domain, price and date, in any order, with or without a currency."
      about="Names that were sold, anywhere: by those that are alike, a worth is suggested for each name of the shortlist."
      take={async (file) => {
        const { taken, repeated, setAside, aside } = await call('POST /sales', {
          query: { name: nameOfFile(file) },
          file,
        });
        return {
          words: `${plural(taken, 'sale')} taken, ${count(repeated)} known already, ${count(setAside)} rejected`,
          aside,
          setAside,
        };
      }}
    />
  );
}

/** Keywords that domains are found by, from a file: by them traffic value is reckoned. */
export function KeywordsFile() {
  return (
    <FigureFile
      label="Choose a list of keywords"
      hint="A table with columns for domain, keyword, position and search volume, and cost per click where it is known."
      about="Keywords that domains of the pool are found by: estimates of whoever made the list, kept with its name and date. By them the traffic value of a name is reckoned."
      take={async (file) => {
        const { taken, unknown, setAside, aside } = await call('POST /rankings', {
          query: { name: nameOfFile(file) },
          file,
        });
        return {
          words: `${plural(taken, 'keyword')} taken, ${count(unknown)} of names not in the pool, ${count(setAside)} rejected`,
          aside,
          setAside,
        };
      }}
    />
  );
}

function FigureFile({
  label,
  hint,
  about,
  take,
}: {
  label: string;
  hint: string;
  about: string;
  take(file: File): Promise<Taken>;
}) {
  const redraw = useRedraw();
  const { problem, busy, attempt } = useAttempt();
  const [taken, setTaken] = useState<Taken | null>(null);
  return (
    <div className="flex flex-col gap-3">
      <p>{about}</p>
      <FileDrop
        label={label}
        hint={hint}
        onFile={(file) =>
          void attempt('Reading the file', async () => {
            setTaken(null);
            setTaken(await take(file));
            redraw();
          })
        }
      />
      <Status text={busy ?? taken?.words ?? null} />
      <Problem text={problem} />
      {taken && taken.aside.length > 0 && (
        <PlainTable
          label="Rejected rows"
          isHeadless
          rows={taken.aside}
          rowId={({ line, reason }) => `${line} ${reason}`}
          columns={[
            column('Line', ({ line }) => `line ${count(line)}`, { isHead: true, className: 'whitespace-nowrap' }),
            column('Reason', ({ reason }) => reason),
            column('What stands there', ({ sample }) => sample, { className: 'small wrap-anywhere' }),
          ]}
        />
      )}
      {taken && taken.setAside > taken.aside.length && (
        <p className="small">and {count(taken.setAside - taken.aside.length)} more rejected rows</p>
      )}
    </div>
  );
}
