/** What the server is told from outside, read once from the environment and checked. */
import { randomBytes } from 'node:crypto';
import { homedir } from 'node:os';
import { join } from 'node:path';
import { pageHost } from './hostName.js';
import { ensureOwnFolder, ownSecret } from '../ownData/ownData.js';

interface PlaceSeed {
  name: string;
  root: string;
  type: 'fixed' | 'removable' | 'network';
  /** For a stand-in: the folder that takes its contents while it is disconnected. */
  standInStore?: string;
}

export interface Config {
  databaseUrl: string;
  /** Rellin's own data folder: command token, remembered port. */
  dataFolder: string;
  /** Folders that hold Rellin's own data: outside every place, wherever they lie. */
  ownFolders: string[];
  /** In the names of what is half written beside people's files, so that only our own is ever cleared. */
  linkMark: string;
  /** The name below `localhost` that the page is served under. */
  pageHost: string;
  host: string;
  port: number;
  /** "viewer": the stand-in that shows inside Rellin and records what would have been started. */
  opener: 'system' | 'viewer';
  demo: boolean;
  places: PlaceSeed[];
  /** Built page; absent in tests of the API alone. */
  webFolder: string | undefined;
  logLevel: string;
  xdg: { configHome: string; configDirs: string[]; dataHome: string; dataDirs: string[]; home: string };
  /** In order of preference, with colons between. */
  locale: string;
  /** Names of the desktop, the best first. */
  desktops: string[];
  /** Fills an empty catalogue at the first start. */
  seedFile: string | undefined;
  /** A code that the first visit must bring; made by whoever starts the server. */
  entryCode: string | undefined;
  /** What runs the example with made-up files; without it there is none. */
  exampleCommand: string[] | undefined;
  /** Stop when standard input ends: whoever started the server is gone. */
  stopWithInput: boolean;
}

export const CONFIG = Symbol('config');

export function readConfig(env: NodeJS.ProcessEnv): Config {
  const need = (key: string) => {
    const value = env[key];
    if (!value) throw new Error(`${key} must be set; start Rellin by "npm start" or "npm run demo"`);
    return value;
  };
  const home = env['HOME'] ?? homedir();
  const dataFolder = need('RELLIN_DATA');
  ensureOwnFolder(dataFolder);
  /** Base Directory Specification: what is empty counts as not set, and only absolute paths count. */
  const folders = (name: string, otherwise: string) => {
    const said = (env[name] ?? '').split(':').filter((path) => path.startsWith('/'));
    return said.length > 0 ? said : otherwise.split(':');
  };
  return {
    databaseUrl: need('DATABASE_URL'),
    dataFolder,
    ownFolders: [dataFolder, ...(JSON.parse(env['RELLIN_OWN'] ?? '[]') as string[])],
    linkMark: ownSecret(join(dataFolder, 'link-mark'), () => randomBytes(6).toString('hex')),
    pageHost: pageHost(dataFolder),
    host: '127.0.0.1',
    port: Number(env['RELLIN_PORT'] ?? 0),
    opener: env['RELLIN_OPENER'] === 'viewer' ? 'viewer' : 'system',
    demo: env['RELLIN_DEMO'] === '1',
    places: JSON.parse(env['RELLIN_PLACES'] ?? '[]') as PlaceSeed[],
    webFolder: env['RELLIN_WEB'],
    logLevel: env['RELLIN_LOG'] ?? 'info',
    xdg: {
      home,
      configHome: folders('XDG_CONFIG_HOME', join(home, '.config'))[0]!,
      configDirs: folders('XDG_CONFIG_DIRS', '/etc/xdg'),
      dataHome: folders('XDG_DATA_HOME', join(home, '.local/share'))[0]!,
      dataDirs: folders('XDG_DATA_DIRS', '/usr/local/share:/usr/share'),
    },
    // as gettext and GLib have it: what is empty counts as not set
    locale: env['LANGUAGE'] || env['LC_ALL'] || env['LC_MESSAGES'] || env['LANG'] || 'C',
    desktops: (env['XDG_CURRENT_DESKTOP'] ?? '').split(':').filter(Boolean),
    seedFile: env['RELLIN_SEED'],
    entryCode: env['RELLIN_ENTRY_CODE'],
    exampleCommand: env['RELLIN_EXAMPLE'] ? (JSON.parse(env['RELLIN_EXAMPLE']) as string[]) : undefined,
    stopWithInput: env['RELLIN_STOP_WITH_INPUT'] === '1',
  };
}
