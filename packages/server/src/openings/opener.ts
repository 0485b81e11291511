/** The opener port: hands a thing to the system. Programs start by argument list, never through a shell. */
import { spawn } from 'node:child_process';
import { EXEC_FAULTS, expandExec } from '@rellin/core/desktop';
import { shown } from '@rellin/core/paths';
import { diskPath } from '../disk/paths.js';
import type { InstalledProgram } from '../programs/programs.service.js';
import { Refusal } from '../problems/refusal.js';

export type OpenRequest =
  | { kind: 'path'; path: string }
  | { kind: 'address'; url: string }
  | { kind: 'program'; program: InstalledProgram; files?: string[] };

export interface Opened {
  how: 'viewer' | 'system';
  argv: string[];
}

export interface Opener {
  open(request: OpenRequest): Promise<Opened>;
}

export const OPENER = Symbol('opener');

export function argumentsFor(request: OpenRequest): string[] {
  switch (request.kind) {
    case 'path':
      return ['xdg-open', request.path];
    case 'address':
      return ['xdg-open', request.url];
    case 'program': {
      const { program } = request;
      const expanded = expandExec(program.exec, {
        name: program.name,
        icon: program.icon,
        entryPath: program.entryPath,
        files: request.files,
      });
      if (!expanded.ok)
        throw new Refusal(
          'cannot-open',
          `${program.name} cannot be started: its entry is faulty: ${EXEC_FAULTS[expanded.reason]}.`,
          { remedy: `Its line is: ${program.exec}` },
        );
      return expanded.argv;
    }
  }
}

/** The stand-in: starts nothing, says what it would have started; the page shows the thing itself. */
export class ViewerOpener implements Opener {
  async open(request: OpenRequest): Promise<Opened> {
    return { how: 'viewer', argv: argumentsFor(request) };
  }
}

/** What is ours alone: whoever we start has no business with it. */
const OWN = /^(RELLIN_|DATABASE_URL$|PG[A-Z]+$|NODE_(OPTIONS|ENV|CHANNEL_FD)$|npm_)/;

/** The environment for programs: the person's own, as it was before Rellin was started with settings of its own. */
export const environmentForOthers = (env: NodeJS.ProcessEnv): NodeJS.ProcessEnv =>
  Object.fromEntries(Object.entries(env).filter(([name]) => !OWN.test(name)));

export class SystemOpener implements Opener {
  private readonly environment = environmentForOthers(process.env);

  async open(request: OpenRequest): Promise<Opened> {
    const argv = argumentsFor(request);
    const [command, ...rest] = argv;
    // names that are not UTF-8 go as the very bytes; Node passes strings as UTF-8 only, so such a path goes by its folder
    const odd = rest.find((a) => typeof diskPath(a) !== 'string');
    if (odd)
      throw new Refusal('cannot-open', `The system's opener takes names in UTF-8 only; ${shown(odd)} is not.`, {
        remedy: 'Look at it in Rellin instead, or show where it is.',
      });
    await new Promise<void>((resolve, reject) => {
      const child = spawn(command!, rest, {
        detached: true,
        stdio: 'ignore',
        env: this.environment,
        cwd: request.kind === 'program' ? request.program.workingFolder : undefined,
      });
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
    return { how: 'system', argv };
  }
}
