/** Writes a .gz and a .br beside each text asset, so that the server only picks one. */
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { brotliCompressSync, constants, gzipSync } from 'node:zlib';

const folder = process.argv[2];
for (const name of readdirSync(folder, { recursive: true, encoding: 'utf8' })) {
  // each icon is fetched alone and is small
  if (name.startsWith('icons/')) continue;
  if (!/\.(js|mjs|css|svg|json|webmanifest)$/.test(name)) continue;
  const path = join(folder, name);
  const bytes = readFileSync(path);
  if (bytes.length < 1024) continue;
  writeFileSync(`${path}.gz`, gzipSync(bytes, { level: 9 }));
  writeFileSync(
    `${path}.br`,
    brotliCompressSync(bytes, { params: { [constants.BROTLI_PARAM_QUALITY]: bytes.length > 400_000 ? 6 : 9 } }),
  );
}
