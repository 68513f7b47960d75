import { openApi } from '../../openapi';
import { route } from '../../respond';

export const GET = route('GET /openapi.json', () => openApi());
