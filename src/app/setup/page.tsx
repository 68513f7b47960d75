import type { Metadata } from 'next';
import { withoutKeys } from '../../core/settings/settings';
import { setupOf } from '../../services/setup/setup';
import { readSettings } from '../../store/base/settings';
import { registeredName } from '../../store/domains/domains';
import { SetupScreen } from '../../ui/setup/setup-screen';
import { currentBrief } from '../server';

export const metadata: Metadata = { title: 'Set up' };

export default async function SetupPage() {
  const { store, brief } = await currentBrief();
  return (
    <SetupScreen
      setup={setupOf(store)}
      settings={withoutKeys(readSettings(store))}
      example={{ domain: registeredName(store) ?? 'example.org', words: brief.subjectWords[0] ?? 'honey' }}
      mode={store.config.mode}
    />
  );
}
