import type { Metadata } from 'next';
import { cookies } from 'next/headers';
import { withoutKeys } from '../../core/settings/settings';
import { LOCALE_COOKIE } from '../../core/wording/locale';
import { readDamage } from '../../store/base/damage';
import { keysState, readKeys } from '../../store/base/key-file';
import { readSettings } from '../../store/base/settings';
import { readDigest } from '../../store/pool/sieves';
import { listSources } from '../../store/sources/sources';
import { SettingsScreen } from '../../ui/settings-screen';
import { whoIsIn } from '../access';
import { currentBrief } from '../server';

export const metadata: Metadata = { title: 'Settings' };

export default async function SettingsPage() {
  const { store } = await currentBrief();
  const indexes = listSources(store).flatMap(({ kind, name, undone_at, detail }) =>
    undone_at === null && (kind === 'links' || (Array.isArray(detail.stated) && detail.stated.length > 0))
      ? [name]
      : [],
  );
  const state = keysState(store.folder);
  return (
    <SettingsScreen
      settings={withoutKeys(readSettings(store))}
      mode={store.config.mode}
      keys={state === 'sealed' && readKeys(store.folder) === null ? 'closed' : state}
      damage={readDamage(store.folder)}
      now={Date.now()}
      digest={readDigest(store)}
      indexes={[...new Set(indexes)]}
      signedIn={await whoIsIn()}
      locale={(await cookies()).get(LOCALE_COOKIE)?.value ?? ''}
    />
  );
}
