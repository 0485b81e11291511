/** Has the traces of use that other programs leave read by a thread that can be given up. */
import { Worker } from 'node:worker_threads';
import { Inject, Injectable } from '@nestjs/common';
import { CONFIG, type Config } from '../config/config.js';
import type { OpenedElsewhere } from '../recentFiles/readRecentFiles.js';
import { OfferedFoldersService } from '../places/offeredFolders.service.js';
import type { LinkFile } from './readTraces.js';
import type { TracesAsked, TracesTold } from './traces.worker.js';

/** Somebody waits for it. */
const LONGEST_MS = 10_000;

export interface Traces {
  opened: OpenedElsewhere[];
  /** Folders bookmarked in file dialogs. */
  bookmarks: string[];
  /** What the desktop folder's link files lead to. */
  links: LinkFile[];
  /** What could not be read, in words. */
  trouble: string[];
}

@Injectable()
export class TracesService {
  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly folders: OfferedFoldersService,
  ) {}

  read(): Promise<Traces> {
    const { dataHome, configHome, home } = this.config.xdg;
    const workerData: TracesAsked = { dataHome, configHome, home, desktop: this.folders.desktopFolder() };
    const traces: Traces = { opened: [], bookmarks: [], links: [], trouble: [] };
    return new Promise((resolve) => {
      const worker = new Worker(new URL('./traces.worker.js', import.meta.url), {
        workerData,
        resourceLimits: { maxOldGenerationSizeMb: 512 },
      });
      worker.unref();
      const late = setTimeout(() => {
        traces.trouble.push('Not all traces of what you use could be read in time.');
        void worker.terminate();
        resolve(traces);
      }, LONGEST_MS).unref();
      worker.on('message', (told: TracesTold) => {
        if (told.kind === 'recent') traces.opened = told.opened;
        else if (told.kind === 'bookmarks') traces.bookmarks = told.paths;
        else if (told.kind === 'desktop') traces.links = told.links;
        else traces.trouble.push(told.text);
      });
      worker.once('error', () => traces.trouble.push('The desktop’s list of recent files could not be read.'));
      worker.once('exit', () => {
        clearTimeout(late);
        resolve(traces);
      });
    });
  }
}
