import type { VenueAccount } from '../../core/settings/settings';
import { HttpClient } from '../../net/http';
import type { Store } from '../../store/base/database';
import { readSettings } from '../../store/base/settings';

const TIMEOUT_MS = 15_000;

/** The accounts of the settings and one way to reach them, kept until the settings change. */
export class AccountClient {
  private kept: HttpClient | null = null;

  constructor(private readonly store: Store) {}

  get http(): HttpClient {
    const { userAgent, allowedPrivate } = readSettings(this.store);
    const { connector } = this.store.config;
    this.kept ??= new HttpClient({ userAgent, connector, allowedPrivate, timeoutMs: TIMEOUT_MS });
    return this.kept;
  }

  /** The account of a venue; null: none is set. */
  accountOf(venue: string): VenueAccount | null {
    return readSettings(this.store).accounts.find((account) => account.venue === venue) ?? null;
  }

  /** Settings may have changed what may be reached. */
  forget(): void {
    void this.close();
  }

  async close(): Promise<void> {
    const before = this.kept;
    this.kept = null;
    await before?.close();
  }
}
