import { knownLinks } from '../../../../../store/pages';
import { getEngine, getStore } from '../../../../server';
import { handle, readJson } from '../../../respond';
import { PageCheckSchema } from '../../../schemas';

/** Looks at one page now: which of its outside links work, and what the dead ones were worth. */
export const POST = handle(async (request) => {
  const { url } = await readJson(request, PageCheckSchema);
  const check = await getEngine().checkPage(url);
  const store = await getStore();
  const links = check.links.map((link) => ({
    ...link,
    known: link.state === 'dead' ? knownLinks(store, link.url, link.domain) : null,
  }));
  return Response.json({ ...check, links });
});
