/** The person's own keys, checked against Rellin's, the browser's and each other. */
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { checkKeyMap, checkKeys, type KeyMap } from '@rellin/core/keys';
import { Refusal } from '../problems/refusal.js';
import { SettingsService } from '../settings/settings.service.js';

@Injectable()
export class KeysService {
  constructor(
    private readonly db: DataSource,
    private readonly settings: SettingsService,
  ) {
    settings.checkBefore(({ keyMap }) => (keyMap ? this.checkMap(keyMap) : undefined));
  }

  /** Refuses a change of Rellin's own letters that would make one mean two things. */
  private async checkMap(map: KeyMap): Promise<void> {
    const reason = checkKeyMap(map, await this.taken());
    if (reason !== undefined) throw new Refusal('conflict', reason, { remedy: 'Choose another key.' });
  }

  /** The keys of something that comes back from the bin: none where another took them meanwhile. */
  async stillFree(keys: string | null, ownId: string): Promise<string | null> {
    return this.checked(keys, ownId).catch((error: unknown) => {
      if (error instanceof Refusal) return null;
      throw error;
    });
  }

  /** As they are kept, or refused with the reason; null and an empty text take a key away. */
  async checked(text: string | null, ownId: string): Promise<string | null> {
    if (text === null || text.trim() === '') return null;
    const checked = checkKeys(text, await this.taken(ownId), (await this.settings.all()).keyMap);
    if (!checked.ok) throw new Refusal('conflict', checked.reason, { remedy: 'Choose another key.' });
    return checked.keys;
  }

  /** Keys → what has them; but for one that asks for itself. */
  async taken(ownId: string | null = null): Promise<Map<string, string>> {
    const rows = (await this.db.query(
      `SELECT keys, name FROM (
         SELECT id, keys, name FROM shortcut WHERE removed_at IS NULL
         UNION ALL SELECT id, keys, name FROM collection WHERE removed_at IS NULL
         UNION ALL SELECT id, keys, name FROM saved_search WHERE removed_at IS NULL
         UNION ALL SELECT id, keys, name FROM quick_filter
       ) k WHERE keys IS NOT NULL AND ($1::uuid IS NULL OR id <> $1)`,
      [ownId],
    )) as { keys: string; name: string }[];
    return new Map(rows.map((r) => [r.keys, r.name]));
  }
}
