'use client';

import { Dialog } from 'radix-ui';
import { PLACES } from './header';

const GRID_KEYS = [
  ['↓ or j, ↑ or k', 'next, previous domain'],
  ['Page Up, Page Down, Home, End', 'by the page, to the ends'],
  ['Enter', 'open the dossier'],
  ['s', 'shortlist, or take off again'],
  ['x', 'select'],
  ['c', 'check and measure the selected, or the current one'],
  ['/', 'condition on the name'],
  ['a', 'add a condition'],
];

/** All single-key actions. */
export default function Keys({ onClose }: { onClose(): void }) {
  const rows = [
    ['Ctrl K', 'go anywhere'],
    ['?', 'this list'],
    ...PLACES.map(({ key, label }) => [`g ${key}`, label]),
    ...GRID_KEYS,
  ];
  return (
    <Dialog.Root open onOpenChange={(isOpen) => !isOpen && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed left-1/2 top-24 z-50 w-[460px] -translate-x-1/2 rounded-lg border border-rule bg-sheet p-5 shadow-xl"
        >
          <Dialog.Title className="font-serif text-title font-semibold">Keys</Dialog.Title>
          <table className="mt-3 w-full">
            <tbody>
              {rows.map(([keys, what]) => (
                <tr key={keys} className="border-t border-rule">
                  <th scope="row" className="py-1 pr-6 text-left font-semibold">
                    {keys}
                  </th>
                  <td>{what}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
