import { toast } from 'sonner';
import { z } from 'zod';
import type { StoredSieve } from '../../contracts/sieves';
import { ago, count } from '../../core/wording/format';
import { call } from '../api';
import { BareField, ChoiceField, LineField, RadioField, TickField } from '../forms/field';
import { Form } from '../forms/form';
import { text } from '../forms/typed';
import { minuteOf, timeOf } from '../settings/lines';
import { useNow } from '../shell/live';
import { undoToast } from '../undo';
import { Box } from './dialog-box';
import type { Props } from './kept-props';

const TypedSchedule = z.object({
  name: text('Give it a name.'),
  runs: z.enum(['off', 'daily', 'imports']),
  runMinute: z.string().transform((time) => minuteOf(time) ?? 0),
  inDigest: z.boolean(),
  depth: z.enum(['nothing', 'links', 'everything']),
  shortlistBrief: z.string().transform((id) => (id === '' ? null : Number(id))),
});

/** When a kept sieve runs, and what becomes of what is new in it. */
export default function Schedule({
  sieve,
  briefs,
  onClose,
  onKept,
  onGone,
}: {
  sieve: StoredSieve;
  briefs: Props['briefs'];
  onClose(): void;
  onKept(): void;
  onGone(view: string): void;
}) {
  const now = useNow();
  const remove = async () => {
    try {
      const { act } = await call('DELETE /sieves/{id}', { params: { id: sieve.id } });
      onKept();
      onGone(sieve.view);
      onClose();
      undoToast(`"${sieve.name}" deleted`, act, onKept);
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <Box title={`"${sieve.name}"`} onClose={onClose}>
      <Form
        schema={TypedSchedule}
        values={{
          name: sieve.name,
          runs: sieve.runs,
          runMinute: timeOf(sieve.runMinute),
          inDigest: sieve.inDigest,
          depth: sieve.depth,
          shortlistBrief: String(sieve.shortlistBrief ?? ''),
        }}
        label="Save"
        busyLabel="Saving"
        className="gap-3"
        isFleeting
        act={async (body) => {
          await call('PATCH /sieves/{id}', { params: { id: sieve.id }, body });
          onKept();
          onClose();
        }}
        beside={
          <>
            <button type="button" className="quiet" onClick={onClose}>
              Leave it
            </button>
            <button type="button" className="quiet ml-auto" onClick={() => void remove()}>
              Delete
            </button>
          </>
        }
      >
        {({ setValue }) => (
          <>
            <p className="small">
              {sieve.lastAt === null
                ? 'Has not run yet: the first run only notes what is there.'
                : `Last run ${ago(sieve.lastAt, now)}: ${count(sieve.lastTotal)} passed.`}
            </p>
            <LineField name="name" label="Name" />
            <fieldset>
              <legend className="font-semibold">Runs</legend>
              <RadioField name="runs" value="off" className="py-0.5">
                only when asked to
              </RadioField>
              <div className="flex items-baseline gap-1">
                <RadioField name="runs" value="daily" className="py-0.5">
                  daily at
                </RadioField>
                <BareField
                  name="runMinute"
                  type="time"
                  aria-label="Time of day, UTC"
                  onInput={() => setValue('runs', 'daily', { shouldDirty: true })}
                />
                UTC
              </div>
              <RadioField name="runs" value="imports" className="py-0.5">
                after each import, crawl, check and measure
              </RadioField>
            </fieldset>
            <fieldset className="flex flex-col gap-1">
              <legend className="font-semibold">What is new since the last run</legend>
              <p className="small">is marked in the grid, counted on Today and offered as a feed; and</p>
              <TickField name="inDigest">goes into the daily digest</TickField>
              <ChoiceField
                name="depth"
                label="is measured, only what passes here:"
                place="before"
                options={[
                  ['nothing', 'not at all'],
                  ['links', 'checks and links'],
                  ['everything', 'everything: history, referring domains, trademarks too'],
                ]}
              />
              <ChoiceField
                name="shortlistBrief"
                label="goes on the shortlist for"
                place="before"
                options={[['', 'no brief'], ...briefs.map(({ id, name }) => [String(id), name] as const)]}
              />
            </fieldset>
          </>
        )}
      </Form>
    </Box>
  );
}
