/**
 * The API's description (OpenAPI 3.1), whose schemas are those of the contract: what is asked, what is answered, and
 * how every refusal looks.
 */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { INestApplication } from '@nestjs/common';
import { DocumentBuilder, type OpenAPIObject, SwaggerModule } from '@nestjs/swagger';

/** Made with the build from the contract's types, JSON Schema draft 7. */
const SCHEMA_FILE = join(import.meta.dirname, '../../../contract/dist/api.schema.json');

type Schema = Record<string, unknown>;
interface Endpoint {
  query?: { $ref?: string } & Schema;
  body?: { $ref?: string } & Schema;
  answer?: { $ref?: string; not?: object } & Schema;
}
type Properties<T> = { properties: Record<string, T> };
interface ApiSchema {
  definitions: Record<string, Schema> & { Endpoints: Properties<Properties<Properties<Endpoint[keyof Endpoint]>>> };
}

const IN_DOCUMENT = '#/components/schemas/';
const METHODS = ['get', 'post', 'put', 'patch', 'delete'] as const;

export function describeApi(app: INestApplication): OpenAPIObject {
  const about = new DocumentBuilder()
    .setTitle('Rellin')
    .setDescription('The catalogue’s API')
    .setVersion('0.1.0')
    .setOpenAPIVersion('3.1.0')
    .build();
  return withSchemas(SwaggerModule.createDocument(app, about), readFileSync(SCHEMA_FILE, 'utf8'));
}

/** A document with the contract's schemas in place of what can be told from decorators. */
function withSchemas(document: OpenAPIObject, schemaText: string): OpenAPIObject {
  const schema = JSON.parse(schemaText.replaceAll('#/definitions/', IN_DOCUMENT)) as ApiSchema;
  const { Api: _, Endpoints: endpoints, RawBytes: __, ...schemas } = schema.definitions;
  for (const [address, item] of Object.entries(document.paths))
    for (const method of METHODS) {
      const operation = item[method];
      const path = address.replace(/^\/api/, '').replace(/\{(\w+)\}/g, ':$1');
      const endpoint = endpoints.properties[method.toUpperCase()]?.properties[path]?.properties as Endpoint | undefined;
      if (!operation || !endpoint) continue;
      operation.parameters = [
        ...[...path.matchAll(/:(\w+)/g)].map(([, name]) => ({
          in: 'path' as const,
          name: name!,
          required: true,
          schema: { type: 'string' },
        })),
        ...queryOf(endpoint.query, schemas),
      ];
      if (endpoint.body) operation.requestBody = { required: true, content: contentOf(endpoint.body) };
      else delete operation.requestBody;
      const isNothing = endpoint.answer?.not !== undefined;
      const codes = Object.keys(operation.responses).filter((code) => code.startsWith('2'));
      const code = isNothing ? (codes.find((c) => c !== '200' && c !== '201') ?? '204') : (codes[0] ?? '200');
      operation.responses = {
        [code]: {
          description: isNothing ? 'Done' : 'The answer',
          ...(!isNothing && { content: contentOf(endpoint.answer!) }),
        },
        default: {
          description: 'Refused (RFC 9457)',
          content: { 'application/problem+json': { schema: { $ref: `${IN_DOCUMENT}Problem` } } },
        },
      };
    }
  document.components = { ...document.components, schemas: schemas as never };
  return document;
}

function contentOf(schema: { $ref?: string } & Schema): Record<string, { schema: object }> {
  return schema.$ref === `${IN_DOCUMENT}RawBytes`
    ? { 'application/octet-stream': { schema: {} } }
    : { 'application/json': { schema: schema as never } };
}

function queryOf(query: Endpoint['query'], schemas: Record<string, Schema>) {
  if (!query) return [];
  const { properties, required = [] } = (
    query.$ref === undefined ? query : schemas[query.$ref.slice(IN_DOCUMENT.length)]!
  ) as { properties: Record<string, Schema>; required?: string[] };
  return Object.entries(properties).map(([name, schema]) => ({
    in: 'query' as const,
    name,
    required: required.includes(name),
    schema: schema as never,
  }));
}
