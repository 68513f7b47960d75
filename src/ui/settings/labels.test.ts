import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { SETTING_LABELS } from './labels';

it('names settings as their screen does', () => {
  const screen = ['src/ui/settings-screen.tsx', 'src/ui/settings/acting.tsx']
    .map((path) => readFileSync(path, 'utf8'))
    .join('\n');
  for (const label of SETTING_LABELS) expect(screen).toContain(`label="${label}"`);
  expect(new Set(SETTING_LABELS).size).toBe(SETTING_LABELS.length);
});
