'use client';

import { Dialog } from 'radix-ui';
import { PLACES } from './header';

const GRID_KEYS = [
  ['↓ or j, ↑ or k', 'next, previous domain; with Shift also selected'],
  ['Page Up, Page Down, Home, End', 'by the page, to the ends'],
  ['Enter', 'open the dossier'],
  ['v', 'look at it beside the grid; the look follows'],
  ['x or space, Ctrl A, Esc', 'select, all that match, none'],
  ['Ctrl C', 'copy the selected as text'],
  ['s, w', 'shortlist, watch, or neither again'],
  ['y, n, !, +', 'keep, pass, spam, sound'],
  ['z, e, u', 'snooze a week, exclude, take the mark back'],
  ['c', 'check and measure the selected, or the current one'],
  ['b', 'put the selected two to four side by side, or the current one beside others'],
  ['o', 'order it: bid, buy or register, on the terms of this moment'],
  ['r', 'review what is left'],
  ['/, a', 'condition on the name; add conditions by typing'],
  ['0', 'clear all conditions'],
];
const DOSSIER_KEYS = [
  ['s, w, c', 'shortlist, watch, check and measure'],
  ['f, o', 'confirm it now, down to the registrar; order it'],
  ['+, !, n, u', 'sound, spam, pass (then 1 to 6 for the reason), take the mark back'],
  ['1 to 9, 0', 'to a section, to the top'],
  ['m', 'write a note'],
  ['b', 'put it beside others'],
  ['+ − ← → 0 on the lifeline', 'closer, wider, along, all of it'],
];
const REVIEW_KEYS = [
  ['y, n, !, +, z', 'keep, pass (then 1 to 6 for the reason), spam, sound, snooze'],
  ['u, →, ←', 'undo, leave it, back'],
  ['o', 'order it'],
];

const AFTER_KEYS = [
  ['y, 1 to 4, g, e, x', 'redirects: take a proposal, let it be gone, say where, leave it open'],
  ['y, x', 'rebuild: bring the page back, leave it'],
  ['u', 'redirects, rebuild: take back'],
];

/** All single-key actions. */
export default function Keys({ onClose }: { onClose(): void }) {
  const rows = [
    ['Ctrl K', 'go anywhere'],
    ['?', 'this list'],
    ...PLACES.map(({ key, label }) => [`g ${key}`, label]),
    ...GRID_KEYS,
    ...DOSSIER_KEYS.map(([keys, what]) => [keys, `dossier: ${what}`]),
    ['h', 'Today: hide the first steps for good'],
    ['d', 'side by side: only what differs'],
    ...REVIEW_KEYS.map(([keys, what]) => [keys, `review: ${what}`]),
    ...AFTER_KEYS,
  ];
  return (
    <Dialog.Root open onOpenChange={(isOpen) => !isOpen && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed left-1/2 top-12 z-50 max-h-[90vh] w-[560px] max-w-[calc(100vw-16px)] overflow-auto -translate-x-1/2 rounded-lg border border-rule bg-sheet p-5 shadow-xl"
        >
          <Dialog.Title className="font-serif text-title font-semibold">Keys</Dialog.Title>
          <table className="mt-3 w-full">
            <tbody>
              {rows.map(([keys, what]) => (
                <tr key={`${keys} ${what}`} className="border-t border-rule">
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
