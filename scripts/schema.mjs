/**
 * JSON Schema of the contract, made from its types: packages/contract/dist/api.schema.json. The API's description
 * publishes it, and the tests hold every answer against it.
 */
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { createGenerator } from 'ts-json-schema-generator';
import { runMain } from './lib/log.mjs';
import { ROOT } from './lib/prepare.mjs';

runMain(async () => {
  const contract = join(ROOT, 'packages/contract');
  const schema = createGenerator({
    path: join(contract, 'src/endpoints.ts'),
    type: 'Api',
    tsconfig: join(contract, 'tsconfig.schema.json'),
    // compiled just before
    skipTypeCheck: true,
    jsDoc: 'basic',
  }).createSchema('Api');
  mkdirSync(join(contract, 'dist'), { recursive: true });
  writeFileSync(join(contract, 'dist/api.schema.json'), JSON.stringify(schema));
});
