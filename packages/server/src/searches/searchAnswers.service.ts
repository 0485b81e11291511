/** Answers to saved searches and to questions that need not be saved. */
import { Injectable } from '@nestjs/common';
import { fold } from '@rellin/core/match';
import { countConditions, parseQuery, snippetOf, type QueryNode } from '@rellin/core/query';
import type { AnswersView, OriginalId, PlaceId, SearchId, SearchQuestion } from '@rellin/contract';
import { MemoryIndexService } from '../memoryIndex/memoryIndex.service.js';
import { OriginalsService } from '../originals/originals.service.js';
import { PublishedAnswersService } from './publishedAnswers.service.js';
import { SearchesRepository } from './searches.repository.js';
import { SearchesService } from './searches.service.js';

/** Rows of the builder are counted up to so many conditions. */
const MOST_ROWS = 40;
/** Of these the body is read where case or accents differ from what was asked. */
const MOST_FOLDED = 20;
/** Of so many answers the words around what was asked are shown. */
const MOST_SNIPPETS = 200;

@Injectable()
export class SearchAnswersService {
  constructor(
    private readonly searches: SearchesService,
    private readonly rows: SearchesRepository,
    private readonly published: PublishedAnswersService,
    private readonly index: MemoryIndexService,
    private readonly originals: OriginalsService,
  ) {}

  /** Answers to a text; where it cannot be read, what is wrong with it. */
  async ask(request: SearchQuestion): Promise<AnswersView> {
    const parsed = parseQuery(request.query);
    if (!parsed.ok) return { count: 0, answers: [], rows: null, trouble: parsed.error };
    const { tree } = parsed;
    const asked = await this.index.askFor({
      tree,
      except: this.published.except(),
      places: request.places?.length ? request.places : null,
      order: request.sortBy ?? 'name',
      descending: request.descending ?? false,
      offset: request.offset ?? 0,
      limit: request.limit ?? 100,
      rows: request.rows === true && countConditions(tree) <= MOST_ROWS,
    });
    const known = await this.originals.many(asked.answers);
    const snippets = await this.snippets(tree, asked.answers);
    return {
      count: asked.count,
      rows: asked.rows,
      trouble: null,
      answers: asked.answers.flatMap(({ placeId, id }) => {
        const view = known.get(`${placeId}/${id}`);
        return view ? [{ ...view, snippet: snippets.get(`${placeId}/${id}`) ?? null }] : [];
      }),
    };
  }

  async answers(id: SearchId, offset: number, limit: number): Promise<AnswersView> {
    const search = await this.searches.one(id);
    return this.ask({ ...search, offset, limit: Math.max(0, Math.min(limit, search.most - offset)) });
  }

  /** Some words around what was asked of the contents, by “place/original”. */
  private async snippets(
    tree: QueryNode,
    answers: readonly { placeId: PlaceId; id: OriginalId }[],
  ): Promise<Map<string, string>> {
    const text = textIn(tree);
    const out = new Map<string, string>();
    if (text === undefined || answers.length === 0) return out;
    const found = await this.rows.snippets(text, fold(text), answers.slice(0, MOST_SNIPPETS));
    for (const { placeId, id, snippet } of found) out.set(`${placeId}/${id}`, snippet.replace(/\s+/g, ' ').trim());
    // PostgreSQL marks only what is written as it was asked
    const unmarked = found.filter(({ snippet }) => !snippet.includes('«'));
    for (const { placeId, id } of unmarked.slice(0, MOST_FOLDED)) {
      const body = await this.rows.body(placeId, id);
      const snippet = body !== undefined && snippetOf(body, text);
      if (snippet) out.set(`${placeId}/${id}`, snippet);
    }
    return out;
  }
}

/** The first text that contents are asked for, where it is not shut out. */
function textIn(node: QueryNode): string | undefined {
  if (node.type === 'text') return node.text;
  if (node.type !== 'all' && node.type !== 'any') return undefined;
  for (const part of node.of) {
    const text = textIn(part);
    if (text !== undefined) return text;
  }
  return undefined;
}
