/** The opener port: hands a thing to the system. Programs start by argument list, never through a shell. */
import { spawn } from 'node:child_process';
import { commandsFor, EXEC_FAULTS } from '@rellin/core/desktop';
import { shown } from '@rellin/core/paths';
import { diskPath } from '../disk/paths.js';
import { canRun, isFolder, type InstalledProgram } from '../programs/programs.service.js';
import { Refusal } from '../problems/refusal.js';

export type HandOver =
  | { kind: 'path'; path: string }
  | { kind: 'address'; url: string }
  | { kind: 'program'; program: InstalledProgram; files?: string[] };

export interface Opened {
  how: 'viewer' | 'system';
  /** Of the first, where several were started. */
  argv: string[];
  /** Why it could not be opened after all, as far as that is known within two seconds. */
  failed: Promise<Refusal | undefined>;
}

export interface Opener {
  open(request: HandOver): Promise<Opened>;
}

export const OPENER = Symbol('opener');

/** The argument lists to start. */
function commandsOf(request: HandOver): string[][] {
  switch (request.kind) {
    case 'path':
      return [['xdg-open', request.path]];
    case 'address':
      return [['xdg-open', request.url]];
    case 'program': {
      const { program } = request;
      const { name, icon, entryPath } = program;
      const expanded = commandsFor(program.exec, { name, icon, entryPath, files: request.files });
      if (!expanded.ok)
        throw new Refusal(
          'cannot-open',
          `${name} cannot be started: its entry is faulty: ${EXEC_FAULTS[expanded.reason]}.`,
          { remedy: `Its line is: ${program.exec}` },
        );
      return program.terminal ? expanded.commands.map((argv) => [...terminal(name), ...argv]) : expanded.commands;
    }
  }
}

/** What runs a program in a window of its own; the first that is there. */
const TERMINALS = [['xdg-terminal-exec'], ['x-terminal-emulator', '-e']];

function terminal(name: string): string[] {
  const found = TERMINALS.find(([command]) => canRun(command));
  if (!found)
    throw new Refusal('cannot-open', `${name} runs in a terminal, and none was found.`, {
      remedy: 'Install a terminal; Debian calls it x-terminal-emulator.',
    });
  return found;
}

/** The stand-in: starts nothing, says what it would have started; the page shows the thing itself. */
export class ViewerOpener implements Opener {
  async open(request: HandOver): Promise<Opened> {
    return { how: 'viewer', argv: commandsOf(request)[0]!, failed: Promise.resolve(undefined) };
  }
}

/** What is ours alone: whoever we start has no business with it. */
const OWN = /^(RELLIN_|DATABASE_URL$|PG[A-Z]+$|NODE_(OPTIONS|ENV|CHANNEL_FD)$|npm_)/;

/** The environment for programs: the person's own, as it was before Rellin was started with settings of its own. */
const environmentForOthers = (env: NodeJS.ProcessEnv): NodeJS.ProcessEnv =>
  Object.fromEntries(Object.entries(env).filter(([name]) => !OWN.test(name)));

/** A program that ends with an error so soon has not opened anything. */
const EARLY_MS = 2000;

/** What xdg-open says by its exit code (its manual page). */
const XDG_OPEN: Record<number, [string, string]> = {
  2: ['is there no more', 'Look where it is now.'],
  3: ['cannot be opened: no program for its kind was found', 'Choose a program with “Open with…”.'],
  4: ['could not be opened: the program for it failed', 'Choose another program with “Open with…”.'],
};

export class SystemOpener implements Opener {
  private readonly environment = environmentForOthers(process.env);

  async open(request: HandOver): Promise<Opened> {
    const commands = commandsOf(request);
    const started: Promise<Refusal | undefined>[] = [];
    for (const argv of commands) started.push((await this.start(argv, request)).failed);
    const failed = Promise.all(started).then((outcomes) => outcomes.find((outcome) => outcome !== undefined));
    return { how: 'system', argv: commands[0]!, failed };
  }

  /** Resolves when it runs; `failed` tells how it went from then on. */
  private async start(argv: string[], request: HandOver): Promise<{ failed: Promise<Refusal | undefined> }> {
    const [command, ...rest] = argv as [string, ...string[]];
    // names that are not UTF-8 go as the very bytes; Node passes strings as UTF-8 only, so such a path goes by its
    // folder
    const odd = rest.find((a) => typeof diskPath(a) !== 'string');
    if (odd)
      throw new Refusal('cannot-open', `The system's opener takes names in UTF-8 only; ${shown(odd)} is not.`, {
        remedy: 'Look at it in Rellin instead, or show where it is.',
      });
    const cwd = request.kind === 'program' ? request.program.workingFolder : undefined;
    if (cwd !== undefined && !isFolder(cwd))
      throw new Refusal('cannot-open', `The folder ${shown(cwd)}, in which ${nameIn(request)} starts, is not there.`, {
        remedy: 'Its entry names that folder under “Path”.',
      });
    const child = spawn(command, rest, { detached: true, stdio: 'ignore', env: this.environment, cwd });
    const failed = new Promise<Refusal | undefined>((resolve) => {
      const timer = setTimeout(() => resolve(undefined), EARLY_MS);
      child.once('exit', (code, signal) => {
        clearTimeout(timer);
        resolve(code === 0 ? undefined : whyEnded(request, command, code, signal));
      });
    });
    await new Promise<void>((resolve, reject) => {
      child.once('error', (error: NodeJS.ErrnoException) =>
        reject(
          new Refusal(
            'cannot-open',
            error.code === 'ENOENT'
              ? `“${command}” is not installed.`
              : `“${command}” could not be started: ${error.message}.`,
            { remedy: command === 'xdg-open' ? 'Install the package xdg-utils.' : 'Check the program.' },
          ),
        ),
      );
      child.once('spawn', () => {
        child.unref();
        resolve();
      });
    });
    return { failed };
  }
}

const nameIn = (request: HandOver) =>
  request.kind === 'program' ? request.program.name : shown(request.kind === 'path' ? request.path : request.url);

function whyEnded(request: HandOver, command: string, code: number | null, signal: string | null): Refusal {
  const name = nameIn(request);
  if (request.kind === 'program')
    return new Refusal('cannot-open', `${name} ended at once (${code === null ? signal : `exit code ${code}`}).`, {
      remedy: 'Start it by itself to see what it says.',
    });
  const [what, remedy] = XDG_OPEN[code ?? -1] ?? [
    `could not be opened: ${command} ended with ${code === null ? signal : `exit code ${code}`}`,
    'Choose a program with “Open with…”.',
  ];
  return new Refusal('cannot-open', `${name} ${what}.`, { remedy });
}
