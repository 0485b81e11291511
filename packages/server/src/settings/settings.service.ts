/** What the person chose; each setting has its default and its bounds here. */
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { REACH_CONSTANTS, type ReachConstants } from '@rellin/core/reach';
import { HALF_LIFE_DAYS } from '@rellin/core/usage';
import type { SettingsView } from '@rellin/contract';
import { EventsService } from '../events/events.service.js';
import type { ActTx } from '../journal/actTx.js';
import { JournalService, type AfterAct } from '../journal/journal.service.js';
import { SettingEntity } from '../database/entities/setting.entity.js';
import type { RowChange } from '../journal/rowChange.js';

export const DEFAULTS: SettingsView = {
  pinLimit: 9,
  pinWorth: 1,
  appearance: 'system',
  halfLifeDays: HALF_LIFE_DAYS.usual,
  startView: 'reach',
  startFolder: null,
  openWith: {},
  catalogueColumns: [],
  catalogueShape: 'table',
  listShapes: {},
  showHidden: false,
  letterKeys: 'when-alone',
  keyMap: {},
  reachConstants: { ...REACH_CONSTANTS },
  coming: 'here',
  recording: true,
  recentFiles: true,
  contentKinds: ['text', 'document', 'pdf', 'table', 'web', 'source'],
  contentLimit: 8_000_000,
  setUp: 'open',
};

const WORDS: Record<keyof SettingsView, string> = {
  pinLimit: 'number of pins',
  pinWorth: 'what a pin is worth',
  appearance: 'appearance',
  halfLifeDays: 'half-life of openings',
  startView: 'start view',
  startFolder: 'folder that Originals opens in',
  openWith: 'program for a kind',
  catalogueColumns: 'columns of the catalogue',
  catalogueShape: 'shape of the catalogue',
  listShapes: 'shape of lists',
  showHidden: 'whether hidden files are shown',
  letterKeys: 'when letters are commands',
  keyMap: 'keys',
  reachConstants: 'reach constants',
  coming: 'how you come to Rellin',
  recording: 'whether openings are kept',
  recentFiles: 'whether openings in other programs are kept',
  contentKinds: 'kinds whose content is read',
  contentLimit: 'size up to which contents are read',
  setUp: 'whether Rellin is set up',
};

/** How the page was left: remembered, but no act that one would take back. */
const ASIDE = new Set<keyof SettingsView>(['catalogueColumns', 'catalogueShape', 'listShapes', 'showHidden', 'setUp']);

@Injectable()
export class SettingsService implements AfterAct {
  private cache: SettingsView | undefined;
  private readonly checks: ((patch: Partial<SettingsView>) => Promise<void> | void)[] = [];

  constructor(
    private readonly db: DataSource,
    private readonly journal: JournalService,
    private readonly events: EventsService,
  ) {}

  afterAct(changes: RowChange[]): void {
    if (changes.some((c) => c.table === 'setting')) this.cache = undefined;
  }

  async all(): Promise<SettingsView> {
    if (this.cache) return this.cache;
    const rows = await this.db.getRepository(SettingEntity).find();
    // the passphrase's hash lies beside them, and is nobody's to read
    const known = rows.filter((r) => Object.hasOwn(DEFAULTS, r.id));
    const stored = Object.fromEntries(known.map((r) => [r.id, r.value])) as Partial<SettingsView>;
    return (this.cache = {
      ...DEFAULTS,
      ...stored,
      reachConstants: { ...DEFAULTS.reachConstants, ...stored.reachConstants },
    });
  }

  async reachConstants(): Promise<ReachConstants> {
    return (await this.all()).reachConstants as unknown as ReachConstants;
  }

  /** Asked before every change; a refusal stops it. */
  checkBefore(check: (patch: Partial<SettingsView>) => Promise<void> | void): void {
    this.checks.push(check);
  }

  async change(patch: Partial<SettingsView>): Promise<SettingsView> {
    for (const check of this.checks) await check(patch);
    const keys = (Object.keys(patch) as (keyof SettingsView)[]).filter((key) => patch[key] !== undefined);
    if (keys.length > 0 && keys.every((key) => ASIDE.has(key))) return this.keepAside(patch, keys);
    const summary = `Changed ${keys.map((k) => WORDS[k]).join(', ')}`;
    await this.journal.act({ act: 'change-settings', summary }, (tx) => this.set(tx, patch));
    return this.all();
  }

  /** Within an act. */
  async set(tx: ActTx, patch: Partial<SettingsView>): Promise<void> {
    // a setting that has no row yet cannot be locked
    await tx.manager.query(`SELECT pg_advisory_xact_lock(7, 2)`);
    for (const [id, value] of Object.entries(patch)) {
      if (value === undefined) continue;
      const there = await tx.load('setting', id);
      // what is not chosen has no row
      if (value === null) {
        if (there) await tx.remove('setting', id);
      } else if (there) await tx.update('setting', id, { value });
      else await tx.insert('setting', { id, value });
    }
  }

  private async keepAside(patch: Partial<SettingsView>, keys: (keyof SettingsView)[]): Promise<SettingsView> {
    for (const id of keys) await this.db.getRepository(SettingEntity).save({ id, value: patch[id] });
    this.cache = undefined;
    // lists of originals leave hidden files out by themselves
    this.events.changed('settings', ...(keys.includes('showHidden') ? (['originals'] as const) : []));
    return this.all();
  }
}
