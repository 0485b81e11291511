/** Saved searches as things of the catalogue: saved, changed, removed, put back. */
import { randomUUID } from 'node:crypto';
import { Injectable } from '@nestjs/common';
import { formatQuery, parseQuery } from '@rellin/core/query';
import type { NewSearch, SearchId, SearchPatch, SearchView } from '@rellin/contract';
import { CollectionsService } from '../collections/collections.service.js';
import type { ActTx } from '../journal/actTx.js';
import { JournalService } from '../journal/journal.service.js';
import { KeysService } from '../keys/keys.service.js';
import { PinsService } from '../pins/pins.service.js';
import { named } from '../problems/named.js';
import { Refusal } from '../problems/refusal.js';
import { TagsService } from '../tags/tags.service.js';
import { SearchesRepository } from './searches.repository.js';
import { startOfToday } from './today.js';

@Injectable()
export class SearchesService {
  constructor(
    private readonly rows: SearchesRepository,
    private readonly journal: JournalService,
    private readonly keys: KeysService,
    private readonly tags: TagsService,
    private readonly collections: CollectionsService,
    private readonly pins: PinsService,
  ) {}

  list(removed = false): Promise<SearchView[]> {
    return this.rows.list(removed, startOfToday());
  }

  async one(id: SearchId): Promise<SearchView> {
    const view = await this.rows.one(id, startOfToday());
    if (!view) throw new Refusal('not-found', 'That saved search is not kept any more.');
    return view;
  }

  /** Saved, and put where it is wanted, in one act. */
  async add(request: NewSearch): Promise<string> {
    const id = randomUUID();
    const name = named(request.name ?? '', 'saved search');
    const keys = await this.keys.checked(request.keys ?? null, id);
    await this.journal.act({ act: 'add-search', summary: `Saved the search “${name}”` }, (tx) =>
      this.insert(tx, id, { ...request, name, keys }),
    );
    return id;
  }

  /** The same within another act. Its name and keys are looked at before. */
  async insert(tx: ActTx, id: SearchId, request: NewSearch & { name: string }): Promise<void> {
    await tx.insert('saved_search', {
      id,
      name: request.name,
      keys: request.keys ?? null,
      query: readable(request.query ?? ''),
      description: request.description ?? '',
      places: request.places?.length ? request.places : null,
      show_as: request.showAs ?? 'table',
      sort_by: request.sortBy ?? 'name',
      descending: request.descending ?? false,
      most: request.most ?? 500,
      colour: request.colour ?? '',
      muted: request.muted ?? false,
      added_at: new Date().toISOString(),
    });
    await this.tags.putOnSearch(tx, request.tagIds ?? [], id);
    if (request.collectionId) await this.collections.addSearch(tx, request.collectionId, id);
    if (request.slot !== undefined) await this.pins.insert(tx, { target: 'search', id }, request.slot);
  }

  async change(id: SearchId, change: SearchPatch): Promise<void> {
    const own = await this.one(id);
    const name = change.name === undefined ? undefined : named(change.name, 'saved search');
    const keys = change.keys === undefined ? undefined : await this.keys.checked(change.keys, id);
    const renamed = name !== undefined && name !== own.name;
    const summary = renamed ? `Renamed “${own.name}” to “${name}”` : `Changed the saved search “${own.name}”`;
    await this.journal.act({ act: renamed ? 'rename-search' : 'change-search', summary }, (tx) =>
      tx.update('saved_search', id, {
        ...(name !== undefined && { name }),
        ...(change.description !== undefined && { description: change.description }),
        ...(change.query !== undefined && { query: readable(change.query) }),
        ...(change.places !== undefined && { places: change.places?.length ? change.places : null }),
        ...(change.showAs && { show_as: change.showAs }),
        ...(change.sortBy && { sort_by: change.sortBy }),
        ...(change.descending !== undefined && { descending: change.descending }),
        ...(change.most !== undefined && { most: change.most }),
        ...(change.colour !== undefined && { colour: change.colour }),
        ...(change.muted !== undefined && { muted: change.muted }),
        ...(keys !== undefined && { keys }),
      }),
    );
  }

  /** Into the bin, with its pin and its places in collections; no original is touched. */
  async remove(id: SearchId): Promise<void> {
    const { name } = await this.one(id);
    await this.journal.act({ act: 'remove-search', summary: `Removed the saved search “${name}”` }, (tx) =>
      tx.update('saved_search', id, { removed_at: new Date().toISOString() }),
    );
  }

  async putBack(id: SearchId): Promise<void> {
    const { name, keys } = await this.one(id);
    const own = await this.keys.stillFree(keys, id);
    await this.journal.act({ act: 'put-back-search', summary: `Put back “${name}”` }, (tx) =>
      tx.update('saved_search', id, { removed_at: null, keys: own }),
    );
  }
}

/** The canonical text, or refused with where it goes wrong. */
function readable(text: string): string {
  const parsed = parseQuery(text);
  if (!parsed.ok)
    throw new Refusal(
      'not-valid',
      `The search cannot be read at character ${parsed.error.at + 1}: ${parsed.error.message}`,
      {
        ...(parsed.error.suggestion && { remedy: `Did you mean ${parsed.error.suggestion}?` }),
      },
    );
  return formatQuery(parsed.tree);
}
