/** Pictures given by the person, kept by the digest of their bytes; icons of programs; thumbnails of originals. */
import type { OriginalId, PlaceId } from '@rellin/contract';
import { createHash } from 'node:crypto';
import { statSync } from 'node:fs';
import type { Readable } from 'node:stream';
import { join } from 'node:path';
import { Inject, Injectable } from '@nestjs/common';
import { iconLookup } from '@rellin/core/desktop';
import { formatBytes } from '@rellin/core/units';
import { CONFIG, type Config } from '../config/config.js';
import { DiskService } from '../disk/disk.service.js';
import { readSystemFile, systemText } from '../disk/systemFile.js';
import { OriginalsService } from '../originals/originals.service.js';
import { Refusal } from '../problems/refusal.js';
import { ProgramsService, type AfterPrograms } from '../programs/programs.service.js';
import { DrawingsService } from './drawings.service.js';
import { PICTURE_LIMIT, smallPng } from './raster.js';
import { PicturesRepository } from './pictures.repository.js';

/** How large a picture is kept; shown at most at half of it, for dense screens. */
const SIDE = 256;
/** Originals beyond this have no thumbnail. */
const ORIGINAL_LIMIT = 100_000_000;
const DRAWING = 'image/svg+xml';
const DRAWING_LIMIT = 10_000_000;
/** As large as a dense screen. */
const DRAWING_SIDE = 2048;

@Injectable()
export class PicturesService implements AfterPrograms {
  private readonly icons = new Map<string, Promise<Buffer | undefined>>();
  private find: ReturnType<typeof iconLookup>;

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly rows: PicturesRepository,
    private readonly originals: OriginalsService,
    private readonly programs: ProgramsService,
    private readonly disk: DiskService,
    private readonly drawings: DrawingsService,
  ) {
    this.find = this.finder();
  }

  afterPrograms(): void {
    this.icons.clear();
    this.find = this.finder();
  }

  /** Takes bytes from outside; the id they are kept by. */
  async add(body: Readable): Promise<string> {
    const chunks: Buffer[] = [];
    let size = 0;
    for await (const chunk of body as AsyncIterable<Buffer>) {
      size += chunk.length;
      // read to its end, or the browser would say only that the connection broke
      if (size <= PICTURE_LIMIT) chunks.push(chunk);
    }
    if (size > PICTURE_LIMIT)
      throw new Refusal(
        'too-large',
        `That picture is ${formatBytes(size)}; up to ${formatBytes(PICTURE_LIMIT)} are taken.`,
        {
          remedy: 'Make it smaller first. Nothing was changed.',
        },
      );
    const png = await smallPng(Buffer.concat(chunks), SIDE);
    const id = createHash('sha256').update(png).digest('hex');
    await this.rows.save(id, png);
    return id;
  }

  async get(id: string): Promise<Buffer> {
    const bytes = await this.rows.bytes(id);
    if (!bytes) throw new Refusal('not-found', 'That picture is not kept any more.');
    return bytes;
  }

  /** The icon that a program's entry names, from the icon themes of this machine. */
  async ofProgram(id: string): Promise<Buffer | undefined> {
    const program = this.programs.find(id);
    if (!program) throw new Refusal('not-found', 'That program is not installed any more.');
    const { icon } = program;
    if (icon === undefined) return undefined;
    let png = this.icons.get(icon);
    if (!png) {
      const path = this.find({ name: icon, size: 64 });
      // an icon that cannot be read is none; the kind's stands in for it
      png =
        path === undefined || path.endsWith('.xpm')
          ? Promise.resolve(undefined)
          : this.iconAt(path).catch(() => undefined);
      this.icons.set(icon, png);
    }
    return png;
  }

  private async iconAt(path: string): Promise<Buffer> {
    const bytes = readSystemFile(path, PICTURE_LIMIT);
    return path.endsWith('.svg') ? this.drawings.png(bytes, 128) : smallPng(bytes, 128);
  }

  async thumbnail(placeId: PlaceId, originalId: OriginalId, side: number): Promise<Buffer> {
    const { row, path } = await this.originals.whereabouts(placeId, originalId);
    if (row.kind !== 'picture') throw new Refusal('not-found', `${row.name} is nothing that Rellin can make small.`);
    return smallPng(await this.disk.whole(placeId, path, ORIGINAL_LIMIT), side);
  }

  /** A drawing as large as it is looked at. */
  async drawing(placeId: PlaceId, originalId: OriginalId, gone: AbortSignal): Promise<Buffer> {
    const { row, path } = await this.originals.whereabouts(placeId, originalId);
    if (row.mime !== DRAWING) throw new Refusal('not-found', `${row.name} is no drawing.`);
    return this.drawings.png(await this.disk.whole(placeId, path, DRAWING_LIMIT), DRAWING_SIDE, gone);
  }

  /** Bytes that nothing points to any more, not even by an undo of the last `days`. Returns how many went. */
  sweep(days: number): Promise<number> {
    return this.rows.sweep(days);
  }

  private finder() {
    const { home, dataHome, dataDirs } = this.config.xdg;
    const data = [dataHome, ...dataDirs];
    return iconLookup(
      {
        isFile: (path) => statSync(path, { throwIfNoEntry: false })?.isFile() ?? false,
        read: (path) => systemText(path),
      },
      [join(home, '.icons'), ...data.map((d) => join(d, 'icons'))],
      data.map((d) => join(d, 'pixmaps')),
    );
  }
}
