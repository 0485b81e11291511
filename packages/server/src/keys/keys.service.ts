/** The person's own keys, checked against Rellin's, the browser's and each other. */
import { Injectable } from '@nestjs/common';
import { checkKeyMap, checkKeys, type KeyMap } from '@rellin/core/keys';
import type { FreeKey } from '@rellin/core/plan';
import { byOwnKey, withComing, type Coming, type ReachConstants } from '@rellin/core/reach';
import { Refusal } from '../problems/refusal.js';
import { SettingsService } from '../settings/settings.service.js';
import { KeysRepository } from './keys.repository.js';

const LETTERS = [...'abcdefghijklmnopqrstuvwxyz'];

@Injectable()
export class KeysService {
  constructor(
    private readonly rows: KeysRepository,
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

  /** Of each letter the shortest chord that nothing uses, and the seconds to press it from where the person is. */
  async free(constants: ReachConstants, coming: Coming): Promise<FreeKey[]> {
    const [taken, { keyMap }] = await Promise.all([this.taken(), this.settings.all()]);
    return LETTERS.flatMap((letter): FreeKey[] => {
      const keys = [letter, `alt+shift+${letter}`].find((k) => checkKeys(k, taken, keyMap).ok);
      return keys === undefined
        ? []
        : [{ letter, keys, seconds: withComing(byOwnKey(keys, constants), coming, constants).seconds }];
    });
  }

  /** Keys → what has them; but for one that asks for itself. */
  taken(ownId: string | null = null): Promise<Map<string, string>> {
    return this.rows.taken(ownId);
  }
}
