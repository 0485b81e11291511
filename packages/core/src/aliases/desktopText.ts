/** Desktop entries (Desktop Entry Specification 1.5) and menus (Desktop Menu Specification 1.1) as text. */

/** Only what bears this mark is taken for written by us. */
const MARK = 'X-Rellin=1';

/** Section "Possible value types": a line stays a line, and does not begin with a space. */
const value = (text: string) =>
  text
    .replaceAll('\\', '\\\\')
    .replace(/^ /, '\\s')
    .replaceAll('\n', '\\n')
    .replaceAll('\t', '\\t')
    .replaceAll('\r', '\\r');

/** The latest that all checkers know; nothing of 1.5 is used. */
const VERSION = 'Version=1.4';

const entry = (lines: readonly string[]) => `[Desktop Entry]\n${[...lines, MARK].join('\n')}\n`;

/** Opens a web address. */
export function webEntry(name: string, url: string): string {
  return entry(['Type=Link', VERSION, `Name=${value(name)}`, 'Icon=text-html', `URL=${value(url)}`]);
}

export interface ApplicationText {
  name: string;
  comment?: string | undefined;
  icon?: string | undefined;
  /** As the key "Exec" has it before it is escaped as a string. */
  exec: string;
  /** Where it is started. */
  workingFolder?: string | undefined;
  terminal?: boolean;
}

/** Starts a program. */
export function applicationEntry({ name, comment, icon, exec, workingFolder, terminal }: ApplicationText): string {
  return entry([
    'Type=Application',
    VERSION,
    `Name=${value(name)}`,
    ...(comment ? [`Comment=${value(comment)}`] : []),
    ...(icon ? [`Icon=${value(icon)}`] : []),
    `Exec=${value(exec)}`,
    ...(workingFolder ? [`Path=${value(workingFolder)}`] : []),
    `Terminal=${String(terminal === true)}`,
  ]);
}

/** Names a menu. */
export function directoryEntry(name: string, comment: string): string {
  return entry(['Type=Directory', VERSION, `Name=${value(name)}`, ...(comment ? [`Comment=${value(comment)}`] : [])]);
}

export interface MenuGroup {
  /** File name of its directory entry, also its name within the menu. */
  directory: string;
  /** In order: desktop file ids, and groups below. */
  parts: (string | MenuGroup)[];
}

const xml = (text: string) =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');

/** A menu to be merged into the applications menu, in the order given. */
export function menuText(group: MenuGroup): string {
  const menu = ({ directory, parts }: MenuGroup, indent: string): string[] => {
    const name = (d: string) => xml(d.replace(/\.directory$/, ''));
    const ids = parts.filter((p) => typeof p === 'string');
    return [
      `${indent}<Menu>`,
      `${indent}  <Name>${name(directory)}</Name>`,
      `${indent}  <Directory>${xml(directory)}</Directory>`,
      ...(ids.length > 0
        ? [
            `${indent}  <Include>`,
            ...ids.map((id) => `${indent}    <Filename>${xml(id)}</Filename>`),
            `${indent}  </Include>`,
          ]
        : []),
      `${indent}  <Layout>`,
      ...parts.map((p) =>
        typeof p === 'string'
          ? `${indent}    <Filename>${xml(p)}</Filename>`
          : `${indent}    <Menuname>${name(p.directory)}</Menuname>`,
      ),
      `${indent}  </Layout>`,
      ...parts.flatMap((p) => (typeof p === 'string' ? [] : menu(p, `${indent}  `))),
      `${indent}</Menu>`,
    ];
  };
  return [
    '<!DOCTYPE Menu PUBLIC "-//freedesktop//DTD Menu 1.0//EN"',
    ' "http://www.freedesktop.org/standards/menu-spec/menu-1.0.dtd">',
    `<!-- ${MARK} -->`,
    '<Menu>',
    '  <Name>Applications</Name>',
    ...menu(group, '  '),
    '</Menu>',
    '',
  ].join('\n');
}

/** An argument in the key "Exec": reserved characters are quoted (section "The Exec key"). */
export function execArgument(text: string): string {
  const quoted = /^[A-Za-z0-9_./:@+=-]+$/.test(text) ? text : `"${text.replace(/["`$\\]/g, '\\$&')}"`;
  return quoted.replaceAll('%', '%%');
}
