'use client';

import { Dialog } from 'radix-ui';
import { columnsFor } from '../parts/columns';
import { Table } from '../parts/table';
import { PLACES } from './header';
import { KEYS, keyWords } from './key-list';

interface KeyRow {
  id: string;
  where: string;
  keys: string;
  words: string;
}

const ROWS: KeyRow[] = Object.entries(KEYS).flatMap(([where, keys]) => [
  ...Object.entries(keys).map(([id, key]) => ({
    id: `${where} ${id}`,
    where: titled(where),
    keys: keyWords(key),
    words: key.words,
  })),
  ...(where === 'everywhere'
    ? PLACES.map(({ key, label }) => ({ id: `g ${key}`, where: titled(where), keys: `g ${key}`, words: label }))
    : []),
]);

function titled(where: string): string {
  return `${where.charAt(0).toUpperCase()}${where.slice(1)}`;
}

const column = columnsFor<KeyRow>();
const COLUMNS = [
  column.accessor('keys', { header: 'Key', meta: { isHead: true, className: 'w-40 font-semibold' } }),
  column.accessor('words', { header: 'What it does' }),
];

/** All single-key actions. */
export default function Keys({ onClose }: { onClose(): void }) {
  return (
    <Dialog.Root open onOpenChange={(isOpen) => !isOpen && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed left-1/2 top-12 z-50 max-h-[90vh] w-[560px] max-w-[calc(100vw-16px)] overflow-auto -translate-x-1/2 rounded-lg border border-rule bg-sheet p-5 shadow-xl"
        >
          <Dialog.Title className="font-serif text-title font-semibold">Keys</Dialog.Title>
          <Table
            label="Keys"
            className="mt-3"
            columns={COLUMNS}
            rows={ROWS}
            rowId={({ id }) => id}
            groupOf={({ where }) => where}
          />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
