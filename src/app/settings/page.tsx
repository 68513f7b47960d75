import type { Metadata } from 'next';
import { readSettings } from '../../store/database';
import { readDigest } from '../../store/sieves';
import { SettingsScreen } from '../../ui/settings-screen';
import { currentBrief } from '../server';

export const metadata: Metadata = { title: 'Settings' };

export default async function SettingsPage() {
  const { store } = await currentBrief();
  return <SettingsScreen settings={readSettings(store)} mode={store.config.mode} digest={readDigest(store)} />;
}
