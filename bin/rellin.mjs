#!/usr/bin/env node
/** The running Rellin from any terminal, menu or program. Built-ins only. */
import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { homedir } from 'node:os';
import { isAbsolute, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { removeEntries, writeEntries } from './lib/desktopEntries.mjs';
import { ownServer } from './lib/ownServer.mjs';
import { plain, plainJson } from './lib/plain.mjs';

const HELP = `rellin COMMAND [ARGUMENT…] [--json]

  open TEXT-OR-PATH    open the shortcut or original that TEXT finds first, or the one at PATH
  add  PATH-OR-ADDRESS… [--name NAME] [--pin] [--show]
                       make a shortcut to each file, folder or web address; --show shows its card
  pin  TEXT-OR-PATH    pin the shortcut that TEXT finds first, or one to PATH
  find TEXT            list what the find line would show
  file-into FOLDER FILE… [--copy] [--clash keep-both|replace|skip]
                       move or copy files into the folder that FOLDER names, by a shortcut's name or a path
  alias SHORTCUT FOLDER [--name NAME]
                       keep a link file for the shortcut that SHORTCUT finds first in FOLDER
  publish NAME FOLDER [--ordered] | publish NAME --menu
                       keep a folder of links in FOLDER, or a menu, of the collection, tag or saved search NAME
  unpublish NAME       end that; only links that Rellin wrote are removed
  page [--find]        open the page, with --find at its find line
  desktop on|off       write desktop entries for “open with”, the find line and each pin; off takes them away
  address              print a one-time address for a browser
  passphrase off       remove the passphrase, should it be forgotten; every browser is signed out

Exit codes: 0 done, 1 refused (the reason is printed), 2 wrong use, 3 Rellin is not running.`;

/** @type {NonNullable<import('node:util').ParseArgsConfig['options']>} */
const OPTIONS = {
  help: { type: 'boolean' },
  json: { type: 'boolean' },
  pin: { type: 'boolean' },
  show: { type: 'boolean' },
  find: { type: 'boolean' },
  copy: { type: 'boolean' },
  name: { type: 'string' },
  clash: { type: 'string' },
  ordered: { type: 'boolean' },
  menu: { type: 'boolean' },
  // written into desktop entries, where a name might mean another thing tomorrow
  id: { type: 'string' },
  collection: { type: 'string' },
  tag: { type: 'string' },
  search: { type: 'string' },
};

class Failure extends Error {
  /** `type` is the problem's, where the server said it. */
  constructor(code, message, type) {
    super(message);
    this.code = code;
    this.type = type;
  }
}
const wrong = (message) => new Failure(2, `${message}\n\n${HELP}`);

function dataFolder() {
  return process.env.RELLIN_DATA ?? join(process.env.XDG_DATA_HOME ?? join(homedir(), '.local/share'), 'rellin');
}

function connection() {
  const server = ownServer(dataFolder());
  if (!server)
    throw new Failure(3, 'Rellin is not running (start it with “npm start”; RELLIN_DATA names another data folder).');
  return server;
}

async function send(method, path, body) {
  const { address, token } = connection();
  let answer;
  try {
    answer = await fetch(`${address}/api${path}`, {
      method,
      headers: { authorization: `Bearer ${token}`, ...(body && { 'content-type': 'application/json' }) },
      body: body && JSON.stringify(body),
    });
  } catch {
    throw new Failure(3, 'Rellin does not answer. Is it running?');
  }
  const data = answer.status === 204 ? null : await answer.json();
  if (!answer.ok) throw new Failure(1, [data.detail, data.remedy].filter(Boolean).join(' '), data.type);
  return data;
}

/** @type {import('@rellin/contract').Call} */
const call = (method, path, ...[body]) => send(method, path, body);

/** @type {import('@rellin/contract').Get} */
const get = (path, ...[query]) =>
  /** @type {Promise<any>} */ (
    send('GET', query ? `${path}?${new URLSearchParams({ .../** @type {object} */ (query) })}` : path)
  );

const isAddress = (text) => /^(https?|mailto):/i.test(text);
const looksLikePath = (text) =>
  !isAddress(text) && (/^file:/i.test(text) || text.includes('/') || text === '.' || text === '..' || existsSync(text));
const absolutePath = (text) => (isAbsolute(text) || /^(~|file:)/i.test(text) ? text : resolve(text));

async function located(path) {
  const { placeId, originalId } = await call('POST', '/originals/locate', { path: absolutePath(path) });
  return { placeId, originalId };
}

async function bestFor(text) {
  const { answers } = await get('/find', { q: text });
  const [first] = answers;
  if (!first) throw new Failure(1, `Nothing is found for “${text}”.`);
  // collections and saved searches are looked at, not opened
  const best = answers.find((a) => a.shortcutId !== null || a.originalId !== null);
  if (!best)
    throw new Failure(1, `“${first.name}” is a ${first.group}: rellin page --${first.group} ${first.id} shows it.`);
  return best;
}

/** @returns {Promise<{ shortcutId: string } | { placeId: number, originalId: number }>} */
async function whatIs(text) {
  if (looksLikePath(text)) return located(text);
  const best = await bestFor(text);
  if (best.shortcutId !== null) return { shortcutId: best.shortcutId };
  const { placeId, originalId } = /** @type {{ placeId: number, originalId: number }} */ (best);
  return { placeId, originalId };
}

/** The shortcut to an original, made where there is none. */
async function shortcutTo(what) {
  const { shortcut } = await get(`/originals/${what.placeId}/${what.originalId}`);
  return shortcut?.id ?? (await call('POST', '/shortcuts', what)).id;
}

/** The collection, tag or saved search of a name, in this order; case makes no difference. */
async function sourceNamed(name) {
  const wanted = name.trim().toLowerCase();
  for (const [source, list] of /** @type {const} */ ([
    ['collection', () => get('/collections')],
    ['tag', () => get('/tags')],
    ['search', () => get('/searches')],
  ])) {
    const found = (await list()).find((one) => one.name.toLowerCase() === wanted);
    if (found) return { source, sourceId: found.id };
  }
  throw new Failure(1, `No collection, tag or saved search is named “${name}”.`);
}

const typedOf = (text) => (isAddress(text) ? text : absolutePath(text));
/** Several names that each are something, or the words of one. */
const each = (rest) =>
  rest.length > 1 && rest.every((r) => isAddress(r) || looksLikePath(r)) ? rest : [rest.join(' ')];

/** In the person's browser, where there is one. */
function browse(path) {
  const page = `${connection().page}${path}`;
  const child = spawn('xdg-open', [page], { stdio: 'ignore', detached: true });
  child.on('error', () => process.stderr.write(`Open ${page} in a browser.\n`));
  child.unref();
  return page;
}

const COMMANDS = {
  async open({ text, values, print }) {
    const what = values.id ? { shortcutId: values.id } : await whatIs(text);
    const done = await call('POST', '/openings', { ...what, route: 'command', wait: true });
    print(done, [done.how === 'viewer' ? `Would start: ${done.argv.join(' ')}` : `Opened ${done.name}`]);
  },

  async add({ rest, values, print }) {
    const made = [];
    const texts = each(rest);
    if (values.name && texts.length > 1) throw wrong('--name names one shortcut; add the others by themselves.');
    for (const text of texts) {
      const request = {
        typed: typedOf(text),
        ...(values.name && { name: values.name }),
        ...(values.pin && { pin: true }),
      };
      try {
        made.push(await call('POST', '/shortcuts', request));
      } catch (error) {
        // whoever asked for it from a menu sees nothing of what a command prints: the page says it, and helps
        if (values.show && error.type === 'urn:rellin:problem:outside-places')
          browse(`/catalogue?add=${encodeURIComponent(request.typed)}`);
        throw error;
      }
    }
    if (values.show) browse(`/catalogue?select=${made[made.length - 1].id}`);
    print(
      made.length === 1 ? made[0] : made,
      made.map((m) => `Added “${m.name}” → ${m.location}`),
    );
  },

  async pin({ text, print }) {
    const what = await whatIs(text);
    const id = 'shortcutId' in what ? what.shortcutId : await shortcutTo(what);
    const pins = await call('POST', '/pins', { target: 'shortcut', targetId: id });
    const pin = pins.find((p) => p.targetId === id);
    print(pin, [`Pinned “${pin?.name}” as ${pin?.slot}`]);
  },

  async find({ text, print }) {
    const { answers } = await get('/find', { q: text });
    print(
      answers,
      answers.map((a) => `${a.group === 'shortcut' ? '→' : ' '} ${a.name}\t${a.trail}`),
    );
    if (answers.length === 0) throw new Failure(1, `Nothing is found for “${text}”.`);
  },

  async 'file-into'({ rest, values, print }) {
    const [folder, ...files] = rest;
    if (files.length === 0) throw wrong('rellin file-into needs a folder and at least one file.');
    if (values.clash && !['keep-both', 'replace', 'skip'].includes(values.clash))
      throw wrong('--clash takes keep-both, replace or skip.');
    const into = await whatIs(folder);
    const originals = [];
    for (const file of files) originals.push(await located(file));
    const how = values.copy ? 'copy' : 'move';
    const done = await call('POST', '/filing', { originals, into, how, ...(values.clash && { clash: values.clash }) });
    if (done.state === 'clashes')
      throw new Failure(
        1,
        `“${done.into}” holds ${done.clashes.map((c) => `“${c.name}”`).join(', ')} already; nothing was filed. Say --clash keep-both, replace or skip.`,
      );
    print(done, [`${values.copy ? 'Copied' : 'Moved'} ${done.filed} into “${done.into}”`]);
  },

  async alias({ rest, values, print }) {
    if (rest.length < 2) throw wrong('rellin alias needs a shortcut and a folder.');
    const folder = absolutePath(rest[rest.length - 1]);
    const best = await bestFor(rest.slice(0, -1).join(' '));
    if (!best.shortcutId) throw new Failure(1, `“${best.name}” has no shortcut yet; rellin add makes one.`);
    const body = { shortcutId: best.shortcutId, folder, ...(values.name && { name: values.name }) };
    const made = await call('POST', '/aliases', body);
    if (made.state !== 'there') throw new Failure(1, made.reason);
    print(made, [`Placed ${made.path}`]);
  },

  async publish({ rest, values, print }) {
    const least = values.menu ? 1 : 2;
    if (rest.length < least) throw wrong('rellin publish needs a name and a folder, or a name and --menu.');
    const name = values.menu ? rest.join(' ') : rest.slice(0, -1).join(' ');
    const made = await call('POST', '/aliases/publications', {
      ...(await sourceNamed(name)),
      ...(values.menu ? { asMenu: true } : { folder: absolutePath(rest[rest.length - 1]) }),
      ...(values.ordered && { ordered: true }),
    });
    if (made.state !== 'there') throw new Failure(1, made.reason);
    print(made, [made.path ? `Published ${made.links} links in ${made.path}` : `Published “${made.name}” as a menu`]);
  },

  async unpublish({ text, print }) {
    const { source, sourceId } = await sourceNamed(text);
    const all = await call('GET', '/aliases/publications');
    const ended = all.filter((p) => p.source === source && p.sourceId === sourceId);
    if (ended.length === 0) throw new Failure(1, `“${text}” is not published.`);
    for (const { id } of ended) await call('DELETE', `/aliases/publications/${id}`);
    print(
      ended,
      ended.map((p) => `Unpublished ${p.path ?? `the menu “${p.name}”`}`),
    );
  },

  async page({ values, print }) {
    await call('GET', '/session');
    const path = values.collection
      ? `/collections/${values.collection}`
      : values.tag
        ? `/collections/tag/${values.tag}`
        : values.search
          ? `/searches/${values.search}`
          : values.find
            ? '/reach?find'
            : '/';
    const page = browse(path);
    print({ page }, [page]);
  },

  async desktop({ text, print }) {
    if (text === 'off') {
      const removed = removeEntries();
      return print({ removed }, [`Deleted ${removed} desktop entries.`]);
    }
    if (text !== 'on') throw wrong('rellin desktop takes on or off.');
    const pins = await call('GET', '/pins');
    const command = [process.execPath, fileURLToPath(import.meta.url)];
    // whoever starts an entry does not have our environment
    const data = process.env.RELLIN_DATA ? ['env', `RELLIN_DATA=${process.env.RELLIN_DATA}`] : [];
    const done = writeEntries(pins, [...data, ...command]);
    print(done, [
      `Wrote ${done.written} desktop entries to ${done.folder}.`,
      ...done.foreign.map((path) => `Left ${path} as it is: Rellin did not write it.`),
    ]);
  },

  async passphrase({ text, print }) {
    if (text !== 'off') throw wrong('rellin passphrase takes off; a passphrase is set in Settings.');
    await call('PUT', '/session/passphrase', { passphrase: '' });
    print({ passphrase: false }, ['Removed the passphrase and signed every browser out.']);
  },

  async address({ print }) {
    const { code, address } = await call('POST', '/session/code');
    print({ code, address }, [address]);
  },
};
const WITHOUT_TEXT = ['page', 'address'];

async function main() {
  let parsed;
  try {
    parsed = parseArgs({ options: OPTIONS, allowPositionals: true });
  } catch (error) {
    throw wrong(error.message);
  }
  const { values, positionals } = parsed;
  const [command, ...rest] = positionals;
  if (values.help || command === undefined) {
    process.stdout.write(`${HELP}\n`);
    return;
  }
  const run = Object.hasOwn(COMMANDS, command) ? COMMANDS[command] : undefined;
  if (!run) throw wrong(`Unknown command: ${command}`);
  const text = rest.join(' ');
  if (!text && !values.id && !WITHOUT_TEXT.includes(command))
    throw wrong(`rellin ${command} needs a text, path or address.`);
  const print = (data, lines) =>
    process.stdout.write(values.json ? `${plainJson(data)}\n` : lines.map((l) => `${plain(l)}\n`).join(''));
  await run({ text, rest, values, print });
}

main().catch((error) => {
  const text = error instanceof Failure ? error.message : error.stack;
  process.stderr.write(`${text.split('\n').map(plain).join('\n')}\n`);
  process.exit(error instanceof Failure ? error.code : 1);
});
