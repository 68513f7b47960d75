import { fileOf } from '../../bodies';
import { route } from '../../respond';
import { saveUpload } from '../../uploads';

/** Takes a file (as the body, or in a multipart form) for a call that names it afterwards. */
export const POST = route('POST /uploads', async ({ request }) => ({
  upload: await saveUpload(await fileOf(request)),
}));
