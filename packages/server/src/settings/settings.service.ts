/** What the person chose; each setting has its default and its bounds here. */
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { REACH_CONSTANTS, type ReachConstants } from '@rellin/core/reach';
import { HALF_LIFE_DAYS } from '@rellin/core/usage';
import type { SettingsView } from '@rellin/contract';
import { JournalService } from '../journal/journal.service.js';
import { SettingEntity } from './setting.entity.js';

export const DEFAULTS: SettingsView = {
  pinLimit: 9,
  appearance: 'system',
  halfLifeDays: HALF_LIFE_DAYS.usual,
  startView: 'reach',
  reachConstants: { ...REACH_CONSTANTS },
};

const WORDS: Record<keyof SettingsView, string> = {
  pinLimit: 'number of pins',
  appearance: 'appearance',
  halfLifeDays: 'half-life of openings',
  startView: 'start view',
  reachConstants: 'reach constants',
};

@Injectable()
export class SettingsService {
  private cache: SettingsView | undefined;

  constructor(
    private readonly db: DataSource,
    private readonly journal: JournalService,
  ) {
    journal.onCommitted((changes) => {
      if (changes.some((c) => c.table === 'setting')) this.cache = undefined;
    });
  }

  async all(): Promise<SettingsView> {
    if (this.cache) return this.cache;
    const rows = await this.db.getRepository(SettingEntity).find();
    const stored = Object.fromEntries(rows.map((r) => [r.id, r.value])) as Partial<SettingsView>;
    return (this.cache = {
      ...DEFAULTS,
      ...stored,
      reachConstants: { ...DEFAULTS.reachConstants, ...stored.reachConstants },
    });
  }

  async reachConstants(): Promise<ReachConstants> {
    return (await this.all()).reachConstants as unknown as ReachConstants;
  }

  async change(patch: Partial<SettingsView>): Promise<SettingsView> {
    const keys = (Object.keys(patch) as (keyof SettingsView)[]).filter((key) => patch[key] !== undefined);
    const summary = `Changed ${keys.map((k) => WORDS[k]).join(', ')}`;
    await this.journal.act({ act: 'change-settings', summary }, async (tx) => {
      for (const id of keys) {
        if (await tx.load('setting', id)) await tx.update('setting', id, { value: patch[id] });
        else await tx.insert('setting', { id, value: patch[id] });
      }
    });
    return this.all();
  }
}
