/** A description shown beside what it is of, while the pointer rests there or the focus is there: see HintLayer. */

const MOST_SHOWN = 400;

/** To be spread over what has a description; nothing where there is none. */
export function hint(description: string): { 'data-hint'?: string; 'aria-description'?: string } {
  const text = description.trim();
  if (text === '') return {};
  const shown = text.length > MOST_SHOWN ? `${text.slice(0, MOST_SHOWN)}…` : text;
  return { 'data-hint': shown, 'aria-description': shown };
}
