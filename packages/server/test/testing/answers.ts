/** Holds every answer that the tests meet against the contract, so that the two cannot drift apart. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Ajv, type ValidateFunction } from 'ajv';

interface Schema {
  definitions: Record<string, { properties: Record<string, { properties: Record<string, unknown> }> }>;
}

const schema = JSON.parse(
  readFileSync(join(import.meta.dirname, '../../../contract/dist/api.schema.json'), 'utf8'),
) as Schema;
const ajv = new Ajv({ strict: false });
ajv.addSchema(schema, 'api');

/** Of each method, its paths, those without parameters first: `/shortcuts/remove` is no `/shortcuts/:id`. */
const paths = new Map(
  Object.entries(schema.definitions['Endpoints']!.properties).map(([method, { properties }]) => [
    method,
    Object.keys(properties)
      .map((path) => ({ path, pattern: new RegExp(`^${path.replace(/:\w+/g, '[^/]+')}$`) }))
      .sort((a, b) => Number(a.path.includes(':')) - Number(b.path.includes(':'))),
  ]),
);
const validators = new Map<string, ValidateFunction>();

/** The endpoint that a request means; undefined where there is none. */
export function endpointOf(method: string, address: string): string | undefined {
  const asked = address.split('?')[0]!;
  return paths.get(method)?.find(({ pattern }) => pattern.test(asked))?.path;
}

/** All endpoints, as "GET /shortcuts/:id". */
export const allEndpoints = (): string[] => [...paths].flatMap(([m, all]) => all.map(({ path }) => `${m} ${path}`));

function validator(pointer: string): ValidateFunction {
  const known = validators.get(pointer);
  if (known) return known;
  const made = ajv.compile({ $ref: `api#/${pointer}` });
  validators.set(pointer, made);
  return made;
}

/** Throws where an answer is not as the contract says. */
export function checkAnswer(method: string, address: string, status: number, data: unknown): void {
  const path = endpointOf(method, address);
  if (path === undefined) return;
  const part = (text: string) => encodeURIComponent(text.replaceAll('~', '~0').replaceAll('/', '~1'));
  const answer = `definitions/Endpoints/properties/${method}/properties/${part(path)}/properties/answer`;
  const isOk = status < 400;
  const validate = validator(isOk ? answer : 'definitions/Problem');
  if (data === undefined ? isNothing(method, path) : validate(data)) return;
  const errors = validate.errors?.slice(0, 3).map((e) => `${e.instancePath} ${e.message} ${JSON.stringify(e.params)}`);
  throw new Error(
    `${method} ${address} answers ${status} otherwise than the contract says: ${errors?.join('; ') ?? 'nothing'}\n` +
      JSON.stringify(data)?.slice(0, 600),
  );
}

/** Whether an endpoint is to answer without a body. */
function isNothing(method: string, path: string): boolean {
  const { properties } = schema.definitions['Endpoints']!.properties[method]!.properties[path] as {
    properties: { answer: { not?: object } };
  };
  return properties.answer.not !== undefined;
}
