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

export type ExecResult = { ok: true; argv: string[] } | { ok: false; reason: 'unclosed-quote' | 'empty' | 'bad-code' };

interface Piece {
  text: string;
  quoted: boolean;
}

function splitExec(exec: string): Piece[] | undefined {
  const pieces: Piece[] = [];
  let text = '';
  let started = false;
  let quotedPiece = false;
  for (let i = 0; i < exec.length; i++) {
    const c = exec[i]!;
    if (c === '"') {
      started = true;
      quotedPiece = true;
      for (i++; exec[i] !== '"'; i++) {
        if (i >= exec.length) return undefined;
        // inside quotes a backslash escapes only these four
        if (exec[i] === '\\' && '"`$\\'.includes(exec[i + 1] ?? ' ')) i++;
        text += exec[i];
      }
    } else if (c === ' ' || c === '\t' || c === '\n') {
      if (started) pieces.push({ text, quoted: quotedPiece });
      text = '';
      started = quotedPiece = false;
    } else {
      text += c === '\\' && i + 1 < exec.length ? exec[++i] : c;
      started = true;
    }
  }
  if (started) pieces.push({ text, quoted: quotedPiece });
  return pieces;
}

/** Expands an Exec value. With several files and a code for one (%f, %u) the first is taken. Deprecated codes vanish. */
export function expandExec(exec: string, context: ExecContext = {}): ExecResult {
  const pieces = splitExec(exec);
  if (!pieces) return { ok: false, reason: 'unclosed-quote' };
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
