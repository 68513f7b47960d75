import type { Metadata } from 'next';
import { cookies } from 'next/headers';
import type { ReactNode } from 'react';
import { kindsBy } from '../core/news/news';
import { localeNow } from '../core/wording/locale';
import { Shell } from '../ui/shell/shell';
import './globals.css';
import { readSettings } from '../store/base/settings';
import { currentBrief } from './server';

export const metadata: Metadata = { title: { default: 'Jam Ladle', template: '%s · Jam Ladle' } };

export default async function Layout({ children }: { children: ReactNode }) {
  const theme = (await cookies()).get('theme')?.value;
  const { store, briefs, brief } = await currentBrief();
  const settings = readSettings(store);
  return (
    <html lang="en" data-locale={localeNow()} data-theme={theme === 'dark' || theme === 'light' ? theme : undefined}>
      <body>
        <Shell
          briefs={briefs.map(({ id, name }) => ({ id, name }))}
          briefId={brief.id}
          startNow={store.now()}
          reminderMinutes={settings.reminderMinutes}
          notifies={kindsBy(settings.tells, 'browser')}
        >
          {children}
        </Shell>
      </body>
    </html>
  );
}
