'use client';

import { useRouter } from 'next/navigation';
import { toast } from 'sonner';
import type { Sent } from '../../contracts/calls';
import { ConnectionFileSchema, type ConnectionView } from '../../contracts/connections';
import { USE_SPECS } from '../../core/connections/connection';
import { ago } from '../../core/wording/format';
import { call } from '../api';
import Link from '../link';
import { columnsFor } from '../parts/columns';
import { Table } from '../parts/table';
import { useRedraw } from '../server-state';
import { useNow } from '../shell/live';
import { undoToast } from '../undo';

const STATE_WORDS: Record<ConnectionView['state'], string> = {
  works: 'works',
  fails: 'fails',
  untried: 'not tried',
  off: 'switched off',
};

/** Services that a person has described, and how each stands. */
export function ConnectionsScreen({ connections }: { connections: ConnectionView[] }) {
  const now = useNow();
  return (
    <div className="mx-auto max-w-[1240px] px-6 py-6">
      <p className="small">
        <Link className="set" href="/setup">
          What works
        </Link>
      </p>
      <h1>Services you describe</h1>
      <p className="max-w-[90ch] text-muted">
        A registrar, a venue, a search, a register of trademarks, an index of backlinks: whatever answers over HTTP with
        JSON, CSV, XML, a page or a feed. Say how it is asked, ask it, and press in its answer what is what. Keys stay
        on this machine; a description without them can be handed on.
      </p>
      <div className="my-4 flex flex-wrap items-center gap-3">
        <Link className="press" href="/setup/connections/new">
          Describe a service
        </Link>
        <TakeIn />
      </div>
      {connections.length > 0 && (
        <Table
          label="Services you describe"
          className="table-fixed"
          columns={columnsOf(now)}
          rows={connections}
          rowId={({ id }) => id}
          rowProps={({ id, state }) => ({ 'data-row': id, 'data-state': state })}
        />
      )}
    </div>
  );
}

/** A description that somebody handed on. */
function TakeIn() {
  const router = useRouter();
  const take = async (file: File | undefined) => {
    if (!file) return;
    try {
      const { connection } = await call('POST /connections', { body: await readFile(file) });
      router.push(`/setup/connections/${connection.id}`);
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <label className="quiet cursor-pointer focus-within:outline-2 focus-within:outline-damson">
      Take in a description
      <input
        type="file"
        accept=".json,application/json"
        className="sr-only"
        onChange={(event) => {
          void take(event.target.files?.[0]);
          event.target.value = '';
        }}
      />
    </label>
  );
}

/** @throws with a message for people when it is none. */
async function readFile(file: File): Promise<Sent<'POST /connections'>> {
  let value: unknown;
  try {
    value = JSON.parse(await file.text());
  } catch {
    throw new Error(`${file.name} is no JSON.`);
  }
  const read = ConnectionFileSchema.safeParse(value);
  if (read.success) return read.data;
  const [{ path, message }] = read.error.issues;
  throw new Error(`${file.name} is no description of a service: ${path.join('.')}: ${message}.`);
}

const column = columnsFor<ConnectionView>();

const columnsOf = (now: number) => [
  column.accessor(({ description }) => description.title, {
    id: 'title',
    header: 'Service',
    meta: { isHead: true, className: 'w-52 align-top' },
    cell: ({ row: { original } }) => (
      <Link className="set" href={`/setup/connections/${original.id}`}>
        {original.description.title}
      </Link>
    ),
  }),
  column.accessor(({ description }) => USE_SPECS[description.use].label, {
    id: 'use',
    header: 'Asked for',
    meta: { className: 'w-56 align-top' },
    cell: ({ row: { original } }) => (
      <>
        {USE_SPECS[original.description.use].label}
        {!original.isAsked && original.isOn && <span className="small block">another is asked first</span>}
      </>
    ),
  }),
  column.accessor('state', {
    header: 'Now',
    meta: { className: 'w-28 align-top' },
    cell: ({ row: { original } }) => (
      <span className={original.state === 'works' ? 'text-muted' : 'font-semibold'}>{STATE_WORDS[original.state]}</span>
    ),
  }),
  column.accessor('words', {
    header: 'Why',
    meta: { className: 'align-top' },
    cell: ({ row: { original } }) => (
      <>
        {original.words}
        {original.at !== null && <span className="small"> Tried {ago(original.at, now)}.</span>}
      </>
    ),
  }),
  column.accessor('server', { header: 'Server', meta: { className: 'w-64 align-top break-all text-muted' } }),
  column.display({
    id: 'acts',
    header: '',
    meta: { className: 'w-44 align-top text-right' },
    cell: ({ row: { original } }) => <Acts connection={original} />,
  }),
];

function Acts({ connection: { id, description } }: { connection: ConnectionView }) {
  const redraw = useRedraw();
  const remove = async () => {
    try {
      const { act } = await call('DELETE /connections/{id}', { params: { id } });
      undoToast(`${description.title} is taken away, and its key forgotten`, act, redraw);
      redraw();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <span className="flex justify-end gap-3">
      <a className="set" href={`/api/v1/connections/${id}/file`} download aria-label={`Hand on ${description.title}`}>
        Hand on
      </a>
      <button type="button" className="set" aria-label={`Take away ${description.title}`} onClick={() => void remove()}>
        Take away
      </button>
    </span>
  );
}
