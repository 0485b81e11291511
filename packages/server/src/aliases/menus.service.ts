/**
 * Publications as menus of the desktop (Desktop Menu Specification 1.1): a menu file merged into the applications menu,
 * a directory entry for each group, a desktop entry for each item. Every file bears Rellin's name and mark; no other is
 * touched.
 */
import { existsSync, mkdirSync, readdirSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { Inject, Injectable } from '@nestjs/common';
import { applicationEntry, directoryEntry, execArgument, menuText, type MenuGroup } from '@rellin/core/aliases';
import { nameOf } from '@rellin/core/paths';
import { CONFIG, type Config } from '../config/config.js';
import { systemText } from '../disk/systemFile.js';
import { DesiredLinksService, type Shown } from './desiredLinks.service.js';
import { PublicationsRepository, type PublicationRow } from '../publications/publications.repository.js';

const MARK = 'X-Rellin=1';
const OURS = /^rellin-menu-/;
const COMMAND = resolve(import.meta.dirname, '../../../../bin/rellin.mjs');

@Injectable()
export class MenusService {
  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly wanted: DesiredLinksService,
    private readonly publications: PublicationsRepository,
  ) {}

  /** Where menus, their groups and their entries are kept. */
  private get folders() {
    const { configHome, dataHome } = this.config.xdg;
    return {
      menus: join(configHome, 'menus/applications-merged'),
      directories: join(dataHome, 'desktop-directories'),
      applications: join(dataHome, 'applications'),
    };
  }

  /** Writes what menus are to be, and takes away those that are no more. */
  async bring(): Promise<void> {
    const files = new Map<string, string>();
    for (const publication of (await this.publications.list()).filter((p) => p.as_menu))
      this.write(files, publication, await this.wanted.shown(publication));
    for (const [path, text] of files) {
      if (systemText(path) === text) continue;
      mkdirSync(resolve(path, '..'), { recursive: true });
      const part = `${path}.part`;
      writeFileSync(part, text);
      renameSync(part, path);
    }
    for (const folder of Object.values(this.folders))
      for (const name of existsSync(folder) ? readdirSync(folder) : []) {
        const path = join(folder, name);
        if (OURS.test(name) && !files.has(path) && (name.endsWith('.part') || systemText(path)?.includes(MARK)))
          rmSync(path);
      }
  }

  private write(files: Map<string, string>, publication: PublicationRow, items: readonly Shown[]): void {
    const { menus, directories, applications } = this.folders;
    let n = 0;
    const group = (name: string, inside: readonly Shown[]): MenuGroup => {
      const directory = `rellin-menu-${publication.id}-${n++}.directory`;
      files.set(join(directories, directory), directoryEntry(name, 'A collection of Rellin'));
      const parts = inside.flatMap((item): (string | MenuGroup)[] => {
        if (item.type === 'group') return [group(item.name, item.items)];
        const [key, what, args] =
          item.type === 'original'
            ? [`${item.placeId}-${item.originalId}`, { name: nameOf(item.path) }, [item.path]]
            : [item.shortcut.id, item.shortcut, ['--id', item.shortcut.id]];
        const file = `rellin-menu-${key}.desktop`;
        const comment = 'description' in what ? what.description : '';
        files.set(join(applications, file), applicationEntry({ name: what.name, comment, exec: this.open(args) }));
        return [file];
      });
      return { directory, parts };
    };
    files.set(join(menus, `rellin-menu-${publication.id}.menu`), menuText(group(publication.name, items)));
  }

  /** Whoever starts an entry does not have our environment. */
  private open(what: readonly string[]): string {
    const args = ['env', `RELLIN_DATA=${this.config.dataFolder}`, process.execPath, COMMAND, 'open', ...what];
    return args.map(execArgument).join(' ');
  }
}
