import { shownLetter } from '@rellin/core/keys';
import { useSettings } from '../api/queries';

export function KeyCap({ children }: { children: React.ReactNode }) {
  return <kbd className="key-cap">{children}</kbd>;
}

const WORDS: Record<string, string> = { Enter: '↵', Delete: 'Del' };

/** The cap of one of Rellin's own keys, as the person has it now; nothing where it was switched off. */
export function CommandKey({ of }: { of: string }) {
  const settings = useSettings().data;
  const shown =
    of.length > 1 ? (WORDS[of] ?? of) : settings?.letterKeys === 'never' ? '' : shownLetter(of, settings?.keyMap ?? {});
  return shown === '' ? null : <KeyCap>{shown}</KeyCap>;
}
