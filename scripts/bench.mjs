/**
 * npm run bench -- [--json] [NAME…]: what must be fast, each beside its reference measured in the same run.
 * A name may stand for a group. Prints one JSON object a line with --json, a readable line without.
 */
import { join } from 'node:path';
import { runMain, say, Stop } from './lib/log.mjs';
import { ensureBuild, ensurePackages, ensurePostgres, ROOT } from './lib/prepare.mjs';

runMain(async () => {
  const args = process.argv.slice(2);
  const json = args.includes('--json');
  const names = args.filter((a) => a !== '--json');
  ensurePackages();
  ensurePostgres();
  ensureBuild();
  const { BENCHES } = await import(join(ROOT, 'bench/index.mjs'));
  const wanted = BENCHES.filter(
    (b) => names.length === 0 || names.some((n) => b.name === n || b.name.startsWith(`${n}.`)),
  );
  if (wanted.length === 0)
    throw new Stop(`No figure of that name. There are: ${BENCHES.map((b) => b.name).join(', ')}`);
  for (const bench of wanted) {
    say(`… ${bench.name}`);
    for (const figure of await bench.run()) {
      const line = { name: bench.name, ...figure };
      process.stdout.write(
        json
          ? `${JSON.stringify(line)}\n`
          : `${line.name.padEnd(14)} ${format(line.value)} ${line.unit}${line.reference ? `   ${line.reference} ${format(line.referenceValue)}   ratio ${line.ratio.toFixed(2)}` : ''}${line.note ? `   ${line.note}` : ''}\n`,
      );
    }
  }
});

const format = (n) => (n >= 100 ? Math.round(n).toLocaleString('en-GB') : Number(n.toPrecision(3)).toString());
