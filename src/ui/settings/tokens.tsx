'use client';

import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { z } from 'zod';
import type { Answer } from '../../contracts/calls';
import { tokensCalls } from '../../contracts/tokens';
import { SCOPE_WORDS, TOKEN_SCOPES, type TokenScope } from '../../core/settings/token-scopes';
import { ago, day } from '../../core/wording/format';
import { call } from '../api';
import { ChoiceField, LineField } from '../forms/field';
import { Form } from '../forms/form';
import { sentBy } from '../forms/typed';
import { columnsFor } from '../parts/columns';
import { Table } from '../parts/table';
import { useRedraw } from '../server-state';
import { useNow } from '../shell/live';

const Typed = sentBy(
  z.object({ name: z.string().trim(), scope: z.enum(TOKEN_SCOPES) }),
  tokensCalls['POST /tokens'].body,
);
type Token = Answer<'GET /tokens'>['tokens'][number];

/** Tokens of scripts: each may so much and no more, is shown once, and is taken back at any time. */
export function Tokens() {
  const redraw = useRedraw();
  const now = useNow();
  const [made, setMade] = useState<string | null>(null);
  const { data: tokens = [] } = useQuery({
    queryKey: ['tokens'],
    queryFn: async ({ signal }) => (await call('GET /tokens', { signal })).tokens,
  });
  const revoke = async ({ id, name }: Token) => {
    try {
      await call('DELETE /tokens/{id}', { params: { id } });
      toast(`${name} has no way in any more`);
      redraw();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <section aria-labelledby="tokens">
      <h2 id="tokens">Tokens for scripts</h2>
      <p className="small">
        A script bears one as <code>Authorization: Bearer …</code>. The key in <code>token</code> of the data folder may
        everything; these may so much and no more.
      </p>
      {tokens.length > 0 && (
        <Table
          label="Tokens"
          className="mt-2"
          columns={columnsOf(now, (token) => void revoke(token))}
          rows={tokens}
          rowId={({ id }) => String(id)}
          isSortable
        />
      )}
      <Form
        schema={Typed}
        values={{ name: '', scope: 'read' as TokenScope }}
        name="A token"
        label="Make a token"
        busyLabel="Making it"
        isQuiet
        isEmptied
        className="mt-2"
        act={async (body) => {
          const { token } = await call('POST /tokens', { body });
          setMade(token);
          redraw();
        }}
      >
        <div className="flex flex-wrap gap-4">
          <LineField name="name" label="Which script is it for?" maxLength={100} className="w-56" autoComplete="off" />
          <ChoiceField
            name="scope"
            label="It may"
            className="max-w-full"
            options={TOKEN_SCOPES.map((scope) => [scope, SCOPE_WORDS[scope]] as const)}
          />
        </div>
      </Form>
      {made !== null && (
        <p role="status" className="mt-2 bg-quince px-3 py-2">
          It is shown this once: <code className="break-all select-all">{made}</code>
        </p>
      )}
    </section>
  );
}

const column = columnsFor<Token>();

const columnsOf = (now: number, revoke: (token: Token) => void) => [
  column.accessor('name', { header: 'Script', meta: { isHead: true } }),
  column.accessor(({ scope }) => TOKEN_SCOPES.indexOf(scope), {
    id: 'scope',
    header: 'May',
    cell: ({ row: { original } }) => <span title={SCOPE_WORDS[original.scope]}>{original.scope}</span>,
  }),
  column.accessor('madeAt', {
    header: 'Made',
    sortDescFirst: true,
    cell: ({ row: { original } }) => day(original.madeAt, now),
  }),
  column.accessor('usedAt', {
    header: 'Used',
    sortDescFirst: true,
    cell: ({ row: { original } }) => (original.usedAt === null ? 'never' : ago(original.usedAt, now)),
  }),
  column.display({
    id: 'revoke',
    header: () => <span className="sr-only">Take back</span>,
    cell: ({ row: { original } }) => (
      <button type="button" className="set" aria-label={`Take back ${original.name}`} onClick={() => revoke(original)}>
        take back
      </button>
    ),
  }),
];
