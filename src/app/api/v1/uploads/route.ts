import { handle } from '../../respond';
import { saveUpload, uploadedStream } from '../../uploads';

/** Takes a file (as the body, or in a multipart form) for a call that names it afterwards. */
export const POST = handle(async (request) =>
  Response.json({ upload: await saveUpload(await uploadedStream(request)) }, { status: 201 }),
);
