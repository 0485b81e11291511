/**
 * The Exec key (Desktop Entry Specification 1.5, section 7): quoting, then field codes, into an argument list.
 * The list goes to the system as it is; no shell ever sees it.
 */
export interface ExecContext {
  /** Absolute paths of files to open. */
  files?: readonly string[];
  /** Addresses to open; files take part in %u and %U as they are. */
  urls?: readonly string[];
  /** The translated Name, for %c. */
  name?: string;
  icon?: string;
  /** The entry's own file, for %k. */
  entryPath?: string;
}

export type ExecFault = 'unclosed-quote' | 'empty' | 'bad-code' | 'quoted-code' | 'code-as-script';
export type ExecResult = { ok: true; argv: string[] } | { ok: false; reason: ExecFault };

/** What is wrong with a line, for whoever wrote it. */
export const EXEC_FAULTS: Record<ExecFault, string> = {
  'unclosed-quote': 'a quotation mark is not closed',
  empty: 'it names no program',
  'bad-code': 'it has a field code that is none',
  'quoted-code': 'it has a field code within quotation marks, where the specification defines none',
  'code-as-script': 'it would have a file’s name run as a program text',
};

interface Piece {
  text: string;
  quoted: boolean;
  /** A field code stands within quotation marks, or beside a blank that only a backslash holds. */
  hides: boolean;
}

function splitExec(exec: string): Piece[] | undefined {
  const pieces: Piece[] = [];
  let text = '';
  let started = false;
  let quotedPiece = false;
  let hides = false;
  const end = () => {
    if (started) pieces.push({ text, quoted: quotedPiece, hides: hides || (/\s/.test(text) && isCode(text)) });
    text = '';
    started = quotedPiece = hides = false;
  };
  for (let i = 0; i < exec.length; i++) {
    const c = exec[i]!;
    if (c === '"') {
      started = true;
      quotedPiece = true;
      for (i++; exec[i] !== '"'; i++) {
        if (i >= exec.length) return undefined;
        // inside quotes a backslash escapes only these four
        if (exec[i] === '\\' && '"`$\\'.includes(exec[i + 1] ?? ' ')) i++;
        if (exec[i] === '%') {
          if (exec[i + 1] === '%') text += exec[i++];
          else hides = true;
        }
        text += exec[i];
      }
    } else if (c === ' ' || c === '\t' || c === '\n') {
      end();
    } else {
      text += c === '\\' && i + 1 < exec.length ? exec[++i] : c;
      started = true;
    }
  }
  end();
  return pieces;
}

const isCode = (text: string) => /%[^%]/.test(text.replaceAll('%%', ''));

/** Programs that take a text to run as an argument, and the options that say so. */
const INTERPRETER =
  /^((ba|da|a|k|mk|z|fi|c|tc)?sh|busybox|python[\d.]*|perl|ruby|node|nodejs|php|lua[\d.]*|tclsh|[gm]?awk)$/;
const TAKES_TEXT = /^(-[a-z]*[ceE]|--?(eval|command|exec|run|print))$/i;
/** Whatever runs what stands behind it, with settings and options of its own before. */
const PREFIX = /^(env|nice|nohup|setsid|ionice|timeout|stdbuf|sudo|pkexec|xargs|exec|command)$/;

/**
 * Whether a file's name would be run as a program text: the argument behind `sh -c`. A name may hold any character of
 * the shell's; passed as an argument of its own behind the text (`sh -c '…' sh %f`) it is a name and stays one.
 */
function runsName(pieces: readonly Piece[]): boolean {
  let i = 0;
  const baseAt = (at: number) => pieces[at]?.text.replace(/^.*\//, '') ?? '';
  if (PREFIX.test(baseAt(0))) while (i < pieces.length && !INTERPRETER.test(baseAt(i))) i++;
  if (!INTERPRETER.test(baseAt(i))) return false;
  if (/awk$/.test(baseAt(i))) return pieces[i + 1] !== undefined && isCode(pieces[i + 1]!.text);
  const option = pieces.findIndex((p, at) => at > i && TAKES_TEXT.test(p.text));
  return option >= 0 && pieces[option + 1] !== undefined && isCode(pieces[option + 1]!.text);
}

/** Whether a line takes files at all, and if so whether one or many at a time. */
function takes(pieces: readonly Piece[]): 'none' | 'one' | 'many' {
  const has = (codes: RegExp) => pieces.some((p) => !p.quoted && codes.test(p.text.replaceAll('%%', '')));
  if (has(/%[FU]/)) return 'many';
  return has(/%[fu]/) ? 'one' : 'none';
}

export type ExecCommands = { ok: true; commands: string[][] } | { ok: false; reason: ExecFault };

/**
 * The commands to start for some files: one where the line takes many (%F, %U) or there is one, an instance for each
 * where it takes one (%f, %u). A line without any such code is given the files behind its own arguments: it was chosen
 * for them.
 *
 * @example commandsFor('view %f', { files: ['/a', '/b'] }) // { ok: true, commands: [['view', '/a'], ['view', '/b']] }
 */
export function commandsFor(exec: string, context: ExecContext = {}): ExecCommands {
  const { files = [], urls = [] } = context;
  const pieces = splitExec(exec);
  const how = pieces ? takes(pieces) : 'none';
  const each: ExecContext[] =
    how === 'one' && files.length + urls.length > 1
      ? [...files.map((file) => ({ files: [file], urls: [] })), ...urls.map((url) => ({ files: [], urls: [url] }))]
      : [{ files, urls }];
  const commands: string[][] = [];
  for (const some of each) {
    const expanded = expandExec(exec, { ...context, ...some });
    if (!expanded.ok) return expanded;
    commands.push(how === 'none' ? [...expanded.argv, ...files, ...urls] : expanded.argv);
  }
  return { ok: true, commands };
}

/** The program that a line starts, as it is written there; undefined where the line is faulty. */
export function programIn(exec: string): string | undefined {
  const first = splitExec(exec)?.[0]?.text;
  return first === '' ? undefined : first;
}

/**
 * Expands an Exec value. A line that would let the name of a file act as anything but one argument is refused: what
 * stands in quotation marks is undefined by the specification, and behind `sh -c` it is a program. Deprecated codes
 * vanish.
 */
export function expandExec(exec: string, context: ExecContext = {}): ExecResult {
  const pieces = splitExec(exec);
  if (!pieces) return { ok: false, reason: 'unclosed-quote' };
  if (pieces.some((p) => p.hides)) return { ok: false, reason: 'quoted-code' };
  if (runsName(pieces)) return { ok: false, reason: 'code-as-script' };
  const files = context.files ?? [];
  const all = [...files, ...(context.urls ?? [])];
  const argv: string[] = [];
  for (const { text, quoted } of pieces) {
    if (!quoted && text === '%F') argv.push(...files);
    else if (!quoted && text === '%U') argv.push(...all);
    else if (!quoted && text === '%i') argv.push(...(context.icon ? ['--icon', context.icon] : []));
    else {
      let bad = false;
      const hadCode = /%[fudDnNvmFUick]/.test(text);
      const out = text.replace(/%(.?)/g, (_, code: string) => {
        switch (code) {
          case '%':
            return '%';
          case 'f':
            return files[0] ?? '';
          case 'u':
            return all[0] ?? '';
          case 'c':
            return context.name ?? '';
          case 'k':
            return context.entryPath ?? '';
          case 'd':
          case 'D':
          case 'n':
          case 'N':
          case 'v':
          case 'm':
          case 'F':
          case 'U':
          case 'i':
            return '';
          default:
            bad = true;
            return '';
        }
      });
      if (bad) return { ok: false, reason: 'bad-code' };
      if (out !== '' || !hadCode) argv.push(out);
    }
  }
  return argv.length > 0 && argv[0] !== '' ? { ok: true, argv } : { ok: false, reason: 'empty' };
}
