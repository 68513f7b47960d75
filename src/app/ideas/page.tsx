import type { Metadata } from 'next';
import { listIdeaRuns, readPlaces } from '../../store/ideas';
import { IdeasScreen } from '../../ui/ideas/ideas-screen';
import { ideaViews } from '../ideas';
import { parametersOf, type SearchParams } from '../search-params';
import { currentBrief } from '../server';

export const metadata: Metadata = { title: 'Ideas' };
const ROWS = 200;

export default async function IdeasPage({ searchParams }: { searchParams: SearchParams }) {
  const { store, brief } = await currentBrief();
  const runs = listIdeaRuns(store, brief.id);
  const asked = (await parametersOf(searchParams)).get('run');
  const run = runs.find(({ id }) => String(id) === asked) ?? runs[0] ?? null;
  const found = run ? ideaViews(store, run.id, run.pattern.endings, 0, ROWS) : { rows: [], kept: 0 };
  return (
    <IdeasScreen
      key={`${brief.id} ${run?.id}`}
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
