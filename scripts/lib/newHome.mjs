/**
 * The home folder of somebody made up, as desktops leave one: documents, pictures, a cluttered desktop, and the traces
 * of eight weeks of use; with what that person opens in the week after. Everything follows from the seed.
 */
import { mkdirSync, symlinkSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { pathToFileURL } from 'node:url';

const WEEK = 7 * 86_400_000;
const WEEKS = 8;
/** Openings a week, of all things together. */
const PER_WEEK = 70;
/**
 * How much more often the first is opened than the second, and so on: Zipf's law, with an exponent at which nine of
 * forty things take about three openings of four, as few commands and files take most of anybody's use (from memory).
 */
const ZIPF = 1.3;
/** Of what was opened last week so much is left for something else in the next. */
const DRIFT = 0.1;
/** So many openings are of a program by itself, without a file. */
const BY_PROGRAM = 0.12;

const PROGRAMS = [
  { id: 'writing-desk', name: 'Writing desk', extensions: ['odt', 'txt', 'md'], mime: 'text/plain' },
  { id: 'figures', name: 'Figures', extensions: ['csv', 'ods'], mime: 'text/csv' },
  { id: 'page-reader', name: 'Page reader', extensions: ['pdf'], mime: 'application/pdf' },
  { id: 'light-table', name: 'Light table', extensions: ['png', 'jpg'], mime: 'image/png' },
];
const FOLDERS = ['Documents/Survey', 'Documents/House', 'Documents', 'Downloads', 'Pictures/Coast', 'Work/2026'];
const WORDS = [
  'tide',
  'plan',
  'rota',
  'minutes',
  'budget',
  'list',
  'map',
  'diary',
  'letter',
  'order',
  'notes',
  'draft',
];

/**
 * @typedef {{ path: string, program: string }} NextOpening an absolute path, or empty for the program itself
 * @param {string} home a folder that is there
 * @param {import('../../packages/core/dist/random/index.js').Random} random
 * @param {number} now epoch milliseconds
 * @returns {{ next: NextOpening[], files: string[] }}
 */
export function writeNewHome(home, random, now) {
  const write = (path, text = path) => {
    const at = join(home, path);
    mkdirSync(dirname(at), { recursive: true });
    writeFileSync(at, text);
    return at;
  };
  const dirs = {
    DESKTOP: 'Desktop',
    DOWNLOAD: 'Downloads',
    DOCUMENTS: 'Documents',
    MUSIC: 'Music',
    PICTURES: 'Pictures',
  };
  for (const folder of Object.values(dirs)) mkdirSync(join(home, folder), { recursive: true });
  const lines = Object.entries(dirs).map(([name, folder]) => `XDG_${name}_DIR="$HOME/${folder}"`);
  write('.config/user-dirs.dirs', `${lines.join('\n')}\n`);
  for (const { id, name, mime } of PROGRAMS)
    write(
      `.local/share/applications/${id}.desktop`,
      `[Desktop Entry]\nType=Application\nName=${name}\nExec=${id} %U\nMimeType=${mime};\n`,
    );
  write(
    '.config/mimeapps.list',
    '[Default Applications]\ntext/csv=figures.desktop\napplication/pdf=page-reader.desktop\n',
  );

  const used = Array.from({ length: 40 }, (_, i) => {
    const program = random.pick(PROGRAMS);
    const path = write(`${random.pick(FOLDERS)}/${random.pick(WORDS)} ${i}.${random.pick(program.extensions)}`);
    return { path, program: program.name, weight: 1 / (i + 1) ** ZIPF, openings: /** @type {number[]} */ ([]) };
  });
  const whole = used.reduce((sum, one) => sum + one.weight, 0);
  const one = () => {
    let at = random.next() * whole;
    return used.find(({ weight }) => (at -= weight) < 0) ?? used[0];
  };
  for (let n = 0; n < WEEKS * PER_WEEK; n++) one().openings.push(now - random.next() * WEEKS * WEEK);
  const opened = used.filter(({ openings }) => openings.length > 0);
  write('.local/share/recently-used.xbel', recentList(opened));

  // what lies about, and was never opened
  for (let i = 0; i < 30; i++) write(`Desktop/screenshot ${i}.png`);
  for (let i = 0; i < 120; i++) write(`Downloads/form ${i}.pdf`);
  for (let i = 0; i < 200; i++) write(`Pictures/Coast/photo ${i}.jpg`);
  write('Desktop/Library.url', '[InternetShortcut]\nURL=https://library.example/\n');
  symlinkSync('../Work/2026', join(home, 'Desktop/This year'));
  write('.config/gtk-3.0/bookmarks', `${pathToFileURL(join(home, 'Documents/Survey')).href}\n`);

  const next = Array.from({ length: PER_WEEK }, () => {
    const { path, program } = random.next() < DRIFT ? random.pick(used) : one();
    return { path: random.next() < BY_PROGRAM ? '' : path, program };
  });
  return { next, files: used.map(({ path }) => path) };
}

/** As desktops write it: when a file came into the list, when it was opened last, and how often. */
function recentList(opened) {
  const bookmarks = opened.map(({ path, program, openings }) => {
    const [first, last] = [Math.min(...openings), Math.max(...openings)].map((at) => new Date(at).toISOString());
    return `<bookmark href="${pathToFileURL(path).href}" added="${first}" modified="${last}"><info>
      <metadata owner="http://freedesktop.org"><bookmark:applications>
      <bookmark:application name="${program}" exec="&apos;x %u&apos;" modified="${last}" count="${openings.length}"/>
      </bookmark:applications></metadata></info></bookmark>`;
  });
  return `<?xml version="1.0" encoding="UTF-8"?>
<xbel version="1.0" xmlns:bookmark="http://www.freedesktop.org/standards/desktop-bookmarks">${bookmarks.join('')}</xbel>`;
}
