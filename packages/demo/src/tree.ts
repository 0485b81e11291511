/** The observatory's files as a list: where, what bytes, when changed. The same seed and date give the same list. */
import { seeded, type Random } from '@rellin/core/random';
import { csv, gpx, odt, pdf, png, wav } from './makers.js';
import { BIRDS, MOTHS, PHOTO_SPOTS, VOLUNTEERS } from './scenario.js';

export interface DemoFile {
  /** Path below its place, as bytes where it is no UTF-8. */
  path: string | Buffer;
  bytes: Buffer;
  modified: Date;
}

export interface DemoTree {
  marrowick: DemoFile[];
  fieldDrive: DemoFile[];
  stationShare: DemoFile[];
}

const DAY = 86_400_000;
const RING_HEADER = ['date', 'time', 'ring', 'species', 'age', 'wing', 'weight', 'ringer'];
const iso = (d: Date) => d.toISOString().slice(0, 10);

/** `today` is a midnight (UTC); everything lies before it, in its year and the two before. */
export function makeTree(seed: number, today: Date): DemoTree {
  const random = seeded(seed);
  const year = today.getUTCFullYear();
  const marrowick: DemoFile[] = [];
  const before = (days: number, hour = 8 + random.int(0, 9)) =>
    new Date(today.getTime() - days * DAY + hour * 3_600_000 + random.int(0, 3599) * 1000);
  const put = (list: DemoFile[], path: string, bytes: Buffer | string, modified: Date) =>
    list.push({ path, bytes: typeof bytes === 'string' ? Buffer.from(bytes, 'utf8') : bytes, modified });
  const note = (title: string, lines: string[]) => `# ${title}\n\n${lines.join('\n')}\n`;
  const daysBack = (y: number) => Math.max(0, Math.floor((today.getTime() - Date.UTC(y, 11, 31)) / DAY));
  const dayOfYear = (y: number) => (y === year ? Math.floor((today.getTime() - Date.UTC(y, 0, 1)) / DAY) : 365);

  for (let y = year - 2; y <= year; y++) ringing(y);
  records();
  moths();
  boat();
  office();
  survey();
  sound(marrowick, 'Sound/North cliff', 46);
  awkward();

  function ringRows(r: Random, date: string, n: number) {
    return Array.from({ length: n }, (_, i) => [
      date,
      `${String(6 + Math.floor(i / 6)).padStart(2, '0')}:${String(r.int(0, 59)).padStart(2, '0')}`,
      `MH${r.int(10000, 99999)}`,
      r.pick(BIRDS),
      r.pick(['3', '3J', '4', '5', '6']),
      r.int(54, 131),
      (5 + 20 * r.next()).toFixed(1),
      r.pick(VOLUNTEERS),
    ]);
  }

  function ringing(y: number) {
    const last = dayOfYear(y);
    const base = `Ringing/${y}`;
    const all: (string | number)[][] = [];
    for (let d = 60; d < last; d += 2) {
      const date = new Date(Date.UTC(y, 0, 1) + d * DAY);
      const rows = ringRows(random, iso(date), random.int(4, 28));
      all.push(...rows);
      const back = Math.round((today.getTime() - date.getTime()) / DAY);
      put(marrowick, `${base}/Logs/${iso(date)}.csv`, csv(RING_HEADER, rows), before(back));
    }
    put(
      marrowick,
      `${base}/Logs/ringing-log-${y}.csv`,
      csv(RING_HEADER, all),
      before(daysBack(y) + (y === year ? 0 : 3)),
    );
    put(
      marrowick,
      `${base}/capture-effort-${y}.csv`,
      csv(
        ['week', 'net hours', 'birds'],
        Array.from({ length: 44 }, (_, i) => [i + 8, random.int(10, 90), random.int(3, 160)]),
      ),
      before(daysBack(y) + 2),
    );
    put(
      marrowick,
      `${base}/ring-stock-${y}.csv`,
      csv(
        ['size', 'first', 'last', 'left'],
        ['AA', 'A', 'B', 'C', 'D2', 'E'].map((s) => [
          s,
          random.int(1000, 4000),
          random.int(5000, 9000),
          random.int(0, 400),
        ]),
      ),
      before(daysBack(y)),
    );
    put(
      marrowick,
      `${base}/season plan.odt`,
      odt(`Season plan ${y}`, [
        'Nets open from the first of March.',
        'Two ringers at every round.',
        'The heligoland is mended before the equinox.',
      ]),
      before(daysBack(y) + 260),
    );
    put(
      marrowick,
      `${base}/notes for trainees.md`,
      note('Notes for trainees', ['- Read the ring twice.', '- Say the number aloud.', '- Weigh, write, release.']),
      before(daysBack(y) + 5),
    );
    put(
      marrowick,
      `${base}/Recording manual.pdf`,
      pdf('Recording manual', [
        'Every bird is recorded once, at release.',
        'Wing length to the millimetre, maximum chord.',
        'Weight to a tenth of a gram, time to ten minutes.',
        'Retraps carry R before the ring.',
      ]),
      before(daysBack(y) + 300),
    );
    for (let i = 0; i < 24; i++)
      put(
        marrowick,
        `${base}/Rings/string ${i + 1}.csv`,
        csv(
          ['ring', 'used'],
          Array.from({ length: 50 }, (_, k) => [`MH${10000 + i * 50 + k}`, random.next() < 0.6 ? 'yes' : '']),
        ),
        before(daysBack(y) + random.int(10, 200)),
      );
    for (const name of ['net-positions', 'heligoland plan', 'ride widths'])
      put(marrowick, `${base}/Site/Maps/${name}.png`, png(random), before(daysBack(y) + random.int(100, 250)));
    put(marrowick, `${base}/Site/Maps/net-positions.gpx`, gpx('Net positions', random, 22), before(daysBack(y) + 140));
  }

  function records() {
    for (let y = year - 2; y <= year; y++) {
      const months = y === year ? today.getUTCMonth() + 1 : 12;
      for (let m = 1; m <= months; m++) {
        const mm = String(m).padStart(2, '0');
        const back = Math.max(0, Math.round((today.getTime() - Date.UTC(y, m, 0)) / DAY));
        const month = new Date(Date.UTC(y, m - 1, 1))
          .toLocaleString('en', { month: 'short', timeZone: 'UTC' })
          .toLowerCase();
        put(
          marrowick,
          `Records/Tides/${y}/tides-${month}-${y}.csv`,
          csv(
            ['day', 'high', 'low', 'range'],
            Array.from({ length: 30 }, (_, d) => [
              d + 1,
              `${random.int(0, 11)}:${random.int(10, 59)}`,
              `${random.int(0, 11)}:${random.int(10, 59)}`,
              (2 + 3 * random.next()).toFixed(1),
            ]),
          ),
          before(back + 20),
        );
        put(
          marrowick,
          `Records/Weather/${y}/weather-${y}-${mm}.csv`,
          csv(
            ['day', 'wind', 'force', 'sea', 'temp', 'cloud'],
            Array.from({ length: 28 }, (_, d) => [
              d + 1,
              random.pick(['N', 'NE', 'E', 'SE', 'S', 'SW', 'W', 'NW']),
              random.int(0, 9),
              random.int(1, 7),
              random.int(-2, 19),
              random.int(0, 8),
            ]),
          ),
          before(back),
        );
      }
      for (let d = 0; d < dayOfYear(y); d += 2) {
        const date = new Date(Date.UTC(y, 0, 1) + d * DAY);
        const back = Math.round((today.getTime() - date.getTime()) / DAY);
        put(
          marrowick,
          `Records/Daily/${y}/${iso(date)} sightings.md`,
          note(
            `Sightings ${iso(date)}`,
            Array.from(
              { length: random.int(3, 9) },
              () => `- ${random.int(1, 60)} ${random.pick(BIRDS)}, ${random.pick(PHOTO_SPOTS)}`,
            ),
          ),
          before(back, 19),
        );
      }
    }
    put(
      marrowick,
      'Records/Sightings board.md',
      note(
        'Sightings board',
        BIRDS.slice(0, 8).map((b) => `- ${b}: ${random.int(1, 40)} today`),
      ),
      before(0, 7),
    );
    put(
      marrowick,
      'Records/Species codes.csv',
      csv(
        ['code', 'species'],
        BIRDS.map((b) => [b.slice(0, 5).toUpperCase(), b]),
      ),
      before(400),
    );
  }

  function moths() {
    put(
      marrowick,
      'Moths/Forms/moth-form.odt',
      odt('Moth trap form', ['Date, trap, minimum temperature, species and count.']),
      before(210),
    );
    put(
      marrowick,
      'Moths/Forms/moth-form print.pdf',
      pdf('Moth trap form', ['Date:', 'Trap: actinic / mercury', 'Minimum:', ...MOTHS.map((m) => `${m}: ____`)]),
      before(209),
    );
    put(marrowick, 'Moths/Templates/label sheet.odt', odt('Labels', MOTHS), before(330));
    for (let y = year - 2; y <= year; y++)
      for (let d = 120; d < Math.min(300, dayOfYear(y)); d += 3) {
        const date = new Date(Date.UTC(y, 0, 1) + d * DAY);
        put(
          marrowick,
          `Moths/Records/${y}/moth-trap-${iso(date)}.csv`,
          csv(
            ['species', 'count'],
            MOTHS.filter(() => random.next() < 0.7).map((m) => [m, random.int(1, 45)]),
          ),
          before(Math.round((today.getTime() - date.getTime()) / DAY)),
        );
      }
  }

  function boat() {
    put(
      marrowick,
      'Boat/Engine/Boat manual.pdf',
      pdf('Boat manual', [
        'Check oil before every crossing.',
        'Impeller: every second spring.',
        'The bilge switch is under the port locker.',
      ]),
      before(600),
    );
    put(
      marrowick,
      'Boat/Engine/engine-hours.csv',
      csv(
        ['date', 'hours', 'oil', 'by'],
        Array.from({ length: 90 }, (_, i) => [
          iso(before(i * 4)),
          812 + (90 - i) * 1.5,
          random.pick(['ok', 'ok', 'topped']),
          random.pick(VOLUNTEERS),
        ]),
      ),
      before(2),
    );
    for (const part of ['impeller', 'fuel filter', 'gear oil', 'starter', 'prop shaft']) {
      put(
        marrowick,
        `Boat/Engine/Service/${part}.md`,
        note(part, [`Last done ${iso(before(random.int(30, 400)))}.`]),
        before(random.int(30, 400)),
      );
      put(marrowick, `Boat/Engine/Service/${part}.png`, png(random, 200, 140), before(random.int(30, 400)));
    }
    put(
      marrowick,
      'Boat/Safety/Slipway checklist.md',
      note('Slipway checklist', [
        '- [ ] Winch pawl',
        '- [ ] Two life jackets spare',
        '- [ ] Radio check, channel 8',
        '- [ ] Tide above 1.9 m',
      ]),
      before(40),
    );
    put(
      marrowick,
      'Boat/Safety/flares.csv',
      csv(
        ['kind', 'until', 'number'],
        [
          ['hand red', `${year + 1}-05`, 6],
          ['smoke', `${year + 1}-02`, 4],
        ],
      ),
      before(55),
    );
    for (let i = 1; i <= 40; i++)
      put(
        marrowick,
        `Boat/Papers/${year - (i % 3)}/invoice ${String(i).padStart(3, '0')}.pdf`,
        pdf(`Invoice ${i}`, [`Chandlery, ${random.int(12, 480)}.${random.int(10, 99)}`, 'Paid with thanks.']),
        before(random.int(5, 900)),
      );
  }

  function office() {
    for (let v = 1; v <= 4; v++)
      put(
        marrowick,
        `Office/Grants/Coastal fund ${year}/Grant draft ${v}.odt`,
        odt(`Grant draft ${v}`, [
          'The observatory asks for two new nets and a drying room.',
          `Draft ${v}, by ${VOLUNTEERS[v % 6]}.`,
        ]),
        before(30 - v * 6),
      );
    for (let i = 1; i <= 9; i++)
      put(
        marrowick,
        `Office/Grants/Coastal fund ${year}/Attachments/annex ${i}.pdf`,
        pdf(`Annex ${i}`, ['Budget, letters of support and the map.']),
        before(random.int(12, 60)),
      );
    put(
      marrowick,
      `Office/Grants/Coastal fund ${year}/budget.csv`,
      csv(
        ['item', 'cost'],
        [
          ['nets', 1240],
          ['drying room', 4800],
          ['rings', 690],
        ],
      ),
      before(9),
    );
    for (let y = year - 1; y <= year; y++) {
      put(
        marrowick,
        `Office/Rota/${y}/rota.csv`,
        csv(
          ['week', ...VOLUNTEERS.map((v) => v.split(' ')[0]!)],
          Array.from({ length: 52 }, (_, w) => [
            w + 1,
            ...VOLUNTEERS.map(() => random.pick(['', 'nets', 'moths', 'boat', 'office'])),
          ]),
        ),
        before(daysBack(y) + 4),
      );
      for (let issue = 1; issue <= (y === year ? 10 : 12); issue++) {
        const base = `Office/Newsletter/${y}/Issue ${String(issue).padStart(2, '0')}`;
        const back = daysBack(y) + (12 - issue) * 30;
        put(
          marrowick,
          `${base}/The Head ${y}-${String(issue).padStart(2, '0')}.odt`,
          odt(`The Head, issue ${issue}`, ['News from the rock.', `Star bird: ${random.pick(BIRDS)}.`]),
          before(back),
        );
        put(
          marrowick,
          `${base}/The Head ${y}-${String(issue).padStart(2, '0')}.pdf`,
          pdf(`The Head, issue ${issue}`, ['News from the rock.']),
          before(back),
        );
        for (let p = 1; p <= 4; p++)
          put(marrowick, `${base}/Pictures/page ${p}.png`, png(random, 240, 160), before(back + 2));
      }
    }
    put(marrowick, 'Office/Forms/moth-form (1).odt', odt('Moth trap form, old', ['Date and count.']), before(700));
    put(
      marrowick,
      'Office/Forms/volunteer form.pdf',
      pdf('Volunteer form', ['Name, address, allergies, boat: yes / no']),
      before(500),
    );
    put(
      marrowick,
      'Office/Reserve by-laws.pdf',
      pdf('Reserve by-laws', ['No drones from March to August.', 'Dogs on the lead beyond the wall.']),
      before(900),
    );
    put(marrowick, 'Office/Code of the kitchen.txt', 'Last one up banks the stove.\nTea is counted.\n', before(80));
  }

  function survey() {
    for (const name of ['Chart of the headland', 'Transect A', 'Transect B', 'Skerry landings'])
      put(marrowick, `Survey/Maps/${name}.png`, png(random, 480, 320), before(random.int(40, 500)));
    for (let i = 1; i <= 18; i++)
      put(marrowick, `Survey/Maps/Tracks/round ${i}.gpx`, gpx(`Round ${i}`, random), before(random.int(3, 300)));
    for (let y = year - 2; y <= year; y++)
      for (let i = 0; i < 580; i++) {
        const d = random.int(40, Math.max(41, dayOfYear(y) - 1));
        const date = new Date(Date.UTC(y, 0, 1) + d * DAY);
        const spot = PHOTO_SPOTS[i % PHOTO_SPOTS.length]!;
        const month = String(date.getUTCMonth() + 1).padStart(2, '0');
        put(
          marrowick,
          `Survey/Photographs/${y}/${y}-${month}/IMG_${2000 + i} ${spot}.png`,
          png(random, 120, 80),
          before(Math.round((today.getTime() - date.getTime()) / DAY), 12),
        );
      }
    for (let y = year - 1; y <= year; y++)
      for (let s = 1; s <= 60; s++)
        put(
          marrowick,
          `Survey/${y}/Square ${String(s).padStart(2, '0')}/count.csv`,
          csv(
            ['visit', 'pairs'],
            [
              [1, random.int(0, 12)],
              [2, random.int(0, 12)],
            ],
          ),
          before(daysBack(y) + random.int(90, 180)),
        );
  }

  function sound(list: DemoFile[], base: string, n: number) {
    for (let i = 0; i < n; i++) {
      const back = 3 + i * 4;
      const date = new Date(today.getTime() - back * DAY);
      put(
        list,
        `${base}/${iso(date).slice(0, 7)}/roost-${iso(date)}.wav`,
        wav(random, 0.8 + random.next()),
        before(back, 5),
      );
    }
  }

  /** Names that programs trip over; each is a real file with something in it. */
  function awkward() {
    const odd = 'Office/Odd names';
    const text = 'A file with an awkward name. It opens like any other.\n';
    for (const name of [
      '100% sure.txt',
      "Maud's list.txt",
      'tab\there.txt',
      'new\nline.txt',
      'quote "here".txt',
      'back\\slash.txt',
      '-rf.txt',
      '  spaces  .txt',
      'émigré é.txt',
      'חוף צפון.txt',
      '海鳥.txt',
      '🐦 list.txt',
      'a;b&c|d$(e).txt',
      '#hash?.txt',
      'CASE.txt',
      'case.txt',
      'trailing dot.',
      '.hidden note.txt',
    ])
      put(marrowick, `${odd}/${name}`, text, before(100));
    put(marrowick, `${odd}/${'long '.repeat(50)}end.t`.slice(0, odd.length + 1 + 255), text, before(100));
    marrowick.push({
      path: Buffer.concat([Buffer.from(`${odd}/latin1 caf`), Buffer.from([0xe9]), Buffer.from('.txt')]),
      bytes: Buffer.from(text),
      modified: before(100),
    });
  }

  const fieldDrive: DemoFile[] = [];
  sound(fieldDrive, 'Sound/Takes', 130);
  for (let i = 1; i <= 60; i++)
    put(fieldDrive, `Tracks/${year}/walk ${i}.gpx`, gpx(`Walk ${i}`, random, 20), before(random.int(2, 250)));
  put(fieldDrive, 'Read me first.txt', 'Eject before you unplug. Copy to Sound when you are back.\n', before(200));

  const stationShare: DemoFile[] = [];
  for (let i = 0; i < 300; i++)
    put(
      stationShare,
      `Photo archive/${year - 3 - (i % 4)}/${PHOTO_SPOTS[i % 8]}/plate ${String(i + 1).padStart(3, '0')}.png`,
      png(random, 100, 70),
      before(1000 + random.int(0, 900)),
    );
  for (let y = year - 6; y < year - 2; y++)
    put(
      stationShare,
      `Annual reports/Report ${y}.pdf`,
      pdf(`Annual report ${y}`, [`${random.int(2000, 6000)} birds ringed.`, `${random.int(60, 120)} species seen.`]),
      before((year - y) * 360),
    );
  put(
    stationShare,
    'Shared rota.csv',
    csv(
      ['week', 'who'],
      VOLUNTEERS.map((v, i) => [i + 1, v]),
    ),
    before(6),
  );

  return { marrowick, fieldDrive, stationShare };
}
