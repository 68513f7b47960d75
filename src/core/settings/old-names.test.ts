import { describe, expect, it } from 'vitest';
import { Settings, withNewNames, withOldNames } from './settings';

const ACCOUNT = { venue: 'Saltmarch Exchange', address: 'http://127.0.0.1:9/', key: 'k', currency: 'EUR' };

describe('settings under their old names', () => {
  it('are taken for what they are called now, and the new name counts where both are given', () => {
    const renamed = { isDryRun: false, accounts: [ACCOUNT], registrarAccount: 'Coombe Names' };
    expect(withNewNames({ isDryRun: false, desks: [ACCOUNT], registrarDesk: 'Coombe Names' })).toEqual(renamed);
    expect(withNewNames({ desks: [ACCOUNT], accounts: [] })).toEqual({ accounts: [] });
    expect(withNewNames(renamed)).toEqual(renamed);
  });

  it('are answered beside the new ones', () => {
    const { desks, registrarDesk } = withOldNames(
      Settings.parse({ accounts: [ACCOUNT], registrarAccount: 'Coombe Names' }),
    );
    expect([desks, registrarDesk]).toEqual([[ACCOUNT], 'Coombe Names']);
  });
});
