/** Installed programs, read from desktop entries in the order of the data directories; the first of an id counts. */
import { accessSync, constants, readdirSync, statSync, watch, type FSWatcher } from 'node:fs';
import { delimiter, join } from 'node:path';
import { Inject, Injectable, type OnApplicationShutdown } from '@nestjs/common';
import { desktopFileId, parseDesktopEntry, programIn, type Program } from '@rellin/core/desktop';
import { compareNatural } from '@rellin/core/units';
import { CONFIG, type Config } from '../config/config.js';
import { readSystemFile } from '../disk/systemFile.js';
import { EventsService } from '../events/events.service.js';

/** A desktop entry with all its translations is a few hundred lines. */
const LONGEST_ENTRY = 500_000;

export interface InstalledProgram extends Program {
  entryPath: string;
  listed: boolean;
  /** Whether what its line starts is there. */
  starts: boolean;
}

/** Called when a program was installed, changed or removed. */
export interface AfterPrograms {
  afterPrograms(): void;
}

@Injectable()
export class ProgramsService implements OnApplicationShutdown {
  private programs = new Map<string, InstalledProgram>();
  private readonly watchers: FSWatcher[] = [];
  private timer: NodeJS.Timeout | undefined;
  private after: readonly AfterPrograms[] = [];

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly events: EventsService,
  ) {
    this.read();
    for (const folder of this.folders())
      try {
        this.watchers.push(watch(folder, () => this.soon()));
      } catch {
        // a data directory without programs
      }
  }

  /** Called after programs were installed or removed. */
  followedBy(after: readonly AfterPrograms[]): void {
    this.after = after;
  }

  private folders(): string[] {
    const { dataHome, dataDirs } = this.config.xdg;
    return [dataHome, ...dataDirs].map((dir) => join(dir, 'applications'));
  }

  private soon(): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => {
      this.read();
      for (const one of this.after) one.afterPrograms();
      this.events.changed('programs', 'shortcuts');
    }, 200).unref();
  }

  private read(): void {
    const found = new Map<string, InstalledProgram>();
    const seen = new Set<string>();
    for (const folder of this.folders()) {
      let names: string[];
      try {
        names = readdirSync(folder, { recursive: true, encoding: 'utf8' });
      } catch {
        continue;
      }
      for (const name of names.filter((n) => n.endsWith('.desktop')).sort()) {
        const id = desktopFileId(name);
        if (seen.has(id)) continue;
        seen.add(id); // a Hidden entry hides those of the same id further down
        const entryPath = join(folder, name);
        try {
          const text = readSystemFile(entryPath, LONGEST_ENTRY).toString('utf8');
          const { locale, desktops } = this.config;
          const result = parseDesktopEntry(id, text, { locale, desktops });
          if (!result.ok || !canRun(result.program.tryExec)) continue;
          // one that cannot be started is not offered; a shortcut to it says why when it is opened
          // the stand-in starts nothing, so that nothing need be there
          const starts = this.config.opener === 'viewer' || canRun(programIn(result.program.exec) ?? '/nothing');
          found.set(id, { ...result.program, entryPath, listed: result.listed && starts, starts });
        } catch {
          // unreadable: not installed as far as the user is concerned
        }
      }
    }
    this.programs = found;
  }

  list(): InstalledProgram[] {
    return [...this.programs.values()].filter((p) => p.listed).sort((a, b) => compareNatural(a.name, b.name));
  }

  /** Those that are not listed too: they may still open things. */
  all(): InstalledProgram[] {
    return [...this.programs.values()].filter((p) => p.starts);
  }

  /** One that is listed, by its name, in any case of letters. */
  named(name: string): InstalledProgram | undefined {
    const wanted = name.toLocaleLowerCase();
    return this.list().find((p) => p.name.toLocaleLowerCase() === wanted);
  }

  find(id: string): InstalledProgram | undefined {
    return this.programs.get(id);
  }

  onApplicationShutdown(): void {
    clearTimeout(this.timer);
    for (const watcher of this.watchers) watcher.close();
  }
}

/** A program by an absolute path, or a name looked up in PATH: a file that may be executed. */
export function canRun(tryExec: string | undefined): boolean {
  if (!tryExec) return true;
  const tries = tryExec.startsWith('/')
    ? [tryExec]
    : (process.env['PATH'] ?? '').split(delimiter).map((dir) => join(dir, tryExec));
  return tries.some((path) => {
    try {
      accessSync(path, constants.X_OK);
      return statSync(path).isFile();
    } catch {
      return false;
    }
  });
}

/** Whether the folder is there that an entry starts its program in. */
export function isFolder(path: string): boolean {
  try {
    return statSync(path).isDirectory();
  } catch {
    return false;
  }
}
