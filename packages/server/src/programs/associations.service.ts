/** Which programs open what: the person's own choice, then the system's `mimeapps.list`. */
import { mkdir, realpath, rename, writeFile } from 'node:fs/promises';
import { randomUUID } from 'node:crypto';
import { dirname } from 'node:path';
import { Inject, Injectable } from '@nestjs/common';
import {
  defaultFor,
  defaultIn,
  isPlainEntry,
  mimeAppsFiles,
  parseMimeApps,
  programsFor,
  withDefault,
  type MimeApps,
  type MimeAppsFile,
} from '@rellin/core/desktop';
import { kindWord, type Kind } from '@rellin/core/kinds';
import type { ProgramId, SuitedProgram } from '@rellin/contract';
import { CONFIG, type Config } from '../config/config.js';
import { systemText } from '../disk/systemFile.js';
import { kindOfMime, mimeTree } from '../indexing/mimeTypes.js';
import { JournalService, type WithinAct } from '../journal/journal.service.js';
import { Refusal } from '../problems/refusal.js';
import { SettingsService } from '../settings/settings.service.js';
import { ProgramsService, type InstalledProgram } from './programs.service.js';
import type { RowChange } from '../journal/rowChange.js';

@Injectable()
export class AssociationsService implements WithinAct {
  private readonly files: MimeAppsFile[];
  /** The person's own, for every desktop: the one that is written. */
  private readonly ownFile: string;

  constructor(
    @Inject(CONFIG) config: Config,
    private readonly programs: ProgramsService,
    private readonly settings: SettingsService,
    private readonly journal: JournalService,
  ) {
    this.files = mimeAppsFiles(config.xdg, config.desktops);
    this.ownFile = this.files.find((f) => !f.isForDesktop)!.path;
  }

  /** The file is written by the act, by its undo and by its redo alike, before their transaction ends. */
  async withinAct(changes: RowChange[]): Promise<void> {
    for (const { table, before, after } of changes) {
      if (table !== 'system_default') continue;
      // they come and go, and never change: the row is whole
      const row = after ?? before;
      if (row?.mime) await this.write(row.mime, (after ? row.program_id : row.before) ?? undefined);
    }
  }

  private read(): MimeApps[] {
    return this.files.map(({ path, isForDesktop }) => parseMimeApps(systemText(path) ?? '', isForDesktop));
  }

  /** Installed programs that can be given files, those for the MIME type first; all of them after. */
  async suited(mime: string): Promise<SuitedProgram[]> {
    const taking = this.programs.list().filter((p) => /%[fFuU]/.test(p.exec));
    const files = this.read();
    const known = programsFor(mime, files, this.programs.all(), mimeTree());
    const first = known.flatMap((id) => this.programs.find(id) ?? []);
    const rest = taking.filter((p) => !known.includes(p.id));
    const standing = defaultFor(mime, files, this.programs.all(), mimeTree());
    return [...first, ...rest].map((p) => ({
      id: p.id,
      name: p.name,
      comment: p.comment ?? p.genericName ?? '',
      suits: known.includes(p.id),
      isDefault: p.id === standing,
    }));
  }

  /** The program chosen for an original: by its shortcut, by its kind; undefined leaves it to the system. */
  async chosen(own: string | null, kind: Kind): Promise<InstalledProgram | undefined> {
    const { openWith } = await this.settings.all();
    // one that was taken off the machine counts no more
    const installed = (id: string | null | undefined) => (id ? this.programs.find(id) : undefined);
    return installed(own) ?? installed(openWith[kind]);
  }

  /** Chooses a program for a whole kind in Rellin; null takes the choice away. */
  async chooseFor(kind: Kind, programId: ProgramId | null): Promise<void> {
    if (programId !== null) this.need(programId);
    const openWith = { ...(await this.settings.all()).openWith };
    if (programId === null) delete openWith[kind];
    else openWith[kind] = programId;
    await this.settings.change({ openWith });
  }

  /**
   * Writes a program into the user's `mimeapps.list` for every MIME type of a kind that it says it opens, and for the
   * one at hand. Only ever on request; undone by undo.
   */
  async tell(programId: ProgramId, kind: Kind, mime?: string): Promise<string[]> {
    const program = this.need(programId);
    const types = new Set(program.mimeTypes.filter((m) => kindOfMime(m) === kind));
    if (mime) types.add(mime);
    for (const type of types) if (!isPlainEntry(type, programId)) types.delete(type);
    if (types.size === 0)
      throw new Refusal('not-valid', `${program.name} does not say which types of ${kindWord(kind)} it opens.`, {
        remedy: 'Choose it for the kind in Rellin; the system is left as it is.',
      });
    const text = systemText(this.ownFile) ?? '';
    await this.journal.act(
      {
        act: 'tell-system',
        summary: `Told the system that ${program.name} opens ${[...types].join(', ')} (${this.ownFile})`,
      },
      async (tx) => {
        for (const type of types)
          await tx.insert('system_default', {
            id: randomUUID(),
            mime: type,
            program_id: programId,
            before: defaultIn(text, type) ?? null,
          });
      },
    );
    return [...types];
  }

  private need(id: string): InstalledProgram {
    const program = this.programs.find(id);
    if (!program) throw new Refusal('not-found', 'That program is not installed any more.');
    return program;
  }

  private async write(mime: string, programId: ProgramId | undefined): Promise<void> {
    // it may be a link to where the person keeps such files: that one is written, and the link stays
    const path = await realpath(this.ownFile).catch(() => this.ownFile);
    const text = systemText(path) ?? '';
    await mkdir(dirname(path), { recursive: true });
    // beside it and over it: whoever reads meanwhile sees the one or the other, never half
    const part = `${path}.${randomUUID()}`;
    await writeFile(part, withDefault(text, mime, programId));
    await rename(part, path);
  }
}
