import { jobView } from '../../../../../services/pool/views';
import { jobsOfSource } from '../../../../../store/base/jobs';
import { pageTroubles, siteYields } from '../../../../../store/crawl/crawl-report';
import { phasesOfSource, readSource } from '../../../../../store/sources/sources';
import { getStore } from '../../../../server';
import { notFound, readId, route } from '../../../respond';

export const GET = route('GET /sources/{id}', async ({ params: { id } }) => {
  const store = await getStore();
  const source = readSource(store, readId(id));
  if (!source) throw notFound(`source ${id}`);
  const crawl =
    source.kind === 'crawl' ? { sites: siteYields(store, source.id), troubles: pageTroubles(store, source.id) } : {};
  return {
    ...source,
    ...crawl,
    jobs: jobsOfSource(store, source.id).map(jobView),
    phases: phasesOfSource(store, source.id),
  };
});
