import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from '@jest/globals';
import {
  commandsFor,
  desktopFileId,
  expandExec,
  localeKeys,
  parseDesktopEntry,
  parseKeyFile,
  parseUserDirs,
  programIn,
  splitList,
  unescapeValue,
} from './index.js';

const entry = (lines: string) => `[Desktop Entry]\nType=Application\nName=Tideplotter\nExec=tideplotter %F\n${lines}`;
const program = (lines: string, locale?: string) => {
  const result = parseDesktopEntry('x.desktop', entry(lines), { locale });
  if (!result.ok) throw new Error(result.reason);
  return result.program;
};

describe('key files', () => {
  it('read groups, comments, locales and count what they cannot read', () => {
    const { groups, badLines } = parseKeyFile('# c\nstray\n[A]\nk=v\nk[de]= w \nnot a pair\n\n[B b]\nk=2\n');
    expect(groups.get('A')!.get('k')).toBe('v');
    expect(groups.get('A')!.get('k[de]')).toBe('w ');
    expect(groups.get('B b')!.get('k')).toBe('2');
    expect(badLines).toEqual([2, 6]);
  });
  it('unescape strings and split lists (section 4)', () => {
    expect(unescapeValue('a\\sb\\nc\\\\d\\x')).toBe('a b\nc\\d\\x');
    expect(splitList('a;b\\;c;;d')).toEqual(['a', 'b;c', '', 'd']);
    expect(splitList('a;')).toEqual(['a']);
  });
  it('try locales in the order of section 5', () => {
    expect(localeKeys('Name', 'sr_YU.UTF-8@Latn')).toEqual([
      'Name[sr_YU@Latn]',
      'Name[sr_YU]',
      'Name[sr@Latn]',
      'Name[sr]',
      'Name',
    ]);
    expect(localeKeys('Name', 'C')).toEqual(['Name']);
  });
  it('never throw, whatever stands in them, and are read or refused with a reason', () => {
    const key = fc.constantFrom(
      'Name',
      'Exec',
      'Type',
      'Name[de]',
      'OnlyShowIn',
      'MimeType',
      'Hidden',
      'Icon',
      'Nämë',
      '',
    );
    const value = fc.oneof(
      fc.constantFrom('Application', 'Link', 'true', 'a;b\\;c;', '\\', '\\s\\q', '%f %U "', '"', '\u0000', '\ud800'),
      fc.string({ maxLength: 30 }),
    );
    const line = fc.oneof(
      fc.tuple(key, fc.constantFrom('=', ' = ', '==', ''), value).map((parts) => parts.join('')),
      fc.constantFrom('[Desktop Entry]', '[Desktop Entry', '[]', '# comment', '', '[Desktop Action x]'),
    );
    const outcomes = new Set<string>();
    fc.assert(
      fc.property(fc.array(line, { maxLength: 12 }), fc.boolean(), (lines, begun) => {
        const head = begun ? ['[Desktop Entry]', 'Type=Application', 'Name=a', 'Exec=b'] : [];
        const result = parseDesktopEntry('x', [...head, ...lines].join('\n'), { locale: 'de_AT', desktops: ['Gull'] });
        outcomes.add(result.ok ? `ok, ${result.listed ? 'listed' : 'not listed'}` : result.reason);
        if (result.ok) commandsFor(result.program.exec, { files: ['/a'] });
      }),
      { seed: 81, numRuns: 3000 },
    );
    // what was fed to it went every way there is
    expect([...outcomes].sort()).toEqual([
      'hidden',
      'no-desktop-group',
      'no-exec',
      'no-name',
      'not-an-application',
      'ok, listed',
      'ok, not listed',
    ]);
  });
});

describe('desktop entries', () => {
  it('take the name in the user’s language', () => {
    expect(program('Name[de]=Gezeiten\nName[de_AT]=Tidn', 'de_DE.UTF-8').name).toBe('Gezeiten');
    expect(program('Name[de]=Gezeiten', 'fr_FR').name).toBe('Tideplotter');
  });
  it('leave out what is hidden, no application, nameless or without a command', () => {
    expect(parseDesktopEntry('x', entry('Hidden=true'))).toMatchObject({ ok: false, reason: 'hidden' });
    expect(parseDesktopEntry('x', '[Desktop Entry]\nType=Link\nName=a\nURL=b')).toMatchObject({
      reason: 'not-an-application',
    });
    expect(parseDesktopEntry('x', '[Desktop Entry]\nType=Application\nExec=a')).toMatchObject({ reason: 'no-name' });
    expect(parseDesktopEntry('x', '[Desktop Entry]\nType=Application\nName=a')).toMatchObject({ reason: 'no-exec' });
    expect(parseDesktopEntry('x', '[Other]\nName=a')).toMatchObject({ reason: 'no-desktop-group' });
    expect(parseDesktopEntry('x', entry('NoDisplay=true'))).toMatchObject({ ok: true, listed: false });
  });
  it('make ids of paths below applications', () => {
    expect(desktopFileId('sub/tide.desktop')).toBe('sub-tide.desktop');
  });
});

describe('Exec (section 7)', () => {
  const argv = (exec: string, context = {}) => {
    const result = expandExec(exec, context);
    return result.ok ? result.argv : result.reason;
  };
  it('splits and quotes', () => {
    expect(argv('a "b c" "d\\"e" "\\$x"')).toEqual(['a', 'b c', 'd"e', '$x']);
    expect(argv('a "open')).toBe('unclosed-quote');
    expect(argv('  ')).toBe('empty');
  });
  it('expands field codes, drops deprecated ones, refuses unknown ones', () => {
    const context = {
      files: ['/a b', '/c'],
      urls: ['https://x.example'],
      name: 'Tide',
      icon: 'tide',
      entryPath: '/e.desktop',
    };
    expect(argv('p %f', context)).toEqual(['p', '/a b']);
    expect(argv('p %F', context)).toEqual(['p', '/a b', '/c']);
    expect(argv('p %U', context)).toEqual(['p', '/a b', '/c', 'https://x.example']);
    expect(argv('p %i %c %k 100%%', context)).toEqual(['p', '--icon', 'tide', 'Tide', '/e.desktop', '100%']);
    expect(argv('p %d %n %v %m x', context)).toEqual(['p', 'x']);
    expect(argv('p %f', {})).toEqual(['p']);
    expect(argv('p %z', context)).toBe('bad-code');
  });
  it('keeps any file name in one argument: nothing is ever split or expanded again', () => {
    fc.assert(
      fc.property(fc.string({ minLength: 1, maxLength: 40 }), (name) => {
        expect(argv('p %f', { files: [`/x/${name}`] })).toEqual(['p', `/x/${name}`]);
      }),
      { seed: 82 },
    );
  });
  it('refuses a code where the name of a file would be more than one argument', () => {
    for (const exec of [
      'sh -c "cat %f"',
      '/bin/sh -c "cat %U"',
      'p "a b"x"%f"',
      'p "%%%f"',
      'p a\\ %f',
      'sh -c cat\\ %f',
    ])
      expect([exec, argv(exec, { files: ['/x'] })]).toEqual([exec, 'quoted-code']);
    for (const exec of [
      'sh -c %f',
      'bash -ec %f',
      'env A=b nice -n 5 dash -c %F',
      '/usr/bin/env -S bash -c %u',
      'python3 -c %f',
      'perl -E %f',
      'node --eval %f',
      'awk %f',
    ])
      expect([exec, argv(exec, { files: ['/x'] })]).toEqual([exec, 'code-as-script']);
  });
  it('takes a code that stands for itself beside quoted arguments and behind a script', () => {
    const context = { files: ['/a b'] };
    expect(argv('"/opt/my p/run" --100%% "a%%b" --file=%f', context)).toEqual([
      '/opt/my p/run',
      '--100%',
      'a%b',
      '--file=/a b',
    ]);
    expect(argv('sh -c "cat \\"\\$1\\"" sh %f', context)).toEqual(['sh', '-c', 'cat "$1"', 'sh', '/a b']);
    expect(argv('bash /opt/start.sh %f', context)).toEqual(['bash', '/opt/start.sh', '/a b']);
    expect(argv('viewer -c %f', context)).toEqual(['viewer', '-c', '/a b']);
  });
  it('never has a shell run a name made of its metacharacters, whatever the line', () => {
    const folder = mkdtempSync(join(tmpdir(), 'rellin-exec-'));
    const names = [
      '$(touch ran)',
      '`touch ran`',
      '"; touch ran; "',
      "'; touch ran; '",
      '& touch ran',
      '| touch ran',
      '\ntouch ran\n',
      '> ran',
      '${x:-$(touch ran)}',
      '*',
      '%f',
      '\\',
    ];
    const lines = [
      'sh -c "echo %f"',
      'sh -c echo\\ %f',
      'sh -c %f',
      'sh -c "echo \\"\\$1\\"" sh %f',
      'echo %f',
      'env sh -c "echo \\"\\$@\\"" sh %F',
    ];
    for (const line of lines)
      for (const name of names) {
        const made = expandExec(line, { files: [`/tmp/${name}`, name] });
        if (made.ok) spawnSync(made.argv[0]!, made.argv.slice(1), { cwd: folder });
        expect([line, name, readdirSync(folder)]).toEqual([line, name, []]);
      }
    rmSync(folder, { recursive: true });
  });
  // outside reference: GLib's own launcher, through a script that prints its arguments
  const python = '/usr/bin/python3';
  const hasGlib =
    existsSync(python) &&
    (() => {
      try {
        execFileSync(python, ['-c', 'import gi'], { stdio: 'ignore' });
        return true;
      } catch {
        return false;
      }
    })();
  (hasGlib ? it : it.skip)('agrees with GLib on quoting', () => {
    const lines = ['a "b c" d', 'a "x\\"y"', 'a b\\ c'];
    for (const line of lines) {
      const out = execFileSync(
        python,
        [
          '-c',
          'import gi,json,sys;from gi.repository import GLib;print(json.dumps(GLib.shell_parse_argv(sys.argv[1])[1]))',
          line,
        ],
        { encoding: 'utf8' },
      );
      expect(argv(line)).toEqual(JSON.parse(out));
    }
  });
});

describe('an entry on this desktop', () => {
  const listed = (lines: string, desktops: string[]) => {
    const result = parseDesktopEntry('x', entry(lines), { desktops });
    return result.ok && result.listed;
  };
  it('is kept away by the first of the desktop’s names that is told', () => {
    expect(listed('OnlyShowIn=Gull;Tern;', [])).toBe(false);
    expect(listed('OnlyShowIn=Gull;Tern;', ['Tern'])).toBe(true);
    expect(listed('OnlyShowIn=Gull;', ['Skua', 'Gull'])).toBe(true);
    expect(listed('NotShowIn=Gull;', ['Gull'])).toBe(false);
    expect(listed('NotShowIn=Gull;', ['Skua'])).toBe(true);
    expect(listed('NotShowIn=Gull;', [])).toBe(true);
    // the specification’s own order: the better name decides
    expect(listed('OnlyShowIn=Gull;', ['Gull', 'Tern'])).toBe(true);
    expect(listed('NotShowIn=Tern;', ['Gull', 'Tern'])).toBe(false);
  });
  it('that is started over the session bus alone is started so, by its name there', () => {
    const lines = 'Type=Application\nName=Tern\nDBusActivatable=true\n';
    const read = (id: string, more = '') => parseDesktopEntry(id, `[Desktop Entry]\n${lines}${more}`);
    expect(read('org.example.Tern.desktop')).toMatchObject({
      ok: true,
      program: { exec: 'gapplication launch org.example.Tern %U' },
    });
    // its own line is the one for where there is no bus; a file’s name that is none of the bus’s is no command either
    expect(read('org.example.Tern.desktop', 'Exec=tern %U\n')).toMatchObject({ program: { exec: 'tern %U' } });
    for (const id of ['tern.desktop', 'org.example.Tern; rm.desktop', '-x.y.desktop'])
      expect(read(id)).toEqual({ ok: false, reason: 'no-exec' });
  });
  it('is read in the first of several languages that it has', () => {
    const name = (locale: string) => {
      const text = '[Desktop Entry]\nType=Application\nExec=a\nName=Tide\nName[fr]=Marée\nName[de_AT]=Gezeiten';
      const result = parseDesktopEntry('x', text, { locale });
      return result.ok && result.program.name;
    };
    expect(['de_AT:fr', 'sv:fr_FR', 'sv', 'de:fr', 'C', ''].map(name)).toEqual([
      'Gezeiten',
      'Marée',
      'Tide',
      'Marée',
      'Tide',
      'Tide',
    ]);
  });
});

describe('the commands for some files', () => {
  const argv = (exec: string, files: string[]) => {
    const result = commandsFor(exec, { files });
    return result.ok ? result.commands : result.reason;
  };
  it('are one instance for each where a line takes one, and one where it takes many', () => {
    expect(argv('view %f', ['/a', '/b'])).toEqual([
      ['view', '/a'],
      ['view', '/b'],
    ]);
    expect(argv('view --at %u', ['/a', '/b'])).toHaveLength(2);
    expect(argv('view %F', ['/a', '/b'])).toEqual([['view', '/a', '/b']]);
    expect(argv('view %f', [])).toEqual([['view']]);
  });
  it('hand the files over where the line says nothing of files', () => {
    expect(argv('view --wide', ['/a b', '/c'])).toEqual([['view', '--wide', '/a b', '/c']]);
    expect(argv('view 100%%', ['/a'])).toEqual([['view', '100%', '/a']]);
    expect(argv('view %i', [])).toEqual([['view']]);
    expect(argv('view "', ['/a'])).toBe('unclosed-quote');
  });
  it('start the program that the line names', () => {
    expect(['view %f', '"/opt/my view" %f', '   view', 'view "'].map(programIn)).toEqual([
      'view',
      '/opt/my view',
      'view',
      undefined,
    ]);
  });
});

describe('user directories', () => {
  it('read $HOME and absolute paths, leave out what is off or strange', () => {
    const text = [
      '# c',
      'XDG_DOCUMENTS_DIR="$HOME/Office files"',
      'XDG_MUSIC_DIR="/srv/music/"',
      'XDG_DESKTOP_DIR="$HOME"',
      'XDG_BAD_DIR=unquoted',
      'XDG_ODD_DIR="relative"',
    ].join('\n');
    expect(parseUserDirs(text, '/home/i')).toEqual([
      { name: 'DOCUMENTS', path: '/home/i/Office files' },
      { name: 'MUSIC', path: '/srv/music' },
    ]);
  });
});
