'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { z } from 'zod';
import { QUESTION_DEPTHS } from '../../core/lifecycle/question-depths';
import { count } from '../../core/wording/format';
import { call } from '../api';
import { BareArea, useField } from '../forms/field';
import { Form } from '../forms/form';
import { number } from '../forms/typed';

/** Chromium takes minutes to lay out thousands of pasted lines: a long text is taken at once and only told of. */
const SHOWN_CHARACTERS = 20_000;

const TypedBatch = z.object({ names: z.string(), depth: z.enum(QUESTION_DEPTHS), freshMinutes: number() });

/** Names or addresses to be checked, tens of thousands at a time. */
export function PasteBatch({ hasRegistrar }: { hasRegistrar: boolean }) {
  const router = useRouter();
  const [long, setLong] = useState<string | null>(null);
  return (
    <Form
      name="Check names"
      schema={TypedBatch}
      values={{ names: '', depth: 'record', freshMinutes: '60' }}
      label="Check them"
      busyLabel="Taking them"
      className="gap-2"
      act={async ({ names, ...typed }) => {
        const { id } = await call('POST /batches', { body: { ...typed, text: long ?? names } });
        router.push(`/check/${id}`);
      }}
      beside={<Depths hasRegistrar={hasRegistrar} />}
    >
      {long === null ? (
        <BareArea
          name="names"
          rows={4}
          className="w-full resize-y"
          aria-label="Names or addresses"
          placeholder="Names or addresses, between spaces, commas or lines; 50,000 at a time if need be"
          onPaste={(event) => {
            const text = event.clipboardData.getData('text');
            if (text.length < SHOWN_CHARACTERS) return;
            event.preventDefault();
            setLong(text);
          }}
        />
      ) : (
        <p className="field">
          {count(long.split(/[\s,;|]+/).filter(Boolean).length)} names were pasted.{' '}
          <button type="button" className="set" onClick={() => setLong(null)}>
            paste others
          </button>
        </p>
      )}
    </Form>
  );
}

/** How old answers may be, and how far names are asked about. */
function Depths({ hasRegistrar }: { hasRegistrar: boolean }) {
  const fresh = useField('freshMinutes');
  const depth = useField('depth');
  return (
    <>
      <label className="ml-3 flex items-center gap-1.5">
        answers of the last
        <select defaultValue={fresh.defaultValue} {...fresh.given} className="field">
          <option value="0">moment</option>
          <option value="60">hour</option>
          <option value="1440">day</option>
          <option value="10080">week</option>
        </select>
        are good enough
      </label>
      <label className="ml-3 flex items-center gap-1.5">
        asked
        <select
          defaultValue={depth.defaultValue}
          {...depth.given}
          aria-label="How far they are asked"
          className="field"
        >
          <option value="record">until they are available or registered</option>
          <option value="registrar" disabled={!hasRegistrar}>
            free ones down to the registrar{hasRegistrar ? '' : ' (none is set)'}
          </option>
          <option value="full">in full: expiries of registered ones, too</option>
        </select>
      </label>
    </>
  );
}
