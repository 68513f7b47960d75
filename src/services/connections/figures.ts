import { connectionFor } from '../../core/connections/connection';
import { Refusal } from '../../core/refusal';
import { type Store, write } from '../../store/base/database';
import { readSettings } from '../../store/base/settings';
import { addSource, listSources } from '../../store/sources/sources';

/** Who is asked for figures of domains, and the source that what it states stands under; it is made with the first question. @throws Refusal when nobody is. */
export function figuresService(store: Store): { id: string; sourceId: number } {
  const connection = connectionFor(readSettings(store).connections, 'figures');
  if (!connection)
    throw new Refusal('makes-no-sense', 'No service is described that could be asked for figures.', {
      advice: 'Describe one under “What works”, “Services you describe”.',
    });
  const { id, title } = connection;
  return write(store, () => {
    const known = listSources(store).find(
      ({ kind, undone_at, detail }) => kind === 'list' && undone_at === null && detail.connection === id,
    );
    return { id, sourceId: known?.id ?? addSource(store, 'list', title, { connection: id }) };
  });
}
