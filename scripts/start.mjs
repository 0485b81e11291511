/** npm start -- --place DIR …: Rellin on the user's own folders. */
import { existsSync, mkdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { homedir } from 'node:os';
import { basename, join, resolve } from 'node:path';
import { execArgument } from '../bin/lib/desktopEntries.mjs';
import { runMain, say, Stop } from './lib/log.mjs';
import { ensureBuild, ensurePackages, ROOT } from './lib/prepare.mjs';
import { serve } from './lib/serve.mjs';

const HELP = `npm start -- [--place DIR]… [--data DIR] [--at-login on|off]

  --place DIR      a folder that Rellin may look into; say it once, Rellin remembers it
  --data DIR       where Rellin keeps its data (default: $XDG_DATA_HOME/rellin)
  --at-login on    start Rellin at login (an autostart entry); off takes it away

DATABASE_URL names a PostgreSQL server of your own instead of a private one.`;

function parse(args) {
  /** @type {{ places: string[], data?: string, atLogin?: string }} */
  const options = { places: [] };
  for (let i = 0; i < args.length; i++) {
    const next = () => {
      if (args[i + 1] === undefined) throw new Stop(`${args[i]} needs a value.\n\n${HELP}`);
      return args[++i];
    };
    switch (args[i]) {
      case '--place':
        options.places.push(resolve(next()));
        break;
      case '--data':
        options.data = resolve(next());
        break;
      case '--at-login':
        options.atLogin = next();
        if (options.atLogin !== 'on' && options.atLogin !== 'off') throw new Stop('--at-login takes on or off.');
        break;
      case '--help':
        process.stdout.write(`${HELP}\n`);
        process.exit(0);
        break;
      default:
        throw new Stop(`Unknown: ${args[i]}\n\n${HELP}`);
    }
  }
  return options;
}

function setAtLogin(on, dataFolder) {
  const folder = join(process.env.XDG_CONFIG_HOME ?? join(homedir(), '.config'), 'autostart');
  const path = join(folder, 'rellin.desktop');
  if (!on) {
    rmSync(path, { force: true });
    say(`Rellin does not start at login (${path} removed).`);
    return;
  }
  mkdirSync(folder, { recursive: true });
  const exec = [process.execPath, join(ROOT, 'scripts/start.mjs'), '--data', dataFolder].map(execArgument).join(' ');
  writeFileSync(
    path,
    `[Desktop Entry]\nType=Application\nVersion=1.4\nName=Rellin\nComment=Keeps your shortcuts within reach\nExec=${exec}\nTerminal=false\nX-GNOME-Autostart-enabled=true\n`,
  );
  say(`Rellin starts at login (${path}).`);
}

runMain(async () => {
  const options = parse(process.argv.slice(2));
  const dataFolder = options.data ?? join(process.env.XDG_DATA_HOME ?? join(homedir(), '.local/share'), 'rellin');
  if (options.atLogin !== undefined) return setAtLogin(options.atLogin === 'on', dataFolder);
  for (const dir of options.places) {
    if (!existsSync(dir)) throw new Stop(`There is no folder ${dir}.`);
    if (!statSync(dir).isDirectory()) throw new Stop(`${dir} is not a folder.`);
  }
  ensurePackages();
  ensureBuild();
  await serve({
    dataFolder,
    databaseUrl: process.env.DATABASE_URL,
    env: {
      RELLIN_EXAMPLE: JSON.stringify([process.execPath, join(ROOT, 'scripts/demo.mjs')]),
      RELLIN_PLACES: JSON.stringify(
        options.places.map((root) => ({ name: basename(root) || root, root, type: 'fixed' })),
      ),
    },
  });
});
