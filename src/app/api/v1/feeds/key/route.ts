import { feedKeyOf } from '../../../../../store/base/access-key';
import { wantedKey } from '../../../../access';
import { route } from '../../../respond';

/** What programs that read feeds are given, who cannot show a cookie. */
export const GET = route('GET /feeds/key', () => {
  const key = wantedKey();
  return { key: key === null ? null : feedKeyOf(key) };
});
