/**
 * Installed programs from desktop entries (Desktop Entry Specification 1.5). Reads only; never starts what it reads.
 */
import { localeKeys, parseKeyFile, splitList, unescapeValue } from './keyFile.js';

export interface Program {
  /** The desktop file id: path below `applications/` with "/" as "-". */
  id: string;
  name: string;
  genericName?: string;
  comment?: string;
  icon?: string;
  exec: string;
  tryExec?: string;
  workingFolder?: string;
  terminal: boolean;
  categories: string[];
  mimeTypes: string[];
  keywords: string[];
}

export type DesktopEntryResult =
  | { ok: true; program: Program; listed: boolean }
  | { ok: false; reason: 'no-desktop-group' | 'not-an-application' | 'hidden' | 'no-name' | 'no-exec' };

/** What of the session an entry is read for. */
export interface EntrySession {
  /** Locales in order of preference, with colons between, as in LANGUAGE. */
  locale?: string;
  /** Names of the desktop in order of preference, as in XDG_CURRENT_DESKTOP; none where it is not said. */
  desktops?: readonly string[];
}

/**
 * Reads one entry. `listed` is false for NoDisplay, and for entries that OnlyShowIn and NotShowIn keep from this
 * desktop: of its names the first that is in one of them decides.
 */
export function parseDesktopEntry(
  id: string,
  text: string,
  { locale = 'C', desktops = [] }: EntrySession = {},
): DesktopEntryResult {
  const group = parseKeyFile(text).groups.get('Desktop Entry');
  if (!group) return { ok: false, reason: 'no-desktop-group' };
  const raw = (key: string) => group.get(key);
  const string = (key: string) => {
    const value = raw(key);
    return value === undefined ? undefined : unescapeValue(value);
  };
  const local = (key: string) => {
    const found = localeKeys(key, locale).find((k) => group.has(k));
    return found === undefined ? undefined : unescapeValue(group.get(found)!);
  };
  const isTrue = (key: string) => raw(key) === 'true' || raw(key) === '1';
  if (isTrue('Hidden')) return { ok: false, reason: 'hidden' };
  if (raw('Type') !== 'Application') return { ok: false, reason: 'not-an-application' };
  const name = local('Name');
  if (!name) return { ok: false, reason: 'no-name' };
  const exec = string('Exec')?.trim() || (isTrue('DBusActivatable') ? activation(id) : undefined);
  if (!exec) return { ok: false, reason: 'no-exec' };
  const only = raw('OnlyShowIn') === undefined ? undefined : splitList(raw('OnlyShowIn')!);
  const never = splitList(raw('NotShowIn') ?? '');
  const told = desktops.find((d) => only?.includes(d) || never.includes(d));
  const isForUs = told === undefined ? only === undefined : (only?.includes(told) ?? false);
  return {
    ok: true,
    listed: !isTrue('NoDisplay') && isForUs,
    program: {
      id,
      name,
      genericName: local('GenericName'),
      comment: local('Comment'),
      icon: local('Icon'),
      exec,
      tryExec: string('TryExec')?.trim() || undefined,
      workingFolder: string('Path') || undefined,
      terminal: isTrue('Terminal'),
      categories: splitList(raw('Categories') ?? ''),
      mimeTypes: splitList(raw('MimeType') ?? ''),
      keywords: splitList(
        localeKeys('Keywords', locale)
          .map(raw)
          .find((v) => v !== undefined) ?? '',
      ),
    },
  };
}

/**
 * The line that starts a program that is started over the session bus alone: its entry is named as it is on the bus
 * (Desktop Entry Specification 1.5, "D-Bus Activation"); GLib's own command speaks to it.
 */
function activation(id: string): string | undefined {
  const name = id.replace(/\.desktop$/, '');
  return /^[A-Za-z_][\w-]*(\.[A-Za-z_][\w-]*)+$/.test(name) ? `gapplication launch ${name} %U` : undefined;
}

/** The desktop file id of a file at `relative` below an `applications` folder. */
export function desktopFileId(relative: string): string {
  return relative.replaceAll('/', '-');
}
