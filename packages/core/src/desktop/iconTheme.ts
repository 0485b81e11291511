/**
 * Which file holds a named icon: Icon Theme Specification 0.13, "Icon Lookup", with the disk behind a port. Reads index
 * files once for each finder; a finder is thrown away when icons may have changed.
 */
import { parseKeyFile } from './keyFile.js';

export interface IconDisk {
  isFile(path: string): boolean;
  /** The text of a file; undefined where there is none. */
  read(path: string): string | undefined;
}

export interface IconRequest {
  name: string;
  /** Pixels at scale 1. */
  size: number;
  scale?: number;
}

interface ThemeFolder {
  path: string;
  size: number;
  scale: number;
  type: 'Fixed' | 'Scalable' | 'Threshold';
  min: number;
  max: number;
  threshold: number;
}

interface Theme {
  folders: ThemeFolder[];
  inherits: string[];
}

const EXTENSIONS = ['png', 'svg', 'xpm'];
const DEFAULT_THEME = 'hicolor';

function readTheme(text: string): Theme {
  const { groups } = parseKeyFile(text);
  const head = groups.get('Icon Theme');
  const list = (key: string) =>
    (head?.get(key) ?? '')
      .split(',')
      .map((s) => s.trim())
      .filter(Boolean);
  const folders = [...list('Directories'), ...list('ScaledDirectories')].flatMap((path): ThemeFolder[] => {
    const group = groups.get(path);
    const number = (key: string, otherwise: number) => {
      const value = Number(group?.get(key));
      return group?.has(key) && Number.isInteger(value) ? value : otherwise;
    };
    const size = number('Size', 0);
    if (!group || size <= 0) return []; // Size is required
    const type = group.get('Type');
    return [
      {
        path,
        size,
        scale: number('Scale', 1),
        type: type === 'Fixed' || type === 'Scalable' ? type : 'Threshold',
        min: number('MinSize', size),
        max: number('MaxSize', size),
        threshold: number('Threshold', 2),
      },
    ];
  });
  return { folders, inherits: list('Inherits') };
}

/** DirectoryMatchesSize of the specification. */
function matches(f: ThemeFolder, size: number, scale: number): boolean {
  if (f.scale !== scale) return false;
  switch (f.type) {
    case 'Fixed':
      return f.size === size;
    case 'Scalable':
      return f.min <= size && size <= f.max;
    case 'Threshold':
      return f.size - f.threshold <= size && size <= f.size + f.threshold;
  }
}

/** DirectorySizeDistance of the specification. */
function distance(f: ThemeFolder, size: number, scale: number): number {
  const wanted = size * scale;
  const [least, most] =
    f.type === 'Fixed'
      ? [f.size * f.scale, f.size * f.scale]
      : f.type === 'Scalable'
        ? [f.min * f.scale, f.max * f.scale]
        : [(f.size - f.threshold) * f.scale, (f.size + f.threshold) * f.scale];
  return wanted < least ? least - wanted : wanted > most ? wanted - most : 0;
}

/**
 * A finder over base folders, the first of which count before later ones (`$HOME/.icons`, `icons` in each data
 * directory); `loose` are folders with icons that belong to no theme (`pixmaps`).
 */
export function iconLookup(disk: IconDisk, bases: readonly string[], loose: readonly string[] = []) {
  const themes = new Map<string, Theme | undefined>();
  const themeOf = (name: string): Theme | undefined => {
    if (!themes.has(name)) {
      // the first index.theme found is the theme's
      const text = bases.map((b) => disk.read(`${b}/${name}/index.theme`)).find((t) => t !== undefined);
      themes.set(name, text === undefined ? undefined : readTheme(text));
    }
    return themes.get(name);
  };
  const inTheme = (name: string, theme: string, size: number, scale: number): string | undefined => {
    const folders = themeOf(theme)?.folders ?? [];
    const inFolder = (f: ThemeFolder) => {
      for (const base of bases)
        for (const extension of EXTENSIONS) {
          const path = `${base}/${theme}/${f.path}/${name}.${extension}`;
          if (disk.isFile(path)) return path;
        }
      return undefined;
    };
    for (const f of folders) {
      const found = matches(f, size, scale) ? inFolder(f) : undefined;
      if (found !== undefined) return found;
    }
    let best: string | undefined;
    let least = Infinity;
    for (const f of folders) {
      const far = distance(f, size, scale);
      const found = far < least ? inFolder(f) : undefined;
      if (found === undefined) continue;
      best = found;
      least = far;
    }
    return best;
  };
  const throughParents = (
    name: string,
    theme: string,
    size: number,
    scale: number,
    seen: Set<string>,
  ): string | undefined => {
    if (seen.has(theme)) return undefined;
    seen.add(theme);
    const own = inTheme(name, theme, size, scale);
    if (own !== undefined) return own;
    for (const parent of themeOf(theme)?.inherits ?? []) {
      const found = throughParents(name, parent, size, scale, seen);
      if (found !== undefined) return found;
    }
    return undefined;
  };

  /**
   * The file of an icon, the theme first, then those it inherits, then hicolor, then icons of no theme; undefined where
   * there is none. An absolute path stands for itself. Names with a folder in them are refused.
   */
  return function findIcon({ name, size, scale = 1 }: IconRequest, theme = DEFAULT_THEME): string | undefined {
    if (name.startsWith('/')) return disk.isFile(name) ? name : undefined;
    // some entries write the extension, which the specification does not want
    const plain = name.replace(/\.(png|svg|xpm)$/, '');
    if (plain === '' || plain.includes('/')) return undefined;
    const seen = new Set<string>();
    const found =
      throughParents(plain, theme, size, scale, seen) ?? throughParents(plain, DEFAULT_THEME, size, scale, seen);
    if (found !== undefined) return found;
    for (const folder of [...bases, ...loose])
      for (const extension of EXTENSIONS)
        if (disk.isFile(`${folder}/${plain}.${extension}`)) return `${folder}/${plain}.${extension}`;
    return undefined;
  };
}
