import { toast } from 'sonner';
import { z } from 'zod';
import { formatView } from '../../core/pool/conditions';
import { call } from '../api';
import { BareField } from '../forms/field';
import { Form } from '../forms/form';
import { text } from '../forms/typed';
import { Box } from './dialog-box';
import type { Props } from './kept-props';

const TypedName = z.object({ name: text('Give it a name.') });

export default function Keep({
  view,
  current,
  onOpened,
  onClose,
  onKept,
}: Pick<Props, 'view' | 'current' | 'onOpened' | 'onKept'> & { onClose(): void }) {
  return (
    <Box title="Keep this sieve" onClose={onClose}>
      <Form
        schema={TypedName}
        values={{ name: current ? `${current.name}, another` : '' }}
        label="Keep"
        busyLabel="Keeping"
        className="gap-3"
        isFleeting
        act={async ({ name }) => {
          const { id } = await call('POST /sieves', { body: { name, view: formatView(view).toString() } });
          onOpened(id);
          toast(`Kept as "${name}"`);
          onKept();
          onClose();
        }}
        beside={
          <button type="button" className="quiet" onClick={onClose}>
            Leave it
          </button>
        }
      >
        <p className="small">Its conditions, order and columns, under a name of its own.</p>
        <BareField
          name="name"
          className="w-full"
          placeholder="Name for this sieve"
          aria-label="Name for this sieve"
          autoFocus
        />
      </Form>
    </Box>
  );
}
