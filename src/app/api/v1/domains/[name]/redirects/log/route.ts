import { domainRow } from '../../../../../../../app/api/domain-row';
import { emptyTally, tallyLine } from '../../../../../../../core/redirects/access-log';
import { putLog } from '../../../../../../../store/portfolio/redirects';
import { linesOf } from '../../../../../bodies';
import { answered, Problem, route } from '../../../../../respond';

const MOST_BYTES = 200 * 1024 * 1024;

/** Takes the access log of the server that sends old addresses on (Common Log Format, plain or gzip); one of the same name replaces the one before. */
export const POST = route(
  'POST /domains/{name}/redirects/log',
  async ({ request, query: { name: source }, params: { name } }) => {
    const { store, row } = await domainRow(name);
    const tally = emptyTally();
    for await (const line of linesOf(request, MOST_BYTES, 'A log', 'Send it a day at a time.')) tallyLine(tally, line);
    if (tally.moved.size + tally.gone.size === 0)
      throw new Problem(
        400,
        'The file makes no sense',
        tally.aside === tally.lines
          ? 'No line of it is one of an access log (Common Log Format).'
          : 'It has no request that was sent on or told gone.',
        'Send the log of the server that answers for this domain.',
      );
    putLog(store, row.id, source, tally);
    const sum = (hits: ReadonlyMap<string, number>) => [...hits.values()].reduce((total, one) => total + one, 0);
    const { lines, aside, robots } = tally;
    return answered(201, { lines, setAside: aside, robots, moved: sum(tally.moved), gone: sum(tally.gone) });
  },
);
