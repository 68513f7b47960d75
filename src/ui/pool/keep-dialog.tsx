import { useState } from 'react';
import { toast } from 'sonner';
import { formatView } from '../../core/pool/conditions';
import { call } from '../api';
import { Box } from './dialog-box';
import type { Props } from './kept-props';

export function Keep({
  view,
  current,
  onOpened,
  onClose,
  onKept,
}: Pick<Props, 'view' | 'current' | 'onOpened' | 'onKept'> & { onClose(): void }) {
  const [name, setName] = useState(current ? `${current.name}, another` : '');
  const [problem, setProblem] = useState<string | null>(null);
  return (
    <Box title="Keep this sieve" onClose={onClose}>
      <form
        onSubmit={async (event) => {
          event.preventDefault();
          try {
            const { id } = await call('POST /sieves', { body: { name, view: formatView(view).toString() } });
            onOpened(id);
            toast(`Kept as "${name}"`);
            onKept();
            onClose();
          } catch (error) {
            setProblem((error as Error).message);
          }
        }}
      >
        <p className="small mb-2">Its conditions, order and columns, under a name of its own.</p>
        <input
          className="field w-full"
          placeholder="Name for this sieve"
          aria-label="Name for this sieve"
          value={name}
          // biome-ignore lint/a11y/noAutofocus: a box for one field
          autoFocus
          onChange={(event) => setName(event.target.value)}
        />
        {problem && (
          <p role="alert" className="mt-2 bg-quince px-2 py-1">
            {problem}
          </p>
        )}
        <p className="mt-3 flex justify-end gap-2">
          <button type="button" className="quiet" onClick={onClose}>
            Leave it
          </button>
          <button type="submit" className="press" disabled={name.trim() === ''}>
            Keep
          </button>
        </p>
      </form>
    </Box>
  );
}
