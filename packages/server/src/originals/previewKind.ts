import type { PreviewKind } from '@rellin/contract';
import type { Kind } from '@rellin/core/kinds';
import { extensionOf } from '@rellin/core/paths';

/** How the viewer can show a thing; null where it cannot. */
export function previewKindOf(kind: Kind, name: string): PreviewKind | null {
  const extension = extensionOf(name);
  switch (kind) {
    case 'folder':
      return 'folder';
    case 'picture':
      return /^(tiff?|heic|bmp|ico)$/.test(extension) ? null : 'picture';
    case 'sound':
      return 'sound';
    case 'video':
      return 'video';
    case 'pdf':
      return 'pdf';
    case 'table':
      return /^(csv|tsv)$/.test(extension) ? 'table' : null;
    case 'text':
      return /^(md|markdown)$/.test(extension) ? 'markdown' : 'text';
    case 'source':
    case 'map':
      return extension === 'kmz' || extension === 'shp' ? null : 'text';
    case 'web':
      return 'text';
    default:
      return null;
  }
}

/** The only types that are served as what they are; all else goes out as plain text or a download. */
const INLINE: Record<string, string> = {
  png: 'image/png',
  jpg: 'image/jpeg',
  jpeg: 'image/jpeg',
  gif: 'image/gif',
  webp: 'image/webp',
  avif: 'image/avif',
  svg: 'image/svg+xml',
  wav: 'audio/wav',
  mp3: 'audio/mpeg',
  ogg: 'audio/ogg',
  oga: 'audio/ogg',
  opus: 'audio/ogg',
  flac: 'audio/flac',
  m4a: 'audio/mp4',
  mp4: 'video/mp4',
  webm: 'video/webm',
  ogv: 'video/ogg',
  pdf: 'application/pdf',
};

export function servedType(look: PreviewKind | null, name: string): string {
  if (look === 'text' || look === 'markdown' || look === 'table') return 'text/plain; charset=utf-8';
  return INLINE[extensionOf(name)] ?? 'application/octet-stream';
}
