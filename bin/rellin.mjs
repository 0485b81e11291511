#!/usr/bin/env node
/** rellin open|add|find|address: the running Rellin from any terminal or program. Built-ins only. */
import { readFileSync } from 'node:fs';
import { homedir } from 'node:os';
import { isAbsolute, join, resolve } from 'node:path';
import { existsSync } from 'node:fs';

const HELP = `rellin COMMAND [ARGUMENT] [--json]

  open TEXT-OR-PATH    open the shortcut or original that TEXT finds first, or the one at PATH
  add  PATH-OR-ADDRESS [--name NAME] [--pin]
                       make a shortcut to a file, folder or web address
  find TEXT            list what the find line would show
  address              print a one-time address for a browser

Exit codes: 0 done, 1 refused (the reason is printed), 2 wrong use, 3 Rellin is not running.`;

class Failure extends Error {
  constructor(code, message) {
    super(message);
    this.code = code;
  }
}

function dataFolder() {
  return process.env.RELLIN_DATA ?? join(process.env.XDG_DATA_HOME ?? join(homedir(), '.local/share'), 'rellin');
}

function connection() {
  try {
    const { address } = JSON.parse(readFileSync(join(dataFolder(), 'run.json'), 'utf8'));
    const token = readFileSync(join(dataFolder(), 'command-token'), 'utf8').trim();
    return { address, token };
  } catch {
    throw new Failure(3, 'Rellin is not running (start it with “npm start”; RELLIN_DATA names another data folder).');
  }
}

async function call(method, path, body) {
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
  if (!answer.ok) throw new Failure(1, [data.detail, data.remedy].filter(Boolean).join(' '));
  return data;
}

const looksLikePath = (text) => text.includes('/') || text === '.' || text === '..' || existsSync(text);
const absolutePath = (text) => (isAbsolute(text) || /^(~|file:)/i.test(text) ? text : resolve(text));

async function open(text) {
  if (looksLikePath(text) && !/^(https?|mailto):/i.test(text)) {
    const { placeId, originalId } = await call('POST', '/originals/locate', { path: absolutePath(text) });
    return call('POST', '/openings', { placeId, originalId: Number(originalId), route: 'command' });
  }
  const { answers } = await call('GET', `/find?limit=1&q=${encodeURIComponent(text)}`);
  const best = answers[0];
  if (!best) throw new Failure(1, `Nothing is found for “${text}”.`);
  const what = best.shortcutId
    ? { shortcutId: best.shortcutId }
    : { placeId: best.placeId, originalId: Number(best.originalId) };
  return call('POST', '/openings', { ...what, route: 'command' });
}

async function main() {
  const args = process.argv.slice(2);
  const flag = (name) => {
    const at = args.indexOf(name);
    if (at >= 0) args.splice(at, 1);
    return at >= 0;
  };
  const value = (name) => {
    const at = args.indexOf(name);
    if (at < 0) return undefined;
    const [, text] = args.splice(at, 2);
    if (text === undefined) throw new Failure(2, `${name} needs a value.`);
    return text;
  };
  if (flag('--help') || args.length === 0) {
    process.stdout.write(`${HELP}\n`);
    return;
  }
  const json = flag('--json');
  const pin = flag('--pin');
  const name = value('--name');
  const [command, ...rest] = args;
  const text = rest.join(' ');
  const need = () => {
    if (!text) throw new Failure(2, `rellin ${command} needs a text, path or address.\n\n${HELP}`);
  };
  const print = (data, lines) =>
    process.stdout.write(json ? `${JSON.stringify(data)}\n` : lines.map((l) => `${l}\n`).join(''));
  switch (command) {
    case 'open': {
      need();
      const done = await open(text);
      print(done, [done.how === 'viewer' ? `Would start: ${done.argv.join(' ')}` : `Opened ${done.name}`]);
      return;
    }
    case 'add': {
      need();
      const typed = /^(https?|mailto):/i.test(text) ? text : absolutePath(text);
      const made = await call('POST', '/shortcuts', { typed, ...(name && { name }), ...(pin && { pin }) });
      print(made, [`Added “${made.name}” → ${made.location}`]);
      return;
    }
    case 'find': {
      need();
      const { answers } = await call('GET', `/find?q=${encodeURIComponent(text)}`);
      print(
        answers,
        answers.map((a) => `${a.group === 'shortcut' ? '→' : ' '} ${a.name}\t${a.trail}`),
      );
      if (answers.length === 0) throw new Failure(1, `Nothing is found for “${text}”.`);
      return;
    }
    case 'address': {
      const { code } = await call('POST', '/session/code');
      print({ code }, [`${connection().address}/enter?code=${code}`]);
      return;
    }
    default:
      throw new Failure(2, `Unknown command: ${command}\n\n${HELP}`);
  }
}

main().catch((error) => {
  process.stderr.write(`${error.code ? error.message : error.stack}\n`);
  process.exit(error.code ?? 1);
});
