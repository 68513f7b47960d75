import { Settings } from '../../../../store/config';
import { changeSettings, readSettings } from '../../../../store/database';
import { getStore } from '../../../server';
import { handle, readJson } from '../../respond';

export const GET = handle(async () => Response.json(readSettings(await getStore())));

export const PATCH = handle(async (request) => {
  // defaults of the full schema must not fill what the change leaves out
  const given = (await request.clone().json()) as Record<string, unknown>;
  const parsed = await readJson(request, Settings.partial());
  const change = Object.fromEntries(Object.entries(parsed).filter(([key]) => key in given));
  return Response.json(changeSettings(await getStore(), change));
});
