/**
 * Folders in which answers of saved searches lie as links. What is published there would be an answer a second time, so
 * that every question leaves these folders out.
 */
import { Injectable } from '@nestjs/common';
import { segmentsOf } from '@rellin/core/paths';
import type { Condition, QueryNode } from '@rellin/core/query';
import { SearchesRepository } from './searches.repository.js';

@Injectable()
export class PublishedAnswersService {
  private folders: Condition[] = [];

  constructor(private readonly rows: SearchesRepository) {}

  get isEmpty(): boolean {
    return this.folders.length === 0;
  }

  /** Reads which they are; whether they are others than before. */
  async read(): Promise<boolean> {
    const folders = (await this.rows.published()).flatMap(({ place, path, name }): Condition[] =>
      path === null ? [] : [{ type: 'in', folders: [place, ...segmentsOf(path), name] }],
    );
    const areOthers = JSON.stringify(folders) !== JSON.stringify(this.folders);
    this.folders = folders;
    return areOthers;
  }

  /** What no question is answered with, if anything. */
  except(): QueryNode | null {
    return this.isEmpty ? null : { type: 'any', of: this.folders };
  }

  /** A question without them. */
  without(tree: QueryNode): QueryNode {
    const except = this.except();
    return except ? { type: 'all', of: [tree, { type: 'not', of: except }] } : tree;
  }
}
