/** The contract is what the server does: the same routes, and a description with a schema for all of them. */
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { allEndpoints } from './testing/answers.js';
import type { CollectionId, OriginalId, PlaceId, ShortcutId } from '@rellin/contract';
import type { Bytes, Seconds } from '@rellin/core/units';
import { Rellin } from './testing/harness.js';

let rellin: Rellin;
beforeAll(async () => {
  rellin = await Rellin.make({ log: 'debug' });
});
afterAll(() => rellin?.remove());

interface Operation {
  parameters?: { in: string; name: string; schema: object }[];
  requestBody?: { content: Record<string, { schema: object }> };
  responses: Record<string, { content?: Record<string, { schema: object }> }>;
}

/** Never run: `npm run check` holds that an id or a unit is not taken where another is meant. */
export function typesApart(shortcut: ShortcutId, place: PlaceId, size: Bytes): unknown[] {
  // @ts-expect-error a shortcut is no collection
  const collection: CollectionId = shortcut;
  // @ts-expect-error a place is no original
  const original: OriginalId = place;
  // @ts-expect-error bytes are no seconds
  const seconds: Seconds = size;
  return [collection, original, seconds];
}

describe('the contract', () => {
  it('names every route of the API, and none that is not there', () => {
    const line = rellin
      .logged()
      .split('\n')
      .find((l) => l.startsWith('{') && 'routes' in JSON.parse(l));
    const routes = (JSON.parse(line!) as { routes: { method: string; url: string }[] }).routes
      .filter(({ method, url }) => url.startsWith('/api/') && !url.startsWith('/api/docs') && method !== 'HEAD')
      .map(({ method, url }) => `${method} ${url.slice('/api'.length)}`);
    expect(routes.sort()).toEqual(allEndpoints().sort());
  });

  it('is published: each operation says what it takes, what it answers, and how it refuses', async () => {
    const document = (await rellin.send('GET', '/docs-json')) as {
      openapi: string;
      paths: Record<string, Record<string, Operation>>;
      components: { schemas: Record<string, object> };
    };
    expect(document.openapi).toBe('3.1.0');
    const operations = Object.entries(document.paths).flatMap(([path, item]) =>
      Object.entries(item).map(([method, operation]) => ({ name: `${method.toUpperCase()} ${path}`, operation })),
    );
    const named = operations
      .filter(({ name }) => name.includes(' /api/'))
      .map(({ name }) => name.replace('/api', '').replace(/\{(\w+)\}/g, ':$1'));
    expect(named.sort()).toEqual(allEndpoints().sort());
    const ajv = new Ajv2020({ strict: false });
    ajv.addSchema(document, 'api');
    const compiles = (schema: object) => ajv.compile(JSON.parse(JSON.stringify(schema).replaceAll('"#/', '"api#/')));
    for (const { name, operation } of operations.filter((o) => o.name.includes(' /api/'))) {
      const answers = Object.entries(operation.responses);
      expect([name, answers.map(([code]) => (code === 'default' ? code : code[0]))]).toEqual([name, ['2', 'default']]);
      for (const [, { content }] of answers) for (const { schema } of Object.values(content ?? {})) compiles(schema);
      for (const { schema } of Object.values(operation.requestBody?.content ?? {})) compiles(schema);
      for (const { schema } of operation.parameters ?? []) compiles(schema);
    }
    const adds = document.paths['/api/shortcuts']!['post']!;
    expect(adds.requestBody!.content['application/json']!.schema).toEqual({ $ref: '#/components/schemas/NewShortcut' });
    expect(adds.responses['201']!.content!['application/json']!.schema).toEqual({
      $ref: '#/components/schemas/ShortcutDetail',
    });
    expect(
      document.paths['/api/find']!['get']!.parameters!.map((p) => [p.name, 'required' in p && p.required]),
    ).toEqual([
      ['q', true],
      ['limit', false],
      ['where', false],
    ]);
  });
});
