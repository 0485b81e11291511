/** Pictures: given as bytes and re-encoded, icons of programs by theme, thumbnails; refused where they are none. */
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import sharp from 'sharp';
import type { Problem } from '@rellin/contract';
import { Rellin, until } from './testing/harness.js';

const SVG =
  '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 8 8"><rect width="8" height="8" fill="#0b6652"/></svg>';

let rellin: Rellin;
beforeAll(async () => {
  rellin = await Rellin.make({}, (r) => {
    const apps = join(r.base, 'system/applications');
    const icons = join(r.base, 'system/icons/hicolor/scalable/apps');
    mkdirSync(apps, { recursive: true });
    mkdirSync(icons, { recursive: true });
    const entry = (id: string, icon: string) =>
      writeFileSync(join(apps, id), `[Desktop Entry]\nType=Application\nName=${id}\nExec=${id} %F\nIcon=${icon}\n`);
    entry('tide.desktop', 'tide');
    entry('bare.desktop', 'nowhere');
    writeFileSync(
      join(r.base, 'system/icons/hicolor/index.theme'),
      '[Icon Theme]\nName=h\nDirectories=scalable/apps\n[scalable/apps]\nSize=64\nMinSize=8\nMaxSize=512\nType=Scalable\n',
    );
    writeFileSync(join(icons, 'tide.svg'), SVG);
  });
});
afterAll(() => rellin.remove());

const plain = (width: number, height: number) =>
  sharp({ create: { width, height, channels: 3, background: '#2b6f86' } });

async function ask(method: string, path: string, body?: Buffer) {
  const answer = await fetch(`${rellin.address}/api${path}`, {
    method,
    headers: { authorization: `Bearer ${rellin.token}`, ...(body && { 'content-type': 'application/octet-stream' }) },
    body: body && new Uint8Array(body),
  });
  const bytes = Buffer.from(await answer.arrayBuffer());
  return { answer, bytes, json: <T>() => JSON.parse(bytes.toString('utf8')) as T };
}
const give = async (bytes: Buffer) => (await ask('POST', '/pictures', bytes)).json<{ id: string }>().id;
const refusal = async (bytes: Buffer) => {
  const { answer, json } = await ask('POST', '/pictures', bytes);
  return { status: answer.status, detail: json<Problem>().detail };
};
const size = async (bytes: Buffer) => {
  const { width, height, format } = await sharp(bytes).metadata();
  return { width, height, format };
};

describe('a picture given as bytes', () => {
  it('is kept as a small PNG without what it carried beside its pixels', async () => {
    const withExif = await plain(1200, 600)
      .withExif({ IFD0: { Copyright: 'kept by nobody' } })
      .jpeg()
      .toBuffer();
    const id = await give(withExif);
    const { answer, bytes } = await ask('GET', `/pictures/${id}`);
    expect(answer.headers.get('content-type')).toBe('image/png');
    expect(answer.headers.get('cache-control')).toContain('immutable');
    expect(await size(bytes)).toEqual({ width: 256, height: 128, format: 'png' });
    expect(bytes.includes('kept by nobody')).toBe(false);
  });

  it('is kept once, whoever gives it, and is never made larger', async () => {
    const small = await plain(20, 30).png().toBuffer();
    expect(await give(small)).toBe(await give(small));
    expect(await size((await ask('GET', `/pictures/${await give(small)}`)).bytes)).toMatchObject({ width: 20 });
  });

  it.each(['png', 'jpeg', 'webp', 'gif', 'avif', 'tiff'] as const)('may be %s', async (format) => {
    expect(await give(await plain(40, 40).toFormat(format).toBuffer())).toMatch(/^[0-9a-f]{64}$/);
  });

  it('is refused where it is no picture, a drawing with a program’s freedom, or damaged', async () => {
    const png = await plain(300, 300).png({ compressionLevel: 0 }).toBuffer();
    for (const bytes of [Buffer.from('a plain text'), Buffer.from(SVG), png.subarray(0, png.length / 2)]) {
      const { status, detail } = await refusal(bytes);
      expect(status).toBe(400);
      expect(detail).toContain('no picture');
    }
  });

  it('is refused in words where it has 100 MB, or claims more pixels than anyone can look at', async () => {
    const large = await refusal(Buffer.alloc(100_000_000));
    expect(large).toMatchObject({ status: 413, detail: expect.stringContaining('100 MB') as unknown });
    const wall = await plain(12_000, 9_000).png({ compressionLevel: 1 }).toBuffer();
    expect(await refusal(wall)).toMatchObject({ status: 413, detail: expect.stringContaining('pixels') as unknown });
    expect((await rellin.get('/shortcuts')).length).toBeGreaterThanOrEqual(0);
  });
});

describe('the picture of a shortcut or collection', () => {
  it('is chosen, undone and done again', async () => {
    const { id } = await rellin.add(rellin.write('tide.csv'));
    const picture = `image:${await give(await plain(30, 30).png().toBuffer())}`;
    const change = (text: string) => rellin.call('PATCH', `/shortcuts/${id}`, { picture: text });
    expect((await change('icon:sailing')).picture).toBe('icon:sailing');
    expect((await change(picture)).picture).toBe(picture);
    await rellin.post('/journal/undo');
    expect((await rellin.shortcut(id)).picture).toBe('icon:sailing');
    await rellin.post('/journal/redo');
    expect((await rellin.shortcut(id)).picture).toBe(picture);
  });

  it('may be given to a collection; what is no picture is refused there too', async () => {
    const made = await rellin.post('/collections', { name: 'Boats', picture: 'icon:sailing' });
    expect(made.picture).toBe('icon:sailing');
    const { revision } = made;
    const bad = await rellin.refusal(
      rellin.call('PATCH', `/collections/${made.id}`, { revision, picture: 'icon:../../etc/passwd' }),
    );
    expect(bad.problem.status).toBe(400);
  });
});

describe('icons of programs and thumbnails', () => {
  it('a program’s icon comes from the icon theme, as a PNG; one that is nowhere is not found', async () => {
    const { bytes } = await ask('GET', '/pictures/programs/tide.desktop');
    expect(await size(bytes)).toEqual({ width: 128, height: 128, format: 'png' });
    // one without an icon is nobody's error
    expect((await ask('GET', '/pictures/programs/bare.desktop')).answer.status).toBe(204);
    expect((await ask('GET', '/pictures/programs/never.desktop')).answer.status).toBe(404);
  });

  it('a picture shows itself small and upright; what is none has no thumbnail', async () => {
    // orientation 6: the camera was held upright
    const photo = await plain(900, 300).withMetadata({ orientation: 6 }).jpeg().toBuffer();
    writeFileSync(join(rellin.place, 'gull.jpg'), photo);
    const gull = await rellin.add(join(rellin.place, 'gull.jpg'));
    const { bytes } = await ask('GET', `/pictures/originals/${gull.placeId}/${gull.originalId}?side=128`);
    expect(await size(bytes)).toEqual({ width: 43, height: 128, format: 'png' });
    const text = await rellin.add(rellin.write('note.txt'));
    expect((await ask('GET', `/pictures/originals/${text.placeId}/${text.originalId}`)).answer.status).toBe(404);
  });
});

describe('a drawing', () => {
  const svg = (inside: string) =>
    `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="400" height="200">${inside}</svg>`;
  const uses = Array.from({ length: 30 }, (_, i) => `<g id="a${i + 1}">${`<use xlink:href="#a${i}"/>`.repeat(10)}</g>`);
  const filtered = (filter: string) =>
    svg(`<filter id="f">${filter}</filter>${'<rect width="400" height="200" filter="url(#f)"/>'.repeat(2000)}`);
  const draw = async (name: string, text: string) => {
    const { placeId, originalId } = await rellin.add(rellin.write(name, text));
    return ask('GET', `/pictures/drawings/${placeId}/${originalId}`);
  };
  const pixel = async (bytes: Buffer) => [
    ...(await sharp(bytes).extract({ left: 9, top: 9, width: 1, height: 1 }).raw().toBuffer()),
  ];

  it('is drawn large, with what it holds itself', async () => {
    const { answer, bytes } = await draw('plan.svg', svg('<rect width="400" height="200" fill="#0b6652"/>'));
    expect(answer.headers.get('content-type')).toBe('image/png');
    expect(await size(bytes)).toEqual({ width: 2048, height: 1024, format: 'png' });
    expect(await pixel(bytes)).toEqual([0x0b, 0x66, 0x52, 255]);
  });

  it('brings in no file and no address from outside', async () => {
    const outside = join(rellin.base, 'outside.png');
    writeFileSync(outside, await plain(400, 200).png().toBuffer());
    const asked = `<image xlink:href="file://${outside}" width="400" height="200"/>`;
    expect(await pixel((await draw('outside.svg', svg(asked))).bytes)).toEqual([0, 0, 0, 0]);
    const entity = `<!DOCTYPE svg [<!ENTITY x SYSTEM "file://${outside}">]>${svg('<text y="20">&x;</text>')}`;
    const drawn = await draw('entity.svg', entity);
    expect(drawn.answer.status === 400 || (await pixel(drawn.bytes))[3] === 0).toBe(true);
  });

  it.each([
    [
      'parts of parts of parts',
      svg(`<g id="a0"><rect width="1" height="1"/></g>${uses.join('')}<use xlink:href="#a30"/>`),
    ],
    ['endless noise', filtered('<feTurbulence baseFrequency="0.9" numOctaves="1000"/>')],
    ['much to blur', filtered('<feGaussianBlur stdDeviation="200"/>')],
    ['a line without end', svg(`<path stroke="red" d="M0 0 ${'L1 200 L400 1 '.repeat(140_000)}"/>`)],
    ['no drawing', 'a text'],
  ])('of %s is given up, and the next one is drawn', async (what, text) => {
    const { answer, json } = await draw(`${what}.svg`, text);
    expect(answer.status).toBe(400);
    expect(json<Problem>().detail).toContain('takes too long');
    expect((await draw(`after ${what}.svg`, SVG)).answer.status).toBe(200);
  });

  it('whose asker went away is not drawn to its end', async () => {
    const { placeId, originalId } = await rellin.add(
      rellin.write('endless.svg', filtered('<feGaussianBlur stdDeviation="300"/>')),
    );
    const isDrawing = (pid: string) => {
      try {
        return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('drawing.process');
      } catch {
        return false; // it ended between two looks
      }
    };
    /** Those that draw, children of the server (proc(5)). */
    const drawing = () =>
      readFileSync(`/proc/${rellin.pid}/task/${rellin.pid}/children`, 'utf8')
        .split(' ')
        .filter((pid) => pid !== '' && isDrawing(pid));
    /** What it has worked, in hundredths of a second. */
    const ticks = (pid: string) => {
      const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1]!.split(' ');
      return Number(fields[11]) + Number(fields[12]);
    };
    // the one that drew before is kept a while
    const before = new Map(drawing().map((pid) => [pid, ticks(pid)]));
    const gone = new AbortController();
    const asked = fetch(`${rellin.address}/api/pictures/drawings/${placeId}/${originalId}`, {
      headers: { authorization: `Bearer ${rellin.token}` },
      signal: gone.signal,
    });
    const busy = await until(
      () => drawing().find((pid) => ticks(pid) > (before.get(pid) ?? 0) + 20),
      (pid) => pid !== undefined,
    );
    gone.abort();
    await expect(asked).rejects.toThrow();
    // far sooner than it would be given up
    await until(drawing, (pids) => !pids.includes(busy!), 3000);
  });

  it('is nothing else: what is a picture is no drawing', async () => {
    writeFileSync(join(rellin.place, 'photo.png'), await plain(20, 20).png().toBuffer());
    const { placeId, originalId } = await rellin.add(join(rellin.place, 'photo.png'));
    expect((await ask('GET', `/pictures/drawings/${placeId}/${originalId}`)).answer.status).toBe(404);
  });
});
