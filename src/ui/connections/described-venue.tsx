'use client';

import { useRouter } from 'next/navigation';
import { z } from 'zod';
import { call } from '../api';
import { ChoiceField } from '../forms/field';
import { Form } from '../forms/form';
import { number } from '../forms/typed';
import { INTERVALS } from '../sources/intervals';

const Typed = z.object({ connection: z.string(), everyMinutes: number() });

/** Reads a venue that is described, once or again and again. */
export function DescribedVenue({ venues }: { venues: { id: string; title: string }[] }) {
  const router = useRouter();
  if (venues.length === 0) return null;
  const start = async ({ connection, everyMinutes }: z.output<typeof Typed>) => {
    const body = { connection, everyMinutes: everyMinutes || null };
    const { source } = await call('POST /sources/feeds', { body });
    router.push(`/sources/${source.id}`);
  };
  return (
    <Form
      schema={Typed}
      values={{ connection: venues[0].id, everyMinutes: '60' }}
      name="Read a described venue"
      label="Read its listings"
      busyLabel="Starting"
      isQuiet
      isFleeting
      act={start}
      className="mt-2 flex-row! flex-wrap items-end gap-3"
    >
      {venues.length > 1 && (
        <ChoiceField name="connection" label="Service" options={venues.map(({ id, title }) => [id, title] as const)} />
      )}
      <ChoiceField
        name="everyMinutes"
        label="How often it is read"
        options={INTERVALS.map(([minutes, words]) => [String(minutes), words] as const)}
      />
    </Form>
  );
}
