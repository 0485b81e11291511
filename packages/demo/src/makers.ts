/** Real bytes of each kind of file, small but valid: what opens them finds what their names promise. */
import { deflateSync, crc32 as zlibCrc } from 'node:zlib';
import { zipSync, strToU8 } from 'fflate';
import type { Random } from '@rellin/core/random';

function crc32(bytes: Uint8Array): number {
  if (typeof zlibCrc === 'function') return zlibCrc(bytes);
  let crc = ~0;
  for (const byte of bytes) {
    crc ^= byte;
    for (let k = 0; k < 8; k++) crc = (crc >>> 1) ^ (0xedb88320 & -(crc & 1));
  }
  return ~crc >>> 0;
}

/** A picture (PNG, ISO/IEC 15948): sky, head of land, sea, and a few birds. */
export function png(random: Random, width = 320, height = 200): Buffer {
  const horizon = Math.floor(height * (0.45 + 0.2 * random.next()));
  const hue = random.next();
  const raw = Buffer.alloc((width * 3 + 1) * height);
  const peak = width * random.next();
  const ridge = Array.from({ length: width }, (_, x) => horizon - 30 * Math.exp(-(((x - peak) / (width / 5)) ** 2)));
  for (let y = 0; y < height; y++) {
    const t = y / height;
    const sky = [190 + 40 * hue - 60 * t, 205 - 20 * t, 215 + 20 * t];
    const sea = [60 + 20 * hue, 100 + 40 * t, 125 + ((y * 13) % 17)];
    const land = [70 + 30 * hue, 90, 70];
    const row = y * (width * 3 + 1);
    for (let x = 0; x < width; x++) {
      const colour = y > ridge[x]! && y < horizon + 6 ? land : y < horizon ? sky : sea;
      raw[row + 1 + x * 3] = colour[0]!;
      raw[row + 2 + x * 3] = colour[1]!;
      raw[row + 3 + x * 3] = colour[2]!;
    }
  }
  const birds = random.int(0, 6);
  for (let i = 0; i < birds; i++) {
    const bx = random.int(20, width - 20);
    const by = random.int(10, Math.max(12, horizon - 40));
    for (let k = -5; k <= 5; k++) {
      const at = (by - Math.abs(Math.abs(k) - 3)) * (width * 3 + 1) + 1 + (bx + k) * 3;
      if (at > 0 && at + 2 < raw.length) raw.fill(30, at, at + 3);
    }
  }
  const chunk = (type: string, data: Uint8Array) => {
    const body = Buffer.concat([Buffer.from(type, 'latin1'), data]);
    const out = Buffer.alloc(8 + body.length);
    out.writeUInt32BE(data.length, 0);
    body.copy(out, 4);
    out.writeUInt32BE(crc32(body), 4 + body.length);
    return out;
  };
  const header = Buffer.alloc(13);
  header.writeUInt32BE(width, 0);
  header.writeUInt32BE(height, 4);
  header.set([8, 2, 0, 0, 0], 8);
  return Buffer.concat([
    Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
    chunk('IHDR', header),
    chunk('IDAT', deflateSync(raw, { level: 4 })),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}

/** A sound recording (WAVE, 8 kHz, 8 bit): a call that rises and falls, with wind. */
export function wav(random: Random, seconds = 1.5): Buffer {
  const rate = 8000;
  const n = Math.floor(rate * seconds);
  const out = Buffer.alloc(44 + n);
  out.write('RIFF', 0, 'latin1');
  out.writeUInt32LE(36 + n, 4);
  out.write('WAVEfmt ', 8, 'latin1');
  out.writeUInt32LE(16, 16);
  out.writeUInt16LE(1, 20);
  out.writeUInt16LE(1, 22);
  out.writeUInt32LE(rate, 24);
  out.writeUInt32LE(rate, 28);
  out.writeUInt16LE(1, 32);
  out.writeUInt16LE(8, 34);
  out.write('data', 36, 'latin1');
  out.writeUInt32LE(n, 40);
  const base = 900 + 1200 * random.next();
  let phase = 0;
  for (let i = 0; i < n; i++) {
    const t = i / rate;
    phase += (2 * Math.PI * (base + 500 * Math.sin(9 * t))) / rate;
    const call = Math.sin(phase) * Math.max(0, Math.sin(5 * t)) * 60;
    out[44 + i] = Math.round(128 + call + 6 * (random.next() - 0.5));
  }
  return out;
}

/** A document of one page a heading (PDF 1.4), with text that can be read and searched. */
export function pdf(title: string, lines: readonly string[]): Buffer {
  const escape = (s: string) => s.replace(/[^\x20-\x7e]/g, '?').replace(/[\\()]/g, '\\$&');
  const text = [
    `BT /F1 20 Tf 56 770 Td (${escape(title)}) Tj ET`,
    ...lines.slice(0, 44).map((line, i) => `BT /F1 11 Tf 56 ${738 - 16 * i} Td (${escape(line)}) Tj ET`),
  ].join('\n');
  const objects = [
    '<< /Type /Catalog /Pages 2 0 R >>',
    '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
    '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] /Contents 4 0 R /Resources << /Font << /F1 5 0 R >> >> >>',
    `<< /Length ${text.length} >>\nstream\n${text}\nendstream`,
    '<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>',
  ];
  let out = '%PDF-1.4\n';
  const offsets = objects.map((object, i) => {
    const at = out.length;
    out += `${i + 1} 0 obj\n${object}\nendobj\n`;
    return at;
  });
  const table = out.length;
  out += `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n`;
  for (const at of offsets) out += `${String(at).padStart(10, '0')} 00000 n \n`;
  out += `trailer\n<< /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${table}\n%%EOF\n`;
  return Buffer.from(out, 'latin1');
}

/** A text document (OpenDocument 1.2): the type first and stored, as the standard wants. */
export function odt(title: string, paragraphs: readonly string[]): Buffer {
  const xml = (s: string) => s.replace(/[&<>]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;' })[c]!);
  const content = `<?xml version="1.0" encoding="UTF-8"?><office:document-content xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" office:version="1.2"><office:body><office:text><text:h text:outline-level="1">${xml(title)}</text:h>${paragraphs.map((p) => `<text:p>${xml(p)}</text:p>`).join('')}</office:text></office:body></office:document-content>`;
  const manifest = `<?xml version="1.0" encoding="UTF-8"?><manifest:manifest xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0" manifest:version="1.2"><manifest:file-entry manifest:full-path="/" manifest:media-type="application/vnd.oasis.opendocument.text"/><manifest:file-entry manifest:full-path="content.xml" manifest:media-type="text/xml"/></manifest:manifest>`;
  const mtime = '2026-01-01T00:00:00';
  return Buffer.from(
    zipSync(
      {
        mimetype: [strToU8('application/vnd.oasis.opendocument.text'), { level: 0 }],
        'content.xml': strToU8(content),
        'META-INF/manifest.xml': strToU8(manifest),
      },
      { mtime },
    ),
  );
}

/** A track (GPX 1.1) around the head of land. */
export function gpx(name: string, random: Random, points = 40): string {
  const rows = Array.from({ length: points }, (_, i) => {
    const angle = (2 * Math.PI * i) / points;
    const lat = (58.41 + 0.012 * Math.sin(angle) + 0.0008 * random.normal()).toFixed(6);
    const lon = (-3.09 + 0.02 * Math.cos(angle) + 0.0008 * random.normal()).toFixed(6);
    return `      <trkpt lat="${lat}" lon="${lon}"><ele>${random.int(2, 64)}</ele></trkpt>`;
  });
  return `<?xml version="1.0" encoding="UTF-8"?>\n<gpx version="1.1" creator="Marrowick Head" xmlns="http://www.topografix.com/GPX/1/1">\n  <trk><name>${name}</name><trkseg>\n${rows.join('\n')}\n  </trkseg></trk>\n</gpx>\n`;
}

export function csv(header: readonly string[], rows: readonly (readonly (string | number)[])[]): string {
  const field = (v: string | number) => (/[",\n]/.test(String(v)) ? `"${String(v).replace(/"/g, '""')}"` : String(v));
  return [header, ...rows].map((row) => row.map(field).join(',')).join('\r\n') + '\r\n';
}
