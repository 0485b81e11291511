/**
 * Key files in the form of the Desktop Entry Specification 1.5, section 3: groups, keys with optional locale, comments.
 * Tolerant: lines that are none of these are counted, not fatal. Unknown groups and keys are kept.
 */
export interface KeyFile {
  /** Group name → key (with its locale in brackets, as written) → raw value. */
  groups: Map<string, Map<string, string>>;
  /** Lines (from 1) that could not be read. */
  badLines: number[];
}

const NAME = /^[A-Za-z0-9-]+(?:\[[^\]]+\])?$/;

/** `name` says which keys are keys, for the files of this form that have others than desktop entries. */
export function parseKeyFile(text: string, name = NAME): KeyFile {
  const groups = new Map<string, Map<string, string>>();
  const badLines: number[] = [];
  let group: Map<string, string> | undefined;
  text.split(/\r\n|\n/).forEach((line, i) => {
    if (line.trim() === '' || line.startsWith('#')) return;
    const header = /^\[([^[\]\p{Cc}]+)\]\s*$/u.exec(line);
    if (header) {
      group = groups.get(header[1]!) ?? new Map<string, string>();
      groups.set(header[1]!, group);
      return;
    }
    const pair = /^([^=]*?)\s*=\s*(.*)$/.exec(line);
    if (!pair || !group || !name.test(pair[1]!)) {
      badLines.push(i + 1);
      return;
    }
    if (!group.has(pair[1]!)) group.set(pair[1]!, pair[2]!);
  });
  return { groups, badLines };
}

/** Section 4: \s \n \t \r \\ in values of type string. A lone backslash before anything else stays. */
export function unescapeValue(value: string): string {
  return value.replace(/\\([sntr\\])/g, (_, c: string) => ({ s: ' ', n: '\n', t: '\t', r: '\r', '\\': '\\' })[c]!);
}

/** Section 4: lists separated by ";", "\;" for a literal one, a trailing separator optional. */
export function splitList(value: string): string[] {
  const out: string[] = [];
  let piece = '';
  for (let i = 0; i < value.length; i++) {
    if (value[i] === '\\' && value[i + 1] === ';') {
      piece += ';';
      i++;
    } else if (value[i] === ';') {
      out.push(piece);
      piece = '';
    } else piece += value[i];
  }
  if (piece !== '') out.push(piece);
  return out.map(unescapeValue);
}

/** Section 5: the keys to try for a locale `lang_COUNTRY.ENCODING@MODIFIER`, best first. */
export function localeKeys(key: string, locales: string): string[] {
  const keys = locales.split(':').flatMap((locale) => keysOf(key, locale).slice(0, -1));
  return [...new Set(keys), key];
}

function keysOf(key: string, locale: string): string[] {
  const match = /^([^_.@]+)(?:_([^.@]+))?(?:\.[^@]+)?(?:@(.+))?$/.exec(locale);
  if (!match || locale === 'C' || locale === 'POSIX') return [key];
  const [, lang, country, modifier] = match;
  const tries: string[] = [];
  if (country && modifier) tries.push(`${lang}_${country}@${modifier}`);
  if (country) tries.push(`${lang}_${country}`);
  if (modifier) tries.push(`${lang}@${modifier}`);
  tries.push(lang!);
  return [...tries.map((t) => `${key}[${t}]`), key];
}
