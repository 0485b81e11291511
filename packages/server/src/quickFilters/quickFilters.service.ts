/** Quick filters: combinations of the catalogue's facets, kept under a name and a key. */
import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import type { CatalogueFilter, QuickFilterChange, QuickFilterId, QuickFilterView } from '@rellin/contract';
import { JournalService } from '../journal/journal.service.js';
import { KeysService } from '../keys/keys.service.js';
import { Refusal } from '../problems/refusal.js';
import { QuickFiltersRepository } from './quickFilters.repository.js';

@Injectable()
export class QuickFiltersService {
  constructor(
    private readonly rows: QuickFiltersRepository,
    private readonly journal: JournalService,
    private readonly keys: KeysService,
  ) {}

  async all(): Promise<QuickFilterView[]> {
    return this.rows.list();
  }

  async add(change: QuickFilterChange): Promise<QuickFilterView[]> {
    const id = randomUUID();
    const name = this.named(change.name ?? '');
    const filter = this.filled(change.filter ?? {});
    const keys = await this.keys.checked(change.keys ?? null, id);
    await this.journal.act({ act: 'add-quick-filter', summary: `Saved the quick filter “${name}”` }, (tx) =>
      tx.insert('quick_filter', { id, name, keys, filter }),
    );
    return this.all();
  }

  async change(id: QuickFilterId, change: QuickFilterChange): Promise<QuickFilterView[]> {
    const own = await this.need(id);
    const patch = {
      ...(change.name !== undefined && { name: this.named(change.name) }),
      ...(change.keys !== undefined && { keys: await this.keys.checked(change.keys, id) }),
      ...(change.filter !== undefined && { filter: this.filled(change.filter) }),
    };
    await this.journal.act({ act: 'change-quick-filter', summary: `Changed the quick filter “${own.name}”` }, (tx) =>
      tx.update('quick_filter', id, patch),
    );
    return this.all();
  }

  async remove(id: QuickFilterId): Promise<QuickFilterView[]> {
    const own = await this.need(id);
    await this.journal.act({ act: 'remove-quick-filter', summary: `Removed the quick filter “${own.name}”` }, (tx) =>
      tx.remove('quick_filter', id),
    );
    return this.all();
  }

  private async need(id: QuickFilterId): Promise<QuickFilterView> {
    const own = (await this.all()).find((f) => f.id === id);
    if (!own) throw new Refusal('not-found', 'That quick filter is not kept any more.');
    return own;
  }

  private named(text: string): string {
    const name = text.trim();
    if (name === '') throw new Refusal('not-valid', 'A quick filter needs a name.');
    return name;
  }

  private filled(filter: CatalogueFilter): CatalogueFilter {
    const kept = Object.fromEntries(Object.entries(filter).filter(([, value]) => value !== undefined));
    if (Object.keys(kept).length === 0)
      throw new Refusal('not-valid', 'A quick filter keeps what the catalogue is narrowed to; it is not narrowed now.');
    return kept;
  }
}
