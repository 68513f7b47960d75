import type { Metadata } from 'next';
import { patternNear } from '../../core/ideas/near';
import { registrableDomain } from '../../core/names/domain';
import { ideaViews } from '../../services/ideas/ideas';
import { listIdeaRuns, readPlaces } from '../../store/ideas/ideas';
import { IdeasScreen } from '../../ui/ideas/ideas-screen';
import { parametersOf, type SearchParams } from '../search-params';
import { currentBrief, getEngine } from '../server';

export const metadata: Metadata = { title: 'Ideas' };
const ROWS = 200;

export default async function IdeasPage({ searchParams }: { searchParams: SearchParams }) {
  const { store, brief } = await currentBrief();
  const runs = listIdeaRuns(store, brief.id);
  const parameters = await parametersOf(searchParams);
  const asked = parameters.get('run');
  const near = await nearOf(parameters.get('near'), [...brief.requiredWords, ...brief.subjectWords]);
  const run = runs.find(({ id }) => String(id) === asked) ?? (near ? null : runs[0]) ?? null;
  const found = run
    ? ideaViews(store, { id: run.id, endings: run.pattern.endings, brief }, 0, ROWS)
    : { rows: [], kept: 0 };
  return (
    <IdeasScreen
      key={`${brief.id} ${run?.id} ${near?.name}`}
      near={near}
      brief={{
        id: brief.id,
        name: brief.name,
        words: [...brief.requiredWords, ...brief.subjectWords],
        excludedEndings: brief.excludedEndings,
        currency: brief.currency,
      }}
      places={readPlaces(store)}
      run={run}
      rows={found.rows}
      kept={found.kept}
    />
  );
}

/** What is nearest to a name that cannot be had. */
async function nearOf(asked: string | null, briefWords: string[]) {
  const domain = asked === null ? null : registrableDomain(asked);
  if (!domain) return null;
  // the engine splits names; while it starts, nothing is near
  const reading = await getEngine()
    .readName(domain.name, domain.ending)
    .catch(() => null);
  const pattern = reading && patternNear({ words: reading.split.words, ending: domain.ending }, briefWords);
  return pattern && { name: domain.name, pattern };
}
