/**
 * Fills an empty catalogue from a seed file (JSON): shortcuts by path, address or program, pins, past openings.
 * The demo uses it; a catalogue that holds anything already is left alone.
 */
import { randomUUID } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { Injectable, Logger } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { NO_WEIGHT, withOpening } from '@rellin/core/usage';
import { PlacesService } from '../places/places.service.js';
import { SettingsService } from '../settings/settings.service.js';
import { ShortcutsService } from '../shortcuts/shortcuts.service.js';

interface Seed {
  shortcuts: {
    name: string;
    description?: string;
    path?: string;
    url?: string;
    programId?: string;
    pin?: boolean;
    /** Epoch milliseconds. */
    openings?: number[];
  }[];
}

@Injectable()
export class SeedService {
  private readonly log = new Logger('seed');

  constructor(
    private readonly db: DataSource,
    private readonly places: PlacesService,
    private readonly shortcuts: ShortcutsService,
    private readonly settings: SettingsService,
  ) {}

  /** Returns how many shortcuts were made; 0 where the catalogue was not empty. */
  async fill(file: string): Promise<number> {
    const [{ n }] = (await this.db.query(`SELECT count(*)::int AS n FROM shortcut`)) as [{ n: number }];
    if (n > 0) return 0;
    const seed = JSON.parse(await readFile(file, 'utf8')) as Seed;
    await Promise.all(this.places.all().map((p) => this.places.scan(p.entity.id)));
    const { halfLifeDays } = await this.settings.all();
    let made = 0;
    for (const item of seed.shortcuts) {
      const target = item.programId ? { programId: item.programId } : { typed: item.path ?? item.url! };
      try {
        const id = await this.shortcuts.add({
          ...target,
          name: item.name,
          description: item.description,
          pin: item.pin,
        });
        await this.openings(id, item.name, item.openings ?? [], halfLifeDays);
        made++;
      } catch (error) {
        this.log.warn(`${item.name}: ${(error as Error).message}`);
      }
    }
    // a person would not want to undo the seed line by line
    await this.db.query(`UPDATE journal SET in_stack = false`);
    return made;
  }

  private async openings(id: string, name: string, at: number[], halfLifeDays: number): Promise<void> {
    const last = at[at.length - 1];
    if (last === undefined) return;
    await this.db.query(
      `INSERT INTO opening (id, at, shortcut_id, place_id, original_id, program_id, name, how, argv, route)
       SELECT n.id, to_timestamp(n.at / 1000.0), s.id, s.place_id, s.original_id, s.program_id, $2, 'viewer', '[]', 'history'
       FROM shortcut s, unnest($3::uuid[], $4::float8[]) AS n (id, at) WHERE s.id = $1`,
      [id, name, at.map(() => randomUUID()), at],
    );
    let weight = NO_WEIGHT;
    for (const t of at) weight = withOpening(weight, t, halfLifeDays);
    await this.db.query(
      `INSERT INTO usage (shortcut_id, w0, t0, last_opened) VALUES ($1, $2, $3, to_timestamp($4 / 1000.0))`,
      [id, weight.w0, weight.t0, last],
    );
  }
}
