import { openApi } from '../../openapi';
import { handle } from '../../respond';

export const GET = handle(async () => Response.json(openApi()));
